import { join } from 'node:path';
import { chromium, type Page } from '@playwright/test';
import type { RehearsalList, ShootDetail, ShootList } from '../contract/index.ts';

/**
 * Refreshes docs/screenshots from the sample shoot of a running application: npm run screenshots --
 * http://127.0.0.1:4310/
 */
const address = process.argv[2] ?? 'http://127.0.0.1:4310/';
const folder = join(import.meta.dirname, '..', 'docs', 'screenshots');

async function read<T>(path: string): Promise<T> {
  return (await (await fetch(`${address}api${path}`)).json()) as T;
}

async function send<T>(method: string, path: string, body: unknown = {}): Promise<T> {
  const response = await fetch(`${address}api${path}`, {
    method,
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(body),
  });
  if (!response.ok) throw new Error(`${method} ${path}: ${await response.text()}`);
  return (await response.json()) as T;
}

async function settle(page: Page): Promise<void> {
  await page.waitForLoadState('networkidle').catch(() => undefined);
  await page.waitForTimeout(2500);
}

const shoot = (await read<ShootList>('/shoots')).shoots.find((s) => s.sample && !s.removedAt);
if (!shoot || shoot.pending) throw new Error('The sample shoot is not complete yet.');
let detail = await read<ShootDetail>(`/shoots/${shoot.id}`);
const idle = async (): Promise<void> => {
  do {
    await new Promise((resolve) => setTimeout(resolve, 1000));
    detail = await read<ShootDetail>(`/shoots/${shoot.id}`);
  } while (
    [...detail.batches.map(({ open }) => open > 0), ...detail.jobs.map(({ state }) => state !== 'failed')].includes(
      true,
    )
  );
};
await idle();
const setupId = detail.plans[1].setupId as number;
await send('POST', '/rehearsals', { level: 2, seed: 12 });
while ((await read<RehearsalList>('/rehearsals')).making.length)
  await new Promise((resolve) => setTimeout(resolve, 1000));

const idOf = (name: string): number =>
  detail.frames.find((frame) => frame.name.startsWith(name))?.id ?? detail.frames[0].id;

const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--no-first-run'],
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
const shots: [string, string, ((page: Page) => Promise<unknown>)?][] = [
  ['shoots', ''],
  ['plan', `shoots/${shoot.id}/plan`],
  [
    'plan-day',
    `shoots/${shoot.id}/plan?plan=${detail.plans[1].id}`,
    (p) => p.getByRole('tab', { name: 'Day' }).click(),
  ],
  ['plan-compare', `shoots/${shoot.id}/plan/compare`],
  ['plan-sheet', `shoots/${shoot.id}/plan/${detail.plans[0].id}/sheet`],
  ['check', `shoots/${shoot.id}/check?setup=${setupId}`],
  [
    'check-lawn',
    `shoots/${shoot.id}/check?setup=${setupId}`,
    (p) => p.getByRole('button', { name: 'Lawn map' }).first().click(),
  ],
  ['rehearsal', 'rehearsal'],
  ['extract', `shoots/${shoot.id}/extract?frame=${idOf('SKM_0102')}`],
  [
    'extract-hair-full-size',
    `shoots/${shoot.id}/extract?frame=${idOf('SKM_0101')}`,
    async (p) => (await p.keyboard.press('5'), p.keyboard.press('0')),
  ],
  [
    'extract-walk',
    `shoots/${shoot.id}/extract`,
    async (p) => {
      await p.getByRole('button', { name: /^Walk through/ }).click();
      await p.locator('[data-ready=true]').first().waitFor({ timeout: 60000 });
    },
  ],
  [
    'extract-outline',
    `shoots/${shoot.id}/extract?frame=${idOf('SKM_0102')}`,
    async (p) => {
      await p.keyboard.press('6');
      await p.keyboard.press('o');
      await p.getByRole('img', { name: /outline of/ }).waitFor({ timeout: 60000 });
    },
  ],
  [
    'place',
    `shoots/${shoot.id}/place?frame=${idOf('SKM_0103')}`,
    async (p) => {
      await p.getByRole('tab', { name: /^Match/ }).click();
      await p.getByRole('table', { name: 'Measured' }).waitFor();
    },
  ],
  [
    'place-sheet',
    `shoots/${shoot.id}/place`,
    async (p) => {
      await p.keyboard.press('e');
      await p.waitForFunction(() => [...document.images].every(({ complete }) => complete), undefined, {
        timeout: 120000,
      });
    },
  ],
  [
    'place-fringe',
    `shoots/${shoot.id}/place`,
    async (p) => {
      await p.keyboard.press('f');
      await p.getByText(/^foretold from/).waitFor({ timeout: 240000 });
    },
  ],
  ['hand-over', `shoots/${shoot.id}/hand-over`],
  ['hand-over-crops', `shoots/${shoot.id}/hand-over/crops`],
  ['log', `shoots/${shoot.id}/log/next`],
  // Last: it leaves picks behind.
  [
    'gather',
    `shoots/${shoot.id}/gather/picks`,
    async (page) => {
      for (const key of ['ArrowRight', 'k', 'ArrowRight', 'd', 'ArrowRight', 'r', 'Shift+ArrowRight'])
        await page.keyboard.press(key);
    },
  ],
];
for (const [name, path, prepare] of shots) {
  await page.goto(address + path);
  await settle(page);
  if (prepare) {
    await prepare(page);
    await settle(page);
  }
  await page.screenshot({ path: join(folder, `${name}.png`) });
  console.log(name);
}
await send('PUT', `/shoots/${shoot.id}/sorting`, {
  changes: [{ frameIds: detail.frames.map(({ id }) => id), pick: null }],
});
await browser.close();
