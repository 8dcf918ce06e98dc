import { wrap, type Remote } from 'comlink';
import { useEffect, useState } from 'react';
import type { PictureWorker } from './picture.worker.ts';

/** A worker of one's own, ended with the component. */
export function usePictureWorker(): Remote<PictureWorker> | undefined {
  const [remote, setRemote] = useState<Remote<PictureWorker>>();
  useEffect(() => {
    const worker = new Worker(new URL('./picture.worker.ts', import.meta.url), { type: 'module' });
    setRemote(() => wrap<PictureWorker>(worker));
    return () => worker.terminate();
  }, []);
  return remote;
}
