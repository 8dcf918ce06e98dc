import { plateOf } from '../../shared/plates.ts';
import { useEffect, useMemo, useRef, useState } from 'react';
import type { Frame, Setup } from '../../../contract/index.ts';
import { fingerprintOf, isCurrent, type Order } from '../../../core/cut/order.ts';
import type { Place } from '../../../core/cut/places.ts';
import { defaultRecipe, sameRecipe, type Recipe } from '../../../core/cut/recipe.ts';
import { useKeys } from '../../shared/keys.ts';
import { pictures } from '../../state/api.ts';
import { useStore } from '../../state/store.ts';
import type { PreviewView } from '../../worker/picture.worker.ts';
import { useJudgedOn } from './JudgedOn.tsx';
import { keepMask, LEAST_CORNERS, withLine, type Drawing } from './maskFacts.ts';
import { review, useClock } from './review.ts';
import type { Sizing } from './Questions.tsx';
import type { PathPoint } from '../../../core/touch/touch.ts';
import type { Sight } from './sight.ts';
import { useBrush } from './useBrush.ts';
import { useGestures } from './useGestures.ts';
import { useLedger } from './useLedger.ts';
import { usePreview } from './usePreview.ts';
import { keepSettings, type Scope } from './settings.ts';
import { judge, worthLooking } from './verdicts.ts';
import { useTrial } from './useTrial.ts';
import { viewOfKey } from './views.ts';
import { previewOrder } from './wanted.ts';

export const panels = {
  settings: 'Settings',
  ledger: 'Green',
  masks: 'Masks',
  touches: 'Touches',
  doubts: 'Doubts',
} as const;
export type PanelId = keyof typeof panels;

/** Longest side of a place that is looked at, viewer's pixels. */
const PLACE_SIDE = 500;
/** Where a frame is looked at first at full size: the face of somebody who stands there, share of the height. */
const FACE = 0.28;

/** What is known of the frame on the bench, and what can be done with it; for its picture and its panels. */
export type FrameBench = ReturnType<typeof useFrameBench>;

/** @param onNext goes on to the next frame and says whether there is one; `onChoose` goes to any. */
export function useFrameBench(
  frame: Frame,
  setup: Setup,
  setupFrames: Frame[],
  onNext: () => boolean,
  onChoose: (frameId: number) => void,
) {
  const [panel, setPanel] = useState<PanelId>('settings');
  const [unrolled, unroll] = useState(false);
  const [sizing, setSizing] = useState<Sizing>();
  // While a slider moves its recipe lives here; on release it becomes the setup's.
  const [draft, setDraft] = useState<Recipe>();
  const [scope, setScope] = useState<Scope>('setup');
  const looks = useLooks(frame);
  const { judged, judgeOn } = useJudgedOn(frame);
  const drawing = useDrawing(frame, setup);
  const brushing = useBrush(frame);
  const crops = drawing.drawing?.effect === 'crop' && drawing.drawing.scope === 'setup';
  const gestures = useGestures(frame, setupFrames, crops);

  const trial = useTrial(setup);
  const kept = useMemo(() => previewOrder(frame, setup, setupFrames), [frame, setup, setupFrames]);
  const { to } = trial;
  const order = useMemo(
    () => previewOrder(frame, { ...setup, recipe: { ...setup.recipe, ...to } }, setupFrames),
    [frame, setup, setupFrames, to],
  );
  const guidance = useHeld(order).guidance;
  const recipe = draft ?? order.recipe;
  const plate = plateOf(frame, setupFrames);
  const saved = useWanted(frame, setup);
  const wanted = draft === undefined && sameRecipe(kept.recipe, order.recipe) ? saved : undefined;
  const asShown = wanted !== undefined && isCurrent(frame.cut, wanted);
  const stored = asShown && frame.cut ? pictures.cutout(frame.id, frame.cut.version) : undefined;
  const preview = usePreview(
    judged,
    recipe,
    guidance,
    plate,
    looks.shown,
    looks.before ? undefined : looks.beside?.view,
    stored,
    panel === 'touches',
  );
  const current = asShown ? frame.cut?.quality : preview.quality;
  const clock = useClock(frame);
  // A key that comes before the next frame is drawn is not meant for the one that was left.
  const left = useRef<number>(undefined);
  useEffect(() => {
    left.current = undefined;
  }, [frame.id]);
  const accept = (): void => {
    if (!frame.cut || left.current === frame.id) return;
    review(frame, 'accepted', clock());
    if (onNext()) left.current = frame.id;
  };
  const green = useLedger(frame, current, guidance.verdicts);

  useKeys(
    'extract',
    {
      view: (key) => {
        const view = viewOfKey(key);
        if (view) looks.setView(view);
      },
      beside: looks.toggleBeside,
      values: () => looks.setValues((now) => !now),
      size: looks.toggleSize,
      ribbon: () => frame.cut && unroll((now) => !now),
      before: () => looks.setBefore(true),
      next: () => {
        const worth = worthLooking(green.ledger);
        if (!worth.length) return;
        setPanel('ledger');
        green.choose(worth[(worth.indexOf(green.patch ?? -1) + 1) % worth.length]);
      },
      accept,
      again: () => frame.cut && review(frame, 'again'),
      keeps: () => verdict(true),
      goes: () => verdict(false),
    },
    { onRelease: (name) => name === 'before' && looks.setBefore(false) },
  );
  const verdict = (keep: boolean): void => {
    const entry = green.patch === undefined ? undefined : green.ledger[green.patch];
    if (entry) judge(frame, green.ledger, entry, keep);
  };
  return {
    ...{ frame, judged, judgeOn, setup, setupFrames },
    ...{ unrolled: unrolled && frame.cut !== null, unroll },
    ...{ recipe, scope, setScope, trial, guidance, preview, asShown, wanted, panel, sizing, setSizing },
    ...looks,
    ...drawing,
    gestures,
    go: onChoose,
    ...brushing,
    ...green,
    accept,
    /** Goes to a frame and shows how it differs from its extracted cut. */
    lookAtChange: (frameId: number): void => {
      onChoose(frameId);
      looks.setView('change');
    },
    /** Follows a slider. */
    try: setDraft,
    keep: (next: Recipe, label: string): void => {
      keepSettings(
        { frame, setup: { ...setup, recipe: trial.recipe }, setupFrames },
        next,
        frame.subject || scope !== 'subject' ? scope : 'frame',
        label,
        trial.on ? trial.change : undefined,
      );
      setDraft(undefined);
    },
    open: (next: PanelId): void => {
      setPanel(next);
      setSizing(undefined);
      if (next !== 'doubts') looks.look(undefined);
      if (next !== 'masks') drawing.draw(undefined);
      if (next !== 'touches') brushing.hold(undefined);
    },
  };
}

/** A second view of the frame: which, whether over a part of the first or above it, and where they are divided, 0–1. */
export interface Beside {
  view: PreviewView;
  how: 'divided' | 'above';
  at: number;
}

/** How the frame is looked at: its view, what it was before, which part of it, which place. */
function useLooks({ id, width, height }: Frame) {
  const [view, setView] = useState<PreviewView>('grey');
  const [before, setBefore] = useState(false);
  const [sight, setSight] = useState<Sight>();
  const [looking, setLooking] = useState<Place>();
  const [beside, setBeside] = useState<Beside>();
  /** What `beside` was before it was put away. */
  const [last, setLast] = useState<Beside>({ view: 'photograph', how: 'divided', at: 0.5 });
  const [values, setValues] = useState(false);
  useEffect(() => setLooking(undefined), [id]);
  return {
    shown: before ? ('photograph' as const) : view,
    ...{ setView, before, setBefore, sight, setSight, looking, beside, values, setValues },
    setBeside,
    toggleBeside: (): void => {
      if (beside) setLast(beside);
      setBeside(beside ? undefined : last);
    },
    toggleSize: (): void => setSight((now) => (now ? undefined : { x: width / 2, y: height * FACE, scale: 1 })),
    look: (place: Place | undefined): void => {
      setLooking(place);
      if (place)
        setSight({
          x: (place.x + place.width / 2) * width,
          y: (place.y + place.height / 2) * height,
          scale: Math.min(1, PLACE_SIDE / Math.max(place.width * width, place.height * height)),
        });
    },
  };
}

/** The mask that is being drawn. */
function useDrawing(frame: Frame, setup: Setup) {
  const [drawing, draw] = useState<Drawing>();
  /** An outline that is being drawn in one go. */
  const [outlining, outline] = useState<PathPoint[]>([]);
  // What holds for all frames of the setup may be looked at on any of them.
  useEffect(() => draw((now) => (now?.scope === 'setup' ? now : undefined)), [frame.id]);
  useEffect(() => draw(undefined), [setup.id]);
  const finish = (): void => {
    if (!drawing || drawing.corners.length < LEAST_CORNERS) return;
    keepMask(drawing, setup, frame);
    draw(undefined);
  };
  useKeys(
    'mask',
    {
      done: finish,
      leave: () => draw(undefined),
      less: () => drawing && draw({ ...drawing, corners: drawing.corners.slice(0, -1) }),
    },
    { enabled: drawing !== undefined },
  );
  return {
    ...{ drawing, draw, finish, outlining },
    /** What the picture tells of the hand while a mask is drawn. */
    drawingHand: drawing && {
      onStroke: outline,
      onEnd: (line: PathPoint[]): void => {
        outline([]);
        draw(withLine(drawing, line));
      },
      onWheel: (): void => undefined,
      from: undefined,
    },
  };
}

/**
 * The fingerprint of what a frame is to be cut with, as far as the server has told; none while a change is on its way,
 * and of a plate.
 */
function useWanted(frame: Frame, setup: Setup): string | undefined {
  const order = useStore((state) => state.orders.find(({ id }) => id === frame.id));
  const unsaved = useStore((state) => state.unsavedOrders);
  return unsaved || !order || order.revision < setup.revision ? undefined : (order.wanted ?? undefined);
}

/** The first of all orders that say the same of the frame itself, so that effects run only on a real change. */
function useHeld(order: Order): Order {
  const held = useRef({ name: '', order });
  const name = fingerprintOf({ ...order, recipe: defaultRecipe });
  if (held.current.name !== name) held.current = { name, order };
  return held.current.order;
}
