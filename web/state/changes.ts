import type {
  Background,
  BackgroundChange,
  Frame,
  FrameChange,
  ItemKind,
  Items,
  OwnPlace,
  PlacedOn,
  Setup,
  SetupChange,
  SortingChange,
  StyleChange,
  Subject,
  SubjectChange,
} from '../../contract/index.ts';
import { clockedTime } from '../../contract/clock.ts';
import { layChange } from '../../contract/merge.ts';
import type { Subject as SubjectFields } from '../../core/gather/subject.ts';
import type { PrintCrop } from '../../core/handOver/index.ts';
import type { Extras } from '../../core/place/extras.ts';
import type { Look } from '../../core/place/look.ts';
import type { Plan } from '../../core/plan/index.ts';
import { counted } from '../shared/format.ts';
import { api } from './api.ts';
import { untilAnswered } from './request.ts';
import { keepUntilSaved, sendOut, type Sending } from './outbox.ts';
import type { Overlay } from './overlay.ts';
import { attempt, kept, leftSent, openShoot, show, takeItems, useStore, type Step } from './store.ts';

/**
 * Changes that pages make: shown at once, saved one after the other, taken back and done again. Undoing is sending the
 * opposite change, merged with what other windows did meanwhile; a package that winds a local state back would undo
 * their work, too.
 */

const { setState, getState } = useStore;

/** A change on its way to the server. */
interface Change<K extends ItemKind> {
  kind: K;
  ids: readonly number[];
  /** What it makes of each. */
  lay: (item: Items[K][number]) => Items[K][number];
  /** The request that saves it; the server answers with what it made of it. */
  sending: Sending;
  /** Whether frames are to be cut as before, whatever it changes. */
  sameOrders?: boolean;
  /** Of several waiting ones with this name only the last is sent. */
  replacing?: string;
}

/** Changes are sent one after the other, so that the last one given is the one that stays. */
let lastSave: Promise<unknown> = leftSent;
const waiting = new Map<string, object>();

/**
 * Shows a change at once and saves it, however long the server is away.
 * @returns whether it was saved; a refusal is shown.
 */
async function change<K extends ItemKind>(wanted: Change<K>): Promise<boolean> {
  const { kind, lay, replacing } = wanted;
  const orders = wanted.sameOrders ? 0 : 1;
  const laid = { ids: new Set(wanted.ids), lay };
  const overlay = kept[kind] as Overlay<Items[K][number]>;
  const onItsWay = keepUntilSaved(wanted.sending);
  const shootId = openShoot();
  overlay.lay(laid);
  show(kind);
  setState((state) => ({ unsaved: state.unsaved + 1, unsavedOrders: state.unsavedOrders + orders }));
  if (replacing) waiting.set(replacing, laid);
  const saving = lastSave.then(async () => {
    if (replacing && waiting.get(replacing) !== laid) return [];
    if (replacing) waiting.delete(replacing);
    return attempt(sendOut(wanted.sending));
  });
  lastSave = saving;
  const answer = await saving;
  onItsWay.done();
  overlay.lift(laid);
  const saved = answer && [answer].flat();
  if (saved?.length) takeItems(shootId, { [kind]: saved });
  else show(kind);
  setState((state) => ({ unsaved: state.unsaved - 1, unsavedOrders: state.unsavedOrders - orders }));
  return saved !== undefined;
}

/** A change on its way can be taken back from the start; one that was refused leaves no step. */
async function saved(label: string, save: () => Promise<boolean>, back: () => Promise<unknown>): Promise<void> {
  const saving = save();
  remember(label, async () => (await saving) && (await back()), save);
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
      sending: { call: 'changeSetup', args: [id, { ...next, seen }] },
    });
  const seen = fieldsOf<SetupChange>(now, to);
  return saved(
    label,
    () => save(seen, to),
    () => save(to, seen),
  );
}

/**
 * Changes who is on a frame, or what was said on it; can be taken back. What another window changed meanwhile stays.
 * @param make the change, from the frame as it stands now: keys come faster than pages are drawn.
 * @param label what taking it back is called; null for what is no step of the hand.
 */
export function changeFrame(
  frame: Pick<Frame, 'id'>,
  make: (now: Frame) => FrameChange,
  label: string | null,
): Promise<void> {
  return changeFrames([frame], make, label);
}

/** The same for several frames as one step. */
export async function changeFrames(
  frames: readonly Pick<Frame, 'id'>[],
  make: (now: Frame) => FrameChange,
  label: string | null,
): Promise<void> {
  const made = frames.flatMap(({ id }) => {
    const now = getState().frames.find((frame) => frame.id === id);
    if (!now) return [];
    const to = make(now);
    return [{ id, to, seen: fieldsOf<FrameChange>(now, to) }];
  });
  const save = async (id: number, seen: FrameChange, next: FrameChange): Promise<boolean> =>
    change({
      kind: 'frames',
      ids: [id],
      sameOrders: Object.keys(next).every((field) => field === 'review'),
      lay: (frame) => layChange<Frame>(frame, seen, next),
      sending: { call: 'changeFrame', args: [id, { ...next, seen }] },
    });
  const all = async (back: boolean): Promise<boolean> => {
    const done = await Promise.all(made.map(({ id, seen, to }) => (back ? save(id, to, seen) : save(id, seen, to))));
    return done.every(Boolean);
  };
  if (!made.length) return;
  if (label === null) return void (await all(false));
  return saved(
    label,
    () => all(false),
    () => all(true),
  );
}

/** Changes what the roster says of somebody; can be taken back. What another window changed meanwhile stays. */
export function changeSubject({ id }: Pick<Subject, 'id'>, to: SubjectChange, label: string): Promise<void> {
  const now = getState().subjects.find((subject) => subject.id === id);
  if (!now) return Promise.resolve();
  const save = (seen: SubjectChange, next: SubjectChange): Promise<boolean> =>
    change({
      kind: 'subjects',
      ids: [id],
      sameOrders: true,
      lay: (subject) => layChange<Subject>(subject, seen, next),
      sending: { call: 'changeSubject', args: [id, { ...next, seen }] },
    });
  const seen = fieldsOf<SubjectChange>(now, to);
  return saved(
    label,
    () => save(seen, to),
    () => save(to, seen),
  );
}

/** What frames are sorted by. */
type Sorted = Omit<SortingChange, 'frameIds'>;

/** Sorts many frames as one step: who is on them, their setup, whether they are picked. */
export function sortFrames(shootId: number, changes: readonly SortingChange[], label: string): Promise<void> {
  const wanted = new Map(changes.flatMap(({ frameIds, ...to }) => frameIds.map((id) => [id, to] as const)));
  const before = getState().frames.flatMap((frame): SortingChange[] => {
    const to = wanted.get(frame.id);
    return to ? [{ frameIds: [frame.id], ...fieldsOf<Sorted>(frame, to) }] : [];
  });
  if (!before.length) return Promise.resolve();
  const sameOrders = changes.every(({ subject, setupId }) => subject === undefined && setupId === undefined);
  const save = (list: readonly SortingChange[]): Promise<boolean> => {
    const of = new Map(list.flatMap(({ frameIds, ...to }) => frameIds.map((id) => [id, to] as const)));
    return change({
      kind: 'frames',
      ids: [...of.keys()],
      sameOrders,
      lay: (frame) => ({ ...frame, ...of.get(frame.id) }),
      sending: { call: 'sort', args: [shootId, list] },
    });
  };
  return saved(
    label,
    () => save(changes),
    () => save(before),
  );
}

/** Puts people on the roster; taking it back takes those off again who were not there before and have no frame. */
export function addSubjects(shootId: number, added: readonly SubjectFields[]): Promise<void> {
  const before = new Set(getState().subjects.map(({ id }) => id));
  const open = openShoot();
  let made: Subject[] = [];
  return saved(
    `${counted(added.length, 'person', 'people')} on the roster`,
    async () => {
      const answer = await attempt(api.addSubjects(shootId, added));
      made = (answer ?? []).filter(({ id }) => !before.has(id));
      takeItems(open, { subjects: answer ?? [] });
      return answer !== undefined;
    },
    async () => {
      const shown = new Set(getState().frames.map(({ subject }) => subject));
      for (const { id, name } of made) if (!shown.has(name)) await attempt(api.removeSubject(id));
    },
  );
}

/** Sets the clock of a camera right by these seconds in all; can be taken back. */
export function setClock(shootId: number, body: string, seconds: number): Promise<void> {
  const own = getState().frames.filter(({ camera }) => camera.body === body);
  if (!own.length) return Promise.resolve();
  const before = own[0].clock;
  const save = (to: number): Promise<boolean> =>
    change({
      kind: 'frames',
      ids: own.map(({ id }) => id),
      sameOrders: true,
      lay: (frame) => ({ ...frame, clock: to, takenAt: clockedTime(frame.takenAt, to - frame.clock) }),
      sending: { call: 'setClock', args: [shootId, body, to] },
    });
  return saved(
    'clock of a camera',
    () => save(seconds),
    () => save(before),
  );
}

function savePlacement(
  shootId: number,
  ids: number[],
  placement: PlacedOn | null,
  places: readonly OwnPlace[] = [],
): Promise<boolean> {
  const own = new Map(places.map(({ id, ...place }) => [id, place]));
  return change({
    kind: 'frames',
    ids,
    lay: (frame) => ({
      ...frame,
      placement: placement && {
        ...placement,
        others: ids.length === 1 ? placement.others : frame.placement?.others,
        ...own.get(frame.id),
      },
    }),
    sending: { call: 'place', args: [shootId, placement, ids, places] },
  });
}

/**
 * Puts frames on a background. Taking it back restores each frame's own earlier placement.
 * @param places of single frames, where they do not stand as the others.
 */
export function placeFrames(
  shootId: number,
  frames: readonly Frame[],
  placement: PlacedOn,
  label: string,
  places: readonly OwnPlace[] = [],
): Promise<void> {
  const before = frames.map(({ id, placement: old }) => ({ id, old }));
  const ids = before.map(({ id }) => id);
  return saved(
    label,
    () => savePlacement(shootId, ids, placement, places),
    () => Promise.all(before.map(({ id, old }) => savePlacement(shootId, [id], old))),
  );
}

/**
 * Changes how the finished pictures on a background look; can be taken back. What another window changed meanwhile
 * stays.
 */
export function changeStyle(shootId: number, backgroundId: number, to: StyleChange, label: string): Promise<void> {
  const there = getState().styles.find((style) => style.backgroundId === backgroundId);
  // The first look of a background: nothing is there yet to be shown changed.
  if (!there)
    return attempt(api.changeStyle(shootId, backgroundId, to, {})).then((style) => {
      if (style) takeItems(shootId, { styles: [style] });
    });
  const save = (seen: StyleChange, next: StyleChange): Promise<boolean> =>
    change({
      kind: 'styles',
      ids: [there.id],
      sameOrders: true,
      lay: (style) => ({
        ...style,
        look: layChange<Look>(style.look, seen.look ?? {}, next.look ?? {}),
        extras: layChange<Extras>(style.extras, seen.extras ?? {}, next.extras ?? {}),
      }),
      sending: { call: 'changeStyle', args: [shootId, backgroundId, next, seen] },
    });
  const seen: StyleChange = {
    ...(to.look ? { look: fieldsOf<Look>(there.look, to.look) } : {}),
    ...(to.extras ? { extras: fieldsOf<Extras>(there.extras, to.extras) } : {}),
  };
  return saved(
    label,
    () => save(seen, to),
    () => save(to, seen),
  );
}

/** Changes what is known of a background, for all shoots; can be taken back. */
export function changeBackground({ id }: Background, to: BackgroundChange, label: string): Promise<void> {
  const now = getState().backgrounds.find((background) => background.id === id);
  if (!now) return Promise.resolve();
  const put = (lay: (background: Background) => Background): void =>
    setState(({ backgrounds }) => ({ backgrounds: backgrounds.map((one) => (one.id === id ? lay(one) : one)) }));
  const save = async (seen: BackgroundChange, next: BackgroundChange): Promise<boolean> => {
    put((background) => layChange<Background>(background, seen, next));
    const saved = await attempt(untilAnswered(() => api.changeBackground(id, { ...next, seen })));
    const stands = saved ?? (await attempt(api.backgrounds()))?.find((one) => one.id === id);
    if (stands) put(() => stands);
    return saved !== undefined;
  };
  const seen = fieldsOf<BackgroundChange>(now, to);
  return saved(
    label,
    () => save(seen, to),
    () => save(to, seen),
  );
}

function savePlan(id: number, plan: Plan): Promise<boolean> {
  return change({
    kind: 'plans',
    ids: [id],
    lay: (row) => ({ ...row, plan }),
    sending: { call: 'changePlan', args: [id, { plan }] },
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
  if (last?.label === name && performance.now() - last.at < ONE_STEP) {
    last.at = performance.now();
    last.redo = () => savePlan(id, plan);
  } else
    remember(
      name,
      () => savePlan(id, before),
      () => savePlan(id, plan),
    );
}

/** Steps that can be taken back. */
const MOST_STEPS = 50;

function remember(label: string, undo: Step['undo'], redo: Step['redo']): void {
  const step = { label, undo, redo, at: performance.now() };
  setState((state) => ({ steps: [...state.steps.slice(1 - MOST_STEPS), step], undone: [] }));
}

export async function undoLast(): Promise<void> {
  const step = getState().steps.at(-1);
  if (!step) return;
  setState((state) => ({ steps: state.steps.slice(0, -1), undone: [...state.undone, step] }));
  await step.undo();
}

/** Does again what was taken back last. */
export async function redoLast(): Promise<void> {
  const step = getState().undone.at(-1);
  if (!step) return;
  setState((state) => ({ undone: state.undone.slice(0, -1), steps: [...state.steps, step] }));
  await step.redo();
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
    remember(
      signed ? 'signing off' : 'opening again',
      () => change(!signed),
      () => change(signed),
    );
}

/** Moves the crop of a frame for a shape, or takes it back to the proposal with null; can be taken back. */
export function cropFrame(
  { id }: Pick<Frame, 'id'>,
  shape: string,
  crop: PrintCrop | null,
  label: string,
): Promise<void> {
  const before = getState().frames.find((frame) => frame.id === id)?.crops[shape] ?? null;
  const save = (to: PrintCrop | null): Promise<boolean> =>
    change({
      kind: 'frames',
      ids: [id],
      sameOrders: true,
      lay: (frame) => {
        const { [shape]: _, ...others } = frame.crops;
        return { ...frame, crops: to ? { ...others, [shape]: to } : others };
      },
      sending: { call: 'cropFrame', args: [id, { shape, crop: to }] },
      replacing: `crop ${id} ${shape}`,
    });
  return saved(
    label,
    () => save(crop),
    () => save(before),
  );
}
