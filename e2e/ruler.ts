import type { Locator, Page } from '@playwright/test';

/** The way to a station on the ruler; the start page has links of like names while it is still there. */
export function station(page: Page, name: RegExp): Locator {
  return page.getByRole('navigation', { name: 'Stations' }).getByRole('link', { name });
}
