import { mkdtemp } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test, type Page } from '@playwright/test';
import type { Rehearsal, RehearsalList, Shoot, ShootDetail } from '../contract/index.ts';
import { startingPlan } from '../core/plan/index.ts';
import { writeSamples } from '../server/testing/samples.ts';
import { station } from './ruler.ts';

/** A round of test frames, from a set that is wrong to one that is signed off; and a rehearsal. */

const address = (): string => process.env.E2E_ADDRESS ?? '';

async function send<T>(page: Page, path: string, data: unknown): Promise<T> {
  return (await (await page.request.post(`${address()}api${path}`, { data })).json()) as T;
}

/** A shoot whose plan has one screen lamp almost out; small frames, so that the stand-in camera is quick. */
async function faultyShoot(page: Page, name: string): Promise<ShootDetail> {
  const { id } = await send<Shoot>(page, '/shoots', { name, date: '2026-06-13' });
  const detail = (await (await page.request.get(`${address()}api/shoots/${id}`)).json()) as ShootDetail;
  const plan = startingPlan('Hall', '2026-06-13');
  const lamps = plan.lamps.map((lamp) =>
    lamp.role === 'screen' ? { ...lamp, power: lamp.id === 'screen-left' ? 0.05 : 0.6 } : lamp,
  );
  await send(page, `/shoots/${id}/plans`, {
    plan: { ...plan, lamps, camera: { ...plan.camera, pixelsAcross: 640, pixelsDown: 960 } },
    setupId: detail.setups[0].id,
  });
  return detail;
}

async function take(page: Page, ...titles: string[]): Promise<void> {
  for (const title of titles) {
    await page.getByRole('button', { name: `Take ${title} with the stand-in camera` }).click();
    await expect(page.getByRole('button', { name: `Show ${title}` })).toBeVisible();
    await expect(page.getByText('The stand-in camera takes')).toHaveCount(0);
  }
  await expect(page.locator('.headline[data-ready]')).toBeVisible();
}

test('plan, test frame, cause, change, second test frame, better, signed off', async ({ page }) => {
  const { shoot } = await faultyShoot(page, 'Checked');
  await page.goto(`${address()}shoots/${shoot.id}/check`);
  await expect(page.getByText('This setup has not been tested yet.')).toBeVisible();
  await page.getByRole('button', { name: 'Begin a round' }).click();
  await take(page, 'empty screen', 'test frame', 'grey card', 'matt ball');
  await expect(page.locator('.headline')).toContainText('Not ready.');
  const causes = page.getByRole('list', { name: 'Causes' });
  await expect(causes.getByRole('listitem').first()).toContainText('One screen lamp is weaker');
  await expect(causes.getByRole('listitem').first()).toContainText('left');
  await expect(station(page, /^Check/)).toContainText(/[1-9]\d* out of bounds/);
  const before = Number(await page.locator('.headline .big').textContent());

  // The evidence on the picture, by the keyboard; a reading opens to its reason and bound.
  await page.keyboard.press('1');
  await expect(page.getByRole('img', { name: 'Empty screen' })).toBeVisible();
  await expect(page.locator('.frame .words').first()).toBeVisible();
  await page.keyboard.press('5');
  await expect(page.getByRole('img', { name: /Lawn map/ })).toBeVisible();
  await page.getByText('One side of the screen above the other').click();
  await expect(page.getByText('two equal lamps, one on each side')).toBeVisible();

  // A reload loses nothing.
  await page.reload();
  await expect(page.locator('.headline .big')).toHaveText(`${before}`);

  // The lamp is set right, in the plan and so in the set.
  await station(page, /^Plan/).click();
  await page.getByRole('button', { name: 'Screen lamp left', exact: true }).first().click();
  await page.getByLabel('Dimmer').fill('0.6');
  await page.getByLabel('Dimmer').press('Enter');
  await expect(page.getByRole('button', { name: /Take back/ })).toBeVisible();
  await station(page, /^Check/).click();
  await page.getByRole('button', { name: 'New round' }).click();
  await expect(page.getByText('This round has no photographs yet.')).toBeVisible();
  await take(page, 'empty screen', 'test frame', 'grey card', 'matt ball');
  await expect(page.getByRole('list', { name: 'Since the last round' })).toContainText('better');
  await expect(page.getByRole('list', { name: 'Causes' })).not.toContainText('weaker');
  expect(Number(await page.locator('.headline .big').textContent())).toBeLessThan(before);

  await page.getByRole('button', { name: 'Sign off this setup' }).click();
  await expect(page.getByText(/Signed off at/)).toBeVisible();
  await expect(station(page, /^Check/)).toContainText('1 signed off');
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('button', { name: 'Sign off this setup' })).toBeVisible();
});

test('dropped pictures are recognised; what cannot be used is refused by name and stops nothing', async ({ page }) => {
  const { shoot } = await faultyShoot(page, 'Dropped');
  const samples = await writeSamples(await mkdtemp(join(tmpdir(), 'silent-lawn-check-')));
  await page.goto(`${address()}shoots/${shoot.id}/check`);
  await page
    .getByLabel('Test frames')
    .setInputFiles([samples['truncated.jpg'], samples['no-screen.jpg'], samples['good.jpg']]);
  await expect(page.getByRole('alert').filter({ hasText: 'truncated.jpg' })).toBeVisible();
  await expect(page.getByRole('alert').filter({ hasText: 'no-screen.jpg: no green or blue screen' })).toBeVisible();
  await expect(page.locator('.slot img')).toHaveCount(1);
  await expect(page.locator('.headline[data-ready]')).toBeVisible();

  // A ball of a background has to be circled by hand.
  await page.getByRole('button', { name: 'Choose ball of a background' }).click();
  await page.getByLabel('Photograph for this place').setInputFiles(samples['no-screen.jpg']);
  await expect(page.getByText('Circle the ball by hand')).toBeVisible();
  await page.getByRole('button', { name: 'Circle the ball' }).click();
  const box = (await page.locator('.frame').boundingBox())!;
  await page.mouse.move(box.x + box.width * 0.3, box.y + box.height * 0.5);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width * 0.7, box.y + box.height * 0.5, { steps: 4 });
  await page.mouse.up();
  await expect(page.locator('.frame circle')).toHaveCount(2);

  await page.getByRole('button', { name: 'Take out ball of a background' }).click();
  await expect(page.locator('.slot img')).toHaveCount(1);
});

test('a rehearsal tells the truth after the answer and not before', async ({ page }) => {
  // The seed of a set whose person is out of focus: the same in every run.
  await page.route('**/api/rehearsals', (route) =>
    route.request().method() === 'POST'
      ? route.continue({ postData: JSON.stringify({ level: 1, seed: 5 }) })
      : route.continue(),
  );
  await page.goto(`${address()}rehearsal`);
  await page.getByRole('button', { name: 'New set' }).click();
  await expect(page.getByText('What is wrong?')).toBeVisible();
  const { results } = (await (await page.request.get(`${address()}api/rehearsals`)).json()) as RehearsalList;
  const [open] = results;
  const hidden = (await (await page.request.get(`${address()}api/rehearsals/${open.id}`)).json()) as Rehearsal;
  expect(hidden.truth).toBeNull();
  expect(hidden.findings.causes).toEqual([]);
  await page.reload();
  await expect(page.getByText('What is wrong?')).toBeVisible();
  await page.getByLabel('The person is out of focus').check();
  await page.getByLabel('What would you do first?').selectOption({ label: 'A shorter exposure, or flash' });
  await page.getByRole('button', { name: 'That is my answer' }).click();
  await expect(page.getByText(/It was:/)).toBeVisible();
  const told = (await (await page.request.get(`${address()}api/rehearsals/${open.id}`)).json()) as Rehearsal;
  expect(told.truth).toMatchObject({ causes: ['defocus'], remedies: ['focus'], causesRight: true, remedyRight: false });
  await expect(page.getByRole('list', { name: 'Results' }).getByRole('listitem').first()).toContainText('right');
  expect(
    (
      await page.request.post(`${address()}api/rehearsals/${open.id}/answer`, { data: { causes: [], remedy: null } })
    ).status(),
  ).toBe(409);
});
