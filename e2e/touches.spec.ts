import { expect, test, type Page } from '@playwright/test';
import { address, detail, levelAt, openCut } from './atExtract.ts';

/** Touches of the hand, at Extract. */

/** Where a share of the frame of 400 × 600 lies on the page. */
async function onPage(page: Page, x: number, y: number): Promise<[number, number]> {
  const box = await page.locator('.viewer > canvas').boundingBox();
  if (!box) throw new Error('no picture');
  const scale = Math.min((box.width - 32) / 400, (box.height - 32) / 600);
  return [box.x + box.width / 2 + (x - 0.5) * 400 * scale, box.y + box.height / 2 + (y - 0.5) * 600 * scale];
}

async function paint(page: Page, from: [number, number], to: [number, number]): Promise<void> {
  await page.mouse.move(...(await onPage(page, ...from)));
  await page.mouse.down();
  await page.mouse.move(...(await onPage(page, ...to)), { steps: 8 });
  await page.mouse.up();
}

/** Extracts what of the setup is not as it is wanted. */
async function extracted(page: Page): Promise<void> {
  const extract = page.getByRole('button', { name: /^Extract \d/ });
  if (await extract.isEnabled()) await extract.click();
  await expect(page.getByText('all extracted as they stand')).toBeVisible();
}

test('a stroke takes coverage away at once; it is switched off, moved, taken back, done again, and survives a reload', async ({
  page,
}) => {
  await openCut(page, /^SKM_0104/);
  await page.keyboard.press('2');
  await expect.poll(() => levelAt(page, 0.5, 0.8)).toBe(255);
  await page.getByRole('tab', { name: /^Touches/ }).click();
  await page.getByRole('button', { name: 'Take away' }).click();
  const width = page.getByRole('spinbutton', { name: 'Width' });
  const before = Number(await width.inputValue());
  await page.keyboard.press('w');
  await expect.poll(async () => Number(await width.inputValue())).toBeGreaterThan(before);
  for (let n = 0; n < 5; n++) await page.keyboard.press('w');
  await paint(page, [0.42, 0.8], [0.58, 0.8]);
  const list = page.getByRole('list', { name: 'Touches' });
  await expect(list.getByRole('listitem')).toHaveCount(1);
  await expect.poll(() => levelAt(page, 0.5, 0.8)).toBe(0);
  expect(await levelAt(page, 0.5, 0.65)).toBe(255);

  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await paint(page, [0.5, 0.8], [0.5, 0.8]);
  await expect(list.getByRole('listitem')).toHaveCount(2);
  await expect.poll(() => levelAt(page, 0.5, 0.8)).toBe(255);
  // Laid on before the other, it is under it.
  await list.getByRole('button', { name: 'Lay on earlier' }).first().click();
  await expect.poll(() => levelAt(page, 0.5, 0.8)).toBe(0);
  await list.getByRole('checkbox', { name: 'Take away holds' }).uncheck();
  await expect.poll(() => levelAt(page, 0.5, 0.8)).toBe(255);
  await page.keyboard.press('Control+z');
  await expect.poll(() => levelAt(page, 0.5, 0.8)).toBe(0);
  await page.keyboard.press('Control+y');
  await expect.poll(() => levelAt(page, 0.5, 0.8)).toBe(255);

  await page.reload();
  await page.getByRole('tab', { name: /^Touches 2/ }).click();
  await expect(list.getByRole('listitem')).toHaveCount(2);
  await list.getByRole('button', { name: 'Remove' }).first().click();
  await expect(list.getByRole('listitem')).toHaveCount(1);
  await list.getByRole('button', { name: 'Remove' }).click();
  await expect(list).toHaveCount(0);
  await expect
    .poll(async () => (await detail()).frames.every(({ guidance }) => guidance.touches.length === 0))
    .toBe(true);
});

test('accepting by key goes on to the next frame, the minutes fall, and it can be taken back', async ({ page }) => {
  await openCut(page, /^SKM_0103/);
  await extracted(page);
  const accepted = async (): Promise<string[]> =>
    (await detail()).frames.flatMap(({ name, review }) => (review?.state === 'accepted' ? [name] : []));
  const shown = page.getByRole('img', { name: /^SKM_/ });
  const first = (await shown.getAttribute('aria-label'))?.split(',')[0] ?? '';
  await page.keyboard.press('a');
  await expect(shown).not.toHaveAttribute('aria-label', new RegExp(`^${first}`));
  await expect.poll(accepted).toEqual([first]);
  await expect(page.getByRole('button', { name: 'Accepted 1' })).toBeVisible();
  await page.getByRole('button', { name: 'Accepted 1' }).click();
  await expect(page.getByRole('list', { name: 'Frames' }).getByRole('listitem')).toHaveCount(1);
  await expect(page.getByRole('list', { name: 'Frames' })).toContainText(`${first}accepted`);
  await page.keyboard.press('Control+z');
  await expect.poll(accepted).toEqual([]);
  await page.getByRole('button', { name: 'Accepted 0' }).click();
});

test('all results on one sheet, and from it to the bench; two views with a divider; values under the pointer', async ({
  page,
}) => {
  await openCut(page, /^SKM_0104/);
  await page.keyboard.press('e');
  const sheet = page.getByRole('region', { name: 'All results' });
  await expect(sheet.getByRole('figure').first()).toContainText(/min|not extracted|nothing doubtful|accepted/);
  await sheet.getByRole('button', { name: 'SKM_0103.jpg' }).click();
  await expect(page.getByRole('img', { name: /^SKM_0103/ })).toBeVisible();
  await expect(sheet).toHaveCount(0);

  await page.keyboard.press('d');
  await expect(page.getByRole('img', { name: /^SKM_0103.*photograph/ })).toBeVisible();
  const divider = page.getByRole('slider', { name: 'Divider' });
  const before = Number(await divider.inputValue());
  await divider.focus();
  await page.keyboard.press('ArrowLeft');
  await expect.poll(async () => Number(await divider.inputValue())).toBeLessThan(before);
  await page.getByRole('button', { name: 'one above the other' }).click();
  await expect(divider).toHaveCount(0);
  await expect(page.locator('.viewer')).toHaveCount(2);
  await page.keyboard.press('d');
  await expect(page.locator('.viewer')).toHaveCount(1);

  await page.keyboard.press('v');
  await page.mouse.move(...(await onPage(page, 0.5, 0.7)));
  const values = page.getByRole('status', { name: 'Under the pointer' });
  await expect(values).toContainText('100.0 %');
  await page.keyboard.press('m');
  await page.mouse.move(...(await onPage(page, 0.02, 0.05)));
  await expect(values).toContainText(/Coverage0\.0 %/);
  await expect(values).toContainText('100.0 %');
});

test('the walk: each answer a key, the next place is ready beforehand; taken back it is asked again; a reload goes on', async ({
  page,
}) => {
  await openCut(page, /^SKM_0103/);
  await extracted(page);
  const walk = page.getByRole('button', { name: /^Walk through \d+/ });
  const places = Number((await walk.innerText()).match(/\d+/)?.[0]);
  expect(places).toBeGreaterThan(3);
  await walk.click();
  const at = page.getByText(/^Place \d+ of/);
  const ready = page.locator('[data-ready=true]').first();
  await expect(at).toHaveText(`Place 1 of ${places}`);
  await expect(ready).toBeVisible();
  for (const n of [2, 3]) {
    // Prepared while the hand thinks: at the next place nothing has to be waited for.
    await expect(page.getByRole('region', { name: 'Walk' })).not.toHaveAttribute('data-ahead', '0');
    await page.keyboard.press('1');
    const shown = await page.waitForFunction(
      (text) =>
        document.body.innerText.includes(text) && document.querySelector('[data-ready]')?.getAttribute('data-ready'),
      `Place ${n} of`,
    );
    expect(await shown.jsonValue()).toBe('true');
  }
  await page.keyboard.press('u');
  await expect(at).toHaveText(`Place 2 of ${places}`);
  await page.keyboard.press('2');
  await expect(at).toHaveText(`Place 3 of ${places}`);
  await page.keyboard.press('Escape');
  await page.reload();
  await expect(page.getByRole('button', { name: `Walk through ${places - 2} doubtful places` })).toBeVisible();
  await expect
    .poll(async () => (await detail()).frames.filter(({ review }) => review?.settled.length).length)
    .toBeGreaterThan(0);
});

test('the outline unrolled: by key, on another tone, and a click leads to its place at full size', async ({ page }) => {
  await openCut(page, /^SKM_0102/);
  await extracted(page);
  await page.keyboard.press('o');
  const ribbon = page.getByRole('img', { name: /^SKM_0102.*outline of \d+ pixels/ });
  await expect(ribbon).toBeVisible();
  const before = await ribbon.locator('img').getAttribute('src');
  await page.keyboard.press('5');
  await expect.poll(() => ribbon.locator('img').getAttribute('src')).not.toBe(before);
  await page.keyboard.press('1');
  await expect.poll(() => ribbon.locator('img').getAttribute('src')).not.toBe(before);
  await ribbon.focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /Whole picture/ })).toBeVisible();
  await page.keyboard.press('0');
  await page.keyboard.press('o');
  await ribbon.click({ position: { x: 150, y: 40 } });
  await expect(page.getByRole('button', { name: /Whole picture/ })).toBeVisible();
  await expect(ribbon).toHaveCount(0);
});

test('a region drawn in one go is cut with settings of its own; a brush paints on the unrolled outline', async ({
  page,
}) => {
  await openCut(page, /^SKM_0102/);
  await extracted(page);
  await page.keyboard.press('2');
  await expect.poll(() => levelAt(page, 0.12, 0.12)).toBe(0);
  await page.getByRole('tab', { name: 'Masks' }).click();
  await page.getByRole('button', { name: 'Own settings' }).click();
  await page.getByLabel('Holds for').selectOption('this frame');
  await page.mouse.move(...(await onPage(page, 0.2, 0.12)));
  await page.mouse.down();
  for (let n = 1; n <= 24; n++) {
    const turn = (2 * Math.PI * n) / 25;
    await page.mouse.move(...(await onPage(page, 0.12 + 0.08 * Math.cos(turn), 0.12 + 0.08 * Math.sin(turn))));
  }
  await page.mouse.up();
  await page.getByRole('button', { name: 'Keep the mask' }).click();
  await page.getByLabel('Differs in').selectOption('Method');
  await page
    .getByRole('group', { name: 'Settings in this region' })
    .getByRole('combobox', { name: 'Method' })
    .selectOption('Without a screen');
  await expect.poll(() => levelAt(page, 0.12, 0.12)).toBe(255);
  expect(await levelAt(page, 0.12, 0.6)).toBe(0);
  await page.getByRole('list', { name: 'Masks' }).getByRole('button', { name: 'Remove' }).click();
  await expect.poll(() => levelAt(page, 0.12, 0.12)).toBe(0);

  await page.getByRole('tab', { name: /^Touches/ }).click();
  await page.getByRole('button', { name: 'Take away' }).click();
  await page.keyboard.press('o');
  const ribbon = page.getByRole('img', { name: /^SKM_0102.*outline of \d+ pixels/ });
  const box = await ribbon.boundingBox();
  if (!box) throw new Error('no outline');
  const unrolled = await ribbon.locator('img').getAttribute('src');
  await page.mouse.move(box.x + 60, box.y + 50);
  await page.mouse.down();
  await page.mouse.move(box.x + 160, box.y + 50, { steps: 8 });
  await page.mouse.up();
  const touches = page.getByRole('list', { name: 'Touches' });
  await expect(touches.getByRole('listitem')).toHaveCount(1);
  // What it does is seen there without extracting anew.
  await expect.poll(() => ribbon.locator('img').getAttribute('src')).not.toBe(unrolled);
  await expect(page.getByText('Painted; what it does')).toHaveCount(0);
  await touches.getByRole('button', { name: 'Remove' }).click();
  await expect(touches).toHaveCount(0);
});

test('strands are drawn out of the hair and carried to the subject’s other frame; a crop lies over all gestures', async ({
  page,
}) => {
  const other = (await detail()).frames.find(({ name }) => name === 'SKM_0103.jpg');
  const named = (subject: string): Promise<Response> =>
    fetch(`${address()}api/frames/${other?.id}`, {
      method: 'PATCH',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ subject }),
    });
  await named('Tobin');
  await openCut(page, /^SKM_0102/);
  await page.keyboard.press('2');
  await page.getByRole('tab', { name: /^Touches/ }).click();
  await page.getByRole('button', { name: 'Strands', exact: true }).click();
  const [x, y] = [0.5, 0.09];
  await expect.poll(() => levelAt(page, x, y)).toBeLessThan(5);
  await paint(page, [0.5, 0.2], [0.5, 0.02]);
  const list = page.getByRole('list', { name: 'Touches' });
  await expect(list.getByRole('listitem')).toHaveCount(1);
  const strip = (): Promise<number[]> =>
    Promise.all([-0.02, -0.01, 0, 0.01, 0.02].map((aside) => levelAt(page, x + aside, y)));
  await expect.poll(async () => Math.max(...(await strip()))).toBeGreaterThan(6);

  await page.getByRole('button', { name: 'Carry to 1 other frame of Tobin' }).click();
  const dialog = page.getByRole('dialog', { name: 'To the other frames of Tobin' });
  await dialog.getByRole('checkbox', { name: 'Strands, SKM_0103.jpg' }).check();
  await dialog.getByRole('button', { name: 'Lay on 1 touch' }).click();
  await page.getByRole('button', { name: /^SKM_0103/ }).click();
  await expect(list.getByRole('listitem')).toHaveCount(1);
  await page.keyboard.press('Control+z');
  await expect(list).toHaveCount(0);

  await extracted(page);
  await page.getByRole('tab', { name: 'Masks' }).click();
  await page.getByRole('button', { name: 'Crop', exact: true }).click();
  await page.getByRole('button', { name: 'Around all of them' }).click();
  await expect(page.getByText('It cuts nobody.')).toBeVisible();
  // The same crop is looked at over another frame.
  await page.getByRole('button', { name: /^SKM_0104/ }).click();
  await expect(page.getByText('It cuts nobody.')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByText(/gestures lie over the picture/)).toHaveCount(0);

  await page.getByRole('button', { name: /^SKM_0102/ }).click();
  await page.getByRole('tab', { name: /^Touches/ }).click();
  await list.getByRole('button', { name: 'Remove' }).click();
  await expect(list).toHaveCount(0);
  await named(other?.subject ?? '');
});

test.describe('on a tablet', () => {
  test.use({ hasTouch: true, viewport: { width: 1024, height: 768 } });

  test('a finger paints, two come closer and paint nothing', async ({ page }) => {
    const hand = await page.context().newCDPSession(page);
    type Places = [number, number][];
    const fingers = async (type: 'touchStart' | 'touchMove' | 'touchEnd', places: Places): Promise<void> => {
      const touchPoints = places.map(([x, y], id) => ({ x, y, id }));
      await hand.send('Input.dispatchTouchEvent', { type, touchPoints });
    };
    await openCut(page, /^SKM_0104/);
    await page.keyboard.press('2');
    await page.getByRole('tab', { name: /^Touches/ }).tap();
    await page.getByRole('button', { name: 'Take away' }).tap();
    const at = (x: number, y: number): Promise<[number, number]> => onPage(page, x, y);
    await expect.poll(() => levelAt(page, 0.5, 0.8)).toBe(255);
    await fingers('touchStart', [await at(0.42, 0.8)]);
    for (const x of [0.46, 0.5, 0.54, 0.58]) await fingers('touchMove', [await at(x, 0.8)]);
    await fingers('touchEnd', []);
    const list = page.getByRole('list', { name: 'Touches' });
    await expect(list.getByRole('listitem')).toHaveCount(1);
    await expect.poll(() => levelAt(page, 0.5, 0.8)).toBe(0);

    const shown = page.getByRole('button', { name: 'Whole picture' });
    await expect(shown).toHaveCount(0);
    await fingers('touchStart', [await at(0.45, 0.5)]);
    await fingers('touchStart', [await at(0.45, 0.5), await at(0.55, 0.5)]);
    for (const apart of [0.1, 0.15, 0.2])
      await fingers('touchMove', [await at(0.5 - apart, 0.5), await at(0.5 + apart, 0.5)]);
    await fingers('touchEnd', []);
    await expect(shown).toBeVisible();
    await expect(list.getByRole('listitem')).toHaveCount(1);
    await list.getByRole('button', { name: 'Remove' }).tap();
    await expect(list).toHaveCount(0);
    await shown.tap();
    await expect(shown).toHaveCount(0);
  });
});
