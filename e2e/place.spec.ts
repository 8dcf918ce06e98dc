import { mkdtemp, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test, type Page } from '@playwright/test';
import sharp from 'sharp';
import type { Background, ShootDetail } from '../contract/index.ts';
import { cubeOf, writeCube } from '../core/place/index.ts';
import { writeSamples } from '../server/testing/samples.ts';
import { violations } from './axe.ts';
import { station } from './ruler.ts';

/** Placing beyond one person on one picture: the library, the scene's ground, table, layers and card. */

const address = (): string => process.env.E2E_ADDRESS as string;

/** A shoot with one person extracted, at Place. */
async function placed(page: Page, name: string): Promise<void> {
  await page.goto(address());
  await page.getByRole('button', { name: 'New shoot' }).click();
  await page.getByLabel('Name').fill(name);
  await page.getByRole('button', { name: 'Make the shoot' }).click();
  await expect(page.getByRole('button', { name: 'Choose frames' })).toBeVisible();
  const samples = await writeSamples(await mkdtemp(join(tmpdir(), 'silent-lawn-e2e-place-')));
  await page.getByLabel('Frame files').setInputFiles([samples['good.png']]);
  await expect(page.getByText('Import finished')).toBeVisible();
  await station(page, /^Extract/).click();
  await page.getByRole('button', { name: 'Extract 1 frame' }).click();
  await expect(page.getByText('all extracted as they stand')).toBeVisible();
  await station(page, /^Place/).click();
}
async function detail(page: Page): Promise<ShootDetail> {
  const id = /shoots\/(\d+)/.exec(page.url())?.[1];
  return (await (await page.request.get(`${address()}api/shoots/${id}`)).json()) as ShootDetail;
}
async function library(page: Page): Promise<Background[]> {
  return (await (await page.request.get(`${address()}api/backgrounds`)).json()) as Background[];
}
const corner = (page: Page): Promise<number[]> =>
  page
    .locator('canvas[data-ready=true]')
    .evaluate((element: HTMLCanvasElement) => [...(element.getContext('2d')?.getImageData(8, 8, 1, 1).data ?? [])]);

test('a background is painted, called, known by its horizon, removed and brought back', async ({ page }) => {
  await placed(page, 'Painted');
  await page.getByRole('button', { name: 'Paint one' }).click();
  const dialog = page.getByRole('dialog', { name: 'Paint a background' });
  await dialog.getByLabel('Name').fill('Blue wall');
  await dialog.getByLabel('Width, pixels').fill('20');
  await dialog.getByRole('button', { name: 'Paint it' }).click();
  await expect(dialog.getByText('from 100 to 12 000')).toBeVisible();
  await dialog.getByLabel('Width, pixels').fill('600');
  await dialog.getByLabel('Height, pixels').fill('800');
  await dialog.getByLabel('First tone').fill('#204080');
  await expect.poll(() => violations(page)).toEqual([]);
  await dialog.getByRole('button', { name: 'Paint it' }).click();
  await expect(dialog).toHaveCount(0);
  await page.getByRole('button', { name: 'Blue wall' }).click();
  await expect(page.getByRole('img', { name: 'good.png on Blue wall' })).toBeVisible();

  await page.getByRole('tab', { name: 'Scene' }).click();
  await page.getByRole('button', { name: 'Mark it' }).first().click();
  const line = page.getByRole('slider', { name: 'Horizon from top' });
  await line.focus();
  await page.keyboard.press('ArrowUp');
  await expect(page.getByRole('spinbutton', { name: /^Horizon/ })).toHaveValue('49.5');
  const box = await line.boundingBox();
  if (!box) throw new Error('no line');
  await page.mouse.move(box.x + 40, box.y + 6);
  await page.mouse.down();
  await page.mouse.move(box.x + 40, box.y + 66, { steps: 5 });
  await page.mouse.up();
  const known = async () => (await library(page)).find(({ name }) => name === 'Blue wall');
  await expect.poll(async () => (await known())?.scene.horizon ?? 0).toBeGreaterThan(0.54);
  await page.getByLabel('Words to find it by').fill('studio');
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await known())?.tags).toEqual(['studio']);
  await expect.poll(() => violations(page)).toEqual([]);
  await page.reload();
  await page.getByRole('tab', { name: 'Scene' }).click();
  await expect(page.getByText('studio', { exact: true })).toBeVisible();

  await page.getByRole('button', { name: 'Remove from the library' }).click();
  await expect.poll(async () => (await known())?.removed).toBe(true);
  await expect(page.getByRole('img', { name: 'good.png on Blue wall' })).toBeVisible();
  await page.getByRole('button', { name: /^Take back: removal of Blue wall/ }).click();
  await expect.poll(async () => (await known())?.removed).toBe(false);
});

test('a look-up table, a layer and a card are over every finished picture, and in what is handed over', async ({
  page,
}) => {
  const folder = await mkdtemp(join(tmpdir(), 'silent-lawn-e2e-extras-'));
  const spoilt = join(folder, 'spoilt.cube');
  await writeFile(spoilt, 'LUT_3D_SIZE 3\n0 0 0\n');
  const red = join(folder, 'Red.cube');
  const onlyRed = cubeOf('Only red', 5, (rgb) => rgb.fill(0, 1));
  await writeFile(red, writeCube(onlyRed));
  const frame = join(folder, 'White frame.png');
  await sharp({ create: { width: 300, height: 400, channels: 4, background: '#ffffff' } })
    .composite([{ input: { create: { width: 240, height: 340, channels: 4, background: '#000' } }, blend: 'dest-out' }])
    .png()
    .toFile(frame);

  await placed(page, 'Extras');
  await page.getByRole('button', { name: /Cliff path/ }).click();
  await expect(page.getByRole('img', { name: 'good.png on Cliff path' })).toBeVisible();
  await page.getByLabel('Background files').setInputFiles([frame]);
  await expect(page.getByRole('button', { name: 'White frame' })).toBeVisible();

  await page.getByRole('tab', { name: 'Over all' }).click();
  await page.getByRole('button', { name: /^Look-up table/ }).click();
  await page.getByLabel('Look-up table file').setInputFiles([spoilt]);
  await expect(page.getByText(/it has 1 colours and not 3³/)).toBeVisible();
  await page.getByLabel('Look-up table file').setInputFiles([red]);
  await expect(page.getByLabel('Table', { exact: true })).toContainText('Only red');
  await expect.poll(async () => (await corner(page)).slice(1, 3)).toEqual([0, 0]);

  await page.getByRole('button', { name: /^Layers/ }).click();
  await page.getByLabel('Add', { exact: true }).selectOption({ label: 'White frame' });
  await expect(page.getByRole('group', { name: 'White frame' })).toBeVisible();
  await expect.poll(() => corner(page)).toEqual([255, 0, 0, 255]);

  await page.getByRole('button', { name: /^Card/ }).click();
  await page.getByRole('button', { name: 'Add a card' }).click();
  const line = page.getByRole('textbox', { name: 'Line 1' });
  await line.fill('For {shoot}');
  await line.press('Enter');
  await expect.poll(async () => (await detail(page)).styles[0]?.extras.card?.lines[0].text).toBe('For {shoot}');
  await expect.poll(() => violations(page)).toEqual([]);
  await page.reload();
  await page.getByRole('tab', { name: 'Over all' }).click();
  await page.getByRole('button', { name: /^Card/ }).click();
  await expect(page.getByRole('textbox', { name: 'Line 1' })).toHaveValue('For {shoot}');
  await expect.poll(() => corner(page)).toEqual([255, 0, 0, 255]);

  await station(page, /^Hand over/).click();
  await page.getByRole('button', { name: /^Make/ }).click();
  await expect(page.getByRole('link', { name: 'Download the ZIP' })).toBeVisible();
});
