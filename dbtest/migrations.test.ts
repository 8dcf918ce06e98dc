import { readFile } from 'node:fs/promises';
import { eq, sql } from 'drizzle-orm';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { defaultRecipe, noGuidance, spillColour } from '../core/cut/index.ts';
import { frames, libraryItems, setups } from '../server/database/schema.ts';
import { fixture, seedBatch, type Fixture } from './fixture.ts';

/** What migrations do to rows that an earlier version wrote. */

let f: Fixture;
beforeAll(async () => {
  f = await fixture();
});
afterAll(() => f.close());

/** The statements of a migration that change rows, as they stand. */
async function changes(name: string): Promise<string[]> {
  const file = new URL(`../server/database/migrations/${name}.sql`, import.meta.url);
  const statements = (await readFile(file, 'utf8')).split('--> statement-breakpoint');
  return statements.filter((statement) => /^\s*(--.*\n)*\s*UPDATE/.test(statement));
}

test('a recipe’s background light goes, from setups, the library, and what frames and subjects depart in', async () => {
  const { setupId, frameIds } = await seedBatch(f.database, 2);
  const [first, second] = frameIds;
  const before = JSON.stringify({ ...defaultRecipe, bounce: 0.5 });
  const departing = JSON.stringify({
    ...noGuidance,
    departures: [
      { id: 'bounce', to: 0.3 },
      { id: 'spill', to: 0.1 },
      { id: 'bounce', to: 0.6, wholeSubject: true },
    ],
  });
  await f.database.execute(sql`update setups set recipe = ${before} where id = ${setupId}`);
  await f.database.execute(sql`update frames set guidance = ${departing} where id = ${first}`);
  await f.database.execute(
    sql`insert into library_items (item) values (${`{"kind":"recipe","entry":{"name":"Soft","recipe":${before}}}`})`,
  );
  const statements = await changes('0026_cuts_without_backgrounds');
  expect(statements).toHaveLength(6);
  for (const statement of statements) await f.database.execute(sql.raw(statement));
  const [setup] = await f.database.select().from(setups).where(eq(setups.id, setupId));
  expect(setup.recipe).toEqual(defaultRecipe);
  const [{ item }] = await f.database.select().from(libraryItems);
  expect(item).toEqual({ kind: 'recipe', entry: { name: 'Soft', recipe: defaultRecipe } });
  const guidance = async (id: number) => (await f.database.select().from(frames).where(eq(frames.id, id)))[0].guidance;
  expect((await guidance(first)).departures).toEqual([{ id: 'spill', to: 0.1 }]);
  expect(await guidance(second)).toEqual({ masks: [], verdicts: [], touches: [], departures: [] });
});

test('recipes that knew no colour of spill have it at its defaults, and keep what else they say', async () => {
  const { setupId } = await seedBatch(f.database, 1);
  const set = { ...defaultRecipe, spill: 0.4 };
  const before = JSON.stringify({ ...set, ...Object.fromEntries(spillColour.map((name) => [name, undefined])) });
  expect(before).not.toContain('replaced');
  await f.database.execute(sql`update setups set recipe = ${before} where id = ${setupId}`);
  await f.database.execute(
    sql`insert into library_items (item) values (${`{"kind":"recipe","entry":{"name":"Older","recipe":${before}}}`})`,
  );
  const statements = await changes('0028_spill_colour');
  expect(statements).toHaveLength(3);
  for (const statement of statements) await f.database.execute(sql.raw(statement));
  const [setup] = await f.database.select().from(setups).where(eq(setups.id, setupId));
  expect(setup.recipe).toEqual(set);
  const items = await f.database.select().from(libraryItems);
  expect(items.map(({ item }) => item)).toContainEqual({ kind: 'recipe', entry: { name: 'Older', recipe: set } });
});
