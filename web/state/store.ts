import { create } from 'zustand';
import {
  itemKinds,
  type Background,
  type Batch,
  type Check,
  type Delivery,
  type Frame,
  type FrameChange,
  type Gathering,
  type ItemKind,
  type Items,
  type PlacedOn,
  type PlanRow,
  type Problem,
  type ServerEvent,
  type Setup,
  type SetupChange,
  type Shoot,
} from '../../contract/index.ts';
import { layChange } from '../../contract/merge.ts';
import type { Plan } from '../../core/plan/index.ts';
import { api, RequestError, untilAnswered } from './api.ts';
import { followStream } from './eventStream.ts';
import { Overlay } from './overlay.ts';

/** One step that can be taken back. */
interface Step {
  label: string;
  /** When it was made, ms; quick changes of one thing are one step. */
  at: number;
  undo: () => Promise<void>;
}

interface State {
  shoots: Shoot[] | null;
  shoot: Shoot | null;
  setups: Setup[];
  frames: Frame[];
  batches: Batch[];
  deliveries: Delivery[];
  backgrounds: Background[];
  plans: PlanRow[];
  checks: Check[];
  /** How far plates are put together, by setup. */
  gathering: Record<number, Gathering | null>;
  /** Measured on this machine; null until something was cut. */
  cutSeconds: number | null;
  /** What went wrong last, until it is dismissed. */
  problem: Problem | null;
  /** What is kept of the shoot and cannot be read. */
  broken: Problem[];
  connected: boolean;
  /** Whether the server's database answers. */
  databaseUp: boolean;
  /** Changes that are not saved yet. */
  unsaved: number;
  steps: Step[];
}

export const useStore = create<State>(() => ({
  shoots: null,
  shoot: null,
  setups: [],
  frames: [],
  batches: [],
  deliveries: [],
  backgrounds: [],
  plans: [],
  checks: [],
  gathering: {},
  cutSeconds: null,
  problem: null,
  broken: [],
  connected: true,
  databaseUp: true,
  unsaved: 0,
  steps: [],
}));

const { setState, getState } = useStore;

/** What the server told of the open shoot, and the changes on their way. The lists of the state are what these show. */
const kept: { [K in ItemKind]: Overlay<Items[K][number]> } = {
  setups: new Overlay(),
  frames: new Overlay(),
  batches: new Overlay(),
  deliveries: new Overlay(),
  plans: new Overlay(),
  checks: new Overlay(),
};

/** How each kind is listed, from what there is of it. */
const listed: { [K in ItemKind]: () => Items[K] } = {
  setups: () => kept.setups.shown().sort((a, b) => a.id - b.id),
  // As the server lists them: by the time they were taken, then by name.
  frames: () =>
    kept.frames
      .shown()
      .sort((a, b) => compare(a.takenAt ?? '', b.takenAt ?? '') || compare(a.name, b.name) || a.id - b.id),
  batches: () => kept.batches.shown().filter((batch) => batch.open > 0 || batch.failed > 0),
  deliveries: () => kept.deliveries.shown().sort((a, b) => b.id - a.id),
  plans: () => kept.plans.shown().sort((a, b) => a.id - b.id),
  checks: () => kept.checks.shown().sort((a, b) => a.id - b.id),
};

function compare(a: string, b: string): number {
  return a < b ? -1 : a > b ? 1 : 0;
}

function show(...kinds: ItemKind[]): void {
  setState(Object.fromEntries(kinds.map((kind) => [kind, listed[kind]()])));
}

/** Events come in swarms while a batch runs; they are drawn together, and apart from their reading, so long after the first, ms. */
const SWARM = 50;
let soon: { kinds: Set<ItemKind>; timer: ReturnType<typeof setTimeout> } | undefined;

/** Shows what events told, together with what follows. */
function showSoon(kinds: readonly ItemKind[]): void {
  soon ??= { kinds: new Set(), timer: setTimeout(showTold, SWARM) };
  for (const kind of kinds) soon.kinds.add(kind);
}

/** Shows what was told and waits to be shown. */
export function showTold(): void {
  if (!soon) return;
  const { kinds, timer } = soon;
  clearTimeout(timer);
  soon = undefined;
  show(...kinds);
}

/** The shoot that is open, or being read. */
export function openShoot(): number | undefined {
  return loadingId;
}

/** Takes what the server answered about a shoot, unless another has been opened since. */
export function takeItems(shootId: number | undefined, items: Partial<Items>): void {
  if (shootId !== loadingId) return;
  const kinds = itemKinds.filter((kind) => items[kind]?.length);
  for (const kind of kinds) kept[kind].take(items[kind] as never[]);
  if (kinds.length) show(...kinds);
}

/** Runs a request; a failure is shown instead of thrown. @returns undefined when it failed. */
export async function attempt<T>(work: Promise<T>): Promise<T | undefined> {
  try {
    return await work;
  } catch (error) {
    setState({
      problem:
        error instanceof RequestError
          ? error.problem
          : { reason: (error as Error).message, remedy: 'Reload the page; nothing that was saved is lost.' },
    });
    return undefined;
  }
}

export function dismissProblem(): void {
  setState({ problem: null });
}

export async function loadShoots(): Promise<void> {
  const shoots = await attempt(api.shoots());
  if (shoots) setState({ shoots });
}

/** When the open shoot was read last; −1 while none is open. */
let loadedAt = -1;
/** The revision of which a reading has to be at least, to have missed nothing. */
let neededRevision = 0;
let loadingId: number | undefined;

/** Reads a shoot whole. @returns whether it is there, does not exist, or could not be read, which is shown. */
export async function loadShoot(id: number): Promise<'read' | 'missing' | 'failed'> {
  // What is told of it while it is read counts as well.
  if (loadingId !== id) for (const kind of itemKinds) kept[kind].clear();
  loadingId = id;
  try {
    const [{ shoot, broken, revision, cutSeconds, ...items }, backgrounds] = await Promise.all([
      api.shoot(id),
      api.backgrounds(),
    ]);
    // Another shoot was opened meanwhile.
    if (loadingId !== id) return 'read';
    const other = getState().shoot?.id !== id;
    for (const kind of itemKinds) kept[kind].takeAll(items[kind] as never[], revision);
    loadedAt = revision;
    // Something was told after this reading and before the line to the server stood.
    if (revision < neededRevision) return await loadShoot(id);
    const lists = Object.fromEntries(itemKinds.map((kind) => [kind, listed[kind]()]));
    setState((state) => ({
      ...lists,
      shoot,
      backgrounds,
      broken,
      gathering: {},
      cutSeconds,
      steps: other ? [] : state.steps,
      problem: state.problem?.reason === lastPassing ? null : state.problem,
    }));
    return 'read';
  } catch (error) {
    if (error instanceof RequestError && error.problem.reason.includes('does not exist')) return 'missing';
    if (error instanceof RequestError && error.passing) lastPassing = error.problem.reason;
    await attempt(Promise.reject(error));
    return 'failed';
  }
}
/** The last problem that goes away by itself. */
let lastPassing: string | undefined;

/** Follows what the server tells; after a break everything is read again. @returns how to stop. */
export function followEvents(reload: () => void): () => void {
  let opened = false;
  return followStream((signal) => {
    if (signal.kind === 'event') return apply(signal.event, reload);
    setState({ connected: signal.open });
    if (signal.open && opened) reload();
    opened ||= signal.open;
  });
}

function apply(event: ServerEvent, reload: () => void): void {
  switch (event.type) {
    case 'hello':
      // What was told between our reading and this line went past us.
      neededRevision = event.revision;
      setState({ databaseUp: event.databaseUp });
      if (loadedAt >= 0 && loadedAt < neededRevision) reload();
      return;
    case 'database':
      setState({ databaseUp: event.up });
      if (event.up) reload();
      return;
    case 'shoots':
      return void loadShoots();
    case 'backgrounds':
      return void attempt(api.backgrounds()).then((backgrounds) => backgrounds && setState({ backgrounds }));
    case 'gathering':
      if (event.shootId === getState().shoot?.id)
        setState((state) => ({ gathering: { ...state.gathering, [event.setupId]: event.progress } }));
      return;
    case 'changed':
      if (event.shootId !== loadingId) return;
      for (const kind of itemKinds) {
        kept[kind].take((event.items[kind] ?? []) as never[]);
        kept[kind].remove(event.gone[kind] ?? [], event.revision);
      }
      showSoon(itemKinds.filter((kind) => event.items[kind] ?? event.gone[kind]));
  }
}

/** A change on its way to the server. */
interface Change<K extends ItemKind> {
  kind: K;
  ids: readonly number[];
  /** What it makes of each. */
  lay: (item: Items[K][number]) => Items[K][number];
  /** Sends it; sent twice it must change nothing the second time. @returns what the server made of it. */
  send: () => Promise<Items[K]>;
  /** Of several waiting ones with this name only the last is sent. */
  replacing?: string;
}

/** Changes are sent one after the other, so that the last one given is the one that stays. */
let lastSave: Promise<unknown> = Promise.resolve();
const waiting = new Map<string, object>();

/** Shows a change at once and saves it, however long the server is away. @returns whether it was saved; a refusal is shown. */
async function change<K extends ItemKind>(wanted: Change<K>): Promise<boolean> {
  const { kind, lay, replacing } = wanted;
  const laid = { ids: new Set(wanted.ids), lay };
  const overlay = kept[kind] as Overlay<Items[K][number]>;
  const shootId = openShoot();
  overlay.lay(laid);
  show(kind);
  setState((state) => ({ unsaved: state.unsaved + 1 }));
  if (replacing) waiting.set(replacing, laid);
  const saving = lastSave.then(async () => {
    if (replacing && waiting.get(replacing) !== laid) return [] as unknown as Items[K];
    if (replacing) waiting.delete(replacing);
    return attempt(untilAnswered(wanted.send));
  });
  lastSave = saving;
  const saved = await saving;
  overlay.lift(laid);
  if (saved?.length) takeItems(shootId, { [kind]: saved });
  else show(kind);
  setState((state) => ({ unsaved: state.unsaved - 1 }));
  return saved !== undefined;
}

/** A change on its way can be taken back from the start; one that was refused leaves no step. */
async function saved(label: string, saving: Promise<boolean>, back: () => Promise<unknown>): Promise<void> {
  remember(label, async () => void ((await saving) && (await back())));
  const step = getState().steps.at(-1);
  if (!(await saving)) setState((state) => ({ steps: state.steps.filter((other) => other !== step) }));
}

/** Those fields of an item that a change is about, as they are. */
function fieldsOf<T extends object>(item: T, change: Partial<T>): Partial<T> {
  return Object.fromEntries(Object.keys(change).map((name) => [name, item[name as keyof T]])) as Partial<T>;
}

/** Changes a setup at once and saves it; can be taken back. What another window changed meanwhile stays. */
export function changeSetup({ id }: Setup, to: SetupChange, label: string): Promise<void> {
  const now = getState().setups.find((setup) => setup.id === id);
  if (!now) return Promise.resolve();
  const save = (seen: SetupChange, next: SetupChange): Promise<boolean> =>
    change({
      kind: 'setups',
      ids: [id],
      lay: (setup) => layChange<Setup>(setup, seen, next),
      send: async () => [await api.changeSetup(id, { ...next, seen })],
    });
  const seen = fieldsOf<SetupChange>(now, to);
  return saved(label, save(seen, to), () => save(to, seen));
}

/** Puts the setup's plate together from its frames. @returns share of the screen that one of them shows, or nothing if it failed. */
export async function gatherPlate(setup: Setup): Promise<number | undefined> {
  const gathered = await attempt(api.gatherPlate(setup.id));
  if (gathered) takeItems(setup.shootId, { setups: [gathered.setup], frames: [gathered.frame] });
  return gathered?.seen;
}

/** Whether a frame is a setup's plate, which is nobody's picture. */
export function isPlate(frame: Frame, setups: Setup[]): boolean {
  return setups.some(({ plateFrameId }) => plateFrameId === frame.id);
}

/**
 * Changes who is on a frame, or what was said on it; can be taken back. What another window changed meanwhile stays.
 * @param make the change, from the frame as it stands now: keys come faster than pages are drawn.
 */
export function changeFrame({ id }: Frame, make: (now: Frame) => FrameChange, label: string): Promise<void> {
  const now = getState().frames.find((frame) => frame.id === id);
  if (!now) return Promise.resolve();
  const to = make(now);
  const save = (seen: FrameChange, next: FrameChange): Promise<boolean> =>
    change({
      kind: 'frames',
      ids: [id],
      lay: (frame) => layChange<Frame>(frame, seen, next),
      send: async () => [await api.changeFrame(id, { ...next, seen })],
    });
  const seen = fieldsOf<FrameChange>(now, to);
  return saved(label, save(seen, to), () => save(to, seen));
}

function savePlacement(shootId: number, ids: number[], placement: PlacedOn | null): Promise<boolean> {
  return change({
    kind: 'frames',
    ids,
    lay: (frame) => ({ ...frame, placement }),
    send: () => api.place(shootId, placement, ids),
  });
}

/** Puts frames on a background. Taking it back restores each frame's own earlier placement. */
export function placeFrames(shootId: number, frames: Frame[], placement: PlacedOn, label: string): Promise<void> {
  const before = frames.map(({ id, placement: old }) => ({ id, old }));
  return saved(
    label,
    savePlacement(
      shootId,
      before.map(({ id }) => id),
      placement,
    ),
    () => Promise.all(before.map(({ id, old }) => savePlacement(shootId, [id], old))),
  );
}

function savePlan(id: number, plan: Plan): Promise<boolean> {
  return change({
    kind: 'plans',
    ids: [id],
    lay: (row) => ({ ...row, plan }),
    send: async () => [await api.changePlan(id, { plan })],
    replacing: `plan ${id}`,
  });
}

/** Changes of one thing within this time are taken back together. */
const ONE_STEP = 1200;

/** Shows a changed plan at once, saves it, and lets it be taken back. */
export function changePlan(id: number, plan: Plan, label: string): void {
  const before = getState().plans.find((row) => row.id === id)?.plan;
  if (!before || before === plan) return;
  void savePlan(id, plan);
  const last = getState().steps.at(-1);
  const name = `${label}, plan`;
  if (last?.label === name && performance.now() - last.at < ONE_STEP) last.at = performance.now();
  else remember(name, async () => void (await savePlan(id, before)));
}

function remember(label: string, undo: () => Promise<void>): void {
  setState((state) => ({ steps: [...state.steps.slice(-49), { label, undo, at: performance.now() }] }));
}

export async function undoLast(): Promise<void> {
  const step = getState().steps.at(-1);
  if (!step) return;
  setState((state) => ({ steps: state.steps.slice(0, -1) }));
  await step.undo();
}

/** Signs a round off, or opens it again; either can be taken back. */
export async function signCheck(id: number, signed: boolean): Promise<void> {
  const shootId = openShoot();
  const change = async (to: boolean): Promise<boolean> => {
    const check = await attempt(api.signCheck(id, to));
    if (check) takeItems(shootId, { checks: [check] });
    return check !== undefined;
  };
  if (await change(signed))
    remember(signed ? 'signing off' : 'opening again', async () => void (await change(!signed)));
}
