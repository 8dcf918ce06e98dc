import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { someFrame, someSetup } from '../../contract/testing/items.ts';
import { defaultRecipe } from '../../core/cut/recipe.ts';

/** What a tab remembers over a reload, and a server that only notes what it is asked. */
const memory = new Map<string, string>();
const asked: { method: string; path: string; body: unknown }[] = [];
let answer: () => unknown;

beforeEach(() => {
  memory.clear();
  asked.length = 0;
  vi.stubGlobal('sessionStorage', {
    getItem: (key: string) => memory.get(key) ?? null,
    setItem: (key: string, value: string) => memory.set(key, value),
    removeItem: (key: string) => memory.delete(key),
  });
  vi.stubGlobal('fetch', async (path: string, { method, body }: { method: string; body: string }) => {
    asked.push({ method, path, body: JSON.parse(body) });
    const content = await answer();
    return new Response(JSON.stringify(content), {
      status: content instanceof Object && 'reason' in content ? 400 : 200,
    });
  });
});
afterEach(() => void vi.unstubAllGlobals());

/** The modules of a page that was just loaded. */
async function load() {
  vi.resetModules();
  const { useStore, takeItems, leftSent } = await import('./store.ts');
  return { ...(await import('./changes.ts')), ...(await import('./change.ts')), useStore, takeItems, leftSent };
}

test('changes that were waiting when the page was loaded anew are sent then, in their order', async () => {
  const before = await load();
  const setup = someSetup();
  before.takeItems(undefined, { setups: [setup], frames: [someFrame(1)] });
  answer = () => new Promise(() => undefined);
  void before.changeSetup(setup, { recipe: { ...defaultRecipe, edge: 1 } }, 'edge');
  void before.changeFrame({ id: 1 }, () => ({ subject: 'Ada' }), 'subject');
  await vi.waitFor(() => expect(asked).toHaveLength(1));
  answer = () => (asked.at(-1)?.path.includes('setups') ? setup : someFrame(1));
  const after = await load();
  await after.leftSent;
  expect(asked.slice(1).map(({ method, path, body }) => [method, path, body])).toEqual([
    ['PATCH', `/api/setups/${setup.id}`, expect.objectContaining({ recipe: { ...defaultRecipe, edge: 1 } })],
    ['PATCH', '/api/frames/1', expect.objectContaining({ subject: 'Ada' })],
  ]);
  expect(after.useStore.getState().problem).toBeNull();
  expect(memory.size).toBe(0);
});

test('what was saved before is not sent again; a refusal is told once and stops nothing', async () => {
  const before = await load();
  before.takeItems(undefined, { frames: [someFrame(1), someFrame(2)] });
  answer = () => someFrame(1);
  await before.changeFrame({ id: 1 }, () => ({ subject: 'Ada' }), 'subject');
  expect(memory.size).toBe(0);
  answer = () => new Promise(() => undefined);
  void before.changeFrames([{ id: 1 }, { id: 2 }], () => ({ subject: 'Bo' }), 'subject');
  await vi.waitFor(() => expect(asked).toHaveLength(2));
  answer = () => (asked.at(-1)?.path.endsWith('/1') ? { reason: 'frame 1 is gone', remedy: 'Go on.' } : someFrame(2));
  const after = await load();
  await after.leftSent;
  expect(asked.slice(2).map(({ path }) => path)).toEqual(['/api/frames/1', '/api/frames/2']);
  expect(after.useStore.getState().problem?.reason).toBe('frame 1 is gone');
  expect(memory.size).toBe(0);
});
