import { expect, test, type Page } from '@playwright/test';
import type { Shoot, ShootList } from '../contract/index.ts';
import { violations } from './axe.ts';

/** The rules of accessibility on every main view, by axe. */

const address = (): string => process.env.E2E_ADDRESS as string;

const views: [string, string, ((page: Page) => Promise<unknown>)?][] = [
  ['the start page', ''],
  ['the new shoot', '', (page) => page.getByRole('button', { name: 'New shoot' }).click()],
  ['Plan', 'plan'],
  ['Plan, what saves', 'plan', (page) => page.getByRole('tab', { name: 'What saves' }).click()],
  ['Plan, the day', 'plan', (page) => page.getByRole('button', { name: 'Day and guests' }).click()],
  ['Plan, compared', 'plan/compare'],
  ['Check', 'check'],
  ['Gather', 'gather'],
  ['Extract', 'extract', (page) => page.getByText('How spill goes, and what it leaves').click()],
  ['Extract, green', 'extract', (page) => page.getByRole('tab', { name: /^Green/ }).click()],
  ['Extract, masks', 'extract', (page) => page.getByRole('tab', { name: 'Masks' }).click()],
  ['Extract, keys', 'extract', (page) => page.keyboard.press('?')],
  ['Extract, touches', 'extract', (page) => page.getByRole('tab', { name: /^Touches/ }).click()],
  [
    'Extract, a trial and two views',
    'extract',
    async (page) => {
      await page.getByRole('checkbox', { name: 'Try before keeping' }).check();
      await page.keyboard.press('d');
      await page.keyboard.press('v');
    },
  ],
  ['Extract, recipes', 'extract', (page) => page.getByRole('button', { name: 'Recipes' }).click()],
  ['Extract, all results', 'extract', (page) => page.keyboard.press('e')],
  ['Place', 'place'],
  ['Hand over', 'hand-over'],
  ['Hand over, crops', 'hand-over/crops'],
  ['Log', 'log'],
  ['Log, a camera note', 'log', (page) => page.getByRole('button', { name: 'Note the camera' }).click()],
  ['Log, next time', 'log/next'],
  ['Rehearsal', '/rehearsal'],
];

for (const [what, path, open] of views) {
  test(`axe finds nothing on ${what}`, async ({ page }) => {
    const { shoots } = (await (await page.request.get(`${address()}api/shoots`)).json()) as ShootList;
    const sample = shoots.find((shoot) => shoot.sample) as Shoot;
    const own = path === '' || path.startsWith('/');
    await page.goto(own ? address() + path.slice(1) : `${address()}shoots/${sample.id}/${path}`);
    await page.waitForLoadState('networkidle').catch(() => undefined);
    await open?.(page);
    await expect.poll(() => violations(page)).toEqual([]);
  });
}
