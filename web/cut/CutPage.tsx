import { Button } from '@mui/material';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import type { Batch, Frame } from '../../contract/index.ts';
import { doubtFacts, type Quality } from '../../core/cut/quality.ts';
import { recipeSettings, type Recipe } from '../../core/cut/recipe.ts';
import { judgingTones } from '../../core/place/index.ts';
import { minutes, timeLeft } from '../shared/format.ts';
import { FrameRows, useFrameKeys } from '../shared/FrameRows.tsx';
import { Reading } from '../shared/Reading.tsx';
import { StepWedge } from '../shared/StepWedge.tsx';
import { api, pictures } from '../state/api.ts';
import { attempt, changeRecipe, useStore } from '../state/store.ts';
import type { PreviewView } from '../worker/picture.worker.ts';
import { Questions } from './Questions.tsx';
import { usePreview } from './usePreview.ts';
import { Viewer, type Sight } from './Viewer.tsx';

const views: { view: PreviewView; title: string }[] = [
  { view: 'photograph', title: 'Photograph' },
  { view: 'matte', title: 'Matte' },
  ...(Object.keys(judgingTones) as (keyof typeof judgingTones)[]).map((tone) => ({ view: tone, title: judgingTones[tone].title })),
  { view: 'background', title: 'Background' },
];

/** Cutting: the batch on the left, the picture in the middle, the questions on the right. */
export function CutPage() {
  const setups = useStore((state) => state.setups);
  const allFrames = useStore((state) => state.frames);
  const batches = useStore((state) => state.batches);
  const [search, setSearch] = useSearchParams();
  const [view, setView] = useState<PreviewView>('grey');
  const [sight, setSight] = useState<Sight>();
  const frames = useMemo(() => orderFrames(allFrames), [allFrames]);
  const frame = frames.find((f) => f.id === Number(search.get('frame'))) ?? frames[0];
  const setup = setups.find((s) => s.id === frame?.setupId);
  const choose = useCallback((id: number) => setSearch({ frame: String(id) }, { replace: true }), [setSearch]);
  const size = useMemo(() => ({ width: frame?.width ?? 1, height: frame?.height ?? 1 }), [frame?.width, frame?.height]);

  // While a slider moves its recipe lives here; on release it becomes the setup's.
  const [draft, setDraft] = useState<Recipe>();
  const recipe = draft ?? setup?.recipe;
  const preview = usePreview(frame, recipe, view);
  useFrameKeys(frames, frame?.id, choose);
  useViewKeys(setView, () => setSight((s) => (s ? undefined : { x: size.width / 2, y: size.height * 0.28, scale: 1 })));

  if (!frame || !setup || !recipe) {
    return (
      <p className="empty">
        <strong>Nothing to cut yet.</strong>
        Bring in frames at <Link to="../gather">Gather</Link>; then their people are cut out here.
      </p>
    );
  }
  const cutAsShown = frame.cut && sameRecipe(frame.cut.recipe, recipe);
  const version = frame.cut?.version ?? '';
  const detail = view !== 'background' && (view === 'photograph' || cutAsShown) ? (area: { x: number; y: number; width: number; height: number }) => pictures.region(frame.id, version, view, area) : undefined;
  const quality = cutAsShown ? frame.cut?.quality : preview.quality;
  const setupFrames = allFrames.filter((f) => f.setupId === setup.id);
  return (
    <div className="bench">
      <aside className="margin left" aria-label="Frames to cut">
        <BatchControl setupId={setup.id} setupName={setup.name} frames={setupFrames} batches={batches.filter((b) => b.kind === 'cut' && b.open > 0)} recipe={setup.recipe} others={setups.filter((s) => s.id !== setup.id).map((s) => ({ id: s.id, stale: staleFrames(allFrames.filter((f) => f.setupId === s.id), s.recipe) }))} />
        <FrameRows frames={frames} current={frame.id} onChoose={choose} note={noteOf} figure={(f) => (f.cut ? f.cut.quality.minutes.toFixed(1) : '')} />
      </aside>
      <section className="plate" aria-label="Picture">
        <div className="views">
          {views.map(({ view: v, title }, n) => (
            <button key={v} type="button" aria-pressed={v === view} onClick={() => setView(v)} disabled={v === 'background' && !frame.placement} title={v === 'background' && !frame.placement ? 'Choose a background at Place first.' : undefined}>
              <kbd>{n + 1}</kbd>
              {title}
            </button>
          ))}
        </div>
        <Viewer
          picture={preview.bitmap}
          size={view === 'background' && preview.bitmap ? preview.bitmap : size}
          detail={detail}
          label={`${frame.name}, ${view}`}
          sight={view === 'background' ? undefined : sight}
          onSight={setSight}
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
          <Button variant="text" sx={{ py: 0, ml: 'auto' }} onClick={() => setSight((s) => (s ? undefined : { x: size.width / 2, y: size.height * 0.28, scale: 1 }))}>
            <kbd className="figure">0</kbd>&nbsp; {sight ? 'Whole picture' : 'Full size'}
          </Button>
        </div>
      </section>
      <aside className="margin right" aria-label="Settings and readings">
        <h2>Settings of “{setup.name}”</h2>
        <Questions
          recipe={recipe}
          onChange={setDraft}
          onCommit={(next, name) => {
            void changeRecipe(setup, next, recipeSettings[name].label.toLowerCase()).then(() => setDraft(undefined));
          }}
        />
        {quality && <Readings quality={quality} />}
      </aside>
    </div>
  );
}

/** Failed ones first, then the costliest by hand, then what is not cut, in the order they were taken. */
function orderFrames(frames: Frame[]): Frame[] {
  const rank = (frame: Frame): number => (frame.job?.state === 'failed' ? 1e6 : frame.cut ? frame.cut.quality.minutes : -1);
  return [...frames].sort((a, b) => rank(b) - rank(a));
}

function noteOf(frame: Frame): string {
  if (frame.job?.state === 'running') return 'being cut …';
  if (frame.job?.state === 'queued') return 'waits to be cut';
  if (frame.job?.state === 'failed') return `failed: ${frame.job.problem?.reason ?? 'unknown'}`;
  if (!frame.cut) return 'not cut yet';
  const [worst] = frame.cut.quality.doubts;
  return worst ? doubtFacts[worst.kind].title : 'nothing doubtful';
}

function stateOf(frame: Frame, asShown: boolean): string {
  if (frame.job?.state === 'failed') return `${frame.job.problem?.reason ?? 'failed'}. ${frame.job.problem?.remedy ?? ''}`;
  if (!frame.cut) return 'preview; not cut yet';
  return asShown ? `cut, ${minutes(frame.cut.quality.minutes)}` : 'preview; cut again to keep these settings';
}

function sameRecipe(a: Recipe, b: Recipe): boolean {
  return (Object.keys(recipeSettings) as (keyof Recipe)[]).every((name) => a[name] === b[name]);
}

/** Frames whose cut is missing, failed, or made with other settings. */
function staleFrames(frames: Frame[], recipe: Recipe): Frame[] {
  return frames.filter((frame) => !frame.cut || !sameRecipe(frame.cut.recipe, recipe) || frame.job?.state === 'failed');
}

interface BatchProps {
  setupId: number;
  setupName: string;
  frames: Frame[];
  /** Running ones, of any setup. */
  batches: Batch[];
  recipe: Recipe;
  others: { id: number; stale: Frame[] }[];
}

function BatchControl({ setupId, setupName, frames, batches, recipe, others }: BatchProps) {
  if (batches.length) {
    const sum = (of: (batch: Batch) => number): number => batches.reduce((total, batch) => total + of(batch), 0);
    const total = sum((batch) => batch.total);
    const ended = total - sum((batch) => batch.open);
    const failed = sum((batch) => batch.failed);
    const known = batches.filter((batch) => batch.secondsLeft !== null);
    const perFrame = known.length ? known.reduce((s, batch) => s + (batch.secondsLeft ?? 0), 0) / known.reduce((s, batch) => s + batch.open, 0) : null;
    return (
      <div style={{ display: 'grid', gap: 6, paddingBottom: 12 }}>
        <div className="actions" style={{ justifyContent: 'space-between' }}>
          <strong>
            Cutting <span className="figure">{ended}</span> of <span className="figure">{total}</span>
          </strong>
          <span className="figure quiet">{timeLeft(perFrame === null ? null : perFrame * (total - ended))}</span>
        </div>
        <StepWedge share={ended / total} label="Cutting" />
        <div className="actions">
          <Button onClick={() => batches.forEach((batch) => void attempt(api.cancel(batch.id)))}>Cancel the rest</Button>
          {failed > 0 && <span className="figure">{failed} failed</span>}
        </div>
      </div>
    );
  }
  const stale = staleFrames(frames, recipe);
  const elsewhere = others.filter((other) => other.stale.length);
  const all = stale.length + elsewhere.reduce((n, other) => n + other.stale.length, 0);
  const cut = (id: number, chosen: Frame[]): unknown => chosen.length && attempt(api.cut(id, chosen.map((frame) => frame.id)));
  return (
    <div style={{ display: 'grid', gap: 6, paddingBottom: 12 }}>
      <h2>{setupName}</h2>
      <div className="actions">
        <Button variant="contained" color="primary" disabled={!stale.length} onClick={() => void cut(setupId, stale)}>
          {stale.length === frames.length || !stale.length ? `Cut ${frames.length === 1 ? '1 frame' : `${frames.length} frames`}` : `Cut ${stale.length} of ${frames.length} frames`}
        </Button>
        {elsewhere.length > 0 && (
          <Button
            onClick={() => {
              void cut(setupId, stale);
              for (const other of elsewhere) void cut(other.id, other.stale);
            }}
          >
            All setups, {all}
          </Button>
        )}
        <span className="quiet">{stale.length ? 'new, failed or with other settings' : 'all cut with these settings'}</span>
      </div>
      <span className="quiet">Costliest first; figures are minutes by hand.</span>
    </div>
  );
}

function Readings({ quality }: { quality: Quality }) {
  const rows = [
    { kind: 'unexplained', value: quality.unexplained * 100, scale: 100, most: 30, unit: '% of fringe', digits: 1 },
    { kind: 'noisy', value: quality.noisePercent, scale: 1, most: 6, unit: '% of level', digits: 1 },
    { kind: 'wideFringe', value: quality.fringeShare * 100, scale: 100, most: 60, unit: '% of frame', digits: 0 },
    { kind: 'greenClose', value: quality.doubts.find((d) => d.kind === 'greenClose') ? quality.greenKept + quality.greenRemoved : 0, scale: 1, most: 6, unit: quality.greenKept + quality.greenRemoved === 1 ? 'patch' : 'patches', digits: 0 },
  ] as const;
  return (
    <section aria-label="Readings" style={{ paddingTop: 14 }}>
      <h2>Readings of this frame</h2>
      {rows.map(({ kind, value, scale, ...row }) => (
        <Reading key={kind} title={doubtFacts[kind].title} value={value} bound={doubtFacts[kind].bound * scale} reason={doubtFacts[kind].reason} remedy={doubtFacts[kind].remedy} {...row} />
      ))}
      <p className="quiet reading">
        Screen: {quality.screen}, plainly seen on <span className="figure">{Math.round(quality.screenShare * 100)} %</span> of the frame. Green kept in <span className="figure">{quality.greenKept}</span>{' '}
        {quality.greenKept === 1 ? 'patch' : 'patches'}.
      </p>
    </section>
  );
}

function useViewKeys(setView: (view: PreviewView) => void, toggleSize: () => void): void {
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      const typing = event.target instanceof HTMLInputElement && event.target.type !== 'range';
      if (typing || event.ctrlKey || event.metaKey || event.altKey) return;
      const chosen = views[Number(event.key) - 1];
      if (chosen) setView(chosen.view);
      if (event.key === '0') toggleSize();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  });
}

