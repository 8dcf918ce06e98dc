import type { ItemKind, Items } from '../../contract/index.ts';
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
export async function change<K extends ItemKind>(wanted: Change<K>): Promise<boolean> {
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
export async function saved(label: string, save: () => Promise<boolean>, back: () => Promise<unknown>): Promise<void> {
  const saving = save();
  remember(label, async () => (await saving) && (await back()), save);
  const step = getState().steps.at(-1);
  if (!(await saving)) setState((state) => ({ steps: state.steps.filter((other) => other !== step) }));
}

/** Those fields of an item that a change is about, as they are. */
export function fieldsOf<T extends object>(item: T, change: Partial<T>): Partial<T> {
  return Object.fromEntries(Object.keys(change).map((name) => [name, item[name as keyof T]])) as Partial<T>;
}

/** Steps that can be taken back. */
const MOST_STEPS = 50;

export function remember(label: string, undo: Step['undo'], redo: Step['redo']): void {
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
