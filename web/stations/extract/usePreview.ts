import { useCallback, useEffect, useMemo, useState } from 'react';
import type { Frame, Problem } from '../../../contract/index.ts';
import type { Guidance, Quality, Recipe } from '../../../core/cut/index.ts';
import { workingTouches } from '../../../core/touch/touch.ts';
import { pictures } from '../../state/api.ts';
import { useStore } from '../../state/store.ts';
import { latestOnly } from '../../worker/latestOnly.ts';
import type { PixelValues } from '../../../core/cut/stagedCut.ts';
import type { PreviewView, Showing } from '../../worker/picture.worker.ts';
import { usePictureWorker } from '../../worker/usePictureWorker.ts';

interface PreviewState {
  /** The frame that bitmaps and quality are of. */
  of?: number;
  /** In the views that were asked for. */
  bitmaps?: ImageBitmap[];
  quality?: Quality;
  /** How its coverage is spread, in equal steps from none to full. */
  coverage?: number[];
  /** Touches without which the cut would look the same; undefined until they were looked at. */
  idle?: readonly string[];
  problem?: Problem;
  working: boolean;
}

/** Milliseconds without a change after which the cut is judged; while a setting is dragged pictures come first. */
const JUDGED_AFTER = 150;
/** Milliseconds without a change after which a draft gives way to the whole cut. */
const STILL = 80;
/** Milliseconds on a frame whose stored cut is shown after which it is cut here, for the settings. */
const WALKING = 250;

/**
 * Milliseconds after which a worker that has not answered is taken for dead; a large frame takes some seconds on a
 * busy machine.
 */
const DEAD_AFTER = 90_000;

/**
 * The frame cut in the browser with the given recipe and guidance (same object while nothing changed), in the given
 * views; follows every change.
 * @param beside a second view of the same.
 * @param stored address of the frame's cut, where that is as it is wanted: it is what is shown, and the frame is cut
 * here only for the settings.
 * @param asked whether it is to be found which touches change nothing any more.
 */
export function usePreview(
  frame: Frame | undefined,
  recipe: Recipe | undefined,
  guidance: Guidance,
  plate: Frame | undefined,
  view: PreviewView,
  beside: PreviewView | undefined,
  stored: string | undefined,
  asked: boolean,
): PreviewState & { valuesAt: (x: number, y: number) => Promise<PixelValues | undefined> } {
  const { remote: worker, dead, replace } = usePictureWorker();
  const [state, setState] = useState<PreviewState>({ working: true });
  // What was asked of a worker that died is never answered: each has a queue, and knows what it has loaded.
  const own = useMemo(
    () => ({
      worker,
      ask: latestOnly(),
      loaded: {} as { frame?: string; plate?: string; own?: string; background?: string },
    }),
    [worker],
  );
  useEffect(() => () => state.bitmaps?.forEach((bitmap) => bitmap.close()), [state.bitmaps]);
  const frameId = frame?.id;
  const fileWidth = frame?.width ?? 1;
  const placement = frame?.placement;
  const backgrounds = useStore(({ backgrounds: all }) => all);
  const background = backgrounds.find(({ id }) => id === placement?.backgroundId);
  const last = frame?.cut ? pictures.cutout(frame.id, frame.cut.version) : undefined;
  const address = frame && pictures.working(frame);
  const personsAddress = frame && pictures.persons(frame);
  const plateAddress = plate && pictures.working(plate);
  const { file: matteFile, use: matteUse } = guidance.matte ?? {};
  const backgroundAddress = background && pictures.background(background, 'view');
  useEffect(() => {
    const { ask, loaded } = own;
    if (!worker || frameId === undefined || !address || !personsAddress || !recipe) return;
    let current = true;
    const showing: Showing = {
      views: beside ? [view, beside] : [view],
      placement: placement ?? undefined,
      stored: last,
    };
    const shownOf = (s: PreviewState, bitmaps: ImageBitmap[]): Omit<PreviewState, 'working'> => ({
      of: frameId,
      bitmaps,
      quality: s.of === frameId ? s.quality : undefined,
      coverage: s.of === frameId ? s.coverage : undefined,
      idle: undefined,
    });
    let judging: ReturnType<typeof setTimeout> | undefined;
    // A preview that takes longer than a blink says so; a quick one does not flicker.
    const slow = setTimeout(() => current && setState((s) => ({ ...s, working: true })), 250);
    ask(async () => {
      if (!current) return;
      const silent = setTimeout(replace, DEAD_AFTER);
      try {
        const fresh = loaded.frame !== address;
        if (showing.views.includes('background') && backgroundAddress && loaded.background !== backgroundAddress) {
          await worker.loadBackground(backgroundAddress);
          loaded.background = backgroundAddress;
        }
        let atOnce = false;
        const showAtOnce = (bitmaps: ImageBitmap[] | undefined): void => {
          if (!bitmaps) return;
          if (!current) return bitmaps.forEach((bitmap) => bitmap.close());
          atOnce = true;
          clearTimeout(slow);
          setState((s) => ({ ...shownOf(s, bitmaps), working: false }));
        };
        if (stored) {
          // One that cannot be had is only not shown.
          showAtOnce(await worker.stored(stored, showing).catch(() => undefined));
          // What follows cannot be interrupted, so it waits for a hand that goes on.
          if (atOnce && fresh) await new Promise((resolve) => setTimeout(resolve, WALKING));
          if (!current) return;
        }
        if (fresh) {
          await worker.loadFrame(address, personsAddress, fileWidth);
          loaded.frame = address;
          loaded.plate = undefined;
          loaded.own = undefined;
        }
        if (fresh && view === 'photograph' && !beside) {
          const photograph = await worker.photograph();
          showAtOnce(photograph && [photograph]);
        }
        if (!current) return;
        if (loaded.plate !== plateAddress) {
          await worker.loadPlate(plateAddress);
          loaded.plate = plateAddress;
        }
        const own = matteFile && matteUse ? { address: pictures.matte(matteFile), use: matteUse } : undefined;
        const ownName = own && JSON.stringify(own);
        if (loaded.own !== ownName) {
          await worker.loadOwnMatte(own);
          loaded.own = ownName;
        }
        if (!current) return;
        // A draft would be less than what is shown then.
        const draft = atOnce ? undefined : await worker.draft(recipe, guidance, showing);
        if (!current) return;
        if (draft) {
          setState((s) => ({ ...shownOf(s, draft), working: s.working }));
          // What follows cannot be interrupted, so it waits for a hand that is still moving.
          if (!fresh) await new Promise((resolve) => setTimeout(resolve, STILL));
          if (!current) return;
        }
        const preview = await worker.preview(recipe, guidance, showing);
        if (!current) return;
        clearTimeout(slow);
        if (!preview.ok) {
          // What is pointed at or masked to mend it is drawn on the photograph.
          const photograph = await worker.photograph();
          if (!current) return photograph?.close();
          return setState({
            of: frameId,
            bitmaps: photograph && [photograph],
            problem: preview,
            working: false,
          });
        }
        const { bitmaps } = preview;
        if (atOnce) bitmaps.forEach((bitmap) => bitmap.close());
        else setState((s) => ({ ...shownOf(s, bitmaps), working: false }));
        judging = setTimeout(
          () =>
            ask(async () => {
              if (!current) return;
              const judged = await worker.judge();
              if (current) setState((s) => ({ ...s, ...judged }));
              const idle: string[] = [];
              for (const { id } of asked ? workingTouches(guidance.touches) : []) {
                if (!current) return;
                if (await worker.isIdle(recipe, guidance, id)) idle.push(id);
              }
              if (current && asked) setState((s) => ({ ...s, idle }));
            }),
          JUDGED_AFTER,
        );
      } catch (error) {
        clearTimeout(slow);
        if (current)
          setState({
            problem: {
              reason: (error as Error).message,
              remedy: 'Choose the frame again; if it stays so, reload the page.',
            },
            working: false,
          });
      } finally {
        clearTimeout(silent);
      }
    });
    return () => {
      current = false;
      clearTimeout(slow);
      clearTimeout(judging);
    };
  }, [
    own,
    worker,
    replace,
    frameId,
    address,
    personsAddress,
    fileWidth,
    recipe,
    guidance,
    matteFile,
    matteUse,
    plateAddress,
    backgroundAddress,
    view,
    beside,
    placement,
    stored,
    last,
    asked,
  ]);
  const valuesAt = useCallback(
    async (x: number, y: number) => (worker ? await worker.valuesAt(x, y) : undefined),
    [worker],
  );
  if (dead)
    return {
      valuesAt,
      working: false,
      problem: {
        reason: 'the preview broke off again and again',
        remedy: 'Close other windows to free memory, then reload the page; the batch cuts without a preview.',
      },
    };
  // A verdict on another frame's patch must not be possible while the new frame is on its way.
  return { valuesAt, ...(state.of === frameId ? state : { ...state, quality: undefined, coverage: undefined }) };
}
