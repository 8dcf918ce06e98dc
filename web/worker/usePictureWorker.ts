import { wrap, type Remote } from 'comlink';
import { useCallback, useEffect, useState } from 'react';
import type { PictureWorker } from './picture.worker.ts';

/** A worker that broke off this often while its page was open is not started again. */
const MOST_DEATHS = 3;

export interface OwnWorker {
  /** Another one after each death; what was asked of the dead one is never answered. */
  remote: Remote<PictureWorker> | undefined;
  /** Whether it has been given up. */
  dead: boolean;
  /** Ends one that does not answer any more; another takes its place. */
  replace: () => void;
}

/** A worker of one's own, ended with the component; one that dies is replaced. */
export function usePictureWorker(): OwnWorker {
  const [remote, setRemote] = useState<Remote<PictureWorker>>();
  const [deaths, setDeaths] = useState(0);
  const dead = deaths >= MOST_DEATHS;
  const replace = useCallback(() => setDeaths((n) => n + 1), []);
  useEffect(() => {
    if (dead) return;
    const worker = new Worker(new URL('./picture.worker.ts', import.meta.url), { type: 'module' });
    worker.onerror = replace;
    worker.onmessageerror = replace;
    setRemote(() => wrap<PictureWorker>(worker));
    return () => {
      worker.terminate();
      setRemote(undefined);
    };
  }, [deaths, dead, replace]);
  return { remote, dead, replace };
}
