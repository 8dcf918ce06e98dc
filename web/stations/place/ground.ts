import type { Background, Frame, PlanRow } from '../../../contract/index.ts';
import { distanceOf } from '../../../core/place/lens.ts';
import { clampPlacement, goesOnBelow, mirroredExtent, type Placement } from '../../../core/place/placement.ts';
import { mirroredFace } from '../../../core/persons/faces.ts';
import type { Snapping } from '../../../core/place/snapped.ts';
import type { Look } from '../../../core/place/look.ts';
import { partSeen, seenAt } from '../../../core/place/reframed.ts';
import { figureOf, onHorizon, scaledByGround, type Figure } from '../../../core/place/scene.ts';

/** The ground of a scene under a frame's person. */
export interface Ground {
  /** Where they stand on it at the scale they have. */
  standing: (placement: Placement) => Placement;
  /** Whether the lowest of them is in the frame, so that moving up and down is moving away and nearer. */
  feet: boolean;
  /** Metres above the ground at which the horizon meets them. */
  meets: (placement: Placement) => number;
  /** At which it meets everybody, metres. */
  cameraHeight: number;
  /** A placement that a hand made of another, on the ground. */
  keep: (from: Placement, to: Placement) => Placement;
}

/** @returns undefined where the scene's facts or the person's face are not known. */
export function groundOf(
  frame: Frame,
  background: Background | undefined,
  look: Look,
  eyesHigh: number,
): Ground | undefined {
  const figure = figureIn(frame, look.mirrorPerson, eyesHigh);
  const { horizon: marked = null, cameraHeight = null } = background?.scene ?? {};
  if (!background || !figure || marked === null || cameraHeight === null) return undefined;
  const horizon = seenAt(look, background, marked);
  const standing = (placement: Placement): Placement => onHorizon(figure, horizon, cameraHeight, eyesHigh, placement);
  return {
    standing,
    feet: figure.feet !== null,
    cameraHeight,
    meets: (placement) => {
      const eyesAt = placement.y - (1 - figure.eyes) * placement.height;
      return eyesHigh - (horizon - eyesAt) / (placement.height * figure.metre);
    },
    keep: (from, to) => {
      const moved = to.height === from.height && to.y !== from.y;
      return (moved && scaledByGround(figure, horizon, cameraHeight, to)) || standing(to);
    },
  };
}

/** How far away somebody stands on a background, and how far they were from the camera as they were photographed; metres. */
export interface Distance {
  there: number;
  photographed: number | null;
  /** The placement at which both are the same. */
  alike: (placement: Placement) => Placement;
}

/**
 * @param plans of the shoot; the one of the frame's setup says how far the camera stood.
 * @returns undefined where the background's focal length or the person's face is not known.
 */
export function distanceTo(
  frame: Frame,
  background: Background | undefined,
  look: Look,
  eyesHigh: number,
  placement: Placement,
  plans: readonly PlanRow[],
): Distance | undefined {
  const figure = figureIn(frame, look.mirrorPerson, eyesHigh);
  const focal = background?.scene.focal;
  if (!background || !figure || !focal) return undefined;
  const shown = placement.height * background.height * figure.metre;
  const there = distanceOf(focal, background, shown / partSeen(look, background).zoom);
  const plan = plans.findLast(({ setupId }) => setupId === frame.setupId)?.plan;
  const [person] = plan?.people ?? [];
  const photographed =
    plan && person ? Math.hypot(plan.camera.position.x - person.x, plan.camera.position.z - person.z) : null;
  return {
    there,
    photographed,
    alike: (from) => clampPlacement({ ...from, height: (from.height * there) / (photographed ?? there) }),
  };
}

/** How large a frame's person is, and where their eyes and feet are. */
export function figureIn({ cut, width, height }: Frame, mirrored: boolean, eyesHigh: number): Figure | undefined {
  if (!cut) return undefined;
  const extent = mirroredExtent(cut.quality.extent, mirrored);
  const feet = goesOnBelow(extent) ? null : extent.y + extent.height;
  return figureOf({ width, height }, cut.faces, extent.y, feet, eyesHigh);
}

/** What of a frame's person is brought to guides. */
export function snappingOf({ cut }: Frame, mirrored: boolean): Snapping | undefined {
  if (!cut) return undefined;
  const faces = cut.faces.map((face) => mirroredFace(face, mirrored));
  const middle = (name: 'eyesX' | 'eyesY'): number => faces.reduce((sum, face) => sum + face[name], 0) / faces.length;
  return {
    extent: mirroredExtent(cut.quality.extent, mirrored),
    eyes: faces.length ? { x: middle('eyesX'), y: middle('eyesY') } : undefined,
  };
}
