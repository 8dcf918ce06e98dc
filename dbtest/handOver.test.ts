import { execFileSync } from 'node:child_process';
import { mkdtemp, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type {
  BackgroundResult,
  Delivery,
  DeliverySettings,
  Frame,
  Problem,
  Shoot,
  ShootDetail,
} from '../contract/index.ts';
import { someDeliverySettings, someQuality } from '../contract/testing/items.ts';
import { defaultRecipe } from '../core/cut/index.ts';
import { noSubject } from '../core/gather/subject.ts';
import { noPapers, type Preset } from '../core/handOver/index.ts';
import { cuts, deliveryFiles } from '../server/database/schema.ts';
import { handedOver } from '../server/stations/handOver/manifest.ts';
import { sampleImage } from '../server/testing/samples.ts';
import { served, type Served } from './served.ts';

/** What comes out at Hand over, over HTTP. */

let f: Served;
let shootId: number;
let setupId: number;
let folder: string;
let background: number;
beforeAll(async () => {
  f = await served();
  folder = await mkdtemp(join(tmpdir(), 'silent-lawn-client-'));
  shootId = (await f.call<Shoot>('POST', '/shoots', { name: 'Fair', date: '2026-06-13' })).body.id;
  setupId = (await detail()).setups[0].id;
  const picture = await sharp({ create: { width: 600, height: 400, channels: 3, background: '#246' } })
    .png()
    .toBuffer();
  const { body } = await f.call<BackgroundResult>('POST', '/backgrounds?name=dusk.png', picture);
  if (body.outcome !== 'stored') throw new Error('not stored');
  background = body.background.id;
  const consents = { Ida: 'yes', Kim: 'prints' } as const;
  const subjects = Object.entries(consents).map(([name, consent]) => ({ ...noSubject, name, consent }));
  await f.call('POST', `/shoots/${shootId}/subjects`, { subjects });
});
afterAll(async () => {
  await f.close();
  await rm(folder, { recursive: true, force: true });
});

const detail = async (): Promise<ShootDetail> => (await f.call<ShootDetail>('GET', `/shoots/${shootId}`)).body;
let shade = 0;
async function cutFrame(subject: string, placed = true): Promise<Frame> {
  const content = await sampleImage({ shade: ++shade }).png().toBuffer();
  const { body } = await f.call<{ frame: Frame }>('POST', `/setups/${setupId}/frames?name=H${shade}.png`, content);
  const { id } = body.frame;
  const file = await f.store.put(await sampleImage({ shade: ++shade }).ensureAlpha().png().toBuffer());
  await f.database.insert(cuts).values({ frameId: id, file, depth: 8, recipe: defaultRecipe, quality: someQuality() });
  await f.call('PUT', `/shoots/${shootId}/sorting`, { changes: [{ frameIds: [id], subject }] });
  const placement = { backgroundId: background, x: 0.5, y: 1, height: 0.9 };
  if (placed) await f.call('PUT', `/shoots/${shootId}/placements`, { frameIds: [id], placement });
  return body.frame;
}
async function handOver(settings: Partial<DeliverySettings>): Promise<Delivery> {
  const { body } = await f.call<Delivery>(
    'POST',
    `/shoots/${shootId}/deliveries`,
    someDeliverySettings({ chosen: { picks: 'all', subjects: null, setups: null, backgrounds: null }, ...settings }),
  );
  await f.idle();
  return (await detail()).deliveries.find(({ id }) => id === body.id) ?? body;
}
const print: Preset = {
  name: 'Small',
  kind: 'print',
  width: 40,
  height: 60,
  resolution: 100,
  bleed: 0,
  safe: 0,
  profile: 'srgb',
  intent: 'relative',
  paper: 'none',
  format: 'jpeg',
  quality: 90,
};
const only = (subject: string) => ({ picks: 'all' as const, subjects: [subject], setups: null, backgrounds: null });

describe('a hand-over', () => {
  test('who allows only prints is in the prints alone, in no paper, and it is said; a later no takes them out', async () => {
    await cutFrame('Kim');
    const presets = [...someDeliverySettings().presets, print];
    const made = await handOver({ presets, chosen: only('Kim'), papers: { ...noPapers, proof: true } });
    expect(made.keptBack[0].reason).toContain('allows only prints');
    const { files, small } = await handedOver(f.context, made.id);
    expect(files.map(({ preset, consent }) => [preset, consent])).toEqual([['Small', 'prints']]);
    expect(small).toEqual([]);
    const [kim] = (await detail()).subjects.filter(({ name }) => name === 'Kim');
    await f.call('PATCH', `/subjects/${kim.id}`, { consent: 'no' });
    const later = await handedOver(f.context, made.id);
    expect(later.files).toEqual([]);
    expect(later.keptBack.some(({ reason }) => reason.startsWith('said no'))).toBe(true);
  });

  test('its ZIP is whole, its checksums hold, and a download that broke off goes on with the same bytes', async () => {
    await cutFrame('Ida');
    const { id } = await handOver({
      chosen: only('Ida'),
      papers: { contact: true, slips: true, proof: true },
      names: '{subject}/{preset} {count}',
    });
    const address = `${f.address}/api/deliveries/${id}/zip`;
    const first = await fetch(address);
    const zip = Buffer.from(await first.arrayBuffer());
    expect(Number(first.headers.get('content-length'))).toBe(zip.length);
    const tag = first.headers.get('etag') ?? '';
    const rest = await fetch(address, { headers: { range: 'bytes=5000-', 'if-range': tag } });
    expect([rest.status, rest.headers.get('content-range')]).toEqual([
      206,
      `bytes 5000-${zip.length - 1}/${zip.length}`,
    ]);
    expect(Buffer.from(await rest.arrayBuffer()).equals(zip.subarray(5000))).toBe(true);
    const other = await fetch(address, { headers: { range: 'bytes=5000-', 'if-range': '"another"' } });
    expect(other.status).toBe(200);
    await other.body?.cancel();
    expect((await fetch(address, { headers: { range: `bytes=${zip.length}-` } })).status).toBe(416);

    await writeFile(join(folder, 'a.zip'), zip);
    execFileSync('unzip', ['-q', join(folder, 'a.zip'), '-d', join(folder, 'zip')]);
    const said = execFileSync('sha256sum', ['-c', 'checksums.txt'], { cwd: join(folder, 'zip'), encoding: 'utf8' });
    expect(said).toContain('Ida/Cutouts 1.png: OK');
    const manifest = JSON.parse(await readFile(join(folder, 'zip', 'manifest.json'), 'utf8')) as { files: object[] };
    expect(manifest.files).toHaveLength(2);
    const info = execFileSync('pdfinfo', [join(folder, 'zip', 'contact sheet.pdf')], { encoding: 'utf8' });
    expect(info).toMatch(/Pages: +1/);
    const slip = execFileSync('pdftotext', [join(folder, 'zip', 'order slips.pdf'), '-'], { encoding: 'utf8' });
    expect(slip).toContain('Ida');
    const html = await readFile(join(folder, 'zip', 'proof', 'index.html'), 'utf8');
    expect(html).not.toMatch(/https?:/);
    expect(await readdir(join(folder, 'zip', 'proof', 'pictures'))).toEqual(['1.jpg']);
  });

  test('made again makes only what changed, and says what is different', async () => {
    const [same, moved] = [await cutFrame('Lou'), await cutFrame('Lou')];
    const first = await handOver({ presets: [print], chosen: only('Lou') });
    const crop = { x: 0.1, y: 0.1, width: 0.2 };
    const { body: cropped } = await f.call<Frame>('PUT', `/frames/${moved.id}/crop`, { shape: '0.667', crop });
    expect(cropped.crops).toEqual({ '0.667': crop });
    await cutFrame('Lou');
    const { body } = await f.call<Delivery>('POST', `/deliveries/${first.id}/again`);
    await f.idle();
    const again = (await detail()).deliveries.find(({ id }) => id === body.id);
    expect(again?.differences).toMatchObject({ of: first.id, same: 1, gone: [] });
    expect(again?.differences?.changed).toEqual([`Small/${moved.name.replace('.png', '')}.jpg`]);
    expect(again?.differences?.added).toHaveLength(1);
    const rows = (await f.database.select().from(deliveryFiles)).filter(({ frameId }) => frameId === same.id);
    expect(new Set(rows.map(({ file }) => file)).size).toBe(1);
  });

  test('goes into a folder, once more without a copy, and never over another file', async () => {
    await cutFrame('Max');
    const { id } = await handOver({ chosen: only('Max'), names: '{preset}' });
    const copy = () => f.job(`/deliveries/${id}/folder`, { folder });
    expect((await copy()).state).toBe('done');
    const made = join(folder, `Fair 2026-06-13 hand-over ${id}`);
    expect((await readdir(made)).toSorted()).toEqual([
      'Cutouts.png',
      'Finished.jpg',
      'checksums.txt',
      'manifest.csv',
      'manifest.json',
    ]);
    expect((await copy()).state).toBe('done');
    await writeFile(join(made, 'Finished.jpg'), 'something of their own');
    const refused = await copy();
    expect(refused.state).toBe('failed');
    expect(refused.problem?.reason).toContain('is there already and is another file');
    expect(await readFile(join(made, 'Finished.jpg'), 'utf8')).toBe('something of their own');
    const nowhere = await f.call<Problem>('POST', `/deliveries/${id}/folder`, { folder: '/no/such/folder' });
    expect([nowhere.status, nowhere.body.reason]).toEqual([400, expect.stringContaining('is no folder')]);
  });

  test('of nobody who stands on a background is refused with the way out; a removed one leaves the list', async () => {
    await cutFrame('Nox', false);
    const settings = someDeliverySettings({ presets: [print], chosen: only('Nox') });
    const refused = await f.call<Problem>('POST', `/shoots/${shootId}/deliveries`, settings);
    expect([refused.status, refused.body.reason]).toEqual([409, expect.stringContaining('stands on a background')]);
    const made = await handOver({ chosen: only('Nox') });
    expect(made.notPlaced).toHaveLength(1);
    expect((await f.call('DELETE', `/deliveries/${made.id}`)).status).toBe(204);
    expect((await detail()).deliveries.some(({ id }) => id === made.id)).toBe(false);
  });
});

test('a profile is taken once under the name it says; another file is refused with its name', async () => {
  const { icc } = await sharp(
    await sharp({ create: { width: 1, height: 1, channels: 3, background: '#fff' } })
      .withIccProfile('p3')
      .png()
      .toBuffer(),
  ).metadata();
  const first = await f.call<{ id: number }>('POST', '/library/profiles?name=wide.icc', icc);
  expect(first).toMatchObject({ status: 201, body: { item: { kind: 'profile' } } });
  expect((await f.call<{ id: number }>('POST', '/library/profiles?name=again.icc', icc)).body.id).toBe(first.body.id);
  const refused = await f.call<Problem>('POST', '/library/profiles?name=no.icc', Buffer.from('nothing'));
  expect([refused.status, refused.body.reason]).toEqual([400, '“no.icc” cannot be taken: it is no colour profile']);
});
