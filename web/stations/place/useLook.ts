import { useState } from 'react';
import type { Background, Frame, Shoot } from '../../../contract/index.ts';
import { defaultLook, lookFacts, lookSwitches, plainLook, type Look } from '../../../core/place/look.ts';
import { noExtras, type Extras } from '../../../core/place/extras.ts';
import { changeStyle, placeFrames } from '../../state/placing.ts';
import { useStore } from '../../state/store.ts';

/** Whom a change of the look holds for. */
export type LookScope = 'style' | 'frame';

export const lookLabel = (name: keyof Look): string =>
  name in lookFacts ? lookFacts[name as keyof typeof lookFacts].label : lookSwitches[name as keyof typeof lookSwitches];

export type LookBench = ReturnType<typeof useLook>;

/** The look of a frame on its background: the background's style, and where the frame differs from it. */
export function useLook(shoot: Shoot, frame: Frame, background: Background | undefined) {
  const style = useStore((state) => state.styles.find(({ backgroundId }) => backgroundId === background?.id));
  const [draft, setDraft] = useState<Partial<Look>>();
  const [scope, setScope] = useState<LookScope>('style');
  const own = frame.placement?.look ?? {};
  const look: Look = { ...(style?.look ?? plainLook), ...own, ...draft };
  const saveOwn = (next: Partial<Look>, label: string): void => {
    if (frame.placement) void placeFrames(shoot.id, [frame], { ...frame.placement, look: next }, label);
  };
  const label = (name: keyof Look): string => lookLabel(name).toLowerCase();
  return {
    style,
    own,
    look,
    extras: style?.extras ?? noExtras,
    /** Look-up table, layers and card are those of the style. */
    keepExtras: (part: Partial<Extras>, what: string): void => {
      if (background) void changeStyle(shoot.id, background.id, { extras: part }, `${what} on ${background.name}`);
    },
    scope,
    setScope,
    /** Follows a slider. */
    try: (part: Partial<Look>): void => setDraft(part),
    /** Where the frame differs already, a change is the frame's. */
    keep: (name: keyof Look, value: number | boolean): void => {
      setDraft(undefined);
      if (!background) return;
      if (scope === 'frame' || name in own) return saveOwn({ ...own, [name]: value }, `${label(name)} of this frame`);
      void changeStyle(shoot.id, background.id, { look: { [name]: value } }, `${label(name)} on ${background.name}`);
    },
    /** Several settings as one step. */
    keepAll: (part: Partial<Look>, what: string): void => {
      setDraft(undefined);
      if (!background) return;
      if (scope === 'frame' || Object.keys(part).some((name) => name in own))
        return saveOwn({ ...own, ...part }, `${what}, this frame`);
      void changeStyle(shoot.id, background.id, { look: part }, `${what} on ${background.name}`);
    },
    /** The frame is as its style again in one setting. */
    takeBack: (name: keyof Look): void => {
      const { [name]: _, ...rest } = own;
      saveOwn(rest, `${label(name)} as the style`);
    },
    /** Everything as it is proposed, or nothing done. */
    all: (to: 'proposed' | 'plain'): void => {
      if (!background) return;
      const whole = to === 'proposed' ? defaultLook : plainLook;
      const words = to === 'proposed' ? 'proposed look' : 'nothing done';
      // A frame keeps only what is not as the style.
      if (scope === 'frame') return saveOwn(unlike(whole, style?.look ?? plainLook), `${words}, this frame`);
      void changeStyle(shoot.id, background.id, { look: whole }, `${words} on ${background.name}`);
    },
  };
}

function unlike(look: Look, style: Look): Partial<Look> {
  const names = Object.keys(look) as (keyof Look)[];
  return Object.fromEntries(names.filter((name) => look[name] !== style[name]).map((name) => [name, look[name]]));
}
