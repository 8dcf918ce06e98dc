import type { Background, Frame, OwnPlace, Style } from '../../../contract/index.ts';
import { mirroredFace } from '../../../core/persons/faces.ts';
import {
  isSamePlace,
  mirroredExtent,
  plainLook,
  standsAs,
  type AlikeWay,
  type Placement,
  type Shown,
  type StandingModel,
} from '../../../core/place/index.ts';

/** People of frames as the standing of a style takes them. */

/** Somebody as they are shown, mirrored or not; undefined while nothing is extracted. */
export function shownOf(frame: Frame, mirrored: boolean): Shown | undefined {
  const { cut } = frame;
  return (
    (cut && {
      cut: { width: frame.width, height: frame.height },
      extent: mirroredExtent(cut.quality.extent, mirrored),
      faces: cut.faces.map((face) => mirroredFace(face, mirrored)),
    }) ??
    undefined
  );
}

export function modelOf(
  frame: Frame,
  mirrored: boolean,
  placement: Placement,
  way: AlikeWay,
): StandingModel | undefined {
  const shown = shownOf(frame, mirrored);
  const { x, y, height } = placement;
  return shown && { ...shown, way, placement: { x, y, height } };
}

/** Whether somebody is mirrored on a background: as they are there already, or as its style says. */
export function isMirrored(frame: Frame, style: Style | undefined, backgroundId: number): boolean {
  const own = frame.placement?.backgroundId === backgroundId ? frame.placement.look : {};
  return { ...plainLook, ...style?.look, ...own }.mirrorPerson;
}

/** Where frames stand by a model; none that has no cut. */
export function placesBy(
  model: StandingModel,
  frames: readonly Frame[],
  style: Style | undefined,
  background: Background,
): OwnPlace[] {
  return frames.flatMap((frame) => {
    const shown = shownOf(frame, isMirrored(frame, style, background.id));
    return shown ? [{ id: frame.id, ...standsAs(model, shown, background) }] : [];
  });
}

/** Frames on a background that stand as its style says, and those that do not; all follow while it says nothing. */
export function followersOf(
  frames: readonly Frame[],
  style: Style | undefined,
  background: Background,
): { follow: Frame[]; differ: Frame[] } {
  const here = frames.filter(({ placement }) => placement?.backgroundId === background.id);
  if (!style?.standing) return { follow: here, differ: [] };
  const places = new Map(placesBy(style.standing, here, style, background).map((place) => [place.id, place]));
  const follows = ({ id, placement }: Frame): boolean => {
    const place = places.get(id);
    return !place || (placement !== null && isSamePlace(placement, place));
  };
  return { follow: here.filter(follows), differ: here.filter((frame) => !follows(frame)) };
}
