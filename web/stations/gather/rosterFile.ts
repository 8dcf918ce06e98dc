import { parse } from 'csv-parse/browser/esm/sync';
import { separatorOf } from '../../../core/gather/roster.ts';

/** A list of names as it comes from elsewhere. */

export interface RosterTable {
  rows: string[][];
  /** Line of each row in the list, from 1. */
  lines: number[];
}

/** Text of a file in whatever encoding it is: by its mark, else UTF-8 if it is sound as that, else Western European. */
export function readText(bytes: Uint8Array): string {
  const [a, b] = bytes;
  if (a === 0xff && b === 0xfe) return new TextDecoder('utf-16le').decode(bytes);
  if (a === 0xfe && b === 0xff) return new TextDecoder('utf-16be').decode(bytes);
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder('windows-1252').decode(bytes);
  }
}

/** Rows of a list; empty ones are left out. Quotes that are not closed are taken as they stand. */
export function tableOf(text: string): RosterTable {
  const options = { delimiter: separatorOf(text), bom: true, relax_column_count: true, info: true as const };
  const read = (more: object): { record: string[]; info: { lines: number } }[] =>
    parse(text, { ...options, ...more }) as never;
  let records;
  try {
    records = read({});
  } catch {
    records = read({ quote: null });
  }
  let line = 0;
  const rows: string[][] = [];
  const lines: number[] = [];
  for (const { record, info } of records) {
    if (record.some((cell) => cell.trim() !== '')) {
      rows.push(record);
      lines.push(line + 1);
    }
    line = info.lines;
  }
  return { rows, lines };
}
