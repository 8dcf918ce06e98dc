import { useEffect, useState } from 'react';
import type { Background, Frame } from '../../../contract/index.ts';
import { defaultPlacement } from '../../../core/place/index.ts';
import { api } from '../../state/api.ts';
import { attempt, useStore } from '../../state/store.ts';
import { isMirrored, placesBy } from './styleStanding.ts';

/** What was foretold, by the address that it was asked at: the same picture at the same place is the same. */
const known = new Map<string, readonly (number | null)[]>();

/** Frames asked for at once. */
const AT_ONCE = 2;

/** How much of each frame’s fringe will be seen on each background, as it comes in; by the frame. */
export function useFringes(
  frames: readonly Frame[],
  backgrounds: readonly Background[],
): ReadonlyMap<number, readonly (number | null)[]> {
  const styles = useStore((state) => state.styles);
  const [, setCount] = useState(0);
  const asked = frames.map((frame) => {
    const on = backgrounds.map((background) => {
      const style = styles.find(({ backgroundId }) => backgroundId === background.id);
      const { placement } = frame;
      // Where they stand; else where the style puts them; else in the middle.
      const { x, y, height } =
        (placement?.backgroundId === background.id ? placement : undefined) ??
        (style?.standing ? placesBy(style.standing, [frame], style, background)[0] : undefined) ??
        defaultPlacement;
      return { backgroundId: background.id, x, y, height, mirrored: isMirrored(frame, style, background.id) };
    });
    return { frame, on, name: `${frame.id} ${frame.cut?.version} ${JSON.stringify(on)}` };
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
        if (current) setCount((count) => count + 1);
      }
    };
    for (let n = 0; n < AT_ONCE; n++) void work();
    return () => {
      current = false;
    };
    // The names say all that is asked.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [names]);
  return new Map(asked.flatMap(({ frame, name }) => (known.has(name) ? [[frame.id, known.get(name) ?? []]] : [])));
}
