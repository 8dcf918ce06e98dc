import type { Frame, Setup } from '../../../contract/index.ts';
import { departed, recipeChoices, type Departure, type Recipe } from '../../../core/cut/recipe.ts';
import { changeFrame, changeSetup } from '../../state/changes.ts';

/** What a setting that is changed holds for. */
export type Scope = 'setup' | 'subject' | 'frame';

interface OnBench {
  frame: Frame;
  setup: Setup;
  setupFrames: readonly Frame[];
}

/** A departure that holds for a frame, and the frame that it was given on. */
export interface Held {
  departure: Departure;
  on: Frame;
}

/** The departures that hold for a frame, one for each setting: its own before those given on others of its subject. */
export function departuresOf({ frame, setupFrames }: Omit<OnBench, 'setup'>): Held[] {
  const others = frame.subject
    ? setupFrames.filter(({ id, subject }) => id !== frame.id && subject === frame.subject)
    : [];
  const held = [
    ...others.flatMap((on) =>
      on.guidance.departures.filter(({ wholeSubject }) => wholeSubject).map((departure) => ({ departure, on })),
    ),
    ...frame.guidance.departures.map((departure) => ({ departure, on: frame })),
  ];
  return [...new Map(held.map((one) => [one.departure.id, one])).values()];
}

/**
 * Keeps changed settings. One in which the frame departs from its setup goes on doing so; the others hold for what the
 * scope says.
 * @param keepForSetup does otherwise with what is for the setup than to keep it.
 */
export function keepSettings(
  bench: OnBench,
  next: Recipe,
  scope: Scope,
  label: string,
  keepForSetup: (to: Partial<Recipe>) => void = (to) =>
    void changeSetup(bench.setup, { recipe: { ...bench.setup.recipe, ...to } }, label),
): void {
  const { frame, setup } = bench;
  const held = departuresOf(bench);
  const shown = departed(
    setup.recipe,
    held.map(({ departure }) => departure),
  );
  const changed = (Object.keys(next) as (keyof Recipe)[]).filter((id) => next[id] !== shown[id]);
  const forSetup: Partial<Recipe> = {};
  /** What each frame says after it. */
  const said = new Map<Frame, Departure[]>();
  for (const id of changed) {
    const there = held.find(({ departure }) => departure.id === id);
    const departure = (wholeSubject: boolean): Departure => ({ id, to: next[id], wholeSubject }) as Departure;
    if (there && !(scope === 'frame' && there.on !== frame))
      add(said, there.on, departure(there.departure.wholeSubject ?? false));
    else if (scope === 'setup') Object.assign(forSetup, { [id]: next[id] });
    else add(said, frame, departure(scope === 'subject'));
  }
  if (Object.keys(forSetup).length) keepForSetup(forSetup);
  for (const [on, departures] of said) depart(on, departures, [], label);
}

/** Back to the setup's recipe in one setting. */
export function takeBack({ departure: { id }, on }: Held, label: string): void {
  depart(on, [], [id], label);
}

function depart(frame: Frame, to: readonly Departure[], back: readonly string[], label: string): void {
  const gone = [...to.map(({ id }) => id as string), ...back];
  void changeFrame(
    frame,
    ({ guidance }) => ({
      guidance: { ...guidance, departures: [...guidance.departures.filter(({ id }) => !gone.includes(id)), ...to] },
    }),
    label,
  );
}

function add<K, V>(lists: Map<K, V[]>, key: K, value: V): void {
  const list = lists.get(key);
  if (list) list.push(value);
  else lists.set(key, [value]);
}

/** A setting's value as the panel shows it. */
export function settingInWords(id: keyof Recipe, value: string | number): string {
  if (typeof value === 'number') return String(Math.round(value * 100) / 100);
  const { options } = recipeChoices[id as keyof typeof recipeChoices];
  return (options as Record<string, { title: string }>)[value].title;
}
