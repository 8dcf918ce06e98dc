import { mkdtemp, readFile, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test, type Page } from '@playwright/test';
import { planSchema } from '../contract/index.ts';
import type { Plan } from '../core/plan/index.ts';
import { station } from './ruler.ts';

/** A planning session, as a photographer has it. */

const address = (): string => process.env.E2E_ADDRESS ?? '';

async function newPlannedShoot(page: Page, name: string): Promise<void> {
  await page.goto(address());
  await page.getByRole('button', { name: 'New shoot' }).click();
  await page.getByLabel('Name').fill(name);
  await page.getByRole('button', { name: 'Make the shoot' }).click();
  await station(page, /^Plan/).click();
  await expect(page.getByText('No set is planned yet.')).toBeVisible();
  await page.getByRole('button', { name: 'New plan' }).click();
  await settled(page);
}

/** Waits until the numbers shown are those of the plan shown. */
async function settled(page: Page): Promise<void> {
  await expect(page.locator('.headline[data-ready=true]')).toBeVisible();
}

async function minutes(page: Page): Promise<number> {
  await settled(page);
  return Number(await page.locator('.headline .big').textContent());
}

async function savedPlan(page: Page): Promise<Plan> {
  const shootId = /shoots\/(\d+)/.exec(page.url())?.[1];
  const detail = (await (await fetch(`${address()}api/shoots/${shootId}`)).json()) as { plans: { plan: Plan }[] };
  return detail.plans[0].plan;
}

test('a planning session: drag, keys, typed values, findings, reload, taking back', async ({ page }) => {
  await newPlannedShoot(page, 'Lighthouse hall');
  const person = page.getByRole('button', { name: 'Guest, from above' });
  const shot = page.getByRole('img', { name: 'Frame of the stand-in camera' });
  await expect(page.locator('canvas[data-ready=true]')).toBeVisible();
  const before = await minutes(page);
  const pictureBefore = await shot.screenshot();

  // Dragging the person towards the screen costs minutes, in numbers and in the picture.
  const box = await person.locator('circle').first().boundingBox();
  if (!box) throw new Error('no person');
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x - 40, y, { steps: 4 });
  await page.mouse.move(x - 85, y, { steps: 4 });
  await page.mouse.up();
  await expect.poll(async () => (await savedPlan(page)).people[0].z).toBeLessThan(1.6);
  const near = (await savedPlan(page)).people[0].z;
  expect(Math.abs(near / 0.05 - Math.round(near / 0.05))).toBeLessThan(1e-6);
  await expect.poll(() => minutes(page)).toBeGreaterThan(before);
  await expect(page.locator('canvas[data-ready=true]')).toBeVisible();
  expect(Buffer.compare(await shot.screenshot(), pictureBefore)).not.toBe(0);

  // Keys nudge what is in focus; the form shows it.
  await person.focus();
  await person.press('ArrowRight');
  await expect.poll(async () => (await savedPlan(page)).people[0].z).toBeCloseTo(near + 0.05, 6);
  await expect(page.getByLabel('From the screen m')).toHaveValue(String(Number((near + 0.05).toFixed(2))));

  // Typed values are kept inside their range, and the field says so.
  await page.getByRole('button', { name: 'Camera', exact: true }).click();
  await page.getByLabel('Aperture, f-number').fill('200');
  await page.getByLabel('Aperture, f-number').press('Enter');
  await expect(page.getByText('from 0.9 to 64')).toBeVisible();
  await expect.poll(async () => (await savedPlan(page)).camera.aperture).toBe(64);
  await expect(page.getByRole('region', { name: 'Findings' }).getByText('Level of the screen')).toBeVisible();
  await page.getByText('Level of the screen').click();
  await expect(page.getByText('Change screen light or exposure.')).toBeVisible();

  // Reload keeps everything; every step can be taken back.
  await page.reload();
  await settled(page);
  expect((await savedPlan(page)).camera.aperture).toBe(64);
  await page.getByRole('button', { name: 'Camera', exact: true }).click();
  await page.getByLabel('Aperture, f-number').fill('5.6');
  await page.getByLabel('Aperture, f-number').press('Enter');
  await expect.poll(async () => (await savedPlan(page)).camera.aperture).toBe(5.6);
  await page.getByRole('button', { name: /Take back: aperture/ }).click();
  await expect.poll(async () => (await savedPlan(page)).camera.aperture).toBe(64);

  // Feet for those who measure in feet.
  await page.getByLabel('Units').selectOption('imperial');
  await page.getByRole('button', { name: 'Screen', exact: true }).click();
  await expect(page.getByLabel('Width ft')).toHaveValue('8.86');
});

test('improve, single changes, schools: each told with its minutes, each taken back', async ({ page }) => {
  await newPlannedShoot(page, 'Net store');
  const before = await minutes(page);
  await page.getByRole('tab', { name: 'What saves' }).click();
  const first = page.getByRole('button', { name: /^Do it/ }).first();
  await expect(first).toBeVisible();
  await first.click();
  await expect.poll(() => minutes(page)).toBeLessThan(before);
  await page.keyboard.press('Control+z');
  await expect.poll(() => minutes(page)).toBe(before);
  await expect(page.getByText('Light on the screen')).toBeVisible();

  await page.getByRole('checkbox', { name: 'camera' }).uncheck();
  const position = (await savedPlan(page)).camera.position;
  await page.getByRole('button', { name: 'Improve this' }).click();
  await expect(page.getByText('by these moves')).toBeVisible();
  await expect.poll(() => minutes(page)).toBeLessThan(before * 0.95);
  expect((await savedPlan(page)).camera.position).toEqual(position);
  await page.getByRole('button', { name: /Take back: improve/ }).click();
  await expect.poll(() => minutes(page)).toBe(before);
});

test('lamps are added, named, kept in the library and removed; the lawn map follows', async ({ page }) => {
  await newPlannedShoot(page, 'Boat shed');
  const map = page.getByRole('img', { name: /^Lawn map/ });
  await expect(map).toHaveAccessibleName(/spread \d/);
  const spread = await map.getAttribute('aria-label');
  await page.getByRole('button', { name: 'Screen lamp right', exact: true }).click();
  await page.getByLabel('Dimmer').fill('0.1');
  await page.getByLabel('Dimmer').press('Enter');
  await expect(map).not.toHaveAccessibleName(spread ?? '');
  await page.getByRole('button', { name: 'Add a lamp' }).click();
  await page.getByLabel('Name', { exact: true }).fill('Rim from behind');
  await page.getByLabel('Name', { exact: true }).press('Enter');
  await expect(page.getByRole('button', { name: 'Rim from behind', exact: true })).toBeVisible();
  await page.getByLabel('Gel').selectOption('weak magenta');
  await page.getByRole('button', { name: 'Keep in the library' }).click();
  await page.getByLabel('Keep the chosen lamp as').fill('Borrowed box');
  await page.getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByRole('button', { name: 'Remove Borrowed box from the library' })).toBeVisible();
  await page.getByRole('button', { name: 'Done' }).click();
  await page.getByRole('button', { name: 'Key', exact: true }).click();
  await page.getByLabel('Take from the library').selectOption('Borrowed box');
  await expect.poll(async () => (await savedPlan(page)).lamps.length).toBe(6);
  await page.getByRole('button', { name: 'Rim from behind', exact: true }).click();
  await page.getByRole('button', { name: 'Remove', exact: true }).click();
  await expect.poll(async () => (await savedPlan(page)).lamps.length).toBe(5);
});

test('the day: what does not fit is said; slots and calendar are exported; sheet prints and is a PDF', async ({
  page,
}) => {
  await newPlannedShoot(page, 'Fish market');
  await page.getByRole('button', { name: 'Day and guests' }).click();
  await page.getByLabel('Guests', { exact: false }).first().fill('300');
  await page.getByLabel('Guests', { exact: false }).first().press('Enter');
  await page.getByRole('tab', { name: 'Day' }).click();
  await expect(page.getByText(/guests do not fit before pack-down/)).toBeVisible();
  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Slot list, CSV' }).click();
  const csv = await readFile(await (await download).path(), 'utf8');
  expect(csv.trim().split('\n')).toHaveLength(301);
  const calendar = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Calendar' }).click();
  const ics = await readFile(await (await calendar).path(), 'utf8');
  expect(ics.match(/BEGIN:VEVENT/g)?.length).toBeGreaterThan(300);
  await page.getByRole('link', { name: 'Set sheet' }).click();
  await expect(page.getByRole('heading', { name: 'Packing list' })).toBeVisible();
  await expect(page.getByText('Local rules and licensed trades come first.')).toBeVisible();
  const pdf = page.waitForEvent('download');
  await page.getByRole('link', { name: 'PDF' }).click();
  expect((await readFile(await (await pdf).path())).subarray(0, 5).toString()).toBe('%PDF-');
});

test('plans are exported, spoilt ones refused by field, imported and compared', async ({ page }) => {
  await newPlannedShoot(page, 'Signal tower');
  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Export' }).click();
  const content = JSON.parse(await readFile(await (await download).path(), 'utf8')) as Plan;
  expect(planSchema.safeParse(content).success).toBe(true);
  const folder = await mkdtemp(join(tmpdir(), 'silent-lawn-e2e-plan-'));
  const file = async (name: string, text: string): Promise<string> => {
    await writeFile(join(folder, name), text);
    return join(folder, name);
  };
  const input = page.getByLabel('Plan file');
  await input.setInputFiles(await file('torn.json', '{"format": "silent-lawn'));
  await expect(page.getByText(/torn.json is not JSON/)).toBeVisible();
  await input.setInputFiles(
    await file('wrong.json', JSON.stringify({ ...content, camera: { ...content.camera, iso: -5 } })),
  );
  await expect(page.getByText(/wrong.json: camera.iso/)).toBeVisible();
  await input.setInputFiles(
    await file(
      'far.json',
      JSON.stringify({ ...content, name: 'Person close', people: [{ ...content.people[0], z: 0.8 }] }),
    ),
  );
  await expect(page.getByRole('button', { name: 'Person close' })).toHaveAttribute('aria-pressed', 'true');
  await page.getByRole('link', { name: 'Compare' }).click();
  await expect(page.getByRole('row', { name: /Screen light on edges/ })).toContainText('+');
  await expect(page.getByRole('row', { name: /Hand repair/ })).toContainText('−');
});

test('the stand-in camera’s frame goes to Gather and can be cut', async ({ page }) => {
  await newPlannedShoot(page, 'Rehearsal pier');
  await page.getByLabel('Who stands there').selectOption('otto');
  await page.getByRole('button', { name: 'Take this frame' }).click();
  await expect(page.getByText(/STANDIN_otto_1.jpg is at Gather/)).toBeVisible();
  await station(page, /^Extract/).click();
  await page.getByRole('button', { name: 'Extract 1 frame' }).click();
  await expect(page.getByText('all extracted as they stand')).toBeVisible();
});
