import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium, type Page } from '@playwright/test';
import { demoFrames, demoShot, takeFrame } from '../core/studio/index.ts';
import config from '../playwright.config.ts';
import { startApplication } from '../e2e/server.ts';
import { station } from '../e2e/ruler.ts';
import { encodePicture } from '../server/pictures/encode.ts';
import { largePicture } from './largePicture.ts';
import { writeSection } from './section.ts';
import '../server/kernels.ts';

const MEGAPIXELS = 24;
/** How long each is done, ms, and how many moves of the hand a second. */
const LASTS = 4000;
const MOVES = 120;

/** How one way of looking went: pictures a second, and the longest that one stood, ms. */
interface Seen {
  what: string;
  perSecond: number;
  longest: number;
  /** Share of the time in which all in sight was at full size. */
  sharp: number;
}

/**
 * How smoothly a frame of 24 megapixels is moved, brought closer and painted on at Extract, in a browser without a
 * graphics card. Writes its section of docs/speed.md.
 */
export async function viewing(): Promise<void> {
  const folder = await mkdtemp(join(tmpdir(), 'silent-lawn-bench-view-'));
  const application = await startApplication(join(folder, 'data'), { SILENT_LAWN_DEMO: 'off', PORT: '4481' });
  const browser = await chromium.launch(config.use?.launchOptions);
  try {
    const { plan, shot } = demoShot(demoFrames[0], 2400);
    const file = join(folder, 'large.jpg');
    await largePicture(await encodePicture(takeFrame(plan, shot).frame, 'png'), MEGAPIXELS, file);
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    // The loader of TypeScript names functions by a helper that the page does not have.
    await page.addInitScript('globalThis.__name = (named) => named');
    await page.goto(application.address);
    await page.getByRole('button', { name: 'New shoot' }).click();
    await page.getByLabel('Name').fill('Bench');
    await page.getByRole('button', { name: 'Make the shoot' }).click();
    await page.getByLabel('Frame files').setInputFiles(file);
    await page.getByText('1 taken in').waitFor({ timeout: 120_000 });
    await station(page, /^Extract/).click();
    await page.getByRole('button', { name: /^Extract 1/ }).click({ timeout: 120_000 });
    await page.getByText('all extracted as they stand').waitFor({ timeout: 300_000 });
    await page.keyboard.press('0');
    await page.locator('canvas[data-sharp=true]').first().waitFor({ timeout: 120_000 });
    const rows = [await watched(page, 'nothing moves', (ms) => page.waitForTimeout(ms))];
    rows.push(await watched(page, 'moved at full size', (ms) => circle(page, ms)));
    rows.push(await watched(page, 'once more, the same way', (ms) => circle(page, ms)));
    rows.push(await watched(page, 'closer and farther by the wheel', (ms) => wheel(page, ms)));
    await page.getByRole('tab', { name: 'Touches' }).click();
    await page.keyboard.press('a');
    rows.push(await watched(page, 'a hand over it, values read', (ms) => hover(page, ms)));
    for (const row of rows) console.log(row);
    await writeSection('speed.md', 'Looking at a frame', report(rows));
  } finally {
    await browser.close();
    await application.stop();
    await rm(folder, { recursive: true, force: true });
  }
}

/** Does something for a while and counts the pictures that the page gets to draw meanwhile. */
async function watched(page: Page, what: string, doing: (ms: number) => Promise<void>): Promise<Seen> {
  await page.evaluate(() => {
    const counted = { times: [performance.now()], sharp: 0 };
    Object.assign(window, { counted });
    const next = (time: number): void => {
      counted.times.push(time);
      if (document.querySelector('canvas[data-sharp]')?.getAttribute('data-sharp') === 'true') counted.sharp++;
      if ((window as unknown as { counted: unknown }).counted === counted) requestAnimationFrame(next);
    };
    requestAnimationFrame(next);
  });
  await doing(LASTS);
  const { times, sharp } = await page.evaluate(() => {
    const { counted } = window as unknown as { counted: { times: number[]; sharp: number } };
    Object.assign(window, { counted: undefined });
    return counted;
  });
  const steps = times.slice(1).map((time, n) => time - times[n]);
  return {
    what,
    perSecond: (1000 * steps.length) / (times[times.length - 1] - times[0]),
    longest: Math.max(...steps.slice(1)),
    sharp: sharp / steps.length,
  };
}

/** Moves of the hand at an even pace for a while. */
async function paced(ms: number, move: (share: number) => Promise<void>): Promise<void> {
  const start = performance.now();
  for (let share = 0; share < 1; share = (performance.now() - start) / ms) {
    const began = performance.now();
    await move(share);
    const left = 1000 / MOVES - (performance.now() - began);
    if (left > 0) await new Promise((resolve) => setTimeout(resolve, left));
  }
}

const around = (share: number): [number, number] => [
  640 + 160 * Math.cos(4 * Math.PI * share),
  430 + 120 * Math.sin(4 * Math.PI * share),
];

async function circle(page: Page, ms: number): Promise<void> {
  await page.mouse.move(...around(0));
  await page.mouse.down();
  await paced(ms, (share) => page.mouse.move(...around(share)));
  await page.mouse.up();
}

async function wheel(page: Page, ms: number): Promise<void> {
  await page.mouse.move(...around(0));
  await paced(ms, (share) => page.mouse.wheel(0, share % 0.5 < 0.25 ? -20 : 20));
}

async function hover(page: Page, ms: number): Promise<void> {
  await paced(ms, (share) => page.mouse.move(...around(share)));
}

function report(rows: readonly Seen[]): string {
  return `A frame of ${MEGAPIXELS} megapixels at Extract, its cut on mid-grey, in headless Chromium without a graphics card, page and server on two
cores, ${MOVES} moves of the hand a second. The aim is 60 pictures a second; *nothing moves* is what this browser gives at most. *Sharp* is the share
of the pictures on which all that is in sight is there at full size.

| | pictures a second | longest, ms | sharp |
| --- | --: | --: | --: |
${rows.map(({ what, perSecond, longest, sharp }) => `| ${what} | ${perSecond.toFixed(0)} | ${longest.toFixed(0)} | ${(100 * sharp).toFixed(0)} % |`).join('\n')}
`;
}
