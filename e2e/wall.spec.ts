import { mkdtemp } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import sharp from 'sharp';
import { seededRandom } from '../core/random.ts';
import { clickAt, levelAt } from './atExtract.ts';
import { newShoot } from './newShoot.ts';
import { station } from './ruler.ts';

/** Somebody in brown before a grey wall, 400 × 600. */
async function writeWall(): Promise<string> {
  const [width, height] = [400, 600];
  const random = seededRandom(2);
  const data = new Uint8Array(width * height * 3);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const person = Math.hypot((x - 200) / 60, (y - 200) / 75) < 1 || Math.hypot((x - 200) / 120, (y - 600) / 340) < 1;
      const colour = person ? [120, 70, 50] : [140 - x / 40, 140 - x / 40, 142 - x / 40];
      colour.forEach((v, c) => (data[(y * width + x) * 3 + c] = v + 3 * (random() - 0.5)));
    }
  const file = join(await mkdtemp(join(tmpdir(), 'silent-lawn-wall-')), 'WALL_1.png');
  await sharp(data, { raw: { width, height, channels: 3 } }).toFile(file);
  return file;
}

test('a frame before a grey wall cannot be cut until a hand points at the wall, on the photograph that is shown', async ({
  page,
}) => {
  await newShoot(page, 'No cloth with us');
  await page.getByLabel('Frame files').setInputFiles(await writeWall());
  await expect(page.getByText('Import finished')).toBeVisible();
  await station(page, /^Extract/).click();
  await page.getByRole('button', { name: /^WALL_1/ }).click();
  await expect(page.getByText('It cannot be cut:')).toBeVisible();
  await expect.poll(() => levelAt(page, 0.1, 0.1)).toBeGreaterThan(130);
  await expect.poll(() => levelAt(page, 0.5, 0.33)).toBeLessThan(100);

  await page.getByRole('tab', { name: 'Masks' }).click();
  await page.getByRole('button', { name: 'Screen here' }).click();
  for (const [x, y] of [
    [0.05, 0.05],
    [0.3, 0.05],
    [0.3, 0.2],
    [0.05, 0.2],
  ] as const)
    await clickAt(page, x, y);
  await page.keyboard.press('Enter');
  await expect(page.getByText('It cannot be cut:')).toHaveCount(0);
  await page.keyboard.press('2');
  await expect.poll(() => levelAt(page, 0.9, 0.1)).toBe(0);
  await expect.poll(() => levelAt(page, 0.5, 0.33)).toBe(255);
  await page.getByRole('tab', { name: /^Doubts/ }).click();
  await expect(page.getByText(/% of purity lacking/)).toBeVisible();
  await page.getByRole('button', { name: 'Extract 1 frame' }).click();
  await expect(page.getByText('all extracted as they stand')).toBeVisible();
});
