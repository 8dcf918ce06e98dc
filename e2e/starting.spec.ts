import { execFile } from 'node:child_process';
import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { expect, test } from '@playwright/test';
import type { ShootDetail } from '../contract/index.ts';
import { sampleImage } from '../server/testing/samples.ts';
import { running, shootAtExtract } from './ownApplication.ts';
import { newDataFolder, startApplication } from './server.ts';
import { station } from './ruler.ts';

/** Starting and stopping, and what is taken away from below: each with a data folder of its own. */

const environment = { SILENT_LAWN_DEMO: 'off', PORT: '4480' };

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
  await expect.poll(() => running('mariadbd', folder)).toBe(0);
  await rm(folder, { recursive: true, force: true });
});

test('the database dies alone: the page goes on by itself, and what is changed meanwhile is saved', async ({
  page,
}) => {
  const folder = await newDataFolder();
  const application = await startApplication(folder, environment);
  await shootAtExtract(page, application.address, 'Database', 3);
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
  await expect.poll(async () => (await detail())?.setups[0].recipe.hairReach).toBeCloseTo(2.8);
  await expect(page.getByRole('spinbutton', { name: 'Hair reach' })).toHaveValue('2.8');
  await expect(page.getByText('The database ended')).toHaveCount(0);
  expect((await fetch(`${application.address}api/health`)).status).toBe(200);
  // The batch under way loses nothing either.
  await expect.poll(async () => (await detail())?.frames.filter((frame) => frame.cut).length).toBe(3);
  expect(await running('mariadbd', folder)).toBe(1);
  expect(await application.stop()).toBe(0);
  expect(await running('mariadbd', folder)).toBe(0);
  await rm(folder, { recursive: true, force: true });
});

test('files go on arriving at another station, and what was refused is still listed at Gather', async ({ page }) => {
  const folder = await newDataFolder();
  const application = await startApplication(folder, environment);
  await shootAtExtract(page, application.address, 'Uploads', 1);
  await station(page, /^Gather/).click();
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
  await station(page, /^Extract/).click();
  await expect(page.getByText(/Importing: \d of 7/)).toBeVisible();
  await expect(page.getByText('Import finished, 1 refused (listed at Gather)')).toBeVisible();
  await expect(station(page, /^Gather/)).toContainText('7 frames');
  await station(page, /^Gather/).click();
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
    await shootAtExtract(page, application.address, 'Full', 2);
    const { stdout } = await promisify(execFile)('df', ['--output=avail', '-k', folder]);
    await promisify(execFile)('sh', [
      '-c',
      `head -c ${Math.max(0, Number(stdout.split('\n')[1]) - 40)}k /dev/zero > '${join(folder, 'filler')}'`,
    ]);
    await station(page, /^Gather/).click();
    const large = await sampleImage({ width: 1500, height: 2000, shade: 90 }).png({ compressionLevel: 0 }).toBuffer();
    await page.getByLabel('Frame files').setInputFiles({ name: 'large.png', mimeType: 'image/png', buffer: large });
    await expect(page.getByRole('region', { name: 'Import' })).toContainText('the disk is full');
    await expect(page.getByRole('region', { name: 'Import' })).toContainText('Make room');
    await rm(join(folder, 'filler'));
    await page.getByLabel('Frame files').setInputFiles({ name: 'large.png', mimeType: 'image/png', buffer: large });
    await expect(page.getByText('1 taken in')).toBeVisible();
    await expect(station(page, /^Gather/)).toContainText('3 frames');
  } finally {
    expect(await application.stop()).toBe(0);
    await expect
      .poll(() =>
        promisify(execFile)('umount', [folder]).then(
          () => true,
          () => false,
        ),
      )
      .toBe(true);
    await rm(folder, { recursive: true, force: true });
  }
});
