import { existsSync } from 'node:fs';
import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';

/**
 * Replaces one section (from its `## ` heading to the next) of a document that several benchmarks write, or adds it.
 */
export async function writeSection(document: string, heading: string, body: string): Promise<void> {
  const path = join(import.meta.dirname, '..', 'docs', document);
  const text = existsSync(path) ? await readFile(path, 'utf8') : '';
  const sections = text.split(/^(?=## )/m);
  const section = `## ${heading}\n\n${body.trim()}\n\n`;
  const at = sections.findIndex((part) => part.startsWith(`## ${heading}\n`));
  if (at >= 0) sections[at] = section;
  else sections.push(section);
  await writeFile(path, `${sections.map((part) => part.trim()).join('\n\n')}\n`);
}
