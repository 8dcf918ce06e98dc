import { expect, test, type Page } from '@playwright/test';
import type { Shoot, ShootList } from '../contract/index.ts';
import { violations } from './axe.ts';

/** The rules of accessibility on every main view, by axe. */

const address = (): string => process.env.E2E_ADDRESS as string;

type View = [what: string, open?: (page: Page) => Promise<unknown>];

/** Views of one page after another, as a hand gets to them, by the page's path: of the sample shoot, or whole. */
const pages: [string, View[]][] = [
  ['/', [['the start page'], ['the new shoot', (page) => page.getByRole('button', { name: 'New shoot' }).click()]]],
  [
    'plan',
    [
      ['Plan'],
      ['What saves', (page) => page.getByRole('tab', { name: 'What saves' }).click()],
      ['the day', (page) => page.getByRole('button', { name: 'Day and guests' }).click()],
    ],
  ],
  ['plan/compare', [['Plan, compared']]],
  ['check', [['Check']]],
  ['gather', [['Gather']]],
  [
    'extract',
    [
      ['Extract', (page) => page.getByText('How spill goes, and what it leaves').click()],
      ['green', (page) => page.getByRole('tab', { name: /^Green/ }).click()],
      ['masks', (page) => page.getByRole('tab', { name: 'Masks' }).click()],
      ['touches', (page) => page.getByRole('tab', { name: /^Touches/ }).click()],
      [
        'a trial and two views',
        async (page) => {
          await page.getByRole('tab', { name: 'Settings' }).click();
          await page.getByRole('checkbox', { name: 'Try before keeping' }).check();
          await page.keyboard.press('d');
          await page.keyboard.press('v');
        },
      ],
      ['keys', (page) => page.keyboard.press('?')],
      [
        'recipes',
        async (page) => {
          await page.keyboard.press('Escape');
          await page.getByRole('button', { name: 'Recipes' }).click();
        },
      ],
      [
        'all results',
        async (page) => {
          await page.keyboard.press('Escape');
          await expect(page.getByRole('dialog')).toHaveCount(0);
          await page.keyboard.press('e');
        },
      ],
    ],
  ],
  ['place', [['Place']]],
  ['hand-over', [['Hand over']]],
  ['hand-over/crops', [['Hand over, crops']]],
  ['log', [['Log'], ['a camera note', (page) => page.getByRole('button', { name: 'Note the camera' }).click()]]],
  ['log/next', [['Log, next time']]],
  ['/rehearsal', [['Rehearsal']]],
];

for (const [path, views] of pages) {
  test(`axe finds nothing on ${views.map(([what]) => what).join(', ')}`, async ({ page }) => {
    const { shoots } = (await (await page.request.get(`${address()}api/shoots`)).json()) as ShootList;
    const sample = shoots.find((shoot) => shoot.sample) as Shoot;
    await page.goto(path.startsWith('/') ? address() + path.slice(1) : `${address()}shoots/${sample.id}/${path}`);
    await page.waitForLoadState('networkidle').catch(() => undefined);
    for (const [what, open] of views) {
      await open?.(page);
      await expect.poll(() => violations(page), { message: what }).toEqual([]);
    }
  });
}
