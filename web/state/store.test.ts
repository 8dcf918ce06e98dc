import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import type { Frame, ItemKind, Items, PlanRow, ServerEvent } from '../../contract/index.ts';
import { defaultRecipe } from '../../core/cut/recipe.ts';
import { startingPlan } from '../../core/plan/index.ts';
import { someFrame, someSetup, someShoot } from '../../contract/testing/items.ts';
import { undoLast, redoLast } from './change.ts';
import { changeFrame, changePlan, changeSetup } from './changes.ts';
import { placeFrames } from './placing.ts';
import { attempt, dismissProblem, followEvents, loadShoot, showTold, useStore } from './store.ts';

/** The store against a stand-in for the server that only remembers what it was asked. */
const asked: { method: string; path: string; body: unknown }[] = [];
let answer: (path: string, body: never) => unknown;
/** Each reading of the stand-in is newer than the one before. */
let revision = 1;

const frame = (id: number, part: Partial<Frame> = {}): Frame => someFrame(id, { revision: ++revision, ...part });
const setup = someSetup({ shootId: 7 });
const shoot = someShoot({ id: 7, name: 'S' });

const planRow: PlanRow = {
  id: 3,
  shootId: 7,
  setupId: null,
  plan: startingPlan('Hall', '2026-06-13'),
  changedAt: '',
  revision: 1,
};

const told = (items: Partial<Items>, gone: Partial<Record<ItemKind, number[]>> = {}, shootId = 7): ServerEvent => ({
  type: 'changed',
  shootId,
  revision: ++revision,
  items,
  gone,
});
const detail = (part: object = {}): object => {
  const at = ++revision;
  return {
    shoot,
    setups: [{ ...setup, revision: at }],
    frames: [frame(1, { revision: at }), frame(2, { revision: at })],
    subjects: [],
    batches: [],
    orders: [],
    jobs: [],
    deliveries: [],
    plans: [{ ...planRow, revision: at }],
    styles: [],
    checks: [],
    broken: [],
    cutSeconds: null,
    revision: at,
    ...part,
  };
};
const ofRow = (body: { plan?: PlanRow['plan'] }): PlanRow => ({
  ...planRow,
  plan: body.plan ?? planRow.plan,
  revision: ++revision,
});

class FakeEvents {
  static last: FakeEvents;
  onopen?: () => void;
  onerror?: () => void;
  onmessage?: (message: { data: string }) => void;
  constructor() {
    FakeEvents.last = this;
  }
  close(): void {}
  say(event: ServerEvent): void {
    this.onmessage?.({ data: JSON.stringify(event) });
    showTold();
  }
}

beforeEach(async () => {
  vi.stubGlobal('EventSource', FakeEvents);
  // Events are read at once here, however slow the machine: none takes so long that the page is let draw first.
  vi.spyOn(performance, 'now').mockReturnValue(0);
  vi.stubGlobal('fetch', async (path: string, { method, body }: { method: string; body?: string }) => {
    const sent = body === undefined ? undefined : JSON.parse(body);
    asked.push({ method, path, body: sent });
    const content = await answer(path, sent as never);
    if (content === 'away') return Promise.reject(new TypeError('fetch failed'));
    if (content instanceof Error)
      return Promise.resolve(new Response(JSON.stringify({ reason: content.message, remedy: 'Do.' }), { status: 400 }));
    return Promise.resolve(new Response(JSON.stringify(content)));
  });
  useStore.setState({ shoot: null, problem: null, connected: true, steps: [] });
  answer = (path) => (path === '/api/backgrounds' ? [] : detail());
  expect(await loadShoot(7)).toBe('read');
  asked.length = 0;
  answer = () => [];
});
afterEach(() => {
  vi.unstubAllGlobals();
  vi.restoreAllMocks();
});

describe('events', () => {
  test('a shoot made between the reading of the list and the line to the server is there once the line stands', async () => {
    answer = (path) =>
      path === '/api/shoots' ? { shoots: [someShoot({ id: 8 })], sampleHere: true, cutSeconds: null } : [];
    followEvents(() => undefined);
    FakeEvents.last.say({ type: 'hello', revision: 1, databaseUp: true });
    await vi.waitFor(() => expect(useStore.getState().shoots?.map(({ id }) => id)).toEqual([8]));
  });
  test('frames are added and replaced in the order of their time; other shoots’ are passed over', () => {
    followEvents(() => undefined);
    FakeEvents.last.say(told({ frames: [frame(3, { takenAt: '2026-06-13T10:00:00' })] }));
    FakeEvents.last.say(told({ frames: [frame(2, { name: 'A.jpg' })] }));
    FakeEvents.last.say(told({ frames: [frame(9)] }, {}, 8));
    expect(useStore.getState().frames.map((f) => f.name)).toEqual(['A.jpg', 'F1.jpg', 'F3.jpg']);
    FakeEvents.last.say(told({}, { frames: [1] }));
    expect(useStore.getState().frames.map((f) => f.id)).toEqual([2, 3]);
  });
  test('a finished batch goes, one with failures stays', () => {
    followEvents(() => undefined);
    const batch = {
      id: 1,
      shootId: 7,
      kind: 'cut' as const,
      total: 2,
      done: 1,
      failed: 0,
      cancelled: 0,
      open: 1,
      secondsLeft: 3,
      revision: 0,
    };
    FakeEvents.last.say(told({ batches: [{ ...batch, revision: ++revision }] }));
    expect(useStore.getState().batches).toHaveLength(1);
    FakeEvents.last.say(told({ batches: [{ ...batch, revision: ++revision, done: 2, open: 0 }] }));
    expect(useStore.getState().batches).toHaveLength(0);
    FakeEvents.last.say(told({ batches: [{ ...batch, revision: ++revision, failed: 1, open: 0 }] }));
    expect(useStore.getState().batches).toHaveLength(1);
  });
  test('a swarm of events is drawn a few times and not once for each', async () => {
    followEvents(() => undefined);
    await new Promise((resolve) => setTimeout(resolve, 100));
    let drawn = 0;
    const stop = useStore.subscribe((now, before) => void (now.frames !== before.frames && drawn++));
    for (let n = 0; n < 40; n++)
      FakeEvents.last.onmessage?.({ data: JSON.stringify(told({ frames: [frame(10 + n)] })) });
    await new Promise((resolve) => setTimeout(resolve, 120));
    stop();
    expect(useStore.getState().frames).toHaveLength(42);
    expect(drawn).toBeLessThanOrEqual(3);
  });
  test('a broken connection shows, and its return reads everything anew, but not the first one', () => {
    const reload = vi.fn();
    followEvents(reload);
    FakeEvents.last.onopen?.();
    expect(reload).not.toHaveBeenCalled();
    FakeEvents.last.onerror?.();
    expect(useStore.getState().connected).toBe(false);
    FakeEvents.last.onopen?.();
    expect(reload).toHaveBeenCalledOnce();
    expect(useStore.getState().connected).toBe(true);
  });
  test('what is no event of ours is passed over', () => {
    followEvents(() => undefined);
    FakeEvents.last.onmessage?.({ data: '{"type":"surprise"}' });
    expect(useStore.getState().frames).toHaveLength(2);
  });
});

describe('changes', () => {
  test('a recipe is shown at once, sent, and can be taken back', async () => {
    answer = (_, body: { recipe: typeof defaultRecipe }) => ({ ...setup, recipe: body.recipe, revision: ++revision });
    const next = { ...defaultRecipe, floor: 0.2 };
    const done = changeSetup(setup, { recipe: next }, 'floor');
    expect(useStore.getState().setups[0].recipe).toEqual(next);
    await done;
    expect(asked).toEqual([
      { method: 'PATCH', path: '/api/setups/1', body: { recipe: next, seen: { recipe: defaultRecipe } } },
    ]);
    expect(useStore.getState().steps.map((s) => s.label)).toEqual(['floor']);
    await undoLast();
    expect(useStore.getState().setups[0].recipe).toEqual(defaultRecipe);
    expect(useStore.getState().steps).toEqual([]);
    await undoLast();
    expect(asked).toHaveLength(2);
    await redoLast();
    expect(useStore.getState().setups[0].recipe).toEqual(next);
    expect(useStore.getState().steps.map((s) => s.label)).toEqual(['floor']);
    await redoLast();
    expect(asked).toHaveLength(3);
  });

  test('what was taken back cannot be done again once something else was changed', async () => {
    answer = (_, body: { recipe: typeof defaultRecipe }) => ({ ...setup, recipe: body.recipe, revision: ++revision });
    await changeSetup(setup, { recipe: { ...defaultRecipe, floor: 0.2 } }, 'floor');
    await undoLast();
    await changeSetup(setup, { recipe: { ...defaultRecipe, ceiling: 0.9 } }, 'ceiling');
    expect(useStore.getState().undone).toEqual([]);
  });

  test('quick changes of a setup: the answer to the first does not undo the second', async () => {
    answer = (_, body: { recipe: typeof defaultRecipe }) => ({ ...setup, recipe: body.recipe, revision: ++revision });
    const shown: number[] = [];
    const stop = useStore.subscribe(({ setups }) => void shown.push(setups[0].recipe.floor));
    const first = changeSetup(setup, { recipe: { ...defaultRecipe, floor: 0.1 } }, 'floor');
    const second = changeSetup(useStore.getState().setups[0], { recipe: { ...defaultRecipe, floor: 0.2 } }, 'floor');
    await Promise.all([first, second]);
    stop();
    expect(shown.slice(shown.indexOf(0.2)).every((floor) => floor === 0.2)).toBe(true);
    expect(asked.map(({ body }) => (body as { recipe: typeof defaultRecipe }).recipe.floor)).toEqual([0.1, 0.2]);
  });

  test('a refused change goes back by itself and says why', async () => {
    answer = () => new Error('floor: too high');
    await changeSetup(setup, { recipe: { ...defaultRecipe, floor: 0.4 } }, 'floor');
    expect(useStore.getState()).toMatchObject({
      setups: [{ recipe: defaultRecipe }],
      steps: [],
      unsaved: 0,
      problem: { reason: 'floor: too high', remedy: 'Do.' },
    });
    dismissProblem();
    expect(useStore.getState().problem).toBeNull();
  });

  test('taking back a placement of several frames gives each its own earlier one, or none', async () => {
    const old = { backgroundId: 4, x: 0.2, y: 1, height: 0.5, look: {} };
    const next = { backgroundId: 5, x: 0.5, y: 1, height: 0.9, look: {} };
    const frames = [frame(1, { placement: old }), frame(2)];
    followEvents(() => undefined);
    FakeEvents.last.say(told({ frames }));
    answer = (_, body: { frameIds: number[]; placement: typeof next | null }) =>
      body.frameIds.map((id) => frame(id, { placement: body.placement }));
    await placeFrames(7, frames, next, 'background');
    expect(useStore.getState().frames.map((f) => f.placement)).toEqual([next, next]);
    asked.length = 0;
    await undoLast();
    expect(asked.map(({ body }) => body)).toEqual([
      { frameIds: [1], placement: old, places: [] },
      { frameIds: [2], placement: null, places: [] },
    ]);
  });

  test('an older placement told by the server does not overrule one still being saved; they are sent in order', async () => {
    const at = (x: number) => ({ backgroundId: 5, x, y: 1, height: 0.9, look: {} });
    followEvents(() => undefined);
    answer = (_, body: { placement: ReturnType<typeof at> }) => [frame(1, { placement: body.placement })];
    const first = placeFrames(7, [frame(1)], at(0.2), 'placement');
    const second = placeFrames(7, [frame(1, { placement: at(0.2) })], at(0.3), 'placement');
    // Where somebody stands makes no difference to their cut.
    expect(useStore.getState().unsavedOrders).toBe(0);
    await Promise.resolve();
    expect(asked).toHaveLength(1);
    FakeEvents.last.say(told({ frames: [frame(1, { placement: at(0.2) })] }));
    expect(useStore.getState().frames.find((f) => f.id === 1)?.placement).toEqual(at(0.3));
    await Promise.all([first, second]);
    expect(asked.map(({ body }) => (body as { placement: unknown }).placement)).toEqual([at(0.2), at(0.3)]);
    FakeEvents.last.say(told({ frames: [frame(1, { placement: at(0.4) })] }));
    expect(useStore.getState().frames.find((f) => f.id === 1)?.placement).toEqual(at(0.4));
  });
});

describe('order', () => {
  test('a slow answer does not overrule what was told after it was read', async () => {
    followEvents(() => undefined);
    const old = detail();
    FakeEvents.last.say(told({ frames: [frame(1, { subject: 'Heron crew' })] }, { frames: [2] }));
    answer = (path) => (path === '/api/backgrounds' ? [] : old);
    await loadShoot(7);
    expect(useStore.getState().frames.map(({ id, subject }) => [id, subject])).toEqual([[1, 'Heron crew']]);
  });

  test('what is told of a shoot while it is being opened is not lost', async () => {
    followEvents(() => undefined);
    const old = detail({ shoot: { ...shoot, id: 8 } });
    answer = async (path) => (
      await new Promise((resolve) => setTimeout(resolve, 20)),
      path === '/api/backgrounds' ? [] : old
    );
    const opening = loadShoot(8);
    FakeEvents.last.say(told({ frames: [frame(1, { subject: 'Kelp crew' })] }, {}, 8));
    await opening;
    expect(useStore.getState().frames.map(({ id, subject }) => [id, subject])).toEqual([
      [1, 'Kelp crew'],
      [2, ''],
    ]);
  });

  test('what was told between the reading and the line is read anew', () => {
    const reload = vi.fn();
    followEvents(reload);
    FakeEvents.last.say({ type: 'hello', revision: 0, databaseUp: true });
    expect(reload).not.toHaveBeenCalled();
    FakeEvents.last.say({ type: 'hello', revision: revision + 1, databaseUp: true });
    expect(reload).toHaveBeenCalledOnce();
  });

  test('also when the line stands before the reading arrives', async () => {
    followEvents(() => undefined);
    let readings = 0;
    const old = detail();
    answer = (path) => (path === '/api/backgrounds' ? [] : readings++ ? detail() : old);
    const missed = ++revision;
    const opening = loadShoot(7);
    FakeEvents.last.say({ type: 'hello', revision: missed, databaseUp: true });
    expect(await opening).toBe('read');
    expect(readings).toBe(2);
  });

  test('the answer to a change of one shoot never shows in another that was opened meanwhile', async () => {
    let arrive = (): void => undefined;
    const held = new Promise<void>((resolve) => (arrive = resolve));
    answer = async (path) =>
      path.startsWith('/api/frames')
        ? (await held, frame(1, { subject: 'Of the old shoot' }))
        : path === '/api/backgrounds'
          ? []
          : detail({ shoot: { ...shoot, id: 8 }, frames: [] });
    const saving = changeFrame(frame(1), () => ({ subject: 'Of the old shoot' }), 'subject');
    await loadShoot(8);
    arrive();
    await saving;
    expect(useStore.getState().frames).toEqual([]);
  });

  test('a database that is away is said, and its return reads everything anew', () => {
    const reload = vi.fn();
    followEvents(reload);
    FakeEvents.last.say({ type: 'database', up: false });
    expect(useStore.getState().databaseUp).toBe(false);
    FakeEvents.last.say({ type: 'database', up: true });
    expect(useStore.getState().databaseUp).toBe(true);
    expect(reload).toHaveBeenCalledOnce();
  });

  test('an older event about a setting does not take it back while the newer one is on its way', async () => {
    followEvents(() => undefined);
    answer = (_, body: { recipe: typeof defaultRecipe }) => ({ ...setup, recipe: body.recipe, revision: ++revision });
    const first = changeSetup(setup, { recipe: { ...defaultRecipe, floor: 0.1 } }, 'floor');
    const second = changeSetup(setup, { recipe: { ...defaultRecipe, floor: 0.2 } }, 'floor');
    FakeEvents.last.say(
      told({ setups: [{ ...setup, recipe: { ...defaultRecipe, floor: 0.1, spill: 0.5 }, revision: ++revision }] }),
    );
    expect(useStore.getState().setups[0].recipe, 'and what another window set stays').toMatchObject({
      floor: 0.2,
      spill: 0.5,
    });
    await Promise.all([first, second]);
  });

  test('verdicts given faster than they are saved are all kept', async () => {
    answer = (_, body: { guidance: Frame['guidance'] }) => frame(1, { guidance: body.guidance });
    const verdict = (x: number) => ({ x, y: 0.5, chroma: [0.3, 0.3] as [number, number], share: 0.01, keep: true });
    const given = [0.1, 0.2, 0.3].map((x) =>
      changeFrame(
        frame(1),
        (now) => ({ guidance: { ...now.guidance, verdicts: [...now.guidance.verdicts, verdict(x)] } }),
        'verdict',
      ),
    );
    expect(useStore.getState().frames[0].guidance.verdicts.map(({ x }) => x)).toEqual([0.1, 0.2, 0.3]);
    await Promise.all(given);
    expect(asked.map(({ body }) => (body as { guidance: Frame['guidance'] }).guidance.verdicts.length)).toEqual([
      1, 2, 3,
    ]);
    expect(useStore.getState().frames[0].guidance.verdicts).toHaveLength(3);
  });

  test('a change made while the server is away waits and is saved when it is back', async () => {
    vi.useFakeTimers();
    let tries = 0;
    answer = (_, body: { recipe: typeof defaultRecipe }) =>
      ++tries < 3 ? 'away' : { ...setup, recipe: body.recipe, revision: ++revision };
    const saved = changeSetup(setup, { recipe: { ...defaultRecipe, floor: 0.2 } }, 'floor');
    await vi.advanceTimersByTimeAsync(500);
    expect(useStore.getState()).toMatchObject({ unsaved: 1, problem: null });
    expect(useStore.getState().setups[0].recipe.floor).toBe(0.2);
    await vi.advanceTimersByTimeAsync(3000);
    await saved;
    vi.useRealTimers();
    expect(tries).toBe(3);
    expect(useStore.getState()).toMatchObject({ unsaved: 0, problem: null });
    expect(useStore.getState().setups[0].recipe.floor).toBe(0.2);
  });
});

describe('plans', () => {
  const named = (name: string): PlanRow['plan'] => ({ ...planRow.plan, name });
  const shown = (): string | undefined => useStore.getState().plans.find((row) => row.id === 3)?.plan.name;
  const settled = async (): Promise<void> =>
    void (
      await vi.waitFor(() => expect(asked.length).toBeGreaterThan(0)),
      await new Promise((resolve) => setTimeout(resolve, 20))
    );

  test('a change is shown at once; of several made while one is sent, only the last follows', async () => {
    answer = (_, body: { plan: PlanRow['plan'] }) => ofRow(body);
    changePlan(3, named('A'), 'one');
    await vi.waitFor(() => expect(asked).toHaveLength(1));
    changePlan(3, named('B'), 'two');
    changePlan(3, named('C'), 'three');
    expect(shown()).toBe('C');
    await settled();
    expect(asked.map(({ body }) => (body as { plan: { name: string } }).plan.name)).toEqual(['A', 'C']);
    expect(shown()).toBe('C');
  });
  test('what the server tells meanwhile does not overrule it', async () => {
    answer = (_, body: { plan: PlanRow['plan'] }) => ofRow(body);
    followEvents(() => undefined);
    changePlan(3, named('Mine'), 'name');
    FakeEvents.last.say(told({ plans: [ofRow({ plan: named('Older') })] }));
    expect(shown()).toBe('Mine');
    await settled();
    FakeEvents.last.say(told({ plans: [ofRow({ plan: named('Newer') })] }));
    expect(shown()).toBe('Newer');
    FakeEvents.last.say(told({}, { plans: [3] }));
    expect(useStore.getState().plans).toEqual([]);
  });
  test('quick changes of one thing are taken back together, others one by one', async () => {
    answer = (_, body: { plan: PlanRow['plan'] }) => ofRow(body);
    for (const name of ['1', '2', '3']) changePlan(3, named(name), 'move Key');
    changePlan(3, named('4'), 'gel of Key');
    expect(useStore.getState().steps.map((step) => step.label)).toEqual(['move Key, plan', 'gel of Key, plan']);
    await undoLast();
    expect(shown()).toBe('3');
    await undoLast();
    expect(shown()).toBe('Hall');
    await settled();
  });
  test('a refused plan goes back to what the server has, and says why', async () => {
    answer = (path) =>
      path.startsWith('/api/plans')
        ? new Error('plan.camera.iso: too small')
        : path === '/api/backgrounds'
          ? []
          : detail();
    changePlan(3, named('Bad'), 'name');
    await vi.waitFor(() => expect(useStore.getState().problem?.reason).toContain('camera.iso'));
    await vi.waitFor(() => expect(shown()).toBe('Hall'));
  });
});

describe('loading', () => {
  test('a shoot that does not exist is told apart from a server that is away', async () => {
    answer = () => new Error('this shoot does not exist (any more)');
    expect(await loadShoot(7)).toBe('missing');
    expect(useStore.getState().problem).toBeNull();
    answer = () => 'away';
    expect(await loadShoot(7)).toBe('failed');
    expect(useStore.getState().problem?.reason).toContain('does not answer');
    answer = (path) => (path === '/api/backgrounds' ? [] : detail());
    expect(await loadShoot(7)).toBe('read');
    expect(useStore.getState().problem, 'what has passed is not shown any more').toBeNull();
  });
  test('attempt shows what went wrong and gives nothing', async () => {
    expect(await attempt(Promise.reject(new Error('odd')))).toBeUndefined();
    expect(useStore.getState().problem?.reason).toBe('odd');
  });
});
