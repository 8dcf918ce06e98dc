import { execFile } from 'node:child_process';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { expect, type Page } from '@playwright/test';
import { sampleImage } from '../server/testing/samples.ts';
import { station } from './ruler.ts';

/** For tests that start, stop and kill an application of their own. */

/** How many processes run a program with an argument. */
export async function running(program: string, argument: string): Promise<number> {
  const { stdout } = await promisify(execFile)('ps', ['-eo', 'args']);
  return stdout.split('\n').filter((line) => line.includes(program) && line.includes(argument)).length;
}

/** A new shoot with so many sample frames, opened at Extract. */
export async function shootAtExtract(page: Page, address: string, name: string, count: number): Promise<void> {
  await page.goto(address);
  await page.getByRole('button', { name: 'New shoot' }).click();
  await page.getByLabel('Name').fill(name);
  await page.getByRole('button', { name: 'Make the shoot' }).click();
  const files = await mkdtemp(join(tmpdir(), 'silent-lawn-e2e-robust-'));
  const paths: string[] = [];
  for (let n = 0; n < count; n++) {
    paths.push(join(files, `K${String(n).padStart(2, '0')}.jpg`));
    await writeFile(
      paths[n],
      await sampleImage({ width: 700, height: 950, shade: n * 4 })
        .jpeg()
        .toBuffer(),
    );
  }
  await page.getByLabel('Frame files').setInputFiles(paths);
  await expect(page.getByText(`${count} taken in`)).toBeVisible();
  await rm(files, { recursive: true });
  await station(page, /^Extract/).click();
}
