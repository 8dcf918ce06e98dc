import { useEffect, useMemo, useRef, useState, type RefObject } from 'react';
import type { Background, Frame } from '../../../contract/index.ts';
import type { Placement } from '../../../core/place/placement.ts';
import { pictures } from '../../state/api.ts';
import { attempt } from '../../state/store.ts';
import { latestOnly } from '../../worker/latestOnly.ts';
import { usePictureWorker } from '../../worker/usePictureWorker.ts';

/** Draws the cut on the background into a canvas of `width` pixels, following every change of the placement. */
export function usePlacedPicture(
  frame: Frame,
  background: Background,
  width: number,
  placement: Placement,
): { canvas: RefObject<HTMLCanvasElement | null>; ready: boolean } {
  const { remote: worker } = usePictureWorker();
  const canvas = useRef<HTMLCanvasElement>(null);
  const [loaded, setLoaded] = useState<string>();
  const [ready, setReady] = useState(false);
  const ask = useMemo(() => (worker ? latestOnly() : () => undefined), [worker]);
  const version = frame.cut?.version;
  const backgroundAddress = pictures.background(background, 'view');
  const wanted = `${frame.id} ${version} ${backgroundAddress} ${width}`;

  useEffect(() => {
    if (!worker || !version || !width) return;
    let current = true;
    const loading = Promise.all([
      worker.loadCutout(pictures.cutout(frame.id, version)),
      worker.loadBackground(backgroundAddress, width),
    ]);
    void attempt(loading).then((done) => done && current && setLoaded(wanted));
    return () => {
      current = false;
    };
  }, [worker, frame.id, version, backgroundAddress, width, wanted]);

  const { x, y, height } = placement;
  useEffect(() => {
    if (!worker || loaded !== wanted) return;
    ask(async () => {
      const pixels = await worker.place({ x, y, height });
      const context = canvas.current?.getContext('2d');
      if (!pixels || !context) return;
      context.canvas.width = pixels.width;
      context.canvas.height = pixels.height;
      context.putImageData(pixels, 0, 0);
      setReady(true);
    });
  }, [worker, ask, loaded, wanted, x, y, height]);
  return { canvas, ready };
}
