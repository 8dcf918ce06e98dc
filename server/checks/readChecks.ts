import { asc, eq, inArray } from 'drizzle-orm';
import type { Check } from '../../contract/index.ts';
import type { Database } from '../database/connect.ts';
import { checks, setups, testPictures } from '../database/schema.ts';

/** Rounds of a shoot, or one round, in the order they were begun; with the shoot each belongs to. */
export async function readChecks(database: Database, where: { shootId?: number; checkId?: number }): Promise<(Check & { shootId: number })[]> {
  const rows = await database
    .select({ check: checks, shootId: setups.shootId })
    .from(checks)
    .innerJoin(setups, eq(setups.id, checks.setupId))
    .where(where.checkId === undefined ? eq(setups.shootId, where.shootId ?? 0) : eq(checks.id, where.checkId))
    .orderBy(asc(checks.id));
  if (!rows.length) return [];
  const pictures = await database.select().from(testPictures).where(inArray(testPictures.checkId, rows.map(({ check }) => check.id))).orderBy(asc(testPictures.id));
  return rows.map(({ check, shootId }) => ({
    id: check.id,
    shootId,
    setupId: check.setupId,
    createdAt: check.createdAt.toISOString(),
    pictures: pictures.filter(({ checkId }) => checkId === check.id).map(({ kind, name, width, height, file }) => ({ kind, name, width, height, version: file.slice(0, 16) })),
    marks: check.marks,
    findings: check.findings,
    signedAt: check.signedAt?.toISOString() ?? null,
    openPoints: check.openPoints,
  }));
}
