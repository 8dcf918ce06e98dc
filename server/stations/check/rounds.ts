import { and, eq } from 'drizzle-orm';
import type { PictureKind } from '../../../contract/index.ts';
import type { Camera } from '../../../core/gather/camera.ts';
import { isWithin, readingFacts, type ReadingFacts } from '../../../core/plan/index.ts';
import type { Transaction } from '../../database/connect.ts';
import { checks, testPictures } from '../../database/schema.ts';
import type { Queue } from '../../jobs/queue.ts';
import type { Findings } from '../../../contract/index.ts';

/** What a round needs before nothing is left open; chart and background tell more, and are not asked for. */
const wantedPictures: PictureKind[] = ['plate', 'people', 'ball', 'grey card'];

export interface TestPictureFile {
  kind: PictureKind;
  name: string;
  file: string;
  width: number;
  height: number;
  camera: Camera;
}

/**
 * Puts a photograph into its place in a round and has the round read anew; what was signed off is open again.
 * @returns the file that stood there.
 */
export async function putPicture(
  tx: Transaction,
  queue: Queue,
  { checkId, shootId }: { checkId: number; shootId: number },
  picture: TestPictureFile,
): Promise<string | undefined> {
  const place = and(eq(testPictures.checkId, checkId), eq(testPictures.kind, picture.kind));
  const [old] = await tx.select().from(testPictures).where(place);
  await tx
    .insert(testPictures)
    .values({ checkId, ...picture })
    .onDuplicateKeyUpdate({ set: picture });
  await reopen(tx, queue, { checkId, shootId });
  return old && old.file !== picture.file ? old.file : undefined;
}

/** A round has changed: it is open, without findings, and to be read. */
export async function reopen(
  tx: Transaction,
  queue: Queue,
  { checkId, shootId }: { checkId: number; shootId: number },
): Promise<void> {
  await tx.update(checks).set({ findings: null, signedAt: null, openPoints: [] }).where(eq(checks.id, checkId));
  await queue.add(tx, [{ kind: 'reading', payload: { checkId }, shootId }]);
}

/** What is left open when a round is signed off, in words. */
export function openPointsOf(findings: Findings, taken: readonly PictureKind[]): string[] {
  const beyond = findings.readings
    .filter(({ id, value }) => !isWithin(id, value))
    .map(({ id, value }) => openPoint(readingFacts[id], value));
  const missing = wantedPictures.filter((kind) => !taken.includes(kind));
  return [...beyond, ...missing.map((kind) => `Not photographed: ${nameOf(kind)}`)];
}

function nameOf(kind: PictureKind): string {
  return kind === 'people' ? 'somebody on the set' : kind === 'plate' ? 'the empty screen' : `the ${kind}`;
}

function openPoint({ title, unit, digits }: ReadingFacts, value: number): string {
  return `${title}: ${value.toFixed(digits).replace('-', '−')} ${unit}`.trim();
}
