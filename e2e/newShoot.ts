import { expect, type Page } from '@playwright/test';

/** Where the application of the browser tests listens. */
export const address = (): string => process.env.E2E_ADDRESS as string;

/** Makes a shoot and opens it at Gather. */
export async function newShoot(page: Page, name: string): Promise<void> {
  await page.goto(address());
  await page.getByRole('button', { name: 'New shoot' }).click();
  await page.getByLabel('Name').fill(name);
  await page.getByLabel('Place').fill('Test pier');
  await page.getByRole('button', { name: 'Make the shoot' }).click();
  await expect(page.getByRole('button', { name: 'Choose frames' })).toBeVisible();
}
