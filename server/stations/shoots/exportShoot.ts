import { stat } from 'node:fs/promises';
import { asc, eq, inArray, isNotNull, and } from 'drizzle-orm';
import { BUNDLE_VERSION, bundleSchema, filesOf, type Bundle } from '../../../contract/index.ts';
import { defaultRecipe } from '../../../core/cut/index.ts';
import {
  backgrounds,
  checks,
  cuts,
  deliveries,
  deliveryFiles,
  frames,
  luts,
  notes,
  placements,
  plans,
  setups,
  shoots,
  styles,
  subjects,
  testPictures,
  workTimes,
} from '../../database/schema.ts';
import { found, Refusal } from '../../http/answers.ts';
import type { Context } from '../../http/context.ts';
import { archiveAway } from '../log/archives.ts';
import type { Entry } from '../../zip/zipOf.ts';
import { bundlePath } from './bundlePath.ts';

/** All times of a ZIP’s entries: the same shoot gives the same bytes. */
export const BUNDLE_TIME = new Date(Date.UTC(2000, 0, 1));

/** A shoot as a bundle’s entries. @throws Refusal if a file is gone or a row cannot be read. */
export async function bundleOf(
  { database, store }: Pick<Context, 'database' | 'store'>,
  shootId: number,
  withDeliveries: boolean,
): Promise<{ name: string; entries: Entry[] }> {
  const away = await archiveAway({ database, store }, shootId);
  if (away !== undefined)
    throw new Refusal(409, {
      reason: `the pictures of this shoot lie in the archive “${away}”, which is not there now`,
      remedy: 'Connect its disk, then carry the shoot away.',
    });
  const content = await contentOf(database, shootId, withDeliveries);
  const files: Bundle['files'] = [];
  for (const sha256 of filesOf(content)) {
    if (!(await store.has(sha256)))
      throw new Refusal(409, {
        reason: `a file of this shoot is missing from the data folder (${sha256.slice(0, 12)}…)`,
        remedy: 'Open the shoot to see which frame it belongs to, and bring it in again.',
      });
    files.push({ sha256, bytes: (await stat(await store.need(sha256, 'this file'))).size });
  }
  const read = bundleSchema.safeParse({ ...content, files });
  if (!read.success) {
    const [{ path, message }] = read.error.issues;
    throw new Refusal(409, {
      reason: `something that is kept of this shoot cannot be read (${path.join('.')}: ${message})`,
      remedy: 'Open the shoot; what is broken is named there with what to do.',
    });
  }
  const text = `${JSON.stringify(read.data, null, 1)}\n`;
  return {
    name: content.shoot.name,
    entries: [
      { name: 'shoot.json', content: Buffer.from(text) },
      ...files.map((stored) => ({ name: bundlePath(stored.sha256), stored })),
    ],
  };
}

/** Numbers of a bundle’s own, from 1, for the ids of rows in their order. */
function numbered(rows: readonly { id: number }[]): (id: number) => number {
  const numbers = new Map(rows.map(({ id }, n) => [id, n + 1]));
  return (id) => numbers.get(id) ?? 0;
}

async function contentOf(
  database: Context['database'],
  shootId: number,
  withDeliveries: boolean,
): Promise<Omit<Bundle, 'files'>> {
  const [row] = await database.select().from(shoots).where(eq(shoots.id, shootId));
  const shoot = found(row, 'shoot');
  const ofSetups = await database.select().from(setups).where(eq(setups.shootId, shootId)).orderBy(asc(setups.id));
  const setupIds = [0, ...ofSetups.map(({ id }) => id)];
  const ofFrames = await database
    .select()
    .from(frames)
    .where(inArray(frames.setupId, setupIds))
    .orderBy(asc(frames.id));
  const frameIds = [0, ...ofFrames.map(({ id }) => id)];
  const ofCuts = await database.select().from(cuts).where(inArray(cuts.frameId, frameIds)).orderBy(asc(cuts.frameId));
  const placed = await database
    .select()
    .from(placements)
    .where(inArray(placements.frameId, frameIds))
    .orderBy(asc(placements.frameId));
  const ofStyles = await database.select().from(styles).where(eq(styles.shootId, shootId)).orderBy(asc(styles.id));
  const usedBackgrounds = [
    0,
    ...placed.map(({ backgroundId }) => backgroundId),
    ...ofStyles.flatMap(({ backgroundId, extras }) => [
      backgroundId,
      ...extras.layers.map((layer) => layer.backgroundId),
    ]),
  ];
  const known = await database
    .select()
    .from(backgrounds)
    .where(inArray(backgrounds.id, usedBackgrounds))
    .orderBy(asc(backgrounds.file));
  const usedLuts = [0, ...ofStyles.flatMap(({ extras }) => extras.lut ?? [])];
  const tables = await database.select().from(luts).where(inArray(luts.id, usedLuts)).orderBy(asc(luts.file));
  const rounds = await database.select().from(checks).where(inArray(checks.setupId, setupIds)).orderBy(asc(checks.id));
  const tested = await database
    .select()
    .from(testPictures)
    .where(inArray(testPictures.checkId, [0, ...rounds.map(({ id }) => id)]))
    .orderBy(asc(testPictures.id));
  const roster = await database.select().from(subjects).where(eq(subjects.shootId, shootId)).orderBy(asc(subjects.id));
  const ofPlans = await database.select().from(plans).where(eq(plans.shootId, shootId)).orderBy(asc(plans.id));
  const times = await database
    .select()
    .from(workTimes)
    .where(eq(workTimes.shootId, shootId))
    .orderBy(asc(workTimes.day), asc(workTimes.place));
  const written = await database.select().from(notes).where(eq(notes.shootId, shootId)).orderBy(asc(notes.id));
  const made = withDeliveries
    ? await database.select().from(deliveries).where(eq(deliveries.shootId, shootId)).orderBy(asc(deliveries.id))
    : [];
  const [setup, frame, background, lut, round] = [ofSetups, ofFrames, known, tables, rounds].map(numbered);
  const maybe = (number: (id: number) => number, id: number | null) => (id === null ? null : number(id) || null);
  const iso = (date: Date): string => date.toISOString();
  return {
    format: 'silent-lawn-shoot',
    version: BUNDLE_VERSION,
    shoot: {
      name: shoot.name,
      date: shoot.date,
      place: shoot.place,
      costs: shoot.costs,
      createdAt: iso(shoot.createdAt),
    },
    setups: ofSetups.map(({ id, name, recipe, masks, develop }) => ({
      ...{ id: setup(id), name, recipe: { ...defaultRecipe, ...recipe }, masks, develop },
    })),
    frames: ofFrames.map(({ id, setupId, depth, createdAt, ...rest }) => ({
      ...rest,
      ...{ id: frame(id), setupId: setup(setupId), depth: depth === 16 ? 16 : 8, createdAt: iso(createdAt) },
    })),
    cuts: ofCuts.map(({ frameId, depth, createdAt, recipe, ...rest }) => ({
      ...rest,
      recipe: { ...defaultRecipe, ...recipe },
      ...{ frameId: frame(frameId), depth: depth === 16 ? 16 : 8, createdAt: iso(createdAt) },
    })),
    subjects: roster.map(({ id: _, shootId: __, createdAt, ...rest }) => ({ ...rest, createdAt: iso(createdAt) })),
    backgrounds: known.map(({ id, removedAt: _, createdAt, ...rest }) => ({
      ...rest,
      ...{ id: background(id), createdAt: iso(createdAt) },
    })),
    luts: tables.map(({ id, name, file, size }) => ({ id: lut(id), name, file, size })),
    placements: placed.map(({ frameId, backgroundId, others, ...rest }) => ({
      ...rest,
      ...{ frameId: frame(frameId), backgroundId: background(backgroundId) },
      others: others.flatMap((other) => {
        const beside = frame(other.frameId);
        return beside ? [{ ...other, frameId: beside }] : [];
      }),
    })),
    styles: ofStyles.map(({ backgroundId, look, extras, standing }) => ({
      ...{ backgroundId: background(backgroundId), look, standing },
      extras: {
        ...extras,
        lut: maybe(lut, extras.lut),
        layers: extras.layers.flatMap((layer) => {
          const picture = background(layer.backgroundId);
          return picture ? [{ ...layer, backgroundId: picture }] : [];
        }),
      },
    })),
    plans: ofPlans.map(({ setupId, plan, createdAt, changedAt }) => ({
      ...{ setupId: maybe(setup, setupId), plan, createdAt: iso(createdAt), changedAt: iso(changedAt) },
    })),
    rounds: rounds.map(({ id, setupId, marks, findings, signedAt, openPoints, createdAt }) => ({
      ...{ id: round(id), setupId: setup(setupId), marks, findings, openPoints, createdAt: iso(createdAt) },
      signedAt: signedAt && iso(signedAt),
    })),
    testPictures: tested.map(({ id: _, checkId, ...rest }) => ({ ...rest, roundId: round(checkId) })),
    times: times.map(({ place, day, seconds, corrected }) => ({ place, day, seconds, corrected })),
    notes: written.map(({ id: _, shootId: __, setupId, createdAt, ...rest }) => ({
      ...rest,
      ...{ setupId: maybe(setup, setupId), createdAt: iso(createdAt) },
    })),
    deliveries: await Promise.all(
      made.map(async ({ id, settings, keptBack, notPlaced, createdAt }) => {
        const files = await database
          .select()
          .from(deliveryFiles)
          .where(and(eq(deliveryFiles.deliveryId, id), isNotNull(deliveryFiles.file)))
          .orderBy(asc(deliveryFiles.id));
        const { chosen } = settings;
        const of = (number: (id: number) => number, list: number[] | null) =>
          list && list.flatMap((one) => number(one) || []);
        return {
          settings: {
            ...settings,
            chosen: {
              ...chosen,
              setups: of(setup, chosen.setups),
              backgrounds: of(background, chosen.backgrounds),
            },
          },
          ...{ keptBack, notPlaced, createdAt: iso(createdAt) },
          files: files.map(({ id: __, deliveryId: ___, frameId, file, ...rest }) => ({
            ...rest,
            ...{ frameId: maybe(frame, frameId), file: file ?? '' },
          })),
        };
      }),
    ),
  };
}
