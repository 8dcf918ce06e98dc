import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import type { Page } from '@playwright/test';

const axe = readFile(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');

interface Violation {
  id: string;
  nodes: { html: string; failureSummary: string }[];
}

/** What breaks a rule on the page as it stands, one line each. */
export async function violations(page: Page): Promise<string[]> {
  await page.evaluate(await axe);
  const found = await page.evaluate(async () => {
    const run = (window as unknown as { axe: { run: (options: object) => Promise<{ violations: Violation[] }> } }).axe;
    return (await run.run({ runOnly: ['wcag2a', 'wcag2aa', 'best-practice'] })).violations;
  });
  return found.flatMap(({ id, nodes }) => nodes.map(({ html }) => `${id}: ${html.slice(0, 160)}`));
}
