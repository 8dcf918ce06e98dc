import { expect, type Page } from '@playwright/test';
import type { ShootDetail, ShootList } from '../contract/index.ts';
import { station } from './ruler.ts';

/** What tests do at Extract with the sample's frames, of 400 × 600 pixels. */

export const address = (): string => process.env.E2E_ADDRESS as string;

export async function openCut(page: Page, frame: RegExp): Promise<void> {
  await page.goto(address());
  await page.getByRole('link', { name: 'Saltmarsh Kite Meet', exact: true }).click();
  await station(page, /^Extract/).click();
  await page.getByRole('button', { name: frame }).click();
  // Until it is there, the station still shows the frame (and the setup) it opened with.
  await expect(page.getByRole('img', { name: frame })).toBeVisible();
}

export async function detail(): Promise<ShootDetail> {
  const { shoots } = (await (await fetch(`${address()}api/shoots`)).json()) as ShootList;
  return (await (
    await fetch(`${address()}api/shoots/${shoots.find(({ sample }) => sample)?.id}`)
  ).json()) as ShootDetail;
}

/** Brightness of the shown picture at shares of the frame, as it lies in the viewer. */
export async function levelAt(page: Page, x: number, y: number): Promise<number> {
  return page.locator('.viewer > canvas').evaluate(
    (element, at) => {
      const canvas = element as HTMLCanvasElement;
      const [width, height] = [400, 600];
      const scale = Math.min((canvas.width - 32) / width, (canvas.height - 32) / height);
      const context = canvas.getContext('2d') as CanvasRenderingContext2D;
      const { data } = context.getImageData(
        Math.round(canvas.width / 2 + (at.x - 0.5) * width * scale) - 2,
        Math.round(canvas.height / 2 + (at.y - 0.5) * height * scale) - 2,
        5,
        5,
      );
      return data.reduce((sum, v, i) => sum + (i % 4 < 3 ? v : 0), 0) / 75;
    },
    { x, y },
  );
}

/** Clicks on the picture at shares of the frame. */
export async function clickAt(page: Page, x: number, y: number): Promise<void> {
  const box = await page.locator('.viewer > canvas').boundingBox();
  if (!box) throw new Error('no picture');
  const scale = Math.min((box.width - 32) / 400, (box.height - 32) / 600);
  await page.mouse.click(
    box.x + box.width / 2 + (x - 0.5) * 400 * scale,
    box.y + box.height / 2 + (y - 0.5) * 600 * scale,
  );
}
