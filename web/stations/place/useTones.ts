import { useEffect, useState } from 'react';
import type { Background, Frame } from '../../../contract/index.ts';
import type { Measured, Tones } from '../../../core/place/index.ts';
import { api } from '../../state/api.ts';
import { attempt, useStore } from '../../state/store.ts';
import { ballsOf } from './knownLight.ts';

/** What was measured of pictures that never change, by the names of their files; null where nothing is solid. */
const known = new Map<string, Tones | null>();
const asked = new Map<string, Promise<void>>();

interface Wanted {
  name: string;
  ask: () => Promise<{ tones: Tones | null }>;
}

/** Pictures asked for at once. */
const AT_ONCE = 2;

/** Asks for what is not known yet. @param told after each that came. */
async function askFor(list: readonly Wanted[], told: () => void): Promise<void> {
  const open = list.filter(({ name }) => !known.has(name));
  const work = async (): Promise<void> => {
    for (let one = open.shift(); one; one = open.shift()) {
      const { name, ask } = one;
      const there =
        asked.get(name) ??
        attempt(ask()).then((answer) => {
          // What could not be had is asked for again the next time.
          asked.delete(name);
          if (answer) known.set(name, answer.tones);
        });
      asked.set(name, there);
      await there;
      told();
    }
  };
  await Promise.all(Array.from({ length: AT_ONCE }, work));
}

const cutName = (frame: Frame): string => `cut ${frame.id} ${frame.cut?.version}`;
const backgroundName = ({ picture }: Background): string => `background ${picture}`;

/**
 * What is measured of people and of the backgrounds they stand on, as it comes in.
 * @returns gives what a person is matched by; undefined until both are measured, or where nothing is solid.
 */
export function useTones(
  pairs: readonly (readonly [Frame, Background])[],
): (frame: Frame, background: Background) => Measured | undefined {
  const checks = useStore((state) => state.checks);
  const [, setCount] = useState(0);
  const wanted = pairs.flatMap(([frame, background]): Wanted[] =>
    frame.cut
      ? [
          { name: cutName(frame), ask: () => api.cutTones(frame) },
          { name: backgroundName(background), ask: () => api.backgroundTones(background.id) },
        ]
      : [],
  );
  const names = wanted.map(({ name }) => name).join('|');
  useEffect(() => {
    let current = true;
    void askFor(wanted, () => current && setCount((count) => count + 1));
    return () => {
      current = false;
    };
    // What is measured is named by the files; the rest of a frame makes no difference.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [names]);
  return (frame, background) => {
    const [person, scene] = [known.get(cutName(frame)), known.get(backgroundName(background))];
    if (!person || !scene) return undefined;
    return {
      person,
      scene,
      cut: { width: frame.width, height: frame.height },
      background: { width: background.width, height: background.height },
      lightFrom: background.scene.lightFrom,
      balls: ballsOf(frame, background, checks),
    };
  };
}
