import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { eq } from 'drizzle-orm';
import QRCode from 'qrcode';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type {
  Delivery,
  Frame,
  ImportResult,
  Problem,
  Setup,
  Shoot,
  ShootDetail,
  ShootLog,
  Subject,
} from '../contract/index.ts';
import { someDeliverySettings, someQuality } from '../contract/testing/items.ts';
import { defaultRecipe, fingerprintOf, noGuidance } from '../core/cut/index.ts';
import { noCamera } from '../core/gather/camera.ts';
import { slateText } from '../core/gather/slate.ts';
import { noSubject } from '../core/gather/subject.ts';
import { sensorReading } from '../core/studio/sensor.ts';
import { cuts, frames } from '../server/database/schema.ts';
import { encodeDng } from '../server/standIn/encodeDng.ts';
import { Watcher } from '../server/stations/gather/watcher.ts';
import { handedOver } from '../server/stations/handOver/manifest.ts';
import { sampleImage } from '../server/testing/samples.ts';
import { served, type Served } from './served.ts';

/** The roster and the sorting of a shoot over HTTP. */

let f: Served;
let shootId: number;
let setupId: number;
beforeAll(async () => {
  f = await served();
  shootId = (await f.call<Shoot>('POST', '/shoots', { name: 'Fair', date: '2026-06-13' })).body.id;
  setupId = (await detail()).setups[0].id;
});
afterAll(() => f.close());

const detail = async (): Promise<ShootDetail> => (await f.call<ShootDetail>('GET', `/shoots/${shootId}`)).body;
let shade = 0;
async function addFrame(picture = sampleImage({ shade: ++shade }).png()): Promise<Frame> {
  const content = await picture.toBuffer();
  const { body } = await f.call<{ frame: Frame }>('POST', `/setups/${setupId}/frames?name=G${++shade}.png`, content);
  return body.frame;
}
async function addSubjects(...names: (string | Partial<Subject>)[]): Promise<Subject[]> {
  const subjects = names.map((one) => ({ ...noSubject, ...(typeof one === 'string' ? { name: one } : one) }));
  const { status, body } = await f.call<Subject[]>('POST', `/shoots/${shootId}/subjects`, { subjects });
  expect(status).toBe(201);
  return body;
}
const frameNow = async (id: number): Promise<Frame | undefined> =>
  (await detail()).frames.find((frame) => frame.id === id);
const sort = (changes: object[]) => f.call<Frame[]>('PUT', `/shoots/${shootId}/sorting`, { changes });

describe('the roster', () => {
  test('who has no number gets the next free one; equal names are told apart', async () => {
    const made = await addSubjects({ name: 'Ada', number: '2' }, 'Bo', 'Cy', 'ada');
    expect(made.map(({ number, name }) => [number, name])).toEqual([
      ['2', 'Ada'],
      ['1', 'Bo'],
      ['3', 'Cy'],
      ['4', 'ada (4)'],
    ]);
  });
  test('a new name goes to the frames as well; one that is somebody else’s is refused', async () => {
    const [dee] = await addSubjects('Dee');
    const frame = await addFrame();
    await sort([{ frameIds: [frame.id], subject: 'Dee' }]);
    expect((await f.call('PATCH', `/subjects/${dee.id}`, { name: 'Dee Holm', seen: { name: 'Dee' } })).status).toBe(
      200,
    );
    expect((await frameNow(frame.id))?.subject).toBe('Dee Holm');
    const refused = await f.call<Problem>('PATCH', `/subjects/${dee.id}`, { name: 'BO' });
    expect(refused.status).toBe(409);
    expect(refused.body.reason).toContain('somebody else');
  });
  test('two windows that change different fields both keep theirs', async () => {
    const [eve] = await addSubjects('Eve');
    await f.call('PATCH', `/subjects/${eve.id}`, { group: 'Table 4', seen: { group: '' } });
    const { body } = await f.call<Subject>('PATCH', `/subjects/${eve.id}`, {
      consent: 'prints',
      seen: { consent: 'unasked' },
    });
    expect(body).toMatchObject({ group: 'Table 4', consent: 'prints' });
  });
  test('whoever is named on many frames at once stands on it once', async () => {
    const all = await Promise.all([addFrame(), addFrame(), addFrame(), addFrame()]);
    await Promise.all(all.map(({ id }) => f.call('PATCH', `/frames/${id}`, { subject: 'Gil', seen: { subject: '' } })));
    expect((await detail()).subjects.filter(({ name }) => name.startsWith('Gil')).map(({ name }) => name)).toEqual([
      'Gil',
    ]);
    expect((await detail()).frames.filter(({ subject }) => subject === 'Gil')).toHaveLength(4);
  });
  test('whoever is named on a frame stands on it', async () => {
    const frame = await addFrame();
    await f.call('PATCH', `/frames/${frame.id}`, { subject: 'Fay', seen: { subject: '' } });
    expect((await detail()).subjects.map(({ name }) => name)).toContain('Fay');
  });
  test('taken off, the frames stay and are nobody’s; erased, they go with what was handed over', async () => {
    const [gus, hal] = await addSubjects('Gus', 'Hal');
    const [his, hers] = [await addFrame(), await addFrame()];
    await sort([
      { frameIds: [his.id], subject: 'Gus' },
      { frameIds: [hers.id], subject: 'Hal' },
    ]);
    expect((await f.call('DELETE', `/subjects/${gus.id}`)).status).toBe(204);
    expect((await frameNow(his.id))?.subject).toBe('');
    const erased = await f.call<{ proof: string }>('DELETE', `/subjects/${hal.id}/pictures`);
    expect(erased.body.proof).toContain('Person: Hal');
    expect(erased.body.proof).toMatch(/\r\n[0-9a-f]{64}\r\n/);
    const { notes } = (await f.call<ShootLog>('GET', `/shoots/${shootId}/log`)).body;
    expect(notes).toEqual([
      expect.objectContaining({ kind: 'erased', words: expect.not.stringContaining('Hal') as string }),
    ]);
    expect((await f.call('DELETE', `/notes/${notes[0].id}`)).status).toBe(409);
    expect(await frameNow(hers.id)).toBeUndefined();
    expect((await detail()).subjects.map(({ name }) => name)).not.toContain('Hal');
    expect((await f.call('GET', `/frames/${hers.id}/thumbnail`)).status).toBe(404);
  });
  test('it goes out as a list and as slates', async () => {
    const csv = await fetch(`${f.address}/api/shoots/${shootId}/roster.csv`);
    expect(csv.headers.get('content-disposition')).toContain('Fair-roster.csv');
    expect((await csv.text()).split('\n')[0]).toContain('Number,Name,Group');
    const pdf = await fetch(`${f.address}/api/shoots/${shootId}/slates.pdf`);
    const bytes = Buffer.from(await pdf.arrayBuffer());
    expect(bytes.toString('latin1', 0, 5)).toBe('%PDF-');
    const pages = bytes.toString('latin1').match(/\/Type \/Page\b/g)?.length;
    expect(pages).toBe((await detail()).subjects.length);
  });
});

describe('frames as they come', () => {
  test('are read by a job: a slate’s number, the screen, and who is nobody’s', async () => {
    const code = await QRCode.toBuffer([{ data: slateText('17'), mode: 'alphanumeric' }], { width: 70, margin: 4 });
    const turned = await sharp(code).rotate(12, { background: '#fff' }).png().toBuffer();
    const base = sharp({ create: { width: 300, height: 450, channels: 3, background: '#2fae55' } });
    const slate = await addFrame(base.composite([{ input: turned, left: 90, top: 200 }]).png());
    expect(slate.facts).toBeNull();
    await f.idle();
    expect((await frameNow(slate.id))?.facts).toMatchObject({
      kind: 'slate',
      slate: '17',
      screen: { colour: 'green' },
    });
  });
  test('keep what the camera wrote, and take the clock that was set right for it', async () => {
    const taken = (second: number) =>
      sampleImage({ shade: ++shade })
        .jpeg()
        .withExif({
          IFD0: { Make: 'Maker', Model: 'Maker One' },
          IFD2: {
            DateTimeOriginal: `2026:06:13 10:00:${second}`,
            FNumber: '56/10',
            ExposureTime: '1/160',
            ISOSpeedRatings: '200',
            FocalLength: '85/1',
          },
        });
    const first = await addFrame(taken(10));
    expect(first).toMatchObject({
      takenAt: '2026-06-13T10:00:10',
      camera: { body: 'Maker One', aperture: 5.6, iso: 200, focal: 85 },
    });
    expect(first.camera.shutter).toBeCloseTo(1 / 160, 6);
    const set = await f.call<Frame[]>('PUT', `/shoots/${shootId}/clocks`, { body: 'Maker One', seconds: 3600 });
    expect(set.body.map(({ id, takenAt }) => [id, takenAt])).toEqual([[first.id, '2026-06-13T11:00:10']]);
    expect((await addFrame(taken(20))).takenAt).toBe('2026-06-13T11:00:20');
  });
  test('of several plates the nearest in time is under a frame; a clock set right makes it another one', async () => {
    const taken = (body: string, time: string) =>
      sampleImage({ shade: ++shade })
        .jpeg()
        .withExif({ IFD0: { Make: 'Maker', Model: body }, IFD2: { DateTimeOriginal: `2026:06:13 ${time}` } });
    const early = await addFrame(taken('Maker Two', '09:00:00'));
    const late = await addFrame(taken('Maker Two', '13:00:00'));
    await sort([{ frameIds: [early.id, late.id], plate: true }]);
    const frame = await addFrame(taken('Maker Three', '10:00:00'));
    const wantedBy = async (plate: Frame): Promise<boolean> => {
      const { orders } = await detail();
      const [{ file }] = await f.database.select().from(frames).where(eq(frames.id, plate.id));
      const order = { recipe: defaultRecipe, guidance: noGuidance, plate: file };
      return orders.find(({ id }) => id === frame.id)?.wanted === fingerprintOf(order);
    };
    expect([await wantedBy(early), await wantedBy(late)]).toEqual([true, false]);
    await f.call('PUT', `/shoots/${shootId}/clocks`, { body: 'Maker Three', seconds: 7200 });
    expect([await wantedBy(early), await wantedBy(late)]).toEqual([false, true]);
    await sort([{ frameIds: [early.id, late.id], plate: false }]);
  });
});

describe('raw files', () => {
  const dng = (level: number): Buffer => {
    const [width, height] = [120, 160];
    const data = new Uint16Array(width * height * 3).fill(level);
    const camera = { ...noCamera, body: 'Stand-in Camera', focal: 85, aperture: 5.6, shutter: 0.01, iso: 200 };
    return encodeDng(sensorReading({ width, height, channels: 3, data }), camera, '2026:06:13 09:00:01');
  };
  const send = (name: string, content: Buffer) =>
    f.call<ImportResult>('POST', `/setups/${setupId}/frames?name=${name}`, content);
  const toneOf = async ({ id }: Frame): Promise<number> => {
    const answer = await fetch(`${f.address}/api/frames/${id}/region?view=photograph&x=40&y=40&width=8&height=8`);
    const { channels } = await sharp(Buffer.from(await answer.arrayBuffer())).stats();
    return channels[1].mean;
  };
  test('are developed as they come, and anew when the setup says otherwise; the raw file stays', async () => {
    const { body } = await send('R1.dng', dng(20_000));
    if (body.outcome !== 'stored') throw new Error(JSON.stringify(body));
    const { frame } = body;
    expect(frame).toMatchObject({ raw: true, depth: 16, takenAt: '2026-06-13T09:00:01', camera: { iso: 200 } });
    expect(await toneOf(frame)).toBeCloseTo(20_000 / 257, -0.5);
    const develop = { exposure: 1, warmth: 0 };
    expect((await f.call('PATCH', `/setups/${setupId}`, { develop })).status).toBe(200);
    await f.idle();
    const later = await frameNow(frame.id);
    expect(later?.picture).not.toBe(frame.picture);
    expect(await toneOf(frame)).toBeGreaterThan(1.25 * (20_000 / 257));
    await f.call('PATCH', `/setups/${setupId}`, { develop: { exposure: 0, warmth: 0 } });
    await f.idle();
    expect((await frameNow(frame.id))?.picture).toBe(frame.picture);
    // Moved to a setup that develops otherwise, and back.
    const { body: other } = await f.call<{ id: number }>('POST', `/shoots/${shootId}/setups`, { name: 'Dusk' });
    await f.call('PATCH', `/setups/${other.id}`, { develop });
    const move = (to: number) =>
      f.call('PUT', `/shoots/${shootId}/sorting`, { changes: [{ frameIds: [frame.id], setupId: to }] });
    expect((await move(other.id)).status).toBe(200);
    await f.idle();
    expect((await frameNow(frame.id))?.picture).toBe(later?.picture);
    await move(setupId);
    await f.idle();
    expect((await frameNow(frame.id))?.picture).toBe(frame.picture);
  });
  test('one and the photograph beside it are one frame, whichever comes first', async () => {
    const jpeg = await sampleImage({ shade: ++shade })
      .jpeg()
      .withExif({ IFD2: { DateTimeOriginal: '2026:06:13 09:00:01' } })
      .toBuffer();
    const first = (await send('R2.JPG', jpeg)).body;
    const second = (await send('R2.dng', dng(30_000))).body;
    if (first.outcome !== 'stored' || second.outcome !== 'stored') throw new Error('not stored');
    expect(second.frame).toMatchObject({ id: first.frame.id, name: 'R2.dng', raw: true });
    const again = await sampleImage({ shade: ++shade })
      .jpeg()
      .withExif({ IFD2: { DateTimeOriginal: '2026:06:13 09:00:01' } })
      .toBuffer();
    expect((await send('r2.jpg', again)).body).toMatchObject({ outcome: 'duplicate', of: 'R2.dng' });
  });
  test('one that cannot be read is refused in words', async () => {
    expect((await send('R3.dng', dng(9_000).subarray(0, 500))).body).toMatchObject({
      outcome: 'refused',
      reason: expect.stringContaining('raw file that cannot be read') as string,
    });
  });
});

describe('a watched folder', () => {
  test('files are taken once, when they stand still; what is refused is said; frames are cut as they come', async () => {
    const folder = await mkdtemp(join(tmpdir(), 'silent-lawn-watched-'));
    const setup = (await f.call<Setup>('POST', `/shoots/${shootId}/setups`, { name: 'Tethered' })).body;
    const refused = await f.call<Problem>('PATCH', `/setups/${setup.id}`, { watch: join(folder, 'nowhere') });
    expect([refused.status, refused.body.reason]).toEqual([
      400,
      expect.stringContaining('is no folder of this machine'),
    ]);
    expect((await f.call('PATCH', `/setups/${setup.id}`, { watch: folder, follow: true })).status).toBe(200);
    const watcher = new Watcher(f.context);
    const setupNow = async (): Promise<Setup | undefined> => (await detail()).setups.find(({ id }) => id === setup.id);
    const namesNow = async (): Promise<string[]> =>
      (await detail()).frames.filter(({ setupId }) => setupId === setup.id).map(({ name }) => name);
    const whole = await sampleImage({ shade: ++shade, width: 300, height: 400 }).jpeg().toBuffer();

    await writeFile(join(folder, 'W1.jpg'), whole.subarray(0, 900));
    await writeFile(join(folder, 'W9.jpg.part'), whole);
    await watcher.lookOnce();
    await writeFile(join(folder, 'W1.jpg'), whole);
    await watcher.lookOnce();
    expect(await namesNow()).toEqual([]);
    await watcher.lookOnce();
    expect(await namesNow()).toEqual(['W1.jpg']);

    await writeFile(join(folder, 'notes.txt'), 'no picture');
    for (let n = 0; n < 3; n++) await watcher.lookOnce();
    // Another one, as after a restart, knows what was taken.
    const later = new Watcher(f.context);
    for (let n = 0; n < 3; n++) await later.lookOnce();
    expect((await setupNow())?.watched).toEqual({
      taken: 1,
      refused: [
        expect.objectContaining({ name: 'notes.txt', reason: expect.stringContaining('not a JPEG') as string }),
      ],
    });
    await f.idle();
    const [frame] = (await detail()).frames.filter(({ setupId }) => setupId === setup.id);
    expect(frame.cut).not.toBeNull();
    expect(frame.facts).not.toBeNull();
    await rm(folder, { recursive: true });
    await watcher.lookOnce();
  });
});

describe('sorting', () => {
  test('frames move between setups, a plate stays one where it goes; an empty setup can be removed', async () => {
    const other = (await f.call<Setup>('POST', `/shoots/${shootId}/setups`, { name: 'Window' })).body;
    const frame = await addFrame();
    await sort([{ frameIds: [frame.id], plate: true }]);
    expect((await sort([{ frameIds: [frame.id], setupId: other.id }])).body).toMatchObject([
      { setupId: other.id, plate: true },
    ]);
    const refused = await f.call<Problem>('DELETE', `/setups/${other.id}`);
    expect([refused.status, refused.body.reason]).toEqual([409, '“Window” still has 1 frame']);
    await sort([{ frameIds: [frame.id], setupId, plate: false }]);
    const round = (await f.call<{ id: number }>('POST', `/setups/${other.id}/checks`)).body;
    const tested = await f.call<Problem>('DELETE', `/setups/${other.id}`);
    expect([tested.status, tested.body.reason]).toEqual([409, expect.stringContaining('was tested')]);
    await f.call('DELETE', `/checks/${round.id}`);
    expect((await f.call('DELETE', `/setups/${other.id}`)).status).toBe(204);
    expect((await sort([{ frameIds: [frame.id], setupId: other.id }])).status).toBe(409);
  });
  test('frames of other shoots and such that are gone are passed over', async () => {
    const frame = await addFrame();
    const { status, body } = await sort([{ frameIds: [frame.id, 999_999], pick: 'reserve' }]);
    expect([status, body.map(({ id, pick }) => [id, pick])]).toEqual([200, [[frame.id, 'reserve']]]);
  });
});

describe('what leaves the house', () => {
  async function cutFrame(subject: string): Promise<Frame> {
    const frame = await addFrame();
    const file = await f.store.put(await sampleImage({ shade: ++shade }).ensureAlpha().png().toBuffer());
    await f.database
      .insert(cuts)
      .values({ frameId: frame.id, file, depth: 8, recipe: defaultRecipe, quality: someQuality() });
    await sort([{ frameIds: [frame.id], subject }]);
    return frame;
  }
  test('neither what was dropped nor who said no is handed over; a no that comes later holds as well', async () => {
    const [yes, no, late] = await addSubjects({ name: 'Ida', consent: 'yes' }, { name: 'Jon', consent: 'no' }, 'Kim');
    const [shown, refused, later, dropped] = [
      await cutFrame(yes.name),
      await cutFrame(no.name),
      await cutFrame(late.name),
      await cutFrame('Ida'),
    ];
    await sort([{ frameIds: [dropped.id], pick: 'drop' }]);
    const { body } = await f.call<Delivery>('POST', `/shoots/${shootId}/deliveries`, {
      ...someDeliverySettings(),
      presets: someDeliverySettings().presets.slice(0, 1),
    });
    await f.idle();
    expect(body.keptBack).toEqual([{ frame: refused.name, subject: 'Jon', reason: 'said no' }]);
    const names = async (): Promise<string[]> =>
      (await handedOver(f.context, body.id)).files
        .map(({ frame }) => frame)
        .filter((name) => name.startsWith('G'))
        .toSorted();
    expect(await names()).toEqual([shown.name, later.name].toSorted());
    await f.call('PATCH', `/subjects/${late.id}`, { consent: 'no' });
    expect(await names()).toEqual([shown.name]);
  });
});
