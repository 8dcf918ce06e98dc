import { useEffect, useRef, useState } from 'react';
import type { Frame, Problem } from '../../contract/index.ts';
import type { Guidance, Quality, Recipe } from '../../core/cut/index.ts';
import { pictures } from '../state/api.ts';
import { latestOnly } from '../worker/latestOnly.ts';
import type { PreviewView } from '../worker/picture.worker.ts';
import { usePictureWorker } from '../worker/usePictureWorker.ts';

interface PreviewState {
  /** The frame that bitmap and quality are of. */
  of?: number;
  bitmap?: ImageBitmap;
  quality?: Quality;
  problem?: Problem;
  working: boolean;
}

/** Milliseconds without a change after which the cut is judged; while a setting is dragged pictures come first. */
const JUDGED_AFTER = 150;
/** Milliseconds without a change after which a draft gives way to the whole cut. */
const STILL = 80;

/** The frame cut in the browser with the given recipe and guidance (same object while nothing changed), in the given view; follows every change. */
export function usePreview(frame: Frame | undefined, recipe: Recipe | undefined, guidance: Guidance, plateFrameId: number | null, view: PreviewView): PreviewState {
  const worker = usePictureWorker();
  const [state, setState] = useState<PreviewState>({ working: true });
  const ask = useRef(latestOnly());
  const loaded = useRef<{ frame?: number; plate?: number | null; background?: number }>({});
  const frameId = frame?.id;
  const fileWidth = frame?.width ?? 1;
  const placement = frame?.placement;
  useEffect(() => {
    if (!worker || frameId === undefined || !recipe) return;
    let current = true;
    const shownOf = (s: PreviewState, bitmap: ImageBitmap): Omit<PreviewState, 'working'> => ({ of: frameId, bitmap, quality: s.of === frameId ? s.quality : undefined });
    let judging: ReturnType<typeof setTimeout> | undefined;
    // A preview that takes longer than a blink says so; a quick one does not flicker.
    const slow = setTimeout(() => current && setState((s) => ({ ...s, working: true })), 250);
    ask.current(async () => {
      if (!current) return;
      try {
        const fresh = loaded.current.frame !== frameId;
        if (fresh) {
          await worker.loadFrame(pictures.working(frameId), pictures.persons(frameId), fileWidth);
          loaded.current = { ...loaded.current, frame: frameId, plate: null };
        }
        if (loaded.current.plate !== plateFrameId) {
          await worker.loadPlate(plateFrameId === null ? undefined : pictures.working(plateFrameId));
          loaded.current.plate = plateFrameId;
        }
        if ((view === 'background' || recipe.bounce > 0) && placement && loaded.current.background !== placement.backgroundId) {
          await worker.loadBackground(pictures.background(placement.backgroundId, 'view'));
          loaded.current.background = placement.backgroundId;
        }
        const draft = await worker.draft(recipe, guidance, view, placement ?? undefined);
        if (!current) return;
        if (draft) {
          setState((s) => ({ ...shownOf(s, draft), working: s.working }));
          // What follows cannot be interrupted, so it waits for a hand that is still moving.
          if (!fresh) await new Promise((resolve) => setTimeout(resolve, STILL));
          if (!current) return;
        }
        const preview = await worker.preview(recipe, guidance, view, placement ?? undefined);
        if (!current) return;
        clearTimeout(slow);
        if (!preview.ok) return setState({ problem: preview, working: false });
        const { bitmap } = preview;
        setState((s) => ({ ...shownOf(s, bitmap), working: false }));
        judging = setTimeout(() => ask.current(async () => {
          if (!current) return;
          const quality = await worker.judge();
          if (current) setState((s) => ({ ...s, quality }));
        }), JUDGED_AFTER);
      } catch (error) {
        clearTimeout(slow);
        if (current) setState({ problem: { reason: (error as Error).message, remedy: 'Reload the page.' }, working: false });
      }
    });
    return () => {
      current = false;
      clearTimeout(slow);
      clearTimeout(judging);
    };
  }, [worker, frameId, fileWidth, recipe, guidance, plateFrameId, view, placement]);
  // A verdict on another frame's patch must not be possible while the new frame is on its way.
  return state.of === frameId ? state : { ...state, quality: undefined };
}
