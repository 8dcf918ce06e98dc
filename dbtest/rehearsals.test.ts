import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { rehearsalListSchema, rehearsalSchema, type Job, type Rehearsal } from '../contract/index.ts';
import { remedies, type RemedyId } from '../core/studio/index.ts';
import { rehearsals } from '../server/database/schema.ts';
import { served, type Served } from './served.ts';

/** Rehearsing over HTTP: what is hidden stays hidden until it is answered, and then it is told. */

describe('a set with hidden faults', () => {
  let f: Served;
  let made: Rehearsal;
  beforeAll(async () => {
    f = await served();
    // The first level always hides one gross fault.
    const job = await f.job('/rehearsals', { level: 1, seed: 77 });
    expect(job).toMatchObject({ kind: 'rehearsal', shootId: null, state: 'done' });
    made = rehearsalSchema.parse((await f.call('GET', `/rehearsals/${job.made?.rehearsalId}`)).body);
  }, 300_000);
  afterAll(() => f.close());

  test('is photographed four times over and read; the causes stay on the server', async () => {
    expect(made.pictures.map(({ kind }) => kind).sort()).toEqual(['ball', 'grey card', 'people', 'plate'].sort());
    expect(made.findings.readings.length).toBeGreaterThan(8);
    expect(made.findings.causes).toEqual([]);
    expect(made.truth).toBeNull();
    const list = rehearsalListSchema.parse((await f.call('GET', '/rehearsals')).body);
    expect(list.making).toEqual([]);
    expect(list.results).toEqual([
      expect.objectContaining({ id: made.id, answered: false, causes: [], causesRight: false }),
    ]);
  });

  test('its photographs are handed out under their version for ever, under another name anew', async () => {
    const { kind, version } = made.pictures[0];
    const address = `${f.address}/api/rehearsals/${made.id}/pictures/${encodeURIComponent(kind)}`;
    const named = await fetch(`${address}?v=${version}`);
    expect(named.headers.get('cache-control')).toContain('immutable');
    expect((await sharp(Buffer.from(await named.arrayBuffer())).metadata()).height).toBeGreaterThan(100);
    expect((await fetch(`${address}?v=${version.slice(0, 8)}`)).headers.get('cache-control')).toBe('no-cache');
    expect((await f.call('GET', `/rehearsals/${made.id}/pictures/background`)).status).toBe(404);
    expect((await f.call('GET', `/rehearsals/${made.id}/pictures/tree`)).status).toBe(400);
  });

  test('an answer with what is no cause, or too many, is refused by its field and leaves it unanswered', async () => {
    for (const causes of [['gremlins'], ['gain', 'motion', 'defocus', 'window']])
      expect(await f.call('POST', `/rehearsals/${made.id}/answer`, { causes, remedy: null })).toMatchObject({
        status: 400,
        body: { reason: expect.stringContaining('causes') },
      });
    expect((await f.call<Rehearsal>('GET', `/rehearsals/${made.id}`)).body.answer).toBeNull();
  });

  test('the answer is judged against the truth, which is told with it, once', async () => {
    const [{ causes }] = await f.database.select().from(rehearsals);
    const cures = (id: RemedyId): boolean => remedies[id].cures.some((cause) => causes.includes(cause as never));
    const remedy = (Object.keys(remedies) as RemedyId[]).find(cures) ?? null;
    const { body } = await f.call<Rehearsal>('POST', `/rehearsals/${made.id}/answer`, { causes, remedy });
    expect(body.truth).toMatchObject({ causes, causesRight: true, remedyRight: true });
    expect(body.truth?.remedies).toContain(remedy);
    expect(body.truth?.shownBy).toHaveLength(causes.length);
    // With the truth come the causes that were found.
    expect(body.findings.causes.length).toBeGreaterThan(0);
    expect(await f.call('POST', `/rehearsals/${made.id}/answer`, { causes: [], remedy: null })).toMatchObject({
      status: 409,
      body: { reason: 'this set has been answered already' },
    });
    const [result] = rehearsalListSchema.parse((await f.call('GET', '/rehearsals')).body).results;
    expect(result).toMatchObject({ answered: true, causesRight: true, remedyRight: true });
    expect(result.causes).toHaveLength(causes.length);
  });

  test('the same number makes the same set; a level that does not exist is refused', async () => {
    const again = await f.job('/rehearsals', { level: 1, seed: 77 });
    const other = rehearsalSchema.parse((await f.call('GET', `/rehearsals/${again.made?.rehearsalId}`)).body);
    expect(other.pictures.map(({ version }) => version)).toEqual(made.pictures.map(({ version }) => version));
    expect(await f.call<Job>('POST', '/rehearsals', { level: 9 })).toMatchObject({
      status: 400,
      body: { reason: expect.stringContaining('level') },
    });
    expect((await f.call('GET', '/rehearsals/99999')).status).toBe(404);
  }, 300_000);
});
