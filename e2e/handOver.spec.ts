import { mkdtemp, readdir, readFile, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { expect, test, type Page } from '@playwright/test';
import type { ShootDetail } from '../contract/index.ts';
import { demoFrames, demoShot, takeFrame } from '../core/studio/index.ts';
import { fromRaster } from '../server/pictures/encode.ts';
import { entriesOfZip } from '../server/zip/readZip.ts';
import { violations } from './axe.ts';
import { address, newShoot } from './newShoot.ts';
import { station } from './ruler.ts';

/** Hand over and the Log, by keys: prints with their crops, proof pages and back, notes, carrying the shoot away. */

test.describe.configure({ mode: 'serial' });

let folder: string;
let shoot: string;
const detail = async (page: Page): Promise<ShootDetail> =>
  (await (await page.request.get(`${address()}api/shoots/${shoot}`)).json()) as ShootDetail;

/** Moves on with Tab until something has the focus. */
async function tabTo(page: Page, role: 'button' | 'link' | 'checkbox' | 'textbox' | 'tab', name: string | RegExp) {
  const wanted = page.getByRole(role, { name }).first();
  await expect(wanted).toBeVisible();
  for (let n = 0; n < 120; n++) {
    if (await wanted.evaluate((element) => element === document.activeElement)) return;
    await page.keyboard.press('Tab');
  }
  throw new Error(`Tab does not reach ${String(name)}`);
}

test('two people, extracted and placed, are handed over as prints with their crops, all by keys', async ({ page }) => {
  folder = await mkdtemp(join(tmpdir(), 'silent-lawn-e2e-hand-'));
  const files: string[] = [];
  for (const [n, frame] of [demoFrames[0], demoFrames[4]].entries()) {
    const { plan, shot } = demoShot(frame, 720);
    const path = join(folder, `H_${n}.png`);
    await writeFile(path, await fromRaster(takeFrame(plan, shot).frame).png().toBuffer());
    files.push(path);
  }
  await newShoot(page, 'Prints at the pier');
  shoot = /shoots\/(\d+)/.exec(page.url())?.[1] ?? '';
  await page.getByLabel('Frame files').setInputFiles(files);
  await expect(page.getByText('2 taken in')).toBeVisible();
  await station(page, /^Extract/).click();
  await page.getByRole('button', { name: 'Extract 2 frames' }).click();
  await expect(station(page, /^Extract/)).toContainText('2 of 2');
  await station(page, /^Place/).click();
  await page.getByRole('button', { name: /Net loft/ }).click();
  await page.getByRole('button', { name: /Put all 2 frames here/ }).click();
  await expect(station(page, /^Place/)).toContainText('2 of 2');

  await station(page, /^Hand over/).click();
  await expect(page.getByRole('heading', { name: 'Hand over Prints at the pier' })).toBeVisible();
  await page.evaluate(() => localStorage.removeItem('silent-lawn-hand-over'));
  await page.reload();
  for (const preset of ['Print 13 × 18 cm', 'Sheet of four']) {
    await page.getByRole('button', { name: `Change ${preset}` }).click();
    await expect.poll(() => violations(page)).toEqual([]);
    await page.keyboard.press('Escape');
  }
  expect(await violations(page)).toEqual([]);
  await tabTo(page, 'checkbox', /^Screen/);
  await page.keyboard.press('Space');
  await tabTo(page, 'textbox', 'Pattern');
  await page.keyboard.press('ControlOrMeta+a');
  await page.keyboard.type('{preset}/{count} {frame}');
  await expect(page.getByRole('list', { name: 'Names as they will be' })).toContainText('Print 13 × 18 cm/1 H_0.jpg');
  await tabTo(page, 'checkbox', /Pages to look at/);
  await page.keyboard.press('Space');

  await tabTo(page, 'link', 'Look at the crops');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Crops of 2 pictures' })).toBeVisible();
  expect(await violations(page)).toEqual([]);
  await tabTo(page, 'button', 'Crop of H_0.png');
  await page.keyboard.press('-');
  await page.keyboard.press('ArrowLeft');
  await expect(page.getByRole('button', { name: 'As proposed' })).toBeVisible();
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+y');
  await expect.poll(async () => Object.keys((await detail(page)).frames[0].crops).length).toBe(1);
  await page.keyboard.press('Escape');

  // What was chosen is still chosen after a reload.
  await page.reload();
  await expect(page.getByRole('textbox', { name: 'Pattern' })).toHaveValue('{preset}/{count} {frame}');
  await tabTo(page, 'button', 'Make 2 files');
  await page.keyboard.press('Enter');
  await expect(page.getByText('2 files,')).toBeVisible();
  await tabTo(page, 'link', 'Download the ZIP');
  const [download] = await Promise.all([page.waitForEvent('download'), page.keyboard.press('Enter')]);
  const names: string[] = [];
  for await (const { name, read } of entriesOfZip(await download.path(), 100)) {
    names.push(name);
    (await read()).resume();
  }
  expect(names).toEqual(expect.arrayContaining(['Print 13 × 18 cm/1 H_0.jpg', 'proof/index.html', 'checksums.txt']));
});

test('made again it says what changed; into a folder it goes once; proof pages choose, and Gather takes the choices', async ({
  page,
}) => {
  await page.goto(`${address()}shoots/${shoot}/hand-over`);
  await page.getByRole('button', { name: 'Make again what changed' }).click();
  await expect(page.getByLabel('Differences')).toContainText('2 files as they were. Nothing has changed.');
  const latest = page.getByRole('article').first();
  await latest.getByRole('button', { name: 'Into a folder' }).click();
  await latest.getByRole('textbox', { name: /Folder/ }).fill(folder);
  await page.keyboard.press('Enter');
  await expect(latest.getByText('Copied into the folder.')).toBeVisible();
  const [made] = (await readdir(folder)).filter((name) => name.startsWith('Prints at the pier'));

  const proof = await page.context().newPage();
  await proof.goto(pathToFileURL(join(folder, made, 'proof', 'index.html')).href);
  await expect(proof.getByText('0 of 2 chosen')).toBeVisible();
  await proof.getByRole('checkbox').nth(2).check();
  await proof.getByLabel('Prints of H_1.png').fill('3');
  await proof.keyboard.press('Tab');
  // The browser writes what a page keeps a moment later.
  await expect(async () => {
    await proof.reload();
    await expect(proof.getByText('1 of 2 chosen')).toBeVisible({ timeout: 5000 });
  }).toPass({ timeout: 60_000 });
  const [list] = await Promise.all([
    proof.waitForEvent('download'),
    proof.getByRole('button', { name: 'Save the list' }).click(),
  ]);
  const text = await readFile(await list.path(), 'utf8');
  expect(text).toContain('"H_1.png","yes","3"');
  await proof.close();

  await page.goto(`${address()}shoots/${shoot}/gather/picks`);
  const file = join(folder, 'choices.csv');
  await writeFile(file, `${text}"X_9.png","yes","1",""\r\n`);
  await page.getByLabel('List of choices').setInputFiles(file);
  await expect(page.getByText('1 frame chosen and kept.')).toBeVisible();
  await expect(page.getByText('Not in this shoot: X_9.png.')).toBeVisible();
  await expect.poll(async () => (await detail(page)).frames.map(({ pick }) => pick)).toEqual([null, 'keep']);
});

test('the Log has it all; a note is written by keys; the shoot is carried away and comes back', async ({ page }) => {
  await page.goto(`${address()}shoots/${shoot}/log`);
  await expect(page.getByText('2 frames came in')).toBeVisible();
  await expect(page.getByText('2 frames extracted')).toBeVisible();
  await expect(page.getByText('2 files handed over').first()).toBeVisible();
  expect(await violations(page)).toEqual([]);
  await tabTo(page, 'button', 'Write a note');
  await page.keyboard.press('Enter');
  const words = page.getByRole('textbox', { name: 'Words' });
  await expect(words).toBeFocused();
  await page.keyboard.type('The left lamp stood too near.');
  await tabTo(page, 'button', 'Keep');
  await page.keyboard.press('Enter');
  await expect(page.getByText('The left lamp stood too near.')).toBeVisible();
  await page.reload();
  await expect(page.getByText('The left lamp stood too near.')).toBeVisible();
  for (const tab of ['Time and cost', 'Forecast and truth', 'Next time']) {
    await page.getByRole('tab', { name: new RegExp(tab) }).click();
    await expect.poll(() => violations(page)).toEqual([]);
  }

  const bundle = await (await page.request.get(`${address()}api/shoots/${shoot}/bundle`)).body();
  await page.goto(address());
  await page.getByLabel('Shoot that was carried away').setInputFiles({
    name: 'pier.shoot.zip',
    mimeType: 'application/zip',
    buffer: bundle,
  });
  await expect(page.getByRole('article', { name: 'Prints at the pier' })).toHaveCount(2);
  await page.getByLabel('Shoot that was carried away').setInputFiles({
    name: 'broken.zip',
    mimeType: 'application/zip',
    buffer: bundle.subarray(0, 4000),
  });
  await expect(page.getByText(/“broken.zip” cannot be taken/)).toBeVisible();
  await expect(page.getByRole('article', { name: 'Prints at the pier' })).toHaveCount(2);
});
