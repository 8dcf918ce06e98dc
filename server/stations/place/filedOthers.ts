import { eq, inArray } from 'drizzle-orm';
import type { Other, PlacedPerson, SceneFacts, Size } from '../../../core/place/index.ts';
import type { EncodedRaster } from '../../../core/image/raster.ts';
import type { Database } from '../../database/connect.ts';
import { cuts, frames } from '../../database/schema.ts';
import type { Store } from '../../store/store.ts';
import { knownLight, type KnownLight } from './knownLight.ts';
import { storedTones } from './tones.ts';

/** Somebody else in a picture, by the file of their cut: what a worker thread needs. */
export interface FiledOther {
  cut: { file: string; depth: 8 | 16 } & Size;
  light: KnownLight;
  other: Other;
}

/** Who is no longer there, or not extracted, is left out. */
export async function filedOthers(
  database: Database,
  others: readonly Other[],
  scene: SceneFacts,
): Promise<FiledOther[]> {
  if (!others.length) return [];
  const rows = await database
    .select({ frame: frames, cut: cuts })
    .from(frames)
    .innerJoin(cuts, eq(cuts.frameId, frames.id))
    .where(
      inArray(
        frames.id,
        others.map(({ frameId }) => frameId),
      ),
    );
  const filed: FiledOther[] = [];
  for (const other of others) {
    const row = rows.find(({ frame }) => frame.id === other.frameId);
    if (!row) continue;
    const { frame, cut } = row;
    filed.push({
      cut: { file: cut.file, depth: cut.depth === 16 ? 16 : 8, width: frame.width, height: frame.height },
      light: await knownLight(database, frame.setupId, scene),
      other,
    });
  }
  return filed;
}

/**
 * All people of a picture from the farthest to the nearest.
 * @param open gives the pixels of a cut for its height on the background, a share.
 */
export async function peopleOf(
  main: PlacedPerson,
  others: readonly FiledOther[],
  background: { file: string } & Size,
  open: (cut: FiledOther['cut'], height: number) => Promise<EncodedRaster>,
  store: Store,
): Promise<PlacedPerson[]> {
  const scene = main.measured?.scene;
  const people = await Promise.all(
    others.map(async ({ cut, light, other }): Promise<PlacedPerson> => {
      const { x, y, height, mirrored } = other;
      const person = scene && (await storedTones({ cut: cut.file, depth: cut.depth }, store));
      return {
        cutout: await open(cut, height),
        placement: { x, y, height },
        mirrored,
        turn: 0,
        measured: scene && person ? { person, scene, cut, background, ...light } : undefined,
      };
    }),
  );
  const at = (where: Other['where']): PlacedPerson[] => people.filter((_, n) => others[n].other.where === where);
  return [...at('behind'), main, ...at('front')];
}
