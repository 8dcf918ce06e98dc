import { Link } from '@mui/material';
import { lazy, Suspense, useEffect, useMemo, useRef, useState } from 'react';
import { Link as RouterLink } from 'react-router';
import type { Frame, Setup } from '../../../contract/index.ts';
import { fingerprintOf, isCurrent, type Order } from '../../../core/cut/order.ts';
import type { Place } from '../../../core/cut/quality.ts';
import { defaultRecipe, type Recipe } from '../../../core/cut/recipe.ts';
import { Example } from '../../shared/Example.tsx';
import { FrameRows } from '../../shared/FrameRows.tsx';
import { useFrame } from '../../shared/useFrame.ts';
import { useKeys } from '../../shared/keys.ts';
import { Bench, EmptyPlace, ListMargin, NoteOver, Plate, ReadingMargin, Strip } from '../../shared/layout.tsx';
import { Panel, PanelTabs } from '../../shared/Panels.tsx';
import { ViewStrip } from '../../shared/ViewStrip.tsx';
import { pictures } from '../../state/api.ts';
import { changeSetup } from '../../state/changes.ts';
import { useStore } from '../../state/store.ts';
import type { PreviewView } from '../../worker/picture.worker.ts';
import { BatchControl } from './BatchControl.tsx';
import { DoubtsPanel } from './DoubtsPanel.tsx';
import { FrameCaption } from './FrameCaption.tsx';
import { noteOf, orderFrames } from './frameStates.ts';
import { LedgerPanel } from './LedgerPanel.tsx';
import { keepMask, LEAST_CORNERS, type Drawing } from './maskFacts.ts';
import { MasksPanel } from './MasksPanel.tsx';
import { Questions, type Sizing } from './Questions.tsx';
import { useLedger } from './useLedger.ts';
import { usePreview } from './usePreview.ts';
import { judge, worthLooking } from './verdicts.ts';
import { Viewer, type Sight } from './Viewer.tsx';
import { views } from './views.ts';
import { previewOrder, staleFrames } from './wanted.ts';

// Drawing on pictures is loaded when something is drawn.
const Marks = lazy(async () => ({ default: (await import('./Marks.tsx')).Marks }));

const panels = { settings: 'Settings', ledger: 'Green', masks: 'Masks', doubts: 'Doubts' } as const;
type PanelId = keyof typeof panels;

/** Extracting: the batch on the left, the picture in the middle, settings, green ledger, masks and doubts on the right. */
export function ExtractPage() {
  const setups = useStore((state) => state.setups);
  const all = useStore((state) => state.frames);
  const orders = useStore((state) => state.orders);
  const batches = useStore((state) => state.batches);
  const frames = useMemo(() => orderFrames(all, setups), [all, setups]);
  const stale = useMemo(() => staleFrames(all, orders), [all, orders]);
  const [frame, choose] = useFrame('extract', frames);
  const setup = setups.find((s) => s.id === frame?.setupId);
  if (!frame || !setup)
    return (
      <EmptyPlace title="Nothing to extract yet.">
        Bring in frames at{' '}
        <Link component={RouterLink} to="../gather">
          Gather
        </Link>
        ; then their people are cut out here, each with its hair, without the screen’s light, and with what is doubtful
        named.
        <Example show={['photograph', 'cut']} words="a frame, and what is extracted from it" />
      </EmptyPlace>
    );
  const setupFrames = all.filter((f) => f.setupId === setup.id);
  const staleOf = (id: number): Frame[] => stale.filter((f) => f.setupId === id);
  return (
    <Bench>
      <ListMargin aria-label="Frames to extract">
        <BatchControl
          setup={setup}
          frames={setupFrames.filter((f) => setup.plateFrameId !== f.id)}
          stale={staleOf(setup.id)}
          batches={batches.filter((b) => b.kind === 'cut' && b.open > 0)}
          others={setups.filter((s) => s.id !== setup.id).map((s) => ({ id: s.id, stale: staleOf(s.id) }))}
        />
        <FrameRows
          frames={frames}
          current={frame.id}
          onChoose={choose}
          note={(f) => noteOf(f, setups)}
          figure={(f) => (f.cut ? f.cut.quality.minutes.toFixed(1) : '')}
        />
      </ListMargin>
      <OneFrame frame={frame} setup={setup} setupFrames={setupFrames} />
    </Bench>
  );
}

/** One frame: its picture, and what can be asked and said about its cut. */
function OneFrame({ frame, setup, setupFrames }: { frame: Frame; setup: Setup; setupFrames: Frame[] }) {
  const [view, setView] = useState<PreviewView>('grey');
  const [before, setBefore] = useState(false);
  const [sight, setSight] = useState<Sight>();
  const [panel, setPanel] = useState<PanelId>('settings');
  const [drawing, setDrawing] = useState<Drawing>();
  const [looking, setLooking] = useState<Place>();
  const [sizing, setSizing] = useState<Sizing>();
  // While a slider moves its recipe lives here; on release it becomes the setup's.
  const [draft, setDraft] = useState<Recipe>();
  const { width, height } = frame;
  const size = useMemo(() => ({ width, height }), [width, height]);
  useEffect(() => {
    setDrawing(undefined);
    setLooking(undefined);
  }, [frame.id]);

  const recipe = draft ?? setup.recipe;
  const order = useMemo(() => previewOrder(frame, setup, setupFrames), [frame, setup, setupFrames]);
  const guidance = useHeld(order).guidance;
  const plate = order.plate === null ? undefined : setupFrames.find(({ id }) => id === setup.plateFrameId);
  const shown = before ? 'photograph' : view;
  const preview = usePreview(frame, recipe, guidance, plate, shown);
  const asShown = useIsCurrent(frame, setup) && draft === undefined;
  const current = asShown ? frame.cut?.quality : preview.quality;
  const { quality, ledger, patch, choose, pick } = useLedger(frame, current, guidance.verdicts);

  const toggleSize = (): void => setSight((s) => (s ? undefined : { x: width / 2, y: height * 0.28, scale: 1 }));
  const finish = (): void => {
    if (!drawing || drawing.corners.length < LEAST_CORNERS) return;
    keepMask(drawing, setup, frame);
    setDrawing(undefined);
  };
  useFrameKeys({
    onView: setView,
    onSize: toggleSize,
    onBefore: setBefore,
    onNext: () => {
      const worth = worthLooking(ledger);
      if (!worth.length) return;
      setPanel('ledger');
      choose(worth[(worth.indexOf(patch ?? -1) + 1) % worth.length]);
    },
    onVerdict: (keep) => patch !== undefined && ledger[patch] && judge(frame, ledger, ledger[patch], keep),
  });
  useKeys(
    'mask',
    {
      done: finish,
      leave: () => setDrawing(undefined),
      less: () => drawing && setDrawing({ ...drawing, corners: drawing.corners.slice(0, -1) }),
    },
    { enabled: drawing !== undefined },
  );
  const look = (place: Place | undefined): void => {
    setLooking(place);
    if (place)
      setSight({
        x: (place.x + place.width / 2) * width,
        y: (place.y + place.height / 2) * height,
        scale: Math.min(1, 500 / Math.max(place.width * width, place.height * height)),
      });
  };
  const open = (next: PanelId): void => {
    setPanel(next);
    setSizing(undefined);
    if (next !== 'doubts') setLooking(undefined);
    if (next !== 'masks') setDrawing(undefined);
  };
  const onBackground = shown === 'background';
  const marked = !onBackground && (drawing || looking || sizing || panel === 'ledger' || panel === 'masks');
  const detail = !onBackground && (shown === 'photograph' || asShown);
  return (
    <>
      <Plate aria-label="Picture">
        <Strip>
          <ViewStrip
            label="View"
            views={views.map((one) =>
              one.value === 'background' && !frame.placement
                ? { ...one, why: 'Choose a background at Place first.' }
                : one,
            )}
            value={shown}
            onChange={setView}
          />
        </Strip>
        <Viewer
          picture={preview.bitmap}
          size={onBackground && preview.bitmap ? preview.bitmap : size}
          detail={detail ? (area) => pictures.region(frame, shown, area) : undefined}
          label={`${frame.name}, ${shown}`}
          sight={onBackground ? undefined : sight}
          onSight={setSight}
          onPick={
            drawing
              ? (point) => setDrawing({ ...drawing, corners: [...drawing.corners, point] })
              : panel === 'ledger'
                ? pick
                : undefined
          }
          overlay={
            marked
              ? (projection) => (
                  <Suspense>
                    <Marks
                      projection={projection}
                      ledger={panel === 'ledger' && !drawing ? ledger : []}
                      chosen={patch}
                      masks={panel === 'masks' ? guidance.masks : []}
                      drawing={drawing}
                      onDraw={setDrawing}
                      onClose={finish}
                      looking={looking}
                      sizing={panel === 'settings' ? sizing : undefined}
                    />
                  </Suspense>
                )
              : undefined
          }
        >
          {preview.working && <NoteOver>Cutting a preview …</NoteOver>}
          {preview.problem && (
            <NoteOver>
              <strong>It cannot be cut:</strong> {preview.problem.reason}. {preview.problem.remedy}
            </NoteOver>
          )}
        </Viewer>
        <FrameCaption
          frame={frame}
          asShown={asShown}
          before={before}
          onBefore={setBefore}
          closeUp={sight !== undefined}
          onSize={toggleSize}
        />
      </Plate>
      <ReadingMargin aria-label="Settings and readings" sx={{ pt: 0 }}>
        <PanelTabs
          label="Panels"
          panels={panels}
          value={panel}
          figures={{ ledger: ledger.length || undefined, doubts: quality?.doubts.length || undefined }}
          onChange={open}
        />
        <Panel id={panel}>
          {panel === 'settings' && (
            <>
              <h2>“{setup.name}”</h2>
              <Questions
                recipe={recipe}
                coverage={preview.coverage}
                onChange={setDraft}
                onSizing={setSizing}
                onCommit={(next, label) => {
                  void changeSetup(setup, { recipe: next }, label);
                  setDraft(undefined);
                }}
              />
            </>
          )}
          {panel === 'ledger' && <LedgerPanel frame={frame} ledger={ledger} chosen={patch} onChoose={choose} />}
          {panel === 'masks' && (
            <MasksPanel setup={setup} frame={frame} frames={setupFrames} drawing={drawing} onDraw={setDrawing} />
          )}
          {panel === 'doubts' && quality && <DoubtsPanel quality={quality} looking={looking} onLook={look} />}
        </Panel>
      </ReadingMargin>
    </>
  );
}

/** The keys of a frame: its views, sizes, what it was before, and the verdict on the chosen patch. */
function useFrameKeys(hand: {
  onView: (view: PreviewView) => void;
  onSize: () => void;
  onBefore: (before: boolean) => void;
  onNext: () => void;
  onVerdict: (keep: boolean) => unknown;
}): void {
  useKeys(
    'extract',
    {
      view: (key) => hand.onView(views[Number(key) - 1].value),
      size: hand.onSize,
      before: () => hand.onBefore(true),
      next: hand.onNext,
      keeps: () => hand.onVerdict(true),
      goes: () => hand.onVerdict(false),
    },
    { onRelease: (name) => name === 'before' && hand.onBefore(false) },
  );
}

/** Whether the cut of a frame is what is wanted now, as far as the server has told; never while a change is on its way. */
function useIsCurrent(frame: Frame, setup: Setup): boolean {
  const order = useStore((state) => state.orders.find(({ id }) => id === frame.id));
  const unsaved = useStore((state) => state.unsaved);
  return !unsaved && !!frame.cut && !!order && order.revision >= setup.revision && isCurrent(frame.cut, order.wanted);
}

/** The first of all orders that say the same of the frame itself, so that effects run only on a real change. */
function useHeld(order: Order): Order {
  const held = useRef({ name: '', order });
  const name = fingerprintOf({ ...order, recipe: defaultRecipe, litBy: null });
  if (held.current.name !== name) held.current = { name, order };
  return held.current.order;
}
