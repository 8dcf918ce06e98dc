import { createHash } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { afterAll, beforeAll, expect, test } from 'vitest';
import {
  logJsonSchema,
  shootLogSchema,
  type Check,
  type Frame,
  type Problem,
  type Shoot,
  type ShootLog,
  type Space,
} from '../contract/index.ts';
import { someFindings, someQuality } from '../contract/testing/items.ts';
import { defaultRecipe } from '../core/cut/index.ts';
import { demoPlans } from '../core/plan/index.ts';
import { checks, cuts } from '../server/database/schema.ts';
import { sampleImage } from '../server/testing/samples.ts';
import { served, type Served } from './served.ts';

/** The log of a shoot over HTTP. */

let f: Served;
let shootId: number;
beforeAll(async () => {
  f = await served();
  shootId = (await f.call<Shoot>('POST', '/shoots', { name: 'Fair', date: '2026-06-13' })).body.id;
});
afterAll(() => f.close());
const log = async (): Promise<ShootLog> => shootLogSchema.parse((await f.call('GET', `/shoots/${shootId}/log`)).body);

test('time at a station adds up by the day, can be set right, and goes back to what was counted', async () => {
  const worked = { place: 'extract', day: '2026-06-13', seconds: 60 };
  for (let n = 0; n < 3; n++) expect((await f.call('POST', `/shoots/${shootId}/activity`, worked)).status).toBe(204);
  expect((await f.call('POST', `/shoots/${shootId}/activity`, { ...worked, seconds: 99_999 })).status).toBe(400);
  expect((await log()).times).toEqual([{ place: 'extract', day: '2026-06-13', seconds: 180, corrected: null }]);
  const right = { place: 'extract', day: '2026-06-13', seconds: 600 };
  expect((await f.call<ShootLog>('PUT', `/shoots/${shootId}/times`, right)).body.times[0].corrected).toBe(600);
  const back = await f.call<ShootLog>('PUT', `/shoots/${shootId}/times`, { ...right, seconds: null });
  expect(back.body.times[0]).toMatchObject({ seconds: 180, corrected: null });
});

test('a plan, its frames and what a hand took come into the log by themselves', async () => {
  const { setups } = await log();
  const [plan] = Object.values(demoPlans());
  await f.call('POST', `/shoots/${shootId}/plans`, { plan, setupId: setups[0].id });
  const content = await sampleImage({ shade: 3 }).png().toBuffer();
  const path = `/setups/${setups[0].id}/frames?name=A.png`;
  const { id } = (await f.call<{ frame: Frame }>('POST', path, content)).body.frame;
  const quality = someQuality({ minutes: 2, doubts: [{ kind: 'strands', minutes: 2, places: [] }] });
  const file = await f.store.put(content);
  await f.database.insert(cuts).values({ frameId: id, file, depth: 8, recipe: defaultRecipe, quality });
  const review = { state: 'accepted', of: '', seconds: 90, settled: [] };
  expect((await f.call('PATCH', `/frames/${id}`, { review })).status).toBe(200);
  const [setup] = (await log()).setups;
  expect(setup.accepted).toEqual({ frames: 1, foreseen: { strands: 2 }, spent: 1.5 });
  expect(setup.set?.material).toBe(plan.screen.material);
  expect(setup.plan?.frames).toBeGreaterThan(10);
  const words = (await log()).events.map((event) => event.words);
  expect(words).toEqual([expect.stringContaining('planned'), '1 frame came in']);
});

test('what a shoot takes on the disk is counted once by what it is for', async () => {
  const { body } = await f.call<Space>('GET', `/shoots/${shootId}/space`);
  expect(body.taken.map(({ what, files }) => [what, files])).toEqual([
    ['photographs', 1],
    // The cut in this test is the photograph's own file.
    ['cuts', 0],
    ['test frames and notes', 0],
    ['hand-overs', 0],
  ]);
  expect(body.archive).toBeNull();
  expect(body.taken[0].bytes).toBeGreaterThan(100);
});

test('notes have a time, a place and a picture; what is no picture is refused by name; they change and go', async () => {
  const { setups } = await log();
  const note = {
    kind: 'note',
    at: '2026-06-13T09:12',
    place: 'check',
    setupId: setups[0].id,
    words: 'Wind from nine',
    camera: null,
  };
  const { body } = await f.call<{ id: number }>('POST', `/shoots/${shootId}/notes`, note);
  const refused = await f.call<Problem>('POST', `/notes/${body.id}/picture?name=no.jpg`, Buffer.from('nothing'));
  expect([refused.status, refused.body.reason]).toEqual([400, expect.stringContaining('“no.jpg” cannot be taken')]);
  const picture = await sampleImage({ shade: 9 }).png().toBuffer();
  expect((await f.call('POST', `/notes/${body.id}/picture?name=tent.png`, picture)).status).toBe(201);
  await f.call('PATCH', `/notes/${body.id}`, { words: 'Wind from ten' });
  expect((await log()).notes).toEqual([
    expect.objectContaining({ words: 'Wind from ten', picture: expect.any(String) }),
  ]);
  const shown = await fetch(`${f.address}/api/notes/${body.id}/picture`);
  expect(shown.headers.get('content-type')).toContain('image/jpeg');
  expect((await f.call('DELETE', `/notes/${body.id}`)).status).toBe(204);
  expect((await log()).notes).toEqual([]);
});

test('a round says what it was taken with; a camera note takes the picture of its ball', async () => {
  const setupId = (await log()).setups[0].id;
  const at = { kind: 'camera', at: '2026-06-13T09:20', place: 'check', setupId, words: '', camera: null };
  const { body: note } = await f.call<{ id: number }>('POST', `/shoots/${shootId}/notes`, at);
  const without = await f.call<Problem>('POST', `/notes/${note.id}/ball`);
  expect([without.status, without.body.remedy]).toEqual([409, expect.stringContaining('at Check')]);
  const { body: round } = await f.call<Check>('POST', `/setups/${setupId}/checks`);
  const ball = await sampleImage({ shade: 4 })
    .withExif({ IFD0: { Model: 'Field 5' }, IFD2: { FNumber: '56/10', ExposureTime: '1/125', ISOSpeedRatings: '200' } })
    .jpeg()
    .toBuffer();
  await f.call('POST', `/checks/${round.id}/pictures?name=ball.jpg&kind=ball`, ball);
  await f.idle();
  expect((await f.call('POST', `/notes/${note.id}/ball`)).status).toBe(204);
  const { notes, events } = await log();
  expect(notes[0].picture).toBe(createHash('sha256').update(ball).digest('hex').slice(0, 16));
  expect(events.find(({ words }) => words.startsWith('Test frames'))?.details[0]).toBe(
    'Field 5, f/5.6, 1/125 s, ISO 200',
  );
  await f.call('DELETE', `/checks/${round.id}`);
  expect((await fetch(`${f.address}/api/notes/${note.id}/picture`)).status, 'the note keeps it').toBe(200);
  await f.call('DELETE', `/notes/${note.id}`);
});

test('coefficients of the own log are taken, taken again, and gone back from one by one', async () => {
  const taken = () => f.call('GET', '/log/factors').then(({ body }) => body);
  expect(await taken()).toBeNull();
  const first = { causes: { spread: 1.4 }, doubts: {} };
  const second = { causes: { spread: 1.6 }, doubts: { strands: 0.7 } };
  await f.call('POST', '/log/factors', first);
  await f.call('POST', '/log/factors', second);
  expect(await taken()).toEqual(second);
  expect((await f.call('DELETE', '/log/factors')).body).toEqual(first);
  expect((await f.call('DELETE', '/log/factors')).body).toBeNull();
  expect((await f.call('POST', '/log/factors', { causes: { spread: 90 }, doubts: {} })).status).toBe(400);
});

test('the log goes out as JSON by the published schema and as lists; a setup becomes the start of another shoot', async () => {
  const content = await (await fetch(`${f.address}/api/shoots/${shootId}/log.json`)).text();
  expect(shootLogSchema.parse(JSON.parse(content)).shoot.name).toBe('Fair');
  for (const name of ['events', 'setups', 'shoots']) {
    const list = await (await fetch(`${f.address}/api/log/${name}.csv`)).text();
    expect(list.split('\n').length, name).toBeGreaterThan(1);
    expect(list, name).toContain('Fair');
  }
  const { setups } = await log();
  const copy = await f.call<Shoot>('POST', `/shoots/${shootId}/copy`, { setupId: setups[0].id });
  expect(copy.status).toBe(201);
  const copied = shootLogSchema.parse((await f.call('GET', `/shoots/${copy.body.id}/log`)).body);
  expect(copied.setups.map(({ set }) => set?.material)).toEqual(setups.map(({ set }) => set?.material));
  expect((await f.call('POST', `/shoots/${shootId}/copy`, { setupId: 99_999 })).status).toBe(404);
  expect(copied.notes, 'never tested').toEqual([]);
  const findings = someFindings({
    readings: [{ id: 'spread', value: 1.234, verdict: 'beyond', reason: '', minutes: 2, evidence: [] }],
  });
  await f.database
    .insert(checks)
    .values({ setupId: setups[0].id, marks: {}, findings, openPoints: [], signedAt: new Date() });
  const again = await f.call<Shoot>('POST', `/shoots/${shootId}/copy`, { setupId: setups[0].id });
  const later = shootLogSchema.parse((await f.call('GET', `/shoots/${again.body.id}/log`)).body);
  expect(later.notes).toMatchObject([{ place: 'check', setupId: later.setups[0].id }]);
  expect(later.notes[0].words).toMatch(/^Read at “Fair”, 2026-06-13:\n.*: 1\.23 stops, out of bounds$/);
  expect(later.setups[0].measured, 'it is none of its own').toBe(false);
});

test('the published schema is that of the code', async () => {
  const published = await readFile(new URL('../docs/log.schema.json', import.meta.url), 'utf8');
  expect(JSON.parse(published)).toEqual(JSON.parse(JSON.stringify(logJsonSchema())));
});
