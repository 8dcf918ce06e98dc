import { wrap } from 'comlink';
import { useEffect, useState } from 'react';
import type { Frame } from '../../../contract/index.ts';
import type { Carried } from '../../../core/touch/carry.ts';
import type { Path, Touch } from '../../../core/touch/touch.ts';
import { keptPath, pictures } from '../../state/api.ts';
import type { CarryWorker } from './carry.worker.ts';

/** A touch as it would lie on another frame of the subject. */
export interface Proposal extends Carried {
  frame: Frame;
  touch: Touch;
}

/** What is carried from which frame, and to which others. */
export interface ToCarry {
  frame: Frame;
  touches: readonly Touch[];
  others: readonly Frame[];
}

export interface Carrying {
  proposals: Proposal[];
  /** Frames that are still to be looked through. */
  left: number;
  /** Names of frames that could not be looked through. */
  unread: string[];
}

/** Looks for the places of touches on other frames, one after the other, as long as it is on the page. */
export function useCarried(asked: ToCarry): Carrying {
  // What is looked for is said once.
  const [wanted] = useState(asked);
  const [state, setState] = useState<Carrying>({ proposals: [], left: wanted.others.length, unread: [] });
  useEffect(() => {
    const { frame, touches, others } = wanted;
    let current = true;
    const worker = new Worker(new URL('./carry.worker.ts', import.meta.url), { type: 'module' });
    const remote = wrap<CarryWorker>(worker);
    const tell = (proposals: Proposal[], unread: string[]): void =>
      setState((now) => ({
        proposals: [...now.proposals, ...proposals],
        unread: [...now.unread, ...unread],
        left: now.left - 1,
      }));
    const look = async (): Promise<void> => {
      const strokes = await Promise.all(touches.map(withLine));
      const asked = strokes.flatMap((stroke) => stroke ?? []);
      const lines = asked.map(({ line, touch }) => ({ line, size: touch.size }));
      for (const other of others) {
        if (!current) return;
        try {
          const found = await remote.carry(pictures.view(frame), pictures.view(other), lines);
          const proposed = found.flatMap((one, n) => (one ? [{ ...one, frame: other, touch: asked[n].touch }] : []));
          if (current) tell(proposed, []);
        } catch {
          if (current) tell([], [other.name]);
        }
      }
    };
    void look();
    return () => {
      current = false;
      worker.terminate();
    };
  }, [wanted]);
  return state;
}

/** A touch with its line; undefined if that cannot be fetched. */
async function withLine(touch: Touch): Promise<{ touch: Touch; line: Path } | undefined> {
  return keptPath(touch.path).then(
    (line) => ({ touch, line }),
    () => undefined,
  );
}
