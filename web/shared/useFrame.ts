import { useCallback } from 'react';
import { useSearchParams } from 'react-router';
import type { Frame } from '../../contract/index.ts';
import { useKeys } from './keys.ts';

const named = (frames: Frame[], search: URLSearchParams): number =>
  Math.max(
    0,
    frames.findIndex((frame) => frame.id === Number(search.get('frame'))),
  );

/** The frame the address names, or the first; a way to choose another; the keys that step through them. */
export function useFrame(place: 'extract' | 'place', frames: Frame[]): [Frame | undefined, (id: number) => void] {
  const [search, setSearch] = useSearchParams();
  const choose = useCallback(
    // At once: as a transition it would be drawn after, and again with each change that comes meanwhile.
    (id: number) => setSearch({ frame: String(id) }, { replace: true, flushSync: true }),
    [setSearch],
  );
  useKeys(place, {
    frame: (key) => {
      // A key held down comes faster than the page is drawn: the address itself is the newest.
      const at = named(frames, new URLSearchParams(window.location.search));
      const next = frames[at + (key === 'ArrowDown' ? 1 : -1)];
      if (next) choose(next.id);
    },
  });
  return [frames.at(named(frames, search)), choose];
}
