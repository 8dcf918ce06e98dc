import { Button } from '@mui/material';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import type { Frame, Setup } from '../../../contract/index.ts';
import { doubtFacts } from '../../../core/cut/doubts.ts';
import { noGuidance, patchOf, verdictOn, type HandVerdict } from '../../../core/cut/guidance.ts';
import type { LedgerEntry, Place, Quality } from '../../../core/cut/quality.ts';
import { sameRecipe, type Recipe } from '../../../core/cut/recipe.ts';
import { judgingTones } from '../../../core/place/index.ts';
import { minutes } from '../../shared/format.ts';
import { FrameRows, useFrameKeys } from '../../shared/FrameRows.tsx';
import { isTyping } from '../../shared/keys.ts';
import { pictures } from '../../state/api.ts';
import { changeSetup, isPlate, useStore } from '../../state/store.ts';
import type { PreviewView } from '../../worker/picture.worker.ts';
import { BatchControl } from './BatchControl.tsx';
import { DoubtsPanel } from './DoubtsPanel.tsx';
import { judge, judged, LedgerPanel, worthLooking } from './LedgerPanel.tsx';
import { keepMask, MasksPanel, type Drawing } from './MasksPanel.tsx';
import { Overlay } from './Overlay.tsx';
import { Questions } from './Questions.tsx';
import { usePreview } from './usePreview.ts';
import { Viewer, type Sight } from './Viewer.tsx';
import { groupFrames, staleFrames, wantedFor } from './wanted.ts';

const views: { view: PreviewView; title: string }[] = [
  { view: 'photograph', title: 'Photograph' },
  { view: 'matte', title: 'Matte' },
  ...(Object.keys(judgingTones) as (keyof typeof judgingTones)[]).map((tone) => ({
    view: tone,
    title: judgingTones[tone].title,
  })),
  { view: 'background', title: 'Background' },
];

const panels = { settings: 'Settings', ledger: 'Green', masks: 'Masks', doubts: 'Doubts' } as const;
type Panel = keyof typeof panels;

/** Cutting: the batch on the left, the picture in the middle, settings, green ledger, masks and doubts on the right. */
export function CutPage() {
  const setups = useStore((state) => state.setups);
  const allFrames = useStore((state) => state.frames);
  const batches = useStore((state) => state.batches);
  const [search, setSearch] = useSearchParams();
  const [view, setView] = useState<PreviewView>('grey');
  const [before, setBefore] = useState(false);
  const [sight, setSight] = useState<Sight>();
  const [panel, setPanel] = useState<Panel>('settings');
  const [chosen, setChosen] = useState<HandVerdict>();
  const [clicked, setClicked] = useState<{ x: number; y: number }>();
  const [drawing, setDrawing] = useState<Drawing>();
  const [looking, setLooking] = useState<Place>();
  const frames = useMemo(() => orderFrames(allFrames, setups), [allFrames, setups]);
  const frame = frames.find((f) => f.id === Number(search.get('frame'))) ?? frames[0];
  const setup = setups.find((s) => s.id === frame?.setupId);
  const choose = useCallback((id: number) => setSearch({ frame: String(id) }, { replace: true }), [setSearch]);
  const size = useMemo(() => ({ width: frame?.width ?? 1, height: frame?.height ?? 1 }), [frame?.width, frame?.height]);
  useEffect(() => {
    setChosen(undefined);
    setClicked(undefined);
    setDrawing(undefined);
    setLooking(undefined);
  }, [frame?.id]);

  // While a slider moves its recipe lives here; on release it becomes the setup's.
  const [draft, setDraft] = useState<Recipe>();
  const recipe = draft ?? setup?.recipe;
  const groups = useMemo(() => groupFrames(allFrames), [allFrames]);
  const stale = useMemo(() => staleFrames(allFrames, setups, groups), [allFrames, setups, groups]);
  const wanted = useMemo(() => (frame && setup ? wantedFor(frame, setup, groups) : undefined), [frame, setup, groups]);
  const held = useHeld(wanted?.guidance ?? noGuidance, wanted?.instructions ?? '');
  const preview = usePreview(
    frame,
    recipe,
    held,
    wanted === undefined || wanted.plateFrameId === null ? undefined : groups.byId.get(wanted.plateFrameId),
    before ? 'photograph' : view,
  );
  useFrameKeys(frames, frame?.id, choose);

  const cutAsShown =
    frame?.cut && recipe && sameRecipe(frame.cut.recipe, recipe) && frame.cut.instructions === wanted?.instructions;
  // Until the preview of a change is back, the ledger that was seen stays: hands are quicker than previews.
  const seen = useRef<{ of: number; quality: Quality }>(undefined);
  const current = cutAsShown ? frame.cut?.quality : preview.quality;
  if (current && frame) seen.current = { of: frame.id, quality: current };
  const quality =
    current ?? (seen.current?.of === frame?.id ? seen.current?.quality : undefined) ?? frame?.cut?.quality;
  const ledger = useMemo(() => judged(quality?.ledger ?? [], held.verdicts), [quality, held]);
  const at = chosen ? patchOf(chosen, ledger) : -1;
  const patch = at < 0 ? undefined : at;
  const setPatch = (n: number | undefined): void => setChosen(n === undefined ? undefined : verdictOn(ledger[n], true));
  // A click before the ledger is there counts when it is.
  useEffect(() => {
    if (!clicked || !quality) return;
    const there = patchAt(ledger, clicked);
    setClicked(undefined);
    if (there !== undefined) setChosen(verdictOn(ledger[there], true));
  }, [clicked, quality, ledger]);
  const toggleSize = (): void =>
    setSight((s) => (s ? undefined : { x: size.width / 2, y: size.height * 0.28, scale: 1 }));
  const finish = (): void => {
    if (drawing && drawing.corners.length >= 3 && setup && frame) {
      keepMask(drawing, setup, frame);
      setDrawing(undefined);
    }
  };
  useCutKeys(
    {
      ...Object.fromEntries(views.map(({ view: v }, n) => [String(n + 1), () => setView(v)])),
      0: toggleSize,
      b: () => setBefore(true),
      n: () => {
        const worth = worthLooking(ledger);
        if (!worth.length) return;
        setPanel('ledger');
        setPatch(worth[(worth.indexOf(patch ?? -1) + 1) % worth.length]);
      },
      k: () => frame && patch !== undefined && ledger[patch] && judge(frame, ledger, ledger[patch], true),
      r: () => frame && patch !== undefined && ledger[patch] && judge(frame, ledger, ledger[patch], false),
      ...(drawing
        ? {
            Enter: finish,
            Escape: () => setDrawing(undefined),
            Backspace: () => setDrawing({ ...drawing, corners: drawing.corners.slice(0, -1) }),
          }
        : {}),
    },
    () => setBefore(false),
  );

  if (!frame || !setup || !recipe || !wanted) {
    return (
      <p className="empty">
        <strong>Nothing to cut yet.</strong>
        Bring in frames at <Link to="../gather">Gather</Link>; then their people are cut out here.
      </p>
    );
  }
  const shown = before ? 'photograph' : view;
  const detail =
    shown !== 'background' && (shown === 'photograph' || cutAsShown)
      ? (area: { x: number; y: number; width: number; height: number }) => pictures.region(frame, shown, area)
      : undefined;
  const setupFrames = allFrames.filter((f) => f.setupId === setup.id);
  const staleOf = (id: number): Frame[] => stale.filter((f) => f.setupId === id);
  const marks = shown !== 'background' && (drawing || looking || panel === 'ledger' || panel === 'masks');
  const pick = (point: { x: number; y: number }): void => {
    if (drawing) return setDrawing({ ...drawing, corners: [...drawing.corners, point] });
    if (!quality) return setClicked(point);
    const at = patchAt(ledger, point);
    setPatch(at === patch ? undefined : at);
  };
  const look = (place: Place | undefined): void => {
    setLooking(place);
    if (place)
      setSight({
        x: (place.x + place.width / 2) * size.width,
        y: (place.y + place.height / 2) * size.height,
        scale: Math.min(1, 500 / Math.max(place.width * size.width, place.height * size.height)),
      });
  };
  const open = (next: Panel): void => {
    setPanel(next);
    if (next !== 'doubts') setLooking(undefined);
    if (next !== 'masks') setDrawing(undefined);
  };
  return (
    <div className="bench">
      <aside className="margin left" aria-label="Frames to cut">
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
      </aside>
      <section className="plate" aria-label="Picture">
        <div className="views">
          {views.map(({ view: v, title }, n) => (
            <button
              key={v}
              type="button"
              aria-pressed={v === shown}
              onClick={() => setView(v)}
              disabled={v === 'background' && !frame.placement}
              title={v === 'background' && !frame.placement ? 'Choose a background at Place first.' : undefined}
            >
              <kbd>{n + 1}</kbd>
              {title}
            </button>
          ))}
        </div>
        <Viewer
          picture={preview.bitmap}
          size={shown === 'background' && preview.bitmap ? preview.bitmap : size}
          detail={detail}
          label={`${frame.name}, ${shown}`}
          sight={shown === 'background' ? undefined : sight}
          onSight={setSight}
          onPick={drawing || panel === 'ledger' ? pick : undefined}
          overlay={
            marks
              ? (project) => (
                  <Overlay
                    project={project}
                    ledger={panel === 'ledger' && !drawing ? ledger : []}
                    chosen={patch}
                    masks={panel === 'masks' ? wanted.guidance.masks : []}
                    drawing={drawing}
                    looking={looking}
                  />
                )
              : undefined
          }
        >
          {preview.working && <span className="note-over">Cutting a preview …</span>}
          {preview.problem && (
            <span className="note-over">
              <strong>It cannot be cut:</strong> {preview.problem.reason}. {preview.problem.remedy}
            </span>
          )}
        </Viewer>
        <div className="caption">
          <span>{frame.name}</span>
          <span className="figure quiet">
            {frame.width} × {frame.height}, {frame.depth} bit
          </span>
          <span className="quiet">{stateOf(frame, Boolean(cutAsShown))}</span>
          <Button
            variant="text"
            sx={{ py: 0, ml: 'auto' }}
            aria-pressed={before}
            onPointerDown={() => setBefore(true)}
            onPointerUp={() => setBefore(false)}
            onPointerLeave={() => setBefore(false)}
            title="Shows the photograph while it is held."
          >
            <kbd className="figure">B</kbd>&nbsp; Before
          </Button>
          <Button variant="text" sx={{ py: 0 }} onClick={toggleSize}>
            <kbd className="figure">0</kbd>&nbsp; {sight ? 'Whole picture' : 'Full size'}
          </Button>
        </div>
      </section>
      <aside className="margin right cut-margin" aria-label="Settings and readings">
        <div className="views panels">
          {(Object.keys(panels) as Panel[]).map((id) => (
            <button key={id} type="button" aria-pressed={panel === id} onClick={() => open(id)}>
              {panels[id]}
              {id === 'ledger' && ledger.length > 0 && <span className="figure quiet"> {ledger.length}</span>}
              {id === 'doubts' && quality && quality.doubts.length > 0 && (
                <span className="figure quiet"> {quality.doubts.length}</span>
              )}
            </button>
          ))}
        </div>
        {panel === 'settings' && (
          <>
            <h2>“{setup.name}”</h2>
            <Questions
              recipe={recipe}
              onChange={setDraft}
              onCommit={(next, label) => {
                void changeSetup(setup, { recipe: next }, label);
                setDraft(undefined);
              }}
            />
          </>
        )}
        {panel === 'ledger' && <LedgerPanel frame={frame} ledger={ledger} chosen={patch} onChoose={setPatch} />}
        {panel === 'masks' && (
          <MasksPanel setup={setup} frame={frame} frames={setupFrames} drawing={drawing} onDraw={setDrawing} />
        )}
        {panel === 'doubts' && quality && <DoubtsPanel quality={quality} looking={looking} onLook={look} />}
      </aside>
    </div>
  );
}

/** The first of all equal values, so that effects run only on a real change. */
function useHeld<T>(value: T, name: string): T {
  const held = useRef({ name, value });
  if (held.current.name !== name) held.current = { name, value };
  return held.current.value;
}

/** The smallest patch around a point. */
function patchAt(ledger: LedgerEntry[], { x, y }: { x: number; y: number }): number | undefined {
  const around = ledger
    .map(({ place }, n) => ({ place, n }))
    .filter(({ place: p }) => x >= p.x && x <= p.x + p.width && y >= p.y && y <= p.y + p.height);
  around.sort((a, b) => a.place.width * a.place.height - b.place.width * b.place.height);
  return around[0]?.n;
}

/** Failed ones first, then the costliest by hand, then what is not cut, in the order they were taken, and plates last. */
function orderFrames(frames: Frame[], setups: Setup[]): Frame[] {
  const plates = new Set(setups.map(({ plateFrameId }) => plateFrameId));
  const rank = (frame: Frame): number =>
    plates.has(frame.id) ? -2 : frame.job?.state === 'failed' ? 1e6 : frame.cut ? frame.cut.quality.minutes : -1;
  return [...frames].sort((a, b) => rank(b) - rank(a));
}

function noteOf(frame: Frame, setups: Setup[]): string {
  if (isPlate(frame, setups)) return 'the setup’s plate';
  if (frame.job?.state === 'running') return 'being cut …';
  if (frame.job?.state === 'queued') return 'waits to be cut';
  if (frame.job?.state === 'failed') return `failed: ${frame.job.problem?.reason ?? 'unknown'}`;
  if (!frame.cut) return 'not cut yet';
  const [worst] = frame.cut.quality.doubts;
  return worst ? doubtFacts[worst.kind].title : 'nothing doubtful';
}

function stateOf(frame: Frame, asShown: boolean): string {
  if (frame.job?.state === 'failed')
    return `${frame.job.problem?.reason ?? 'failed'}. ${frame.job.problem?.remedy ?? ''}`;
  if (!frame.cut) return 'preview; not cut yet';
  return asShown ? `cut, ${minutes(frame.cut.quality.minutes)}` : 'preview; cut again to keep these settings';
}

/** Single keys, unless a field has the focus. `onRelease` is told when one is let go. */
function useCutKeys(keys: Record<string, (() => unknown) | undefined>, onRelease: () => void): void {
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      if (isTyping(event.target) || event.ctrlKey || event.metaKey || event.altKey || event.repeat) return;
      const act = keys[event.key];
      // A button in focus keeps its own Enter.
      if (!act || (event.key === 'Enter' && event.target instanceof HTMLButtonElement)) return;
      event.preventDefault();
      act();
    };
    const onUp = (): void => onRelease();
    window.addEventListener('keydown', onKey);
    window.addEventListener('keyup', onUp);
    // A key that is held while the window loses the focus is never seen to be let go.
    window.addEventListener('blur', onUp);
    return () => {
      window.removeEventListener('keydown', onKey);
      window.removeEventListener('keyup', onUp);
      window.removeEventListener('blur', onUp);
    };
  });
}
