import type {
  Frame,
  FrameChange,
  Setup,
  SetupChange,
  SortingChange,
  Subject,
  SubjectChange,
} from '../../contract/index.ts';
import { clockedTime } from '../../contract/clock.ts';
import { layChange } from '../../contract/merge.ts';
import type { Subject as SubjectFields } from '../../core/gather/subject.ts';
import type { PrintCrop } from '../../core/handOver/index.ts';
import type { Plan } from '../../core/plan/index.ts';
import { counted } from '../shared/format.ts';
import { api } from './api.ts';
import { change, fieldsOf, remember, saved } from './change.ts';
import { attempt, openShoot, takeItems, useStore } from './store.ts';

/** What pages change beside placing (placing.ts): setups, frames, who is on them, plans, rounds and crops. */

const { getState } = useStore;

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
