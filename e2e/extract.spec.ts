import { expect, test, type Page } from '@playwright/test';
import { address, clickAt, detail, levelAt, openCut } from './atExtract.ts';

type Remembering = typeof globalThis & { seen: ImageData };

/**
 * How many pixels of the shown picture differ from those last remembered, within the box round the corners (shares of
 * a frame of 400 × 600) and beyond it.
 */
async function changedPixels(
  page: Page,
  corners: { x: number; y: number }[],
  remember = false,
): Promise<{ inside: number; outside: number }> {
  return page.locator('.viewer > canvas').evaluate(
    (element, { xs, ys, anew }) => {
      const { width, height } = element as HTMLCanvasElement;
      const context = (element as HTMLCanvasElement).getContext('2d') as CanvasRenderingContext2D;
      const now = context.getImageData(0, 0, width, height);
      const there = globalThis as Remembering;
      if (anew) there.seen = now;
      const scale = Math.min((width - 32) / 400, (height - 32) / 600);
      const within = (shares: number[], at: number, length: number, side: number): boolean => {
        const share = 0.5 + (at - length / 2) / (side * scale);
        return share > Math.min(...shares) - 0.02 && share < Math.max(...shares) + 0.02;
      };
      const count = { inside: 0, outside: 0 };
      const [a, b] = [new Uint32Array(there.seen.data.buffer), new Uint32Array(now.data.buffer)];
      for (let p = 0; p < a.length; p++) {
        if (a[p] === b[p]) continue;
        const inside = within(xs, p % width, width, 400) && within(ys, Math.floor(p / width), height, 600);
        count[inside ? 'inside' : 'outside']++;
      }
      return count;
    },
    { xs: corners.map(({ x }) => x), ys: corners.map(({ y }) => y), anew: remember },
  );
}

test('a verdict on green by click and key shows at once, survives a reload, is cut, and can be taken back', async ({
  page,
}) => {
  await openCut(page, /^SKM_0102/);
  await page.keyboard.press('2');
  await expect.poll(() => levelAt(page, 0.42, 0.75)).toBe(255);
  await page.getByRole('tab', { name: /^Green/ }).click();
  await clickAt(page, 0.42, 0.75);
  const chosen = page.getByRole('region', { name: 'Green ledger' }).locator('li[aria-current=true]');
  await expect(chosen).toContainText('Keeps');
  await expect(chosen).toContainText('by evidence');
  await page.keyboard.press('r');
  await expect.poll(() => levelAt(page, 0.42, 0.75)).toBeLessThan(160);
  await expect(chosen).toContainText('by hand');
  // One verdict changes nothing else: the face is as solid as before.
  await expect.poll(() => levelAt(page, 0.5, 0.3)).toBe(255);
  await page.reload();
  await page.getByRole('tab', { name: /^Green/ }).click();
  await expect(page.getByRole('region', { name: 'Green ledger' })).toContainText('Goes');
  await expect(page.getByRole('region', { name: 'Green ledger' })).toContainText('by hand');
  await page.getByRole('button', { name: /^Goes by hand/ }).click();
  await page.getByRole('button', { name: 'It keeps' }).click();
  await page.keyboard.press('2');
  await expect.poll(() => levelAt(page, 0.42, 0.75)).toBe(255);
  await page.getByRole('button', { name: 'By evidence', exact: true }).click();
  await expect(page.getByRole('region', { name: 'Green ledger' })).not.toContainText('by hand');
});

test('verdicts typed faster than previews come back are all kept, and another window’s stay', async ({
  page,
  context,
}) => {
  await openCut(page, /^SKM_0105/);
  await page.getByRole('tab', { name: /^Green/ }).click();
  const ledger = page.getByRole('region', { name: 'Green ledger' });
  await expect(ledger.locator('li').first()).toBeVisible();
  const patches = Math.min(3, await ledger.locator('li').count());
  const id = Number(new URL(page.url()).searchParams.get('frame'));
  const verdicts = async (): Promise<number> =>
    (await detail()).frames.find((frame) => frame.id === id)?.guidance.verdicts.length ?? -1;
  const before = await verdicts();
  for (let n = 0; n < patches; n++) {
    await page.keyboard.press('n');
    await page.keyboard.press('k');
  }
  await expect.poll(verdicts).toBe(before + patches);
  for (let n = 0; n < patches; n++) await page.keyboard.press('Control+z');
  await expect.poll(verdicts).toBe(before);

  // Two windows, each with a mask of its own, drawn from the same state: one line to the server serves both.
  const other = await context.newPage();
  await other.goto(page.url());
  await expect(other.getByRole('tab', { name: /^Green/ })).toBeVisible();
  await page.keyboard.press('n');
  await page.keyboard.press('r');
  await other.getByRole('tab', { name: /^Green/ }).click();
  await expect(other.getByRole('region', { name: 'Green ledger' })).toContainText('by hand');
  await page.keyboard.press('Control+z');
  await expect(other.getByRole('region', { name: 'Green ledger' })).not.toContainText('by hand');
  await other.close();
});

test('a mask drawn on the picture holds in the preview and in the batch; removing it makes the cut stale', async ({
  page,
}) => {
  await openCut(page, /^SKM_0101/);
  await page.keyboard.press('2');
  await expect.poll(() => levelAt(page, 0.5, 0.9)).toBe(255);
  await page.getByRole('tab', { name: 'Masks' }).click();
  await page.getByRole('button', { name: 'Clear', exact: true }).click();
  await page.getByLabel('Holds for').selectOption('this frame');
  for (const [x, y] of [
    [0.02, 0.8],
    [0.98, 0.8],
    [0.98, 0.99],
    [0.5, 0.99],
    [0.02, 0.99],
  ])
    await clickAt(page, x, y);
  await expect(page.getByText('5 so far')).toBeVisible();
  await page.keyboard.press('Backspace');
  await expect(page.getByText('4 so far')).toBeVisible();
  await clickAt(page, 0.02, 0.99);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('list', { name: 'Masks' })).toContainText('Clear, 5 corners');
  await expect.poll(() => levelAt(page, 0.5, 0.9)).toBe(0);
  await expect.poll(() => levelAt(page, 0.5, 0.72)).toBe(255);

  await page.getByRole('button', { name: /^Extract \d/ }).click();
  await expect(page.getByText('all extracted as they stand')).toBeVisible();
  const id = Number(new URL(page.url()).searchParams.get('frame'));
  const region = await fetch(`${address()}api/frames/${id}/region?view=matte&x=180&y=500&width=40&height=40`);
  const { default: sharp } = await import('sharp');
  const { data } = await sharp(Buffer.from(await region.arrayBuffer()))
    .raw()
    .toBuffer({ resolveWithObject: true });
  expect(Math.max(...data)).toBe(0);
  await page.getByRole('list', { name: 'Masks' }).getByRole('button', { name: 'Remove' }).click();
  await expect(page.getByText('new, failed or changed since')).toBeVisible();
  await page.getByRole('button', { name: /Take back: mask/ }).click();
  await expect(page.getByText('all extracted as they stand')).toBeVisible();
  await page.getByRole('list', { name: 'Masks' }).getByRole('button', { name: 'Remove' }).click();
  await expect(page.getByRole('list', { name: 'Masks' }).getByRole('listitem')).toHaveCount(0);
});

test('a plate is assigned and used; the frame that is the plate is cut without it', async ({ page }) => {
  await openCut(page, /^SKM_0105/);
  await page.getByRole('button', { name: /^Extract \d/ }).click();
  await expect(page.getByText('all extracted as they stand')).toBeVisible();
  await page.getByRole('tab', { name: 'Masks' }).click();
  const plate = page.getByRole('combobox', { name: 'Plates', exact: true });
  await plate.fill('0104');
  await page.getByRole('option', { name: 'SKM_0104.jpg' }).click();
  await page.keyboard.press('Escape');
  // All but the plate itself have to be cut anew.
  await expect(page.getByRole('button', { name: /^Extract 4 frames/ })).toBeVisible();
  await page.getByRole('button', { name: /^Extract 4 frames/ }).click();
  await expect(page.getByText('all extracted as they stand')).toBeVisible();
  const { frames, orders } = await detail();
  const cutOf = (name: string) => frames.find((frame) => frame.name === name)?.cut;
  for (const order of orders) {
    const frame = frames.find(({ id }) => id === order.id);
    if (frame?.name.startsWith('SKM_01'))
      expect(frame.cut?.fingerprint === order.wanted).toBe(frame.name !== 'SKM_0104.jpg');
  }
  expect(orders.find(({ id }) => id === frames.find(({ name }) => name === 'SKM_0104.jpg')?.id)?.wanted).toBeNull();
  expect(cutOf('SKM_0105.jpg')).toBeTruthy();
  await plate.hover();
  await page.getByRole('button', { name: 'No plate' }).click();
  await expect(page.getByRole('button', { name: /^Extract 4 of 5/ })).toBeVisible();
});

test('a plate is put together from the frames, masks for spill and sheer cloth are drawn', async ({ page }) => {
  await openCut(page, /^SKM_0105/);
  await page.getByRole('tab', { name: 'Masks' }).click();
  const ruler = page.getByRole('navigation', { name: 'Stations' });
  const before = await ruler.innerText();
  await page.getByRole('button', { name: 'Put one together' }).click();
  await expect(page.getByRole('progressbar', { name: 'Plate' })).toBeVisible();
  await expect(page.getByRole('status').filter({ hasText: 'of the picture' })).toContainText(/\d+ %/);
  const chosen = page
    .getByRole('region', { name: 'Masks and plate' })
    .getByRole('button', { name: /^screen of \d frames/ });
  await expect(chosen).toBeVisible();
  // A plate is nobody's picture.
  expect(await ruler.innerText()).toBe(before);
  const made = (await detail()).frames.find(({ name }) => name.startsWith('screen of'));
  // Taken out again, the setup is without a plate.
  await fetch(`${address()}api/frames/${made?.id}`, { method: 'DELETE' });
  await expect(chosen).toHaveCount(0);

  const corners = [
    { x: 0.5, y: 0.45 },
    { x: 0.64, y: 0.45 },
    { x: 0.64, y: 0.7 },
  ];
  // The picture without the plate is there once it stays as it is.
  await expect
    .poll(async () => {
      await changedPixels(page, corners, true);
      await page.waitForTimeout(1500);
      return changedPixels(page, corners);
    })
    .toEqual({ inside: 0, outside: 0 });
  // Over the kept green of the scarf.
  for (const effect of ['No spill', 'See-through']) {
    await page.getByRole('button', { name: effect }).click();
    await page.getByLabel('Holds for').selectOption('this frame');
    for (const { x, y } of corners) await clickAt(page, x, y);
    await page.keyboard.press('Enter');
    const masks = page.getByRole('list', { name: 'Masks' });
    await expect(masks).toContainText(`${effect}, 3 corners`);
    const changed = (): Promise<{ inside: number; outside: number }> => changedPixels(page, corners);
    await expect.poll(async () => (await changed()).inside, effect).toBeGreaterThan(20);
    const { inside, outside } = await changed();
    expect(outside, effect).toBeLessThan(inside / 20);
    await masks.getByRole('button', { name: 'Remove' }).click();
    await expect(masks.getByRole('listitem')).toHaveCount(0);
    await expect.poll(changed, effect).toEqual({ inside: 0, outside: 0 });
  }
});

test('methods and doubts: another method shows at once, a doubt leads to its place, before is one key away', async ({
  page,
}) => {
  await openCut(page, /^SKM_0101/);
  await page.keyboard.press('2');
  await expect.poll(() => levelAt(page, 0.1, 0.1)).toBe(0);
  await page.getByRole('tab', { name: /^Doubts/ }).click();
  const doubts = page.getByRole('region', { name: 'Doubts' });
  await expect(doubts).toContainText('minutes by hand');
  await doubts
    .getByRole('button', { name: /See place 1/ })
    .first()
    .click();
  await expect(page.getByRole('button', { name: /Whole picture/ })).toBeVisible();
  await page.getByRole('button', { name: /Whole picture/ }).click();
  await page.getByRole('tab', { name: 'Settings' }).click();
  await page.getByLabel('Method', { exact: true }).selectOption('distance');
  await expect(page.getByText('How far does the hair come down?')).toHaveCount(0);
  await expect(page.getByRole('spinbutton', { name: 'Screen up to' })).toBeVisible();
  await page.getByLabel('Method', { exact: true }).selectOption('layers');
  await expect(page.getByText('How far does the hair come down?')).toBeVisible();
  await page.getByRole('button', { name: 'Back to the marks' }).click();
  await expect(page.getByLabel('Method', { exact: true })).toHaveValue('unmixing');
  await page.keyboard.down('b');
  await expect(page.getByRole('img', { name: /^SKM_0101.*photograph/ })).toBeVisible();
  await page.keyboard.up('b');
  await expect(page.getByRole('img', { name: /^SKM_0101.*matte/ })).toBeVisible();
});

test('a stored cut is shown at once, before the photograph is there to be cut; one that is not as it is wanted is not', async ({
  page,
}) => {
  await openCut(page, /^SKM_0202/);
  const extract = page.getByRole('button', { name: /^Extract \d/ });
  if (await extract.isEnabled()) await extract.click();
  await expect(page.getByText('all extracted as they stand')).toBeVisible();
  await expect.poll(() => levelAt(page, 0.03, 0.03)).toBeGreaterThan(50);
  const grey = await levelAt(page, 0.03, 0.03);
  const person = await levelAt(page, 0.5, 0.75);
  expect(Math.abs(person - grey)).toBeGreaterThan(8);
  // From now on no photograph comes.
  await page.route('**/working*', () => undefined);
  await page.reload();
  await expect.poll(() => levelAt(page, 0.03, 0.03)).toBeCloseTo(grey, 0);
  expect(Math.abs((await levelAt(page, 0.5, 0.75)) - person)).toBeLessThan(6);
  const reach = page.getByRole('spinbutton', { name: 'Hair reach' });
  await reach.fill('3.3');
  await reach.press('Enter');
  await expect(page.getByText('new, failed or changed since')).toBeVisible();
  await page.reload();
  await expect(page.getByText('Cutting a preview …')).toBeVisible();
  expect(await levelAt(page, 0.03, 0.03)).toBe(0);
  await page.unroute('**/working*');
  await reach.fill('2.5');
  await reach.press('Enter');
  await expect(page.getByText('all extracted as they stand')).toBeVisible();
});
