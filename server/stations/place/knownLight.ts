import { desc, eq } from 'drizzle-orm';
import type { Measured, SceneFacts } from '../../../core/place/index.ts';
import type { Database } from '../../database/connect.ts';
import { checks } from '../../database/schema.ts';

/** What is known of the light on both sides, beside the pixels. */
export type KnownLight = Pick<Measured, 'lightFrom' | 'balls'>;

/** The scene's marked side, and the balls of both places, where both were photographed. */
export async function knownLight(database: Database, setupId: number, scene: SceneFacts): Promise<KnownLight> {
  const { lightFrom, ball } = scene;
  if (!ball) return { lightFrom };
  const rounds = await database
    .select({ findings: checks.findings })
    .from(checks)
    .where(eq(checks.setupId, setupId))
    .orderBy(desc(checks.id));
  const person = rounds.find(({ findings }) => findings?.ball?.light)?.findings?.ball?.light;
  return person ? { lightFrom, balls: { person, scene: ball } } : { lightFrom };
}
