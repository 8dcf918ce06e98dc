import { useEffect, useState } from 'react';
import type { Background, Frame } from '../../../contract/index.ts';
import { defaultPlacement } from '../../../core/place/index.ts';
import { api } from '../../state/api.ts';
import { useSecondsLeft } from '../../shared/useSecondsLeft.ts';
import { attempt, useStore } from '../../state/store.ts';
import { lightName } from './knownLight.ts';
import { placesBy } from './styleStanding.ts';

/** What was foretold, by all that it depends on: the same picture at the same place with the same look is the same. */
const known = new Map<string, readonly (number | null)[]>();

/** Frames asked for at once: pictures come first. */
const AT_ONCE = 1;

export interface Fringes {
  /** By the frame, in the order of its backgrounds; null for one that is gone. */
  seen: ReadonlyMap<number, readonly (number | null)[]>;
  /** Frames that are still to be looked at, and how long that takes; null until one is done. */
  open: number;
  secondsLeft: number | null;
}

/** How much of each frame’s fringe will be seen on backgrounds, as it comes in. */
export function useFringes(wanted: readonly { frame: Frame; on: readonly Background[] }[]): Fringes {
  const styles = useStore((state) => state.styles);
  const checks = useStore((state) => state.checks);
  const frames = useStore((state) => state.frames);
  const [, setDone] = useState(0);
  const asked = wanted.map(({ frame, on: backgrounds }) => {
    const { placement } = frame;
    const on = backgrounds.map((background) => {
      const style = styles.find(({ backgroundId }) => backgroundId === background.id);
      // Where they stand; else where the style puts them; else in the middle.
      const { x, y, height } =
        (placement?.backgroundId === background.id ? placement : undefined) ??
        (style?.standing ? placesBy(style.standing, [frame], style, background)[0] : undefined) ??
        defaultPlacement;
      return { backgroundId: background.id, x, y, height };
    });
    const looks = backgrounds.map((background) => [
      styles.find(({ backgroundId }) => backgroundId === background.id)?.look,
      lightName(frame, background, checks, frames),
    ]);
    return { frame, on, name: JSON.stringify([frame.id, frame.cut?.version, on, looks, placement?.look]) };
  });
  const names = asked.map(({ name }) => name).join('|');
  useEffect(() => {
    let current = true;
    const open = asked.filter(({ name }) => !known.has(name));
    const work = async (): Promise<void> => {
      for (let one = open.shift(); one && current; one = open.shift()) {
        const answer = await attempt(api.fringe(one.frame, one.on));
        // What cannot be told of one frame is told of the others.
        if (!answer) continue;
        known.set(one.name, answer.seen);
        if (current) setDone((done) => done + 1);
      }
    };
    for (let n = 0; n < AT_ONCE; n++) void work();
    return () => {
      current = false;
    };
    // The names say all that is asked.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [names]);
  const seen = new Map(
    asked.flatMap(({ frame, name }) => (known.has(name) ? [[frame.id, known.get(name) ?? []]] : [])),
  );
  const open = asked.length - seen.size;
  return { seen, open, secondsLeft: useSecondsLeft(open) };
}
