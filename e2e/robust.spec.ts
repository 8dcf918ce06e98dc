import { rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import type { ShootDetail } from '../contract/index.ts';
import { sampleImage } from '../server/testing/samples.ts';
import { running, shootAtExtract } from './ownApplication.ts';
import { newDataFolder, startApplication } from './server.ts';
import { station } from './ruler.ts';

/** Work under way that is broken off: each with a data folder of its own. */

const environment = { SILENT_LAWN_DEMO: 'off', PORT: '4470' };

test('killing the server in the middle of a batch: after the next start it completes, nothing lost or doubled', async ({
  page,
}) => {
  const folder = await newDataFolder();
  const count = 6;
  const first = await startApplication(folder, environment);
  await shootAtExtract(page, first.address, 'Kill', count);
  await page.getByRole('button', { name: `Extract ${count} frames` }).click();
  await expect(station(page, /^Extract/)).toContainText(/^Extract[2-6] of/);
  first.process.kill('SIGKILL');
  await expect(page.getByText('The connection is broken.')).toBeVisible();

  const second = await startApplication(folder, environment);
  expect(second.address).toBe(first.address);
  // The open page finds the server again by itself and shows the batch to its end.
  await expect(page.getByText('The connection is broken.')).toHaveCount(0);
  await expect(station(page, /^Extract/)).toContainText(`${count} of ${count}`);
  await expect(page.getByText('all extracted as they stand')).toBeVisible();
  const detail = (await (await fetch(`${second.address}api/shoots/1`)).json()) as ShootDetail;
  expect(detail.frames).toHaveLength(count);
  expect(new Set(detail.frames.map((frame) => frame.cut?.version)).size).toBe(count);
  expect(detail.batches).toEqual([]);
  expect(await second.stop()).toBe(0);
  expect(await running('mariadbd', folder)).toBe(0);
  await rm(folder, { recursive: true, force: true });
});

test('a batch can be cancelled, survives a reload of the page, and can be started again', async ({ page }) => {
  const folder = await newDataFolder();
  const application = await startApplication(folder, environment);
  await shootAtExtract(page, application.address, 'Cancel', 6);
  await page.getByRole('button', { name: 'Extract 6 frames' }).click();
  await expect(page.getByRole('progressbar', { name: 'Extracting' })).toBeVisible();
  await page.reload();
  await expect(page.getByRole('progressbar', { name: 'Extracting' })).toBeVisible();
  await page.getByRole('button', { name: 'Cancel the rest' }).click();
  const again = page.getByRole('button', { name: /^Extract \d+ (of 6 )?frames/ });
  await expect(again).toBeEnabled();
  await again.click();
  await expect(page.getByText('all extracted as they stand')).toBeVisible();
  await application.stop();
  await rm(folder, { recursive: true, force: true });
});

test('a plate under way: a reload shows it again; after a kill of the server it is put together to its end', async ({
  page,
}) => {
  const folder = await newDataFolder();
  const first = await startApplication(folder, environment);
  await shootAtExtract(page, first.address, 'Plate', 12);
  const button = page.getByRole('button', { name: 'Put one together' });
  const progress = page.getByRole('progressbar', { name: 'Plate' });
  const openMasks = (): Promise<void> => page.getByRole('tab', { name: 'Masks' }).click();
  await openMasks();
  await button.click();
  await expect(progress).toBeVisible();
  await page.reload();
  await openMasks();
  await expect(progress).toBeVisible();
  first.process.kill('SIGKILL');
  await expect(page.getByText('The connection is broken.')).toBeVisible();

  const second = await startApplication(folder, environment);
  await expect(page.getByText('The connection is broken.')).toHaveCount(0);
  const detail = async (): Promise<ShootDetail> =>
    (await (await fetch(`${second.address}api/shoots/1`)).json()) as ShootDetail;
  const panel = page.getByRole('region', { name: 'Masks and plate' });
  await expect(panel.getByRole('button', { name: /^screen of 12 frames/ })).toBeVisible();
  await expect(page.getByRole('status').filter({ hasText: 'of the picture' })).toContainText(/\d+ %/);
  // The plate is a file of the shoot, and the only new one.
  expect((await detail()).frames).toHaveLength(13);
  await second.stop();
  await rm(folder, { recursive: true, force: true });
});

test('a large file half sent: after a kill of the server and a reload it goes on where it stopped', async ({
  page,
}) => {
  const folder = await newDataFolder();
  const first = await startApplication(folder, environment);
  await shootAtExtract(page, first.address, 'Half', 1);
  await station(page, /^Gather/).click();
  const path = join(folder, 'large.png');
  await writeFile(
    path,
    await sampleImage({ width: 2000, height: 2800, shade: 40 }).png({ compressionLevel: 0 }).toBuffer(),
  );
  // The first part gets through with the beginning; the second is on its way when the server is killed.
  const second = new Promise<void>((resolve) => {
    void page.route('**/api/uploads/*', async (route) => {
      if (route.request().method() === 'PATCH') return resolve();
      await route.continue();
    });
  });
  await page.getByLabel('Frame files').setInputFiles(path);
  await second;
  first.process.kill('SIGKILL');
  await page.unrouteAll({ behavior: 'ignoreErrors' });

  const again = await startApplication(folder, environment);
  await page.reload();
  await expect(page.getByText('1 of 1 file had not arrived when the page was left.')).toBeVisible();
  const offsets: string[] = [];
  let begun = 0;
  page.on('request', (request) => {
    if (!request.url().includes('/api/uploads')) return;
    if (request.method() === 'PATCH') offsets.push(request.headers()['upload-offset']);
    if (request.method() === 'POST') begun++;
  });
  await page.getByLabel('Frame files').setInputFiles(path);
  await expect(page.getByText('1 taken in')).toBeVisible();
  expect(begun, 'nothing was begun anew').toBe(0);
  expect(Number(offsets[0])).toBe(8_000_000);
  await expect(station(page, /^Gather/)).toContainText('2 frames');
  await again.stop();
  await rm(folder, { recursive: true, force: true });
});
