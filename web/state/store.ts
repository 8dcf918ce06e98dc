import { create } from 'zustand';
import {
  itemKinds,
  type Background,
  type Batch,
  type Check,
  type Delivery,
  type Frame,
  type Job,
  type ItemKind,
  type Items,
  type OrderItem,
  type PlanRow,
  type Problem,
  type ServerEvent,
  type Setup,
  type Shoot,
  type Style,
  type Subject,
} from '../../contract/index.ts';
import { api } from './api.ts';
import { RequestError } from './request.ts';
import { followStream } from './eventStream.ts';
import { Overlay } from './overlay.ts';
import { sendLeft } from './outbox.ts';

/** One step that can be taken back. */
export interface Step {
  label: string;
  /** When it was made, ms; quick changes of one thing are one step. */
  at: number;
  undo: () => Promise<unknown>;
  redo: () => Promise<unknown>;
}

interface State {
  shoots: Shoot[] | null;
  /** Whether the sample shoot is among them. */
  sampleHere: boolean;
  shoot: Shoot | null;
  setups: Setup[];
  frames: Frame[];
  /** The roster. */
  subjects: Subject[];
  batches: Batch[];
  deliveries: Delivery[];
  backgrounds: Background[];
  plans: PlanRow[];
  /** How people are made to agree with each background. */
  styles: Style[];
  checks: Check[];
  /** What each frame is to be cut with now. */
  orders: OrderItem[];
  /** Jobs of the shoot that stand alone. */
  jobs: Job[];
  /** Jobs that belong to no shoot, by id. */
  looseJobs: Record<number, Job>;
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
  /** Those of them by which frames may have to be cut otherwise. */
  unsavedOrders: number;
  steps: Step[];
  /** Steps that were taken back and can be done again, the last first to come. */
  undone: Step[];
}

export const useStore = create<State>(() => ({
  shoots: null,
  sampleHere: true,
  shoot: null,
  setups: [],
  frames: [],
  subjects: [],
  batches: [],
  deliveries: [],
  backgrounds: [],
  plans: [],
  styles: [],
  checks: [],
  orders: [],
  jobs: [],
  looseJobs: {},
  cutSeconds: null,
  problem: null,
  broken: [],
  connected: true,
  databaseUp: true,
  unsaved: 0,
  unsavedOrders: 0,
  steps: [],
  undone: [],
}));

const { setState, getState } = useStore;

/** What the server told of the open shoot, and the changes on their way. The lists of the state are what these show. */
export const kept: { [K in ItemKind]: Overlay<Items[K][number]> } = {
  setups: new Overlay(),
  frames: new Overlay(),
  subjects: new Overlay(),
  batches: new Overlay(),
  deliveries: new Overlay(),
  plans: new Overlay(),
  styles: new Overlay(),
  checks: new Overlay(),
  orders: new Overlay(),
  jobs: new Overlay(),
};

/** How each kind is listed, from what there is of it. */
const listed: { [K in ItemKind]: () => Items[K] } = {
  setups: () => kept.setups.shown().sort((a, b) => a.id - b.id),
  // As the server lists them: by the time they were taken, then by name.
  frames: () =>
    kept.frames
      .shown()
      .sort((a, b) => compare(a.takenAt ?? '', b.takenAt ?? '') || compare(a.name, b.name) || a.id - b.id),
  subjects: () => kept.subjects.shown().sort((a, b) => a.id - b.id),
  batches: () => kept.batches.shown().filter((batch) => batch.open > 0 || batch.failed > 0),
  deliveries: () => kept.deliveries.shown().sort((a, b) => b.id - a.id),
  plans: () => kept.plans.shown().sort((a, b) => a.id - b.id),
  styles: () => kept.styles.shown().sort((a, b) => a.id - b.id),
  checks: () => kept.checks.shown().sort((a, b) => a.id - b.id),
  orders: () => kept.orders.shown(),
  jobs: () => kept.jobs.shown().sort((a, b) => a.id - b.id),
};

function compare(a: string, b: string): number {
  return a < b ? -1 : a > b ? 1 : 0;
}

export function show(...kinds: ItemKind[]): void {
  setState(Object.fromEntries(kinds.map((kind) => [kind, listed[kind]()])));
}

/**
 * Events come in swarms while a batch runs; they are drawn together, and apart from their reading, so long after the
 * first, ms.
 */
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
  const list = await attempt(api.shoots());
  if (list) setState(list);
}

/** When the open shoot was read last; −1 while none is open. */
let loadedAt = -1;
/** The revision of which a reading has to be at least, to have missed nothing. */
let neededRevision = 0;
let loadingId: number | undefined;

/** Done when what an earlier life of this tab left unsaved is saved; a refusal is shown. */
export const leftSent: Promise<void> = attempt(sendLeft());

/** Reads a shoot whole. @returns whether it is there, does not exist, or could not be read, which is shown. */
export async function loadShoot(id: number): Promise<'read' | 'missing' | 'failed'> {
  // What is told of it while it is read counts as well.
  if (loadingId !== id) for (const kind of itemKinds) kept[kind].clear();
  loadingId = id;
  await leftSent;
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
      cutSeconds,
      steps: other ? [] : state.steps,
      undone: other ? [] : state.undone,
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

/** Changes to the library on their way, all that there were, and whether a reading came between. */
const library = { underWay: 0, made: 0, missed: false };

/** Reads the library anew; what was read before a change ended is out of date and is read again. */
export async function readLibrary(): Promise<void> {
  const { made } = library;
  const backgrounds = await attempt(api.backgrounds());
  if (!backgrounds) return;
  if (library.underWay) library.missed = true;
  else if (made !== library.made) await readLibrary();
  else setState({ backgrounds });
}

/** Makes a change to the library that no reading from before takes back. */
export async function changingLibrary<T>(change: () => Promise<T>): Promise<T> {
  library.underWay++;
  library.made++;
  try {
    return await change();
  } finally {
    library.underWay--;
    if (!library.underWay && library.missed) {
      library.missed = false;
      void readLibrary();
    }
  }
}

function apply(event: ServerEvent, reload: () => void): void {
  switch (event.type) {
    case 'hello':
      // What was told between our reading and this line went past us.
      neededRevision = event.revision;
      setState({ databaseUp: event.databaseUp });
      void loadShoots();
      if (loadedAt >= 0 && loadedAt < neededRevision) reload();
      return;
    case 'database':
      setState({ databaseUp: event.up });
      if (event.up) reload();
      return;
    case 'shoots':
      return void loadShoots();
    case 'backgrounds':
      return void readLibrary();
    case 'job':
      return takeLooseJob(event.job);
    case 'changed':
      if (event.shootId !== loadingId) return;
      for (const kind of itemKinds) {
        kept[kind].take((event.items[kind] ?? []) as never[]);
        kept[kind].remove(event.gone[kind] ?? [], event.revision);
      }
      showSoon(itemKinds.filter((kind) => event.items[kind] ?? event.gone[kind]));
  }
}

/** Takes what was told of a job that belongs to no shoot. */
export function takeLooseJob(job: Job): void {
  if ((getState().looseJobs[job.id]?.revision ?? -1) < job.revision)
    setState((state) => ({ looseJobs: { ...state.looseJobs, [job.id]: job } }));
}

/** Whether a frame is somebody's picture: no plate, and not dropped at Gather. */
export function isPicture({ pick, plate }: Frame): boolean {
  return pick !== 'drop' && !plate;
}
