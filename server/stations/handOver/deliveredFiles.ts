import { and, asc, eq, isNotNull, sql } from 'drizzle-orm';
import type { Database } from '../../database/connect.ts';
import { deliveries, deliveryFiles, frames, setups, shoots, subjects } from '../../database/schema.ts';
import { found } from '../../http/answers.ts';
import { peopleOn } from '../gather/consent.ts';

/** Made files of a hand-over, of whom they are, and what those say of it now. */
export async function deliveredFiles(database: Database, id: number) {
  const [delivery] = await database
    .select({ row: deliveries, shoot: shoots })
    .from(deliveries)
    .innerJoin(shoots, eq(shoots.id, deliveries.shootId))
    .where(eq(deliveries.id, id));
  const { row, shoot } = found(delivery, 'hand-over');
  const rows = await database
    .select({ file: deliveryFiles, frame: frames, setup: setups.name, subject: subjects })
    .from(deliveryFiles)
    .leftJoin(frames, eq(frames.id, deliveryFiles.frameId))
    .leftJoin(setups, eq(setups.id, frames.setupId))
    .leftJoin(subjects, and(eq(subjects.shootId, setups.shootId), sql`binary ${subjects.name} = ${frames.subject}`))
    .where(and(eq(deliveryFiles.deliveryId, id), isNotNull(deliveryFiles.file)))
    .orderBy(asc(deliveryFiles.id));
  return { delivery: row, shoot, rows, people: await peopleOn(database, row.shootId) };
}
