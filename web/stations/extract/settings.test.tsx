import { act, fireEvent, render, screen, waitFor, within } from '@testing-library/react';
import { beforeEach, expect, test, vi } from 'vitest';
import type { Frame, LibraryItem } from '../../../contract/index.ts';
import { someFrame, someJob, someSetup } from '../../../contract/testing/items.ts';
import { noGuidance } from '../../../core/cut/guidance.ts';
import { defaultRecipe, type Departure, type Recipe } from '../../../core/cut/recipe.ts';
import { useStore } from '../../state/store.ts';
import { standInServer, type Asked } from '../../testing/server.ts';
import { RecipesDialog } from './RecipesDialog.tsx';
import { departuresOf, keepSettings, type Scope } from './settings.ts';
import { SettingsHead } from './SettingsHead.tsx';
import { TrialPanel } from './TrialPanel.tsx';
import { useTrial, useTried, type Trial } from './useTrial.ts';

/** Settings for a setup, a subject, a frame; recipes under names of their own. */

const setup = someSetup({ name: 'Tent', recipe: { ...defaultRecipe, spill: 0.5 } });
const framed = (id: number, subject: string, ...departures: Departure[]): Frame =>
  someFrame(id, { subject, guidance: { ...noGuidance, departures } });

const untried = { trial: { on: false, to: {} } as unknown as Trial, lookAtChange: vi.fn() };

let heard: Asked[];
function serve(frames: Frame[]): void {
  useStore.setState({ setups: [setup], frames, steps: [] });
  heard = standInServer(({ path, body }) => {
    const item = path.includes('/setups/') ? setup : frames.find(({ id }) => path.endsWith(`/${id}`));
    return { ...item, ...(body as object) };
  });
}
const changes = (): { path: string; body: unknown }[] =>
  heard.filter(({ method }) => method === 'PATCH').map(({ path, body }) => ({ path, body }));

function keep(frames: Frame[], scope: Scope, to: Partial<Recipe>): void {
  serve(frames);
  const shown = departuresOf({ frame: frames[0], setupFrames: frames });
  const recipe = { ...setup.recipe, ...Object.fromEntries(shown.map(({ departure }) => [departure.id, departure.to])) };
  keepSettings({ frame: frames[0], setup, setupFrames: frames }, { ...recipe, ...to }, scope, 'spill');
}

test('for the setup only the setup is changed, and only in what was moved', async () => {
  keep([framed(1, '')], 'setup', { spill: 0.2 });
  await expect.poll(changes).toHaveLength(1);
  expect(changes()[0]).toMatchObject({ path: '/api/setups/1', body: { recipe: { ...setup.recipe, spill: 0.2 } } });
});

test('for a frame or its subject it is said on the frame, and the setup stays', async () => {
  keep([framed(1, 'Ada')], 'frame', { spill: 0.2 });
  await expect.poll(changes).toHaveLength(1);
  expect(changes()[0]).toMatchObject({
    path: '/api/frames/1',
    body: { guidance: { departures: [{ id: 'spill', to: 0.2, wholeSubject: false }] } },
  });
  keep([framed(1, 'Ada', { id: 'edge', to: 1 })], 'subject', { method: 'layers' });
  await expect.poll(changes).toHaveLength(1);
  expect(changes()[0]).toMatchObject({
    body: {
      guidance: {
        departures: [
          { id: 'edge', to: 1 },
          { id: 'method', to: 'layers', wholeSubject: true },
        ],
      },
    },
  });
});

test('a setting that differs already goes on doing so, where it was said, whatever the scope', async () => {
  const frames = [framed(1, 'Ada'), framed(2, 'Ada', { id: 'spill', to: 0.9, wholeSubject: true })];
  keep(frames, 'setup', { spill: 0.7, floor: 0.1 });
  await expect.poll(changes).toHaveLength(2);
  expect(changes()).toMatchObject([
    { path: '/api/setups/1', body: { recipe: { ...setup.recipe, floor: 0.1 } } },
    { path: '/api/frames/2', body: { guidance: { departures: [{ id: 'spill', to: 0.7, wholeSubject: true }] } } },
  ]);
  keep(frames, 'frame', { spill: 0.7 });
  await expect.poll(changes).toHaveLength(1);
  expect(changes()[0]).toMatchObject({ path: '/api/frames/1', body: { guidance: { departures: [{ to: 0.7 }] } } });
});

test('what differs is listed with what the setup has, and one press takes it back', async () => {
  const frames = [
    framed(1, 'Ada', { id: 'spillMethod', to: 'average' }),
    framed(2, 'Ada', { id: 'spill', to: 0.9, wholeSubject: true }),
  ];
  serve(frames);
  const setScope = vi.fn();
  const bench = { frame: frames[0], setup, setupFrames: frames, recipe: setup.recipe, keep: vi.fn(), ...untried };
  render(<SettingsHead bench={{ ...bench, scope: 'setup', setScope }} />);
  expect(screen.getAllByRole('listitem').map((row) => row.textContent)).toEqual([
    'Spill removed 0.9“Tent”: 0.5 · for Ada',
    'Spill Limit to the average“Tent”: The screen’s share · this frame',
  ]);
  fireEvent.click(screen.getByRole('button', { name: 'this frame' }));
  expect(setScope).toHaveBeenCalledWith('frame');
  fireEvent.click(screen.getByRole('button', { name: 'Spill removed as the setup' }));
  await expect.poll(changes).toHaveLength(1);
  expect(changes()[0]).toMatchObject({ path: '/api/frames/2', body: { guidance: { departures: [] } } });
});

test('nobody is meant by “the subject” where nobody was named', () => {
  serve([framed(1, '')]);
  const bench = { frame: framed(1, ''), setup, setupFrames: [], recipe: setup.recipe, keep: vi.fn(), ...untried };
  render(<SettingsHead bench={{ ...bench, scope: 'subject', setScope: vi.fn() }} />);
  expect(screen.getByRole('button', { name: 'the subject' }).hasAttribute('disabled')).toBe(true);
  expect(screen.getByRole('button', { name: 'this frame' }).getAttribute('aria-pressed')).toBe('true');
});

const soft: LibraryItem = { id: 4, item: { kind: 'recipe', entry: { name: 'Soft', recipe: defaultRecipe } } };
function dialog(recipe: Recipe): { taken: ReturnType<typeof vi.fn> } {
  heard = standInServer(({ method, body }) => (method === 'GET' ? [soft] : { id: 5, item: body }));
  const taken = vi.fn();
  render(<RecipesDialog open recipe={recipe} onTake={taken} onClose={() => undefined} />);
  return { taken };
}

beforeEach(() => useStore.setState({ problem: null }));

test('a recipe is kept under a name, the same name takes the place of the old one, and it is taken for another shoot', async () => {
  const recipe = { ...defaultRecipe, hairReach: 4 };
  const { taken } = dialog(recipe);
  const take = await screen.findByRole('button', { name: 'Take “Soft”' });
  const name = screen.getByLabelText('Keep the settings of this frame as');
  const keepIt = screen.getByRole('button', { name: 'Keep them' });
  fireEvent.click(keepIt);
  expect(await screen.findByText('Give it a name.')).toBeTruthy();
  for (const [typed, method] of [
    ['Curls', 'POST'],
    ['Soft', 'PUT'],
  ]) {
    fireEvent.change(name, { target: { value: typed } });
    fireEvent.click(keepIt);
    await expect
      .poll(() => heard.findLast((one) => one.method === method)?.body)
      .toEqual({ kind: 'recipe', entry: { name: typed, recipe } });
  }
  fireEvent.click(take);
  expect(taken).toHaveBeenCalledWith(defaultRecipe, 'the recipe “Soft”');
});

test('a recipe file comes in; one that is none is refused by its field', async () => {
  dialog(defaultRecipe);
  const give = (content: string): void => {
    const file = new File([content], 'Curls.recipe.json', { type: 'application/json' });
    fireEvent.change(screen.getByLabelText('Recipe file'), { target: { files: [file] } });
  };
  give('{"hairReach": 90}');
  expect(await screen.findByText(/Curls\.recipe\.json: hairReach: .*Correct it/)).toBeTruthy();
  give('{"hairReach": 4}');
  await waitFor(() => expect(screen.queryByText(/Correct it/)).toBeNull());
  await expect
    .poll(() => heard.find(({ method }) => method === 'POST')?.body)
    .toEqual({ kind: 'recipe', entry: { name: 'Curls', recipe: { ...defaultRecipe, hairReach: 4 } } });
});

const looked = vi.fn();
function Tried({ frames }: { frames: Frame[] }) {
  const trial = useTrial(setup);
  return (
    <>
      <TrialPanel bench={{ setup, setupFrames: frames, trial, lookAtChange: looked }} />
      <button onClick={() => trial.change({ spill: 0.2, floor: 0.1 })}>less</button>
      <button onClick={() => trial.change({ floor: setup.recipe.floor })}>floor back</button>
    </>
  );
}

test('settings are tried, compared on every frame, and only then kept', async () => {
  const frames = [framed(1, ''), framed(2, ''), framed(3, '')];
  serve(frames);
  const job = someJob({ id: 12, kind: 'trial', shootId: null, about: { setupId: setup.id } });
  const compared = [
    { frameId: 1, before: 1, after: 0.4, changed: 0.02 },
    { frameId: 2, before: 1, after: 1.5, changed: 0.1 },
    { frameId: 3, before: 2, after: 2, changed: 0 },
  ];
  heard = standInServer(({ method, body }) => (method === 'POST' ? job : { ...setup, ...(body as object) }));
  useStore.setState({ jobs: [] });
  render(<Tried frames={frames} />);
  fireEvent.click(screen.getByRole('checkbox', { name: 'Try before keeping' }));
  expect(screen.getByText(/nothing is kept yet/)).toBeTruthy();
  fireEvent.click(screen.getByText('less'));
  fireEvent.click(screen.getByText('floor back'));
  expect(screen.getAllByRole('listitem').map((row) => row.textContent)).toEqual(['Spill removed0.5 → 0.2']);
  fireEvent.click(screen.getByRole('button', { name: 'Compare on 3 frames' }));
  await expect.poll(() => heard).toHaveLength(1);
  expect(heard[0]).toMatchObject({ path: '/api/setups/1/trial', body: { recipe: { ...setup.recipe, spill: 0.2 } } });
  act(() => useStore.setState({ jobs: [{ ...job, state: 'done', made: { compared } }] }));
  const list = await screen.findByRole('list', { name: 'What changes, worst first' });
  expect(
    within(list)
      .getAllByRole('listitem')
      .map((row) => row.textContent),
  ).toEqual(['F2.jpg10.0 %1.0 → 1.5', 'F1.jpg2.0 %1.0 → 0.4']);
  expect(screen.queryByText(/could not be compared/)).toBeNull();
  expect(screen.getByText(/better/).textContent).toMatch(/better 1, worse 1, look the same 1/);
  fireEvent.click(within(list).getByText('F2.jpg'));
  expect(looked).toHaveBeenCalledWith(2);
  // Other settings are not what was compared.
  fireEvent.click(screen.getByText('less'));
  expect(screen.queryByRole('list', { name: 'What changes, worst first' })).toBeNull();
  fireEvent.click(screen.getByText('floor back'));
  fireEvent.click(screen.getByRole('button', { name: 'Keep' }));
  await expect
    .poll(() => heard.find(({ method }) => method === 'PATCH')?.body)
    .toMatchObject({ recipe: { spill: 0.2 } });
  expect(screen.getByText(/nothing is kept yet/)).toBeTruthy();
});

test('what is tried outlives a reload of the page; what is kept there of another form is left', async () => {
  serve([framed(1, '')]);
  const kept = (tried: object): void =>
    sessionStorage.setItem('silent-lawn trial', JSON.stringify({ state: { on: true, tried }, version: 0 }));
  kept({ setupId: setup.id, to: { spill: 0.3 } });
  await useTried.persist.rehydrate();
  render(<Tried frames={[framed(1, '')]} />);
  expect(screen.getAllByRole('listitem').map((row) => row.textContent)).toEqual(['Spill removed0.5 → 0.3']);
  fireEvent.click(screen.getByRole('checkbox', { name: 'Try before keeping' }));
  expect(sessionStorage.getItem('silent-lawn trial')).not.toContain('spill');
  kept({ setupId: setup.id, to: { spill: 70 } });
  await useTried.persist.rehydrate();
  expect(useTried.getState().tried).toBeUndefined();
});
