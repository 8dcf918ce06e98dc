import { stringify } from 'csv-stringify/sync';
import { presetKinds, SMALL, type Preset } from '../../../core/handOver/index.ts';
import { found, Refusal } from '../../http/answers.ts';
import type { Hands } from '../../jobs/definition.ts';
import { readBatches } from '../../jobs/readJobs.ts';
import { deliveredFiles } from './deliveredFiles.ts';

/** A file of a hand-over and all that is said of it. */
export interface Listed {
  file: string;
  preset: string;
  kind: Preset['kind'] | 'small';
  subject: string;
  number: string;
  group: string;
  consent: string;
  products: string;
  frame: string;
  setup: string;
  background: string;
  width: number;
  height: number;
  bytes: number;
  sha256: string;
  missing: boolean;
}

export interface HandedOver {
  id: number;
  shootId: number;
  shoot: { name: string; date: string };
  made: Date;
  settings: Awaited<ReturnType<typeof deliveredFiles>>['delivery']['settings'];
  files: Listed[];
  /** Small pictures, for the papers. */
  small: Listed[];
  keptBack: { frame: string; subject: string; reason: string }[];
  notPlaced: string[];
}

/**
 * A finished hand-over as it may go out now: somebody may have said no since it was made.
 * @throws Refusal while some of it is still being made.
 */
export async function handedOver(
  { database, store }: Pick<Hands, 'database' | 'store'>,
  id: number,
): Promise<HandedOver> {
  const { delivery, shoot, rows, people } = await deliveredFiles(database, id);
  const [batch] = await readBatches(database, 1, { batchIds: [delivery.batchId] });
  if (batch && batch.open > 0)
    throw new Refusal(409, {
      reason: `${batch.open} pictures of this hand-over are still being made`,
      remedy: 'Wait until it is finished.',
    });
  const keptBack = [...delivery.keptBack];
  const listed: Listed[] = [];
  for (const { file, frame, setup, subject } of rows) {
    const preset = file.preset === SMALL ? undefined : found(delivery.settings.presets[file.preset], 'preset');
    const on = people.get(file.frameId ?? 0) ?? [];
    const no = on.find(({ consent }) => consent === 'no');
    const onlyPrints = on.some(({ consent }) => consent === 'prints') && !(preset && presetKinds[preset.kind].paper);
    if (no || onlyPrints) {
      const word = no ? 'said no' : 'allows only prints';
      const known = keptBack.some((one) => one.frame === frame?.name && one.reason.startsWith(word));
      if (!known) keptBack.push({ frame: frame?.name ?? '', subject: frame?.subject ?? '', reason: `${word} since` });
      continue;
    }
    listed.push({
      file: file.name,
      preset: preset?.name ?? '',
      kind: preset?.kind ?? 'small',
      subject: frame?.subject ?? '',
      number: subject?.number ?? '',
      group: subject?.group ?? '',
      consent: [...new Set(on.map(({ consent }) => consent))].join(', '),
      products: subject?.products ?? '',
      frame: frame?.name ?? '',
      setup: setup ?? '',
      background: file.background,
      width: file.width,
      height: file.height,
      bytes: file.bytes,
      sha256: file.file ?? '',
      missing: !(await store.has(file.file ?? '')),
    });
  }
  return {
    id,
    shootId: delivery.shootId,
    shoot: { name: shoot.name, date: shoot.date },
    made: delivery.createdAt,
    settings: delivery.settings,
    files: listed.filter(({ kind }) => kind !== 'small'),
    small: listed.filter(({ kind }) => kind === 'small'),
    keptBack,
    notPlaced: delivery.notPlaced,
  };
}

const columns = [
  ['file', 'file'],
  ['preset', 'preset'],
  ['kind', 'kind'],
  ['subject', 'subject'],
  ['number', 'number'],
  ['group', 'group'],
  ['consent', 'consent'],
  ['frame', 'frame'],
  ['setup', 'setup'],
  ['background', 'background'],
  ['width', 'width'],
  ['height', 'height'],
  ['bytes', 'bytes'],
  ['sha256', 'sha256'],
  ['missing', 'missing'],
] as const;

/** The list of files for a spreadsheet; what it would compute is escaped. */
export function manifestCsv(files: readonly Listed[]): string {
  const rows = files.map((file) =>
    columns.map(([key]) => (key === 'missing' ? (file.missing ? 'missing' : '') : file[key])),
  );
  return stringify(rows, { header: true, columns: columns.map(([, name]) => name), escape_formulas: true });
}

/** The list of files for programs; described in docs/formats.md. */
export function manifestJson({ shoot, made, settings, files, keptBack, notPlaced }: HandedOver): string {
  const { presets, names, metadata } = settings;
  const content = {
    format: 'silent-lawn-hand-over',
    version: 1,
    shoot,
    made: made.toISOString(),
    presets,
    names,
    written: metadata,
    files: files.map(({ products: _, ...file }) => file),
    keptBack,
    notPlaced,
  };
  return `${JSON.stringify(content, null, 1)}\n`;
}

/** Checksums as `sha256sum -c` reads them. */
export function checksums(files: readonly Listed[]): string {
  return files.flatMap(({ file, sha256, missing }) => (missing ? [] : [`${sha256}  ${file}\n`])).join('');
}
