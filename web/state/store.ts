import { create } from 'zustand';
import { eventSchema, type Background, type Batch, type Check, type Delivery, type Frame, type FrameChange, type Gathering, type PlacedOn, type PlanRow, type Problem, type ServerEvent, type Setup, type SetupChange, type Shoot } from '../../contract/index.ts';
import type { Plan } from '../../core/plan/index.ts';
import { api, RequestError } from './api.ts';

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
  connected: boolean;
  steps: Step[];
}

export const useStore = create<State>(() => ({ shoots: null, shoot: null, setups: [], frames: [], batches: [], deliveries: [], backgrounds: [], plans: [], checks: [], gathering: {}, cutSeconds: null, problem: null, connected: true, steps: [] }));

const { setState, getState } = useStore;

/** Runs a request; a failure is shown instead of thrown. @returns undefined when it failed. */
export async function attempt<T>(work: Promise<T>): Promise<T | undefined> {
  try {
    return await work;
  } catch (error) {
    setState({ problem: error instanceof RequestError ? error.problem : { reason: (error as Error).message, remedy: 'Reload the page; nothing that was saved is lost.' } });
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

/** @returns false if the shoot does not exist. */
export async function loadShoot(id: number): Promise<boolean> {
  try {
    const [detail, backgrounds] = await Promise.all([api.shoot(id), api.backgrounds()]);
    const { shoot, setups, frames, batches, deliveries, checks, cutSeconds } = detail;
    const plans = detail.plans.map(withUnsavedPlan);
    setState((state) => ({ shoot, setups, frames: frames.map(withUnsaved), batches, deliveries, backgrounds, plans, checks, gathering: {}, cutSeconds, steps: state.shoot?.id === id ? state.steps : [] }));
    return true;
  } catch (error) {
    if (error instanceof RequestError && error.problem.reason.includes('does not exist')) return false;
    await attempt(Promise.reject(error));
    return true;
  }
}

/** Follows what the server tells; after a break everything is read again. @returns how to stop. */
export function followEvents(reload: () => void): () => void {
  const source = new EventSource('/api/events');
  let opened = false;
  source.onopen = () => {
    setState({ connected: true });
    if (opened) reload();
    opened = true;
  };
  source.onerror = () => setState({ connected: false });
  source.onmessage = (message) => {
    const event = eventSchema.safeParse(JSON.parse(message.data));
    if (event.success) apply(event.data);
  };
  return () => source.close();
}

function apply(event: ServerEvent): void {
  if (event.type === 'shoots') return void loadShoots();
  if (event.type === 'backgrounds') {
    void attempt(api.backgrounds()).then((backgrounds) => backgrounds && setState({ backgrounds }));
    return;
  }
  if (event.shootId !== getState().shoot?.id) return;
  if (event.type === 'frame') setState((state) => ({ frames: sortFrames(upsert(state.frames, withUnsaved(event.frame))) }));
  if (event.type === 'frameRemoved') setState((state) => ({ frames: state.frames.filter((frame) => frame.id !== event.frameId) }));
  if (event.type === 'plan') setState((state) => ({ plans: upsert(state.plans, withUnsavedPlan(event.plan)) }));
  if (event.type === 'planRemoved') setState((state) => ({ plans: state.plans.filter((row) => row.id !== event.planId) }));
  if (event.type === 'check') setState((state) => ({ checks: upsert(state.checks, event.check) }));
  if (event.type === 'checkRemoved') setState((state) => ({ checks: state.checks.filter((check) => check.id !== event.checkId) }));
  if (event.type === 'setup') setState((state) => ({ setups: upsert(state.setups, event.setup) }));
  if (event.type === 'gathering') setState((state) => ({ gathering: { ...state.gathering, [event.setupId]: event.progress } }));
  if (event.type === 'batch') setState((state) => ({ batches: upsert(state.batches, event.batch).filter((batch) => batch.open > 0 || batch.failed > 0) }));
  if (event.type === 'delivery') setState((state) => ({ deliveries: upsert(state.deliveries, event.delivery).sort((a, b) => b.id - a.id) }));
}

function upsert<T extends { id: number }>(list: T[], item: T): T[] {
  return list.some((other) => other.id === item.id) ? list.map((other) => (other.id === item.id ? item : other)) : [...list, item];
}

/** As the server lists them: by the time they were taken, then by name. */
function sortFrames(frames: Frame[]): Frame[] {
  return frames.sort((a, b) => (a.takenAt ?? '').localeCompare(b.takenAt ?? '') || a.name.localeCompare(b.name) || a.id - b.id);
}

/** A change that is on its way can be taken back from the start; one that was refused leaves no step. @returns whether it was saved. */
async function saved(label: string, saving: Promise<boolean>, back: () => Promise<unknown>): Promise<boolean> {
  remember(label, async () => void ((await saving) && (await back())));
  const step = getState().steps.at(-1);
  const done = await saving;
  if (!done) setState((state) => ({ steps: state.steps.filter((other) => other !== step) }));
  return done;
}

/** Changes a setup at once and saves it; can be taken back. */
export async function changeSetup(setup: Setup, change: SetupChange, label: string): Promise<void> {
  const before = Object.fromEntries(Object.keys(change).map((name) => [name, setup[name as keyof Setup]])) as SetupChange;
  setState((state) => ({ setups: upsert(state.setups, { ...setup, ...change }) }));
  const save = async (to: SetupChange): Promise<boolean> => {
    const changed = await attempt(api.changeSetup(setup.id, to));
    if (changed) setState((state) => ({ setups: upsert(state.setups, changed) }));
    return changed !== undefined;
  };
  if (!(await saved(label, save(change), () => save(before)))) setState((state) => ({ setups: upsert(state.setups, setup) }));
}

/** Puts the setup's plate together from its frames. @returns share of the screen that one of them shows, or nothing if it failed. */
export async function gatherPlate(setup: Setup): Promise<number | undefined> {
  const gathered = await attempt(api.gatherPlate(setup.id));
  if (gathered) setState((state) => ({ setups: upsert(state.setups, gathered.setup), frames: upsert(state.frames, gathered.frame) }));
  return gathered?.seen;
}

/** Whether a frame is a setup's plate, which is nobody's picture. */
export function isPlate(frame: Frame, setups: Setup[]): boolean {
  return setups.some(({ plateFrameId }) => plateFrameId === frame.id);
}

/** Changes who is on a frame, or what was said on it; can be taken back. */
export async function changeFrame(frame: Frame, change: FrameChange, label: string): Promise<void> {
  const before = Object.fromEntries(Object.keys(change).map((name) => [name, frame[name as keyof Frame]])) as FrameChange;
  setState((state) => ({ frames: upsert(state.frames, { ...frame, ...change }) }));
  const save = async (to: FrameChange): Promise<boolean> => {
    const changed = await attempt(api.changeFrame(frame.id, to));
    if (changed) setState((state) => ({ frames: upsert(state.frames, withUnsaved(changed)) }));
    return changed !== undefined;
  };
  if (!(await saved(label, save(change), () => save(before)))) setState((state) => ({ frames: upsert(state.frames, frame) }));
}

/** Placements on their way to the server. They outrank what arrives meanwhile, which may be older. */
const unsaved = new Map<number, PlacedOn | null>();
let lastSave: Promise<unknown> = Promise.resolve();

function withUnsaved(frame: Frame): Frame {
  const placement = unsaved.get(frame.id);
  return placement === undefined ? frame : { ...frame, placement };
}

/** Shows a placement at once and saves it, one after the other, so that the last one given is the one that stays. */
async function savePlacement(shootId: number, ids: number[], placement: PlacedOn | null): Promise<boolean> {
  for (const id of ids) unsaved.set(id, placement);
  setState((state) => ({ frames: state.frames.map(withUnsaved) }));
  const save = lastSave.then(() => attempt(api.place(shootId, placement, ids)));
  lastSave = save;
  const saved = await save;
  for (const id of ids) if (unsaved.get(id) === placement) unsaved.delete(id);
  if (!saved) await loadShoot(shootId);
  return saved !== undefined;
}

/** Puts frames on a background. Taking it back restores each frame's own earlier placement. */
export async function placeFrames(shootId: number, frames: Frame[], placement: PlacedOn, label: string): Promise<void> {
  const before = frames.map(({ id, placement: old }) => ({ id, old }));
  const ids = before.map(({ id }) => id);
  if (await savePlacement(shootId, ids, placement)) {
    remember(label, async () => void (await Promise.all(before.map(({ id, old }) => savePlacement(shootId, [id], old)))));
  }
}

/** Plans on their way to the server. Only the last of several is sent. */
const unsavedPlans = new Map<number, Plan>();
let planSave: Promise<unknown> | undefined;

function withUnsavedPlan(row: PlanRow): PlanRow {
  const plan = unsavedPlans.get(row.id);
  return plan ? { ...row, plan } : row;
}

function showPlan(id: number, plan: Plan): void {
  unsavedPlans.set(id, plan);
  setState((state) => ({ plans: state.plans.map(withUnsavedPlan) }));
  planSave ??= sendPlans().finally(() => (planSave = undefined));
}

async function sendPlans(): Promise<void> {
  for (;;) {
    const next = unsavedPlans.entries().next().value;
    if (!next) return;
    const [id, plan] = next;
    const saved = await attempt(api.changePlan(id, { plan }));
    if (unsavedPlans.get(id) === plan) unsavedPlans.delete(id);
    if (!saved) {
      const shoot = getState().shoot;
      if (shoot) await loadShoot(shoot.id);
    }
  }
}

/** Changes of one thing within this time are taken back together. */
const ONE_STEP = 1200;

/** Shows a changed plan at once, saves it, and lets it be taken back. */
export function changePlan(id: number, plan: Plan, label: string): void {
  const before = getState().plans.find((row) => row.id === id)?.plan;
  if (!before || before === plan) return;
  showPlan(id, plan);
  const last = getState().steps.at(-1);
  const name = `${label}, plan`;
  if (last?.label === name && performance.now() - last.at < ONE_STEP) last.at = performance.now();
  else remember(name, () => Promise.resolve(showPlan(id, before)));
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
  const change = async (to: boolean): Promise<boolean> => {
    const check = await attempt(api.signCheck(id, to));
    if (check) setState((state) => ({ checks: upsert(state.checks, check) }));
    return check !== undefined;
  };
  if (await change(signed)) remember(signed ? 'signing off' : 'opening again', async () => void (await change(!signed)));
}
