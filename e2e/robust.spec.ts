import { execFile } from 'node:child_process';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { expect, test, type Page } from '@playwright/test';
import type { ShootDetail } from '../contract/index.ts';
import { sampleImage } from '../server/testing/samples.ts';
import { newDataFolder, startApplication } from './server.ts';

/** Starting, stopping, killing: each with a data folder of its own. */

const environment = { SILENT_LAWN_DEMO: 'off', PORT: '4470' };

async function running(program: string, argument: string): Promise<number> {
  const { stdout } = await promisify(execFile)('ps', ['-eo', 'args']);
  return stdout.split('\n').filter((line) => line.includes(program) && line.includes(argument)).length;
}

/** A new shoot with so many sample frames, opened at Cut. */
async function shootAtCut(page: Page, address: string, name: string, count: number): Promise<void> {
  await page.goto(address);
  await page.getByRole('button', { name: 'New shoot' }).click();
  await page.getByLabel('Name').fill(name);
  await page.getByRole('button', { name: 'Make the shoot' }).click();
  const files = await mkdtemp(join(tmpdir(), 'silent-lawn-e2e-robust-'));
  const paths: string[] = [];
  for (let n = 0; n < count; n++) {
    paths.push(join(files, `K${String(n).padStart(2, '0')}.jpg`));
    await writeFile(
      paths[n],
      await sampleImage({ width: 1100, height: 1500, shade: n * 4 })
        .jpeg()
        .toBuffer(),
    );
  }
  await page.getByLabel('Frame files').setInputFiles(paths);
  await expect(page.getByText(`${count} taken in`)).toBeVisible();
  await rm(files, { recursive: true });
  await page.getByRole('link', { name: /^Extract/ }).click();
}

test('killing the server in the middle of a batch: after the next start it completes, nothing lost or doubled', async ({
  page,
}) => {
  const folder = await newDataFolder();
  const count = 14;
  const first = await startApplication(folder, environment);
  await shootAtCut(page, first.address, 'Kill', count);
  await page.getByRole('button', { name: `Extract ${count} frames` }).click();
  await expect(page.getByRole('link', { name: /^Extract/ })).toContainText(/^Extract([2-9]|1\d) of/);
  first.process.kill('SIGKILL');
  await expect(page.getByText('The connection is broken.')).toBeVisible();

  const second = await startApplication(folder, environment);
  expect(second.address).toBe(first.address);
  // The open page finds the server again by itself and shows the batch to its end.
  await expect(page.getByText('The connection is broken.')).toHaveCount(0, { timeout: 30000 });
  await expect(page.getByRole('link', { name: /^Extract/ })).toContainText(`${count} of ${count}`, { timeout: 90000 });
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
  await shootAtCut(page, application.address, 'Cancel', 10);
  await page.getByRole('button', { name: 'Extract 10 frames' }).click();
  await expect(page.getByRole('progressbar', { name: 'Extracting' })).toBeVisible();
  await page.reload();
  await expect(page.getByRole('progressbar', { name: 'Extracting' })).toBeVisible();
  await page.getByRole('button', { name: 'Cancel the rest' }).click();
  const again = page.getByRole('button', { name: /^Extract \d+ (of 10 )?frames/ });
  await expect(again).toBeEnabled();
  await again.click();
  await expect(page.getByText('all extracted as they stand')).toBeVisible({ timeout: 60000 });
  await application.stop();
  await rm(folder, { recursive: true, force: true });
});

test('a plate under way: a reload shows it again; after a kill of the server it is put together to its end', async ({
  page,
}) => {
  const folder = await newDataFolder();
  const first = await startApplication(folder, environment);
  await shootAtCut(page, first.address, 'Plate', 12);
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
  await expect(page.getByText('The connection is broken.')).toHaveCount(0, { timeout: 30000 });
  const detail = async (): Promise<ShootDetail> =>
    (await (await fetch(`${second.address}api/shoots/1`)).json()) as ShootDetail;
  await expect(page.getByRole('combobox', { name: 'Plate', exact: true })).toHaveValue(/^screen of 12 frames/, {
    timeout: 90000,
  });
  await expect(page.getByRole('status').filter({ hasText: 'of the picture' })).toContainText(/\d+ %/);
  // The plate is a file of the shoot, and the only new one.
  expect((await detail()).frames).toHaveLength(13);
  await second.stop();
  await rm(folder, { recursive: true, force: true });
});

test('a taken port is passed over and said; a second start on the same data is refused; SIGTERM ends all', async () => {
  const folder = await newDataFolder();
  const blocker = createServer().listen(4490, '127.0.0.1');
  const application = await startApplication(folder, { ...environment, PORT: '4490' });
  expect(application.address).toBe('http://127.0.0.1:4491/');
  expect(application.output()).toContain('Port 4490 is taken; using 4491.');
  const refusal = await startApplication(folder, { ...environment, PORT: '4495' }).then(
    () => 'started',
    (error: Error) => error.message,
  );
  expect(refusal).toContain(`already runs with this data folder at ${application.address}`);
  expect(await running('mariadbd', folder)).toBe(1);
  expect(await application.stop()).toBe(0);
  expect(await running('mariadbd', folder)).toBe(0);
  blocker.close();
  await rm(folder, { recursive: true, force: true });
});

test('npm start: SIGTERM to npm ends all, and a kill -9 of npm leaves nothing in the way of the next start', async () => {
  const folder = await newDataFolder();
  const first = await startApplication(folder, environment, true);
  first.process.kill('SIGKILL');
  const second = await startApplication(folder, environment, true);
  expect(await running('mariadbd', folder)).toBe(1);
  await second.stop();
  await expect.poll(() => running('mariadbd', folder), { timeout: 20000 }).toBe(0);
  await rm(folder, { recursive: true, force: true });
});

test('the database dies alone: the page goes on by itself, and what is changed meanwhile is saved', async ({
  page,
}) => {
  const folder = await newDataFolder();
  const application = await startApplication(folder, environment);
  await shootAtCut(page, application.address, 'Database', 3);
  await page.getByRole('button', { name: 'Extract 3 frames' }).click();
  await expect(page.getByRole('progressbar', { name: 'Extracting' })).toBeVisible();
  const pid = Number(await readFile(join(folder, 'mariadb', 'data', 'mariadb.pid'), 'utf8'));
  process.kill(pid, 'SIGKILL');
  const reach = page.getByRole('slider', { name: 'Is the hair there?' });
  await reach.focus();
  for (let n = 0; n < 3; n++) await page.keyboard.press('ArrowRight');
  await expect(page.getByRole('spinbutton', { name: 'Hair reach' })).toHaveValue('2.8');
  const detail = async (): Promise<ShootDetail | undefined> => {
    const response = await fetch(`${application.address}api/shoots/1`);
    return response.ok ? ((await response.json()) as ShootDetail) : undefined;
  };
  await expect.poll(async () => (await detail())?.setups[0].recipe.hairReach, { timeout: 30000 }).toBeCloseTo(2.8);
  await expect(page.getByRole('spinbutton', { name: 'Hair reach' })).toHaveValue('2.8');
  await expect(page.getByText('The database ended')).toHaveCount(0);
  expect((await fetch(`${application.address}api/health`)).status).toBe(200);
  // The batch under way loses nothing either.
  await expect
    .poll(async () => (await detail())?.frames.filter((frame) => frame.cut).length, { timeout: 60000 })
    .toBe(3);
  expect(await running('mariadbd', folder)).toBe(1);
  expect(await application.stop()).toBe(0);
  expect(await running('mariadbd', folder)).toBe(0);
  await rm(folder, { recursive: true, force: true });
});

test('files go on arriving at another station, and what was refused is still listed at Gather', async ({ page }) => {
  const folder = await newDataFolder();
  const application = await startApplication(folder, environment);
  await shootAtCut(page, application.address, 'Uploads', 1);
  await page.getByRole('link', { name: /^Gather/ }).click();
  // Every file takes a while on its way.
  await page.route('**/frames?name=*', async (route) => {
    await new Promise((resolve) => setTimeout(resolve, 400));
    await route.continue();
  });
  const pictures = await Promise.all(
    [10, 20, 30, 40, 50, 60].map(async (shade) => ({
      name: `U${shade}.jpg`,
      mimeType: 'image/jpeg',
      buffer: await sampleImage({ width: 400, height: 500, shade }).jpeg().toBuffer(),
    })),
  );
  await page
    .getByLabel('Frame files')
    .setInputFiles([...pictures, { name: 'notes.txt', mimeType: 'text/plain', buffer: Buffer.from('no picture') }]);
  await page.getByRole('link', { name: /^Extract/ }).click();
  await expect(page.getByText(/Importing: \d of 7/)).toBeVisible();
  await expect(page.getByText('Import finished, 1 refused (listed at Gather)')).toBeVisible();
  await expect(page.getByRole('link', { name: /^Gather/ })).toContainText('7 frames');
  await page.getByRole('link', { name: /^Gather/ }).click();
  await expect(page.getByRole('region', { name: 'Import' })).toContainText('notes.txt');
  await application.stop();
  await rm(folder, { recursive: true, force: true });
});

test('a full disk is told as what it is, nothing is lost, and it goes on when there is room', async ({ page }) => {
  const folder = await mkdtemp(join(tmpdir(), 'silent-lawn-e2e-full-'));
  const mounted = await promisify(execFile)('mount', ['-t', 'tmpfs', '-o', 'size=320m', 'tmpfs', folder]).then(
    () => true,
    () => false,
  );
  test.skip(!mounted, 'a small disk can only be made by the administrator');
  const application = await startApplication(folder, environment);
  try {
    await shootAtCut(page, application.address, 'Full', 2);
    const { stdout } = await promisify(execFile)('df', ['--output=avail', '-k', folder]);
    await promisify(execFile)('sh', [
      '-c',
      `head -c ${Math.max(0, Number(stdout.split('\n')[1]) - 40)}k /dev/zero > '${join(folder, 'filler')}'`,
    ]);
    await page.getByRole('link', { name: /^Gather/ }).click();
    const large = await sampleImage({ width: 1500, height: 2000, shade: 90 }).png({ compressionLevel: 0 }).toBuffer();
    await page.getByLabel('Frame files').setInputFiles({ name: 'large.png', mimeType: 'image/png', buffer: large });
    await expect(page.getByRole('region', { name: 'Import' })).toContainText('the disk is full');
    await expect(page.getByRole('region', { name: 'Import' })).toContainText('Make room');
    await rm(join(folder, 'filler'));
    await page.getByLabel('Frame files').setInputFiles({ name: 'large.png', mimeType: 'image/png', buffer: large });
    await expect(page.getByText('1 taken in')).toBeVisible();
    await expect(page.getByRole('link', { name: /^Gather/ })).toContainText('3 frames');
  } finally {
    expect(await application.stop()).toBe(0);
    await expect
      .poll(
        () =>
          promisify(execFile)('umount', [folder]).then(
            () => true,
            () => false,
          ),
        { timeout: 20000 },
      )
      .toBe(true);
    await rm(folder, { recursive: true, force: true });
  }
});
