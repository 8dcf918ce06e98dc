import { mkdtemp, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test, type Page } from '@playwright/test';
import sharp from 'sharp';
import type { ShootDetail } from '../contract/index.ts';
import { demoFrames, demoShot, takeFrame } from '../core/studio/index.ts';
import { fromRaster } from '../server/pictures/encode.ts';
import { sampleImage } from '../server/testing/samples.ts';
import { withSlate } from '../server/testing/withSlate.ts';
import { violations } from './axe.ts';
import { address, newShoot } from './newShoot.ts';

/** From files and a list of names to people and picks, by keys. */

/** Three guests, each with a slate and two frames, a minute apart. */
async function writeShoot(): Promise<string[]> {
  const folder = await mkdtemp(join(tmpdir(), 'silent-lawn-e2e-gather-'));
  const files: string[] = [];
  for (const [n, frame] of [demoFrames[0], demoFrames[2], demoFrames[4]].entries()) {
    const { plan, shot } = demoShot(frame, 480);
    const taken = takeFrame(plan, shot).frame;
    const pictures = [
      await withSlate(taken, `${n + 7}`, { turned: 8 * n - 6 }),
      await fromRaster(taken).png().toBuffer(),
      await fromRaster(taken).modulate({ brightness: 0.98 }).png().toBuffer(),
    ];
    for (const [k, picture] of pictures.entries()) {
      const path = join(folder, `G_${n}${k}.jpg`);
      const at = `2026:06:13 10:0${n}:${10 + 15 * k}`;
      const content = await sharp(picture)
        .jpeg({ quality: 95 })
        .withExif({ IFD2: { DateTimeOriginal: at } })
        .toBuffer();
      await writeFile(path, content);
      files.push(path);
    }
  }
  return files;
}

/** A slate and two frames of each guest in three setups that differ in lens and exposure, each between two frames of its empty screen. */
async function writeEvent(numbers: readonly string[]): Promise<string[]> {
  const folder = await mkdtemp(join(tmpdir(), 'silent-lawn-e2e-event-'));
  const rendered = [demoFrames[0], demoFrames[2], demoFrames[4]].map((frame) => {
    const { plan, shot } = demoShot(frame, 400);
    return { person: takeFrame(plan, shot).frame, empty: takeFrame(plan, { ...shot, kind: 'plate' }).frame };
  });
  const files: string[] = [];
  const write = async (picture: Buffer, setup: number, minute: number, second: number): Promise<void> => {
    const path = join(folder, `E_${String(files.length).padStart(3, '0')}.jpg`);
    const clock = [9 + Math.floor(minute / 60), minute % 60, second].map((v) => String(v).padStart(2, '0')).join(':');
    const { focal, iso } = [
      { focal: 85, iso: 200 },
      { focal: 50, iso: 200 },
      { focal: 85, iso: 800 },
    ][setup];
    await sharp(picture)
      .jpeg({ quality: 94 })
      .withExif({
        IFD2: {
          DateTimeOriginal: `2026:06:13 ${clock}`,
          FocalLength: `${focal}/1`,
          FNumber: '56/10',
          ExposureTime: '1/160',
          ISOSpeedRatings: `${iso}`,
        },
      })
      .toFile(path);
    files.push(path);
  };
  for (const [n, number] of numbers.entries()) {
    const setup = Math.floor((3 * n) / numbers.length);
    const { person, empty } = rendered[n % 3];
    // Guests come a minute apart, setups half an hour.
    const minute = n + 30 * setup;
    const plate = await fromRaster(empty).png().toBuffer();
    if (n === 0 || Math.floor((3 * (n - 1)) / numbers.length) < setup) await write(plate, setup, minute, 0);
    const picture = await fromRaster(person).png().toBuffer();
    const three = [await withSlate(person, number, {}), picture, picture];
    for (const [k, content] of three.entries()) await write(content, setup, minute, 10 + 15 * k);
    if (Math.floor((3 * (n + 1)) / numbers.length) > setup) await write(plate, setup, minute, 55);
  }
  return files;
}

const frames = async (page: Page): Promise<ShootDetail['frames']> => {
  const id = /shoots\/(\d+)/.exec(page.url())?.[1];
  return ((await (await page.request.get(`${address()}api/shoots/${id}`)).json()) as ShootDetail).frames;
};

test('a shoot is gathered: list of names, files, who is on them by their slates, picks by keys', async ({ page }) => {
  await newShoot(page, 'Fair');
  await page.getByRole('tab', { name: /Roster/ }).click();
  await page.getByRole('button', { name: 'Bring in a list' }).click();
  await page
    .getByLabel('The list')
    .fill('No;Name;May we;Shoes\n7;Ada Berg;yes;38\n8;Bo Lund;no;41\n9;Cy Ness;?;40\n;;;\n');
  await expect(page.getByLabel('Column 3')).toHaveValue('none');
  await page.getByLabel('Column 3').selectOption('consent');
  await page.getByRole('button', { name: 'Add 3 people' }).click();
  await expect(page.getByText('3 people, 3 without a frame, 1 said no')).toBeVisible();
  expect(await violations(page)).toEqual([]);

  await page.getByRole('tab', { name: /Frames/ }).click();
  await page.getByLabel('Frame files').setInputFiles(await writeShoot());
  await expect(page.getByText('Import finished')).toBeVisible();
  await page.getByRole('tab', { name: /Sort/ }).click();
  await expect(page.getByRole('listitem', { name: 'Ada Berg, 3 frames' })).toBeVisible();
  await expect(page.getByText(/still being read/)).toHaveCount(0);
  expect(await violations(page)).toEqual([]);
  await page.getByRole('button', { name: 'Take 3 sure proposals' }).click();
  await expect(page.getByText('every frame has its person')).toBeVisible();
  await expect(page.getByText('1 setup, as the frames stand')).toBeVisible();
  const named = async (): Promise<string[]> => (await frames(page)).map(({ subject, pick }) => `${subject} ${pick}`);
  const [ada, bo, cy] = ['Ada Berg', 'Bo Lund', 'Cy Ness'];
  await expect.poll(named).toEqual([ada, bo, cy].flatMap((name) => [`${name} drop`, `${name} null`, `${name} null`]));

  await page.getByRole('tab', { name: /Picks/ }).click();
  await page.getByLabel('Pick', { exact: true }).selectOption('none');
  await expect(page.getByText('6 frames', { exact: true })).toBeVisible();
  await page.getByLabel('Pick', { exact: true }).blur();
  expect(await violations(page)).toEqual([]);
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Enter');
  const look = page.getByRole('region', { name: 'Fast look' });
  await expect(look.getByRole('status')).toContainText('1 of 6');
  await expect(look.getByText(ada)).toBeVisible();
  await page.keyboard.press('b');
  await expect(look.getByRole('figure')).toHaveCount(3);
  await page.keyboard.press('0');
  await expect(look.getByRole('img').first()).toHaveAttribute('src', /region/);
  for (const key of ['k', 'd', 'k', 'r']) await page.keyboard.press(key);
  await expect(look.getByRole('status')).toContainText('5 of 6');
  await page.keyboard.press('Escape');
  await expect(look).toHaveCount(0);
  const picked = async (): Promise<(string | null)[]> =>
    (await frames(page)).filter(({ facts }) => facts?.kind !== 'slate').map(({ pick }) => pick);
  await expect.poll(picked).toEqual(['keep', 'drop', 'keep', 'reserve', null, null]);

  // What was picked last is taken back; a reload keeps the rest.
  await page.keyboard.press('Control+z');
  await expect.poll(picked).toEqual(['keep', 'drop', 'keep', null, null, null]);
  await page.reload();
  await page.getByLabel('Pick', { exact: true }).selectOption('keep');
  await expect(page.getByText('2 frames', { exact: true })).toBeVisible();
});

test('an event of 18 guests in three setups: files in, sorted, named and picked, by keys', async ({ page }) => {
  const guests = Array.from({ length: 18 }, (_, n) => ({ number: `${n + 101}`, name: `Guest ${n + 101}` }));
  await newShoot(page, 'Event');
  await page.getByRole('tab', { name: /Roster/ }).click();
  await page.getByRole('button', { name: 'Bring in a list' }).focus();
  await page.keyboard.press('Enter');
  await page
    .getByLabel('The list')
    .fill(`No;Name\n${guests.map(({ number, name }) => `${number};${name}`).join('\n')}`);
  await page.getByRole('button', { name: 'Add 18 people' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByText('18 people, 18 without a frame')).toBeVisible();

  await page.getByRole('tab', { name: /Frames/ }).click();
  await page.getByLabel('Frame files').setInputFiles(await writeEvent(guests.map(({ number }) => number)));
  await expect(page.getByText('Import finished')).toBeVisible({ timeout: 200_000 });
  await page.getByRole('tab', { name: /Sort/ }).click();
  await expect(page.getByText(/still being read/)).toHaveCount(0, { timeout: 400_000 });
  await page.getByRole('button', { name: 'Take 18 sure proposals' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByText('every frame has its person')).toBeVisible();
  await page.getByRole('button', { name: 'Sort them so' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByText('3 setups, as the frames stand')).toBeVisible();
  await page.getByRole('button', { name: 'Take 6 as plates' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByText(/under \d+ frames taken nearest to it/)).toHaveCount(6);
  // The page shows a change before the server has it.
  await expect.poll(async () => (await frames(page)).filter(({ plate }) => plate).length).toBe(6);
  const all = (await frames(page)).toSorted((a, b) => a.name.localeCompare(b.name));
  expect(all.filter(({ plate }) => !plate).map(({ subject }) => subject)).toEqual(
    guests.flatMap(({ name }) => [name, name, name]),
  );
  const setups = all.map(({ setupId }) => setupId);
  expect([...new Set(setups)].map((id) => [setups.indexOf(id), setups.lastIndexOf(id)])).toEqual([
    [0, 19],
    [20, 39],
    [40, 59],
  ]);

  await page.getByRole('tab', { name: /Picks/ }).click();
  await page.getByLabel('Pick', { exact: true }).selectOption('none');
  await page.getByLabel('Pick', { exact: true }).blur();
  await expect(page.getByText('36 frames', { exact: true })).toBeVisible();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Enter');
  const look = page.getByRole('region', { name: 'Fast look' });
  for (let n = 0; n < 36; n++) await page.keyboard.press(n % 2 ? 'r' : 'k');
  await expect(look.getByRole('status')).toContainText('36 of 36');
  await page.keyboard.press('Escape');
  await expect.poll(async () => (await frames(page)).filter(({ pick }) => pick === 'keep').length).toBe(18);
  await expect.poll(async () => (await frames(page)).filter(({ pick }) => pick === 'reserve').length).toBe(18);
});

test('frames are moved to another setup by keys, and who is on them is said for many at once', async ({ page }) => {
  await newShoot(page, 'Moved');
  await page.getByLabel('Frame files').setInputFiles(await writeShoot());
  await expect(page.getByText('Import finished')).toBeVisible();
  await page.getByRole('button', { name: 'Add a setup' }).click();
  await page.getByRole('tab', { name: /Picks/ }).click();
  await page.getByRole('button', { name: 'G_01.jpg' }).click();
  await expect(page.getByRole('button', { name: 'G_01.jpg' })).toBeFocused();
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('Shift+ArrowRight');
  await expect(page.getByText('9 frames, 3 chosen')).toBeVisible();
  await page.keyboard.press('s');
  await expect(page.getByLabel('Move to setup')).toBeFocused();
  await page.getByLabel('Move to setup').selectOption({ label: 'Setup 2' });
  await page.keyboard.press('w');
  await page.keyboard.type('Dee');
  await page.keyboard.press('Enter');
  const moved = async (): Promise<string[]> => {
    const all = await frames(page);
    return all.filter(({ setupId }) => setupId !== all[0].setupId).map(({ name, subject }) => `${name} ${subject}`);
  };
  await expect.poll(moved).toEqual(['G_01.jpg Dee', 'G_02.jpg Dee', 'G_10.jpg Dee']);
  await page.keyboard.press('Escape');
  // A box over the first two pictures.
  const first = await page.getByRole('button', { name: 'G_00.jpg' }).boundingBox();
  const second = await page.getByRole('button', { name: 'G_01.jpg' }).boundingBox();
  if (!first || !second) throw new Error('no pictures');
  await page.mouse.move(first.x + 10, first.y + 20);
  await page.mouse.down();
  await page.mouse.move(second.x + 30, second.y + 60, { steps: 5 });
  await page.mouse.up();
  await expect(page.getByText('9 frames, 2 chosen')).toBeVisible();
  // What is chosen is dragged onto a setup that is made for it.
  await page.mouse.move(first.x + 20, first.y + 40);
  await page.mouse.down();
  await page.mouse.move(first.x + 60, first.y + 10, { steps: 4 });
  const target = await page.getByText('a new setup', { exact: true }).boundingBox();
  if (!target) throw new Error('nowhere to drop');
  await page.mouse.move(target.x + target.width / 2, target.y + target.height / 2, { steps: 4 });
  await page.mouse.up();
  await expect.poll(async () => new Set((await frames(page)).map(({ setupId }) => setupId)).size).toBe(3);
  const [own] = (await frames(page)).filter(({ name }) => name === 'G_00.jpg');
  expect((await frames(page)).filter(({ setupId }) => setupId === own.setupId).map(({ name }) => name)).toEqual([
    'G_00.jpg',
    'G_01.jpg',
  ]);
  await page.keyboard.press('Control+a');
  await expect(page.getByText('9 frames, 9 chosen')).toBeVisible();
  await page.getByRole('button', { name: 'G_12.jpg' }).dblclick();
  await expect(page.getByRole('region', { name: 'Fast look' }).getByText('G_12.jpg')).toBeVisible();
});

test('a whole folder is chosen; what is no picture in it is refused by name', async ({ page }) => {
  await newShoot(page, 'Folder');
  const folder = await mkdtemp(join(tmpdir(), 'silent-lawn-e2e-folder-'));
  await writeFile(join(folder, 'A.jpg'), await sampleImage({ shade: 41 }).jpeg().toBuffer());
  await writeFile(join(folder, 'B.webp'), await sampleImage({ shade: 42 }).webp({ lossless: true }).toBuffer());
  await writeFile(join(folder, 'list.txt'), 'no picture');
  await page.getByLabel('Folder of frames').setInputFiles(folder);
  await expect(page.getByText('2 taken in, 0 already here, 1 refused, 0 to go')).toBeVisible();
  await expect(page.getByText('list.txt')).toBeVisible();
});
