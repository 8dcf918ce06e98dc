import { useEffect, useMemo, useRef, useState, type RefObject } from 'react';
import type { Background, Frame } from '../../../contract/index.ts';
import type { Histograms, Look, Measured, PlacedView, Placement } from '../../../core/place/index.ts';
import type { Extras } from '../../../core/place/extras.ts';
import { pictures } from '../../state/api.ts';
import { attempt, useStore } from '../../state/store.ts';
import { latestOnly } from '../../worker/latestOnly.ts';
import type { ShownExtras, ShownOther } from '../../worker/picture.worker.ts';
import { usePictureWorker } from '../../worker/usePictureWorker.ts';

/** What is drawn: where the person stands, how person and background are made to agree, and in which view. */
export interface Drawn {
  placement: Placement;
  look: Look;
  measured: Measured | undefined;
  extras: Extras;
  others: ShownOther[];
  view: PlacedView;
  /** Is told how bright both are, as often as they change. */
  onHistograms?: (histograms: Histograms) => void;
}

/** Draws the cut on the background into a canvas of `width` pixels, following every change. */
export function usePlacedPicture(
  frame: Frame,
  background: Background,
  width: number,
  { placement, look, measured, extras, others, view, onHistograms }: Drawn,
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
  const settings = JSON.stringify(look);
  const beside = JSON.stringify(others);
  const matchedBy = JSON.stringify(measured ?? null);
  const also = JSON.stringify(useShownExtras(extras, frame, background, width));
  useEffect(() => {
    if (!worker || loaded !== wanted) return;
    ask(async () => {
      const pixels = await worker.place(
        { x, y, height },
        JSON.parse(settings) as Look,
        (JSON.parse(matchedBy) as Measured | null) ?? undefined,
        view,
        JSON.parse(also) as ShownExtras,
        JSON.parse(beside) as ShownOther[],
      );
      const context = canvas.current?.getContext('2d');
      if (!pixels || !context) return;
      context.canvas.width = pixels.width;
      context.canvas.height = pixels.height;
      context.putImageData(pixels, 0, 0);
      setReady(true);
      const histograms = onHistograms && (await worker.histograms());
      if (histograms) onHistograms?.(histograms);
    });
  }, [worker, ask, loaded, wanted, x, y, height, settings, also, beside, matchedBy, view, onHistograms]);
  return { canvas, ready };
}

/** The extras by the addresses of their pictures, for a picture so wide. */
function useShownExtras(
  { curves, lut, layers, card }: Extras,
  frame: Frame,
  background: Background,
  width: number,
): ShownExtras {
  const backgrounds = useStore((state) => state.backgrounds);
  const shoot = useStore((state) => state.shoot);
  const size = { width, height: Math.max(1, Math.round((width * background.height) / background.width)) };
  return {
    curves: curves ?? undefined,
    lut: lut === null ? undefined : pictures.lut(lut),
    layers: layers.flatMap(({ backgroundId, where, way, strength, at }) => {
      const of = backgrounds.find(({ id }) => id === backgroundId);
      return of ? [{ address: pictures.layer(of), where, way, strength, at }] : [];
    }),
    card:
      card && width
        ? pictures.card(
            frame.id,
            card,
            background.name,
            size,
            `${frame.subject} ${shoot?.name} ${shoot?.date} ${shoot?.place}`,
          )
        : undefined,
  };
}
