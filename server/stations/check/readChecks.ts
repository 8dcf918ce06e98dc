import { and, asc, eq, inArray } from 'drizzle-orm';
import { checkSchema, type Check } from '../../../contract/index.ts';
import type { Reader } from '../../database/connect.ts';
import { soundOr, type OnBroken, type Unread } from '../../database/sound.ts';
import { checks, setups, testPictures } from '../../database/schema.ts';

const soundCheck = checkSchema.omit({ revision: true });

/** Rounds of a shoot, or some rounds, in the order they were begun; with the shoot each belongs to. */
export async function readChecks(
  database: Reader,
  where: { shootId?: number; checkIds?: number[] },
  broken: OnBroken = () => undefined,
): Promise<(Unread<Check> & { shootId: number })[]> {
  if (where.checkIds?.length === 0) return [];
  const rows = await database
    .select({ check: checks, shootId: setups.shootId })
    .from(checks)
    .innerJoin(setups, eq(setups.id, checks.setupId))
    .where(
      and(
        where.shootId ? eq(setups.shootId, where.shootId) : undefined,
        where.checkIds ? inArray(checks.id, where.checkIds) : undefined,
      ),
    )
    .orderBy(asc(checks.id));
  if (!rows.length) return [];
  const pictures = await database
    .select()
    .from(testPictures)
    .where(
      inArray(
        testPictures.checkId,
        rows.map(({ check }) => check.id),
      ),
    )
    .orderBy(asc(testPictures.id));
  return rows.flatMap(({ check, shootId }) => {
    const read = {
      id: check.id,
      shootId,
      setupId: check.setupId,
      createdAt: check.createdAt.toISOString(),
      pictures: pictures
        .filter(({ checkId }) => checkId === check.id)
        .map(({ kind, name, width, height, file }) => ({ kind, name, width, height, version: file.slice(0, 16) })),
      marks: check.marks,
      findings: check.findings,
      signedAt: check.signedAt?.toISOString() ?? null,
      openPoints: check.openPoints,
    };
    // Readings that cannot be shown are read again, as after a kill.
    return soundOr(
      soundCheck,
      read,
      [() => ({ ...read, findings: null }), () => ({ ...read, findings: null, marks: {}, openPoints: [] })],
      broken,
      'A round of test frames',
    );
  });
}
