import { z } from 'zod';
import { defaultRecipe, personLight, spillColour, type SettingName } from '../core/cut/recipe.ts';
import { noCamera } from '../core/gather/camera.ts';
import { sceneFactsSchema, extrasSchema, lookPartSchema, lookSchema, otherSchema, standingSchema } from './place.ts';
import { findingsSchema, marksSchema, pictureKinds } from './check.ts';
import {
  extentSchema,
  faceSchema,
  fileHash,
  guidanceSchema,
  masksSchema,
  qualitySchema,
  recipeSchema,
  reviewSchema,
} from './extract.ts';
import { cameraSchema, developingSchema, frameFactsSchema, picks } from './gather.ts';
import { cropsSchema, deliverySettingsSchema, keptBackSchema } from './handOver.ts';
import { cameraNoteSchema, costsSchema, noteKinds } from './log.ts';
import { planSchema } from './plan.ts';

/**
 * A whole shoot as one open file: a ZIP with `shoot.json`, which this describes, and every file that it names under
 * `files/`, by the SHA-256 of its content. Ids are numbers of their own, from 1, and mean nothing elsewhere.
 */
export const BUNDLE_VERSION = 9;

const n = z.number().int().positive();
const at = z.iso.datetime();
const day = z.string().regex(/^\d{4}-\d{2}-\d{2}$/);
const clockTime = z.string().max(19).nullable();
const size = { width: z.number().int().min(1), height: z.number().int().min(1) };
const fractional = { x: z.number(), y: z.number(), height: z.number() };
const name = z.string().min(1).max(255);

export const bundleSchema = z
  .object({
    format: z.literal('silent-lawn-shoot'),
    version: z.literal(BUNDLE_VERSION),
    shoot: z
      .object({
        name: z.string().min(1).max(120),
        date: day,
        place: z.string().max(120),
        costs: costsSchema,
        createdAt: at,
      })
      .strict(),
    setups: z.array(
      z
        .object({
          id: n,
          name: z.string().min(1).max(120),
          recipe: recipeSchema,
          masks: masksSchema,
          develop: developingSchema,
        })
        .strict(),
    ),
    frames: z.array(
      z
        .object({
          id: n,
          setupId: n,
          name,
          file: fileHash,
          raw: fileHash.nullable(),
          bytes: z.number().int().min(0),
          ...size,
          depth: z.union([z.literal(8), z.literal(16)]),
          takenAt: clockTime,
          clock: z.number().int(),
          camera: cameraSchema,
          facts: frameFactsSchema.nullable(),
          plate: z.boolean(),
          pick: z.enum(picks).nullable(),
          subject: z.string().max(80),
          guidance: guidanceSchema,
          review: reviewSchema.nullable(),
          createdAt: at,
        })
        .strict(),
    ),
    cuts: z.array(
      z
        .object({
          frameId: n,
          file: fileHash,
          depth: z.union([z.literal(8), z.literal(16)]),
          recipe: recipeSchema,
          quality: qualitySchema,
          fingerprint: z.string().max(32),
          extraction: z.number().int().min(0),
          guidance: guidanceSchema,
          plate: fileHash.nullable(),
          faces: z.array(faceSchema),
          hands: z.array(extentSchema),
          createdAt: at,
        })
        .strict(),
    ),
    subjects: z.array(
      z
        .object({
          number: z.string().max(12),
          name: z.string().max(80),
          group: z.string().max(80),
          clothing: z.string().max(120),
          consent: z.enum(['unasked', 'yes', 'prints', 'no']),
          consentBy: z.string().max(80),
          background: z.string().max(120),
          products: z.string().max(200),
          note: z.string().max(500),
          createdAt: at,
        })
        .strict(),
    ),
    backgrounds: z.array(
      z
        .object({
          id: n,
          name,
          file: fileHash,
          ...size,
          tags: z.array(z.string()),
          scene: sceneFactsSchema,
          createdAt: at,
        })
        .strict(),
    ),
    luts: z.array(z.object({ id: n, name, file: fileHash, size: z.number().int().min(2).max(200) }).strict()),
    placements: z.array(
      z
        .object({
          frameId: n,
          backgroundId: n,
          ...fractional,
          look: lookPartSchema,
          others: z.array(otherSchema),
          crops: cropsSchema,
        })
        .strict(),
    ),
    styles: z.array(
      z
        .object({
          backgroundId: n,
          look: lookSchema,
          extras: extrasSchema,
          standing: standingSchema.nullable(),
        })
        .strict(),
    ),
    plans: z.array(z.object({ setupId: n.nullable(), plan: planSchema, createdAt: at, changedAt: at }).strict()),
    rounds: z.array(
      z
        .object({
          id: n,
          setupId: n,
          marks: marksSchema,
          findings: findingsSchema.nullable(),
          signedAt: at.nullable(),
          openPoints: z.array(z.string()),
          createdAt: at,
        })
        .strict(),
    ),
    testPictures: z.array(
      z
        .object({ roundId: n, kind: z.enum(pictureKinds), name, file: fileHash, ...size, camera: cameraSchema })
        .strict(),
    ),
    times: z.array(
      z
        .object({
          place: z.string().max(12),
          day,
          seconds: z.number().int().min(0),
          corrected: z.number().int().min(0).nullable(),
        })
        .strict(),
    ),
    notes: z.array(
      z
        .object({
          kind: z.enum(noteKinds),
          at: z.string().max(19),
          place: z.string().max(12),
          setupId: n.nullable(),
          words: z.string().max(4000),
          camera: cameraNoteSchema.nullable(),
          file: fileHash.nullable(),
          createdAt: at,
        })
        .strict(),
    ),
    /** Only where it was asked for. */
    deliveries: z.array(
      z
        .object({
          settings: deliverySettingsSchema,
          keptBack: z.array(keptBackSchema),
          notPlaced: z.array(z.string()),
          createdAt: at,
          files: z.array(
            z
              .object({
                frameId: n.nullable(),
                name,
                preset: z.number().int().min(-1).max(20),
                file: fileHash,
                bytes: z.number().int().min(0),
                width: z.number().int().min(0),
                height: z.number().int().min(0),
                madeFrom: fileHash.nullable(),
                background: z.string().max(255),
              })
              .strict(),
          ),
        })
        .strict(),
    ),
    /** Every file under `files/`, with its size. */
    files: z.array(z.object({ sha256: fileHash, bytes: z.number().int().min(0) }).strict()),
  })
  .strict();
export type Bundle = z.infer<typeof bundleSchema>;

/** The documented form of a bundle as JSON Schema. */
export function bundleJsonSchema(): unknown {
  return z.toJSONSchema(bundleSchema, { io: 'input' });
}

type Content = Record<string, unknown>;

/** What makes the content of an earlier version that of the next; by the version that it begins with. */
const migrations: Record<number, (content: Content) => Content> = {
  // Light on the person that is put right afterwards; before there was none.
  1: (content) => withSettings(content, personLight),
  // What a test frame was taken with, and where hands are; before neither was kept.
  2: (content) => ({
    ...content,
    testPictures: rowsWith(content.testPictures, { camera: noCamera }),
    cuts: rowsWith(content.cuts, { hands: [] }),
    frames: readAnew(content.frames),
  }),
  // A setup had one plate; now a frame says itself that it is one. Of a style’s standing nothing was kept, and no background was turned.
  3: ({ setups, frames, ...content }) => ({
    ...content,
    ...withPlates(setups, frames),
    styles: unturned(rowsWith(content.styles, { standing: null })),
  }),
  // Cuts could be lit by a background; finished pictures are now.
  4: ({ setups, frames, cuts, ...content }) => ({
    ...content,
    ...{ setups: unlit(setups), frames: unlit(frames), cuts: unlit(cuts) },
  }),
  // Regions may have settings of their own; before none had.
  5: (content) => content,
  // From which hues spill is taken, and what colour it leaves; before from all, and none of its own.
  6: (content) => withSettings(content, spillColour),
  // By which way of extracting a cut was made; before that was not counted.
  7: (content) => ({ ...content, cuts: rowsWith(content.cuts, { extraction: 0 }) }),
  // Patches of green may be see-through; before they stayed or went.
  8: (content) => content,
};

/** Rows whose recipe and departures say nothing of a background’s light; what is no such row is left to the schema. */
function unlit(rows: unknown): unknown {
  const anything = z.record(z.string(), z.unknown());
  const row = z
    .object({ recipe: anything, guidance: z.object({ departures: z.array(anything) }).loose() })
    .partial()
    .loose();
  const read = z.array(row).safeParse(rows);
  if (!read.success) return rows;
  return read.data.map(({ litBy: _, recipe, guidance, ...rest }) => ({
    ...rest,
    ...(recipe && { recipe: Object.fromEntries(Object.entries(recipe).filter(([name]) => name !== 'bounce')) }),
    ...(guidance && {
      guidance: { ...guidance, departures: guidance.departures?.filter(({ id }) => id !== 'bounce') ?? [] },
    }),
  }));
}

/** Rows with more fields; what is no list of rows is left to the schema. */
function rowsWith(rows: unknown, fields: object): unknown {
  const read = z.array(z.object({}).loose()).safeParse(rows);
  return read.success ? read.data.map((row) => ({ ...fields, ...row })) : rows;
}

/** Setups without the number of their plate, and frames that say themselves whether they are one. */
function withPlates(setups: unknown, frames: unknown): { setups: unknown; frames: unknown } {
  const read = z.array(z.object({ plateFrameId: z.unknown() }).loose()).safeParse(setups);
  const shown = z.array(z.object({ id: z.unknown() }).loose()).safeParse(frames);
  if (!read.success || !shown.success) return { setups, frames };
  const plates = new Set(read.data.map(({ plateFrameId }) => plateFrameId));
  return {
    setups: read.data.map(({ plateFrameId: _, ...row }) => row),
    frames: shown.data.map((row) => ({ ...row, plate: plates.has(row.id) })),
  };
}

/** Styles whose backgrounds stand as they were taken; what is no such row is left to the schema. */
function unturned(rows: unknown): unknown {
  const read = z.array(z.object({ look: z.record(z.string(), z.unknown()) }).loose()).safeParse(rows);
  return read.success ? read.data.map((row) => ({ ...row, look: { behindTurn: 0, ...row.look } })) : rows;
}

/** Frames whose facts are of an earlier reading do without them: they are read again. */
function readAnew(rows: unknown): unknown {
  const read = z.array(z.object({}).loose()).safeParse(rows);
  return read.success ? read.data.map((row) => ({ ...row, facts: null })) : rows;
}

/** Setups and cuts whose recipes have more settings, at their defaults; what is no such row is left to the schema. */
function withSettings(content: Content, names: readonly SettingName[]): Content {
  const usual = Object.fromEntries(names.map((name) => [name, defaultRecipe[name]]));
  const rows = z.array(z.object({ recipe: z.record(z.string(), z.unknown()) }).loose());
  const more = (given: unknown): unknown => {
    const read = rows.safeParse(given);
    return read.success ? read.data.map((row) => ({ ...row, recipe: { ...usual, ...row.recipe } })) : given;
  };
  return { ...content, setups: more(content.setups), cuts: more(content.cuts) };
}

/**
 * A bundle’s content as this version knows it.
 * @returns why it cannot be read, with the place that is wrong.
 */
export function readBundle(content: unknown): { bundle: Bundle } | { refused: string } {
  const head = z.object({ format: z.string(), version: z.number().int() }).loose().safeParse(content);
  if (!head.success || head.data.format !== 'silent-lawn-shoot')
    return { refused: 'it is no shoot that was exported here' };
  let migrated: Content = head.data;
  for (let version = head.data.version; version < BUNDLE_VERSION; version++) {
    const migrate = migrations[version];
    if (!migrate) return { refused: `it is of version ${version}, which is not known` };
    migrated = { ...migrate(migrated), version: version + 1 };
  }
  if (head.data.version > BUNDLE_VERSION)
    return { refused: `it is of version ${head.data.version}, and this application knows ${BUNDLE_VERSION}` };
  const read = bundleSchema.safeParse(migrated);
  if (!read.success) {
    const [issue] = read.error.issues;
    return { refused: `${issue.path.join('.') || 'its content'}: ${issue.message}` };
  }
  const lost = brokenReference(read.data);
  return lost ? { refused: lost } : { bundle: read.data };
}

/** The first thing of which there can be but one and are two, in words. */
function thereTwice(bundle: Bundle): string | undefined {
  const numbers = (of: string, list: readonly { id: number }[]): [string, unknown[]] => [
    `a number of ${of}`,
    list.map(({ id }) => id),
  ];
  const pairs = <T>(list: readonly T[], key: (one: T) => unknown[]): string[] => list.map((one) => key(one).join(' '));
  const single: [string, unknown[]][] = [
    numbers('a setup', bundle.setups),
    numbers('a frame', bundle.frames),
    numbers('a background', bundle.backgrounds),
    numbers('a table', bundle.luts),
    numbers('a round', bundle.rounds),
    ['a photograph of a setup', pairs(bundle.frames, ({ setupId, file }) => [setupId, file])],
    ['the cut of a frame', bundle.cuts.map(({ frameId }) => frameId)],
    ['the place of a frame', bundle.placements.map(({ frameId }) => frameId)],
    ['a background', bundle.backgrounds.map(({ file }) => file)],
    ['a table', bundle.luts.map(({ file }) => file)],
    ['a style', bundle.styles.map(({ backgroundId }) => backgroundId)],
    ['a test frame', pairs(bundle.testPictures, ({ roundId, kind }) => [roundId, kind])],
    ['a time at a station', pairs(bundle.times, ({ place, day }) => [place, day])],
    ...bundle.deliveries.map(({ files }): [string, unknown[]] => [
      'a file of a hand-over',
      files.map((file) => file.name.toLowerCase()),
    ]),
  ];
  return single.find(([, keys]) => new Set(keys).size !== keys.length)?.[0];
}

/** The first reference that leads nowhere, in words. */
function brokenReference(bundle: Bundle): string | undefined {
  const twice = thereTwice(bundle);
  if (twice) return `${twice} is in it twice`;
  const ids = (list: readonly { id: number }[]): Set<number> => new Set(list.map(({ id }) => id));
  const [setups, frames, backgrounds] = [ids(bundle.setups), ids(bundle.frames), ids(bundle.backgrounds)];
  const [luts, rounds] = [ids(bundle.luts), ids(bundle.rounds)];
  const wanted: [string, number | null, Set<number>][] = [
    ...bundle.frames.map(({ setupId }): [string, number, Set<number>] => ['setup of a frame', setupId, setups]),
    ...bundle.cuts.map(({ frameId }): [string, number, Set<number>] => ['frame of a cut', frameId, frames]),
    ...bundle.placements.flatMap(({ frameId, backgroundId, others }): [string, number, Set<number>][] => [
      ['frame of a placement', frameId, frames],
      ['background of a placement', backgroundId, backgrounds],
      ...others.map((other): [string, number, Set<number>] => ['frame beside another', other.frameId, frames]),
    ]),
    ...bundle.styles.flatMap(({ backgroundId, extras }): [string, number | null, Set<number>][] => [
      ['background of a style', backgroundId, backgrounds],
      ['table of a style', extras.lut, luts],
      ...extras.layers.map((layer): [string, number, Set<number>] => [
        'layer of a style',
        layer.backgroundId,
        backgrounds,
      ]),
    ]),
    ...bundle.plans.map(({ setupId }): [string, number | null, Set<number>] => ['setup of a plan', setupId, setups]),
    ...bundle.rounds.map(({ setupId }): [string, number, Set<number>] => ['setup of a round', setupId, setups]),
    ...bundle.testPictures.map(({ roundId }): [string, number, Set<number>] => [
      'round of a test frame',
      roundId,
      rounds,
    ]),
    ...bundle.notes.map(({ setupId }): [string, number | null, Set<number>] => ['setup of a note', setupId, setups]),
    ...bundle.deliveries.flatMap(({ files }) =>
      files.map(({ frameId }): [string, number | null, Set<number>] => ['frame of a delivered file', frameId, frames]),
    ),
  ];
  const lost = wanted.find(([, id, known]) => id !== null && !known.has(id));
  if (lost) return `the ${lost[0]} is not in it`;
  const there = new Set(bundle.files.map(({ sha256 }) => sha256));
  const missing = filesOf(bundle).find((file) => !there.has(file));
  return missing && `it names the file ${missing.slice(0, 12)}… and does not list it`;
}

/** Every file that a bundle’s content names. */
export function filesOf(bundle: Omit<Bundle, 'files'>): string[] {
  const guided = [...bundle.frames, ...bundle.cuts].flatMap(({ guidance }) => [
    ...guidance.touches.map(({ path }) => path),
    guidance.matte?.file,
  ]);
  const named = [
    ...bundle.frames.flatMap(({ file, raw }) => [file, raw]),
    ...bundle.cuts.flatMap(({ file, plate }) => [file, plate]),
    ...guided,
    ...[...bundle.backgrounds, ...bundle.luts, ...bundle.testPictures, ...bundle.notes].map(({ file }) => file),
    ...bundle.deliveries.flatMap(({ files }) => files.map(({ file }) => file)),
  ];
  return [...new Set(named.flatMap((file) => file ?? []))].sort();
}
