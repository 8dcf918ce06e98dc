import { sql } from 'drizzle-orm';
import {
  bigint,
  boolean,
  char,
  customType,
  date,
  double,
  index,
  int,
  mysqlEnum,
  mysqlTable,
  smallint,
  timestamp,
  unique,
  varchar,
  type AnyMySqlColumn,
} from 'drizzle-orm/mysql-core';
import { z } from 'zod';
import type {
  CameraNote,
  Crops,
  DeliverySettings,
  Findings,
  Job,
  JobKind,
  KeptBack,
  LibraryEntry,
  MarksGiven,
  PrintItem,
  Problem,
  RehearsalAnswer,
  TestPicture,
} from '../../contract/index.ts';
import {
  batchKinds,
  cameraNoteSchema,
  cameraSchema,
  costsSchema,
  cropsSchema,
  deliverySettingsSchema,
  developingSchema,
  extrasSchema,
  standingSchema,
  extentSchema,
  faceSchema,
  findingsSchema,
  frameFactsSchema,
  guidanceSchema,
  jobSchema,
  keptBackSchema,
  libraryEntrySchema,
  lookPartSchema,
  lookSchema,
  marksSchema,
  noteKinds,
  otherSchema,
  masksSchema,
  pictureKinds,
  picks,
  planSchema,
  printItemSchema,
  printStates,
  problemSchema,
  qualitySchema,
  recipeSchema,
  rehearsalAnswerSchema,
  reviewSchema,
  sceneFactsSchema,
} from '../../contract/index.ts';
import type { ShootCosts, WorkPlace } from '../../core/log/index.ts';
import type { Guidance, HandMask, Quality, Recipe } from '../../core/cut/index.ts';
import type { Developing } from '../../core/gather/develop.ts';
import type { Camera } from '../../core/gather/camera.ts';
import type { FrameFacts } from '../../core/gather/facts.ts';
import { subjectFields } from '../../core/gather/subject.ts';
import type { Extent } from '../../core/place/index.ts';
import type { Face } from '../../core/persons/faces.ts';
import type { Extras } from '../../core/place/extras.ts';
import type { Look } from '../../core/place/look.ts';
import type { Other } from '../../core/place/people.ts';
import type { SceneFacts } from '../../core/place/scene.ts';
import type { StandingModel } from '../../core/place/standing.ts';
import type { Review } from '../../core/touch/review.ts';
import type { Plan } from '../../core/plan/index.ts';
import type { RehearsedCause } from '../../core/screen/index.ts';

/** Pictures are files in the store, named by the SHA-256 of their content; rows only refer to them. */
const hash = (name: string) => char(name, { length: 64 });
/**
 * A JSON column. MariaDB keeps JSON as text; depending on what server and driver agree on it arrives parsed or not.
 * What is written passes its schema first, so that a fault of ours (a figure that is no number) is met here and never
 * by a page.
 */
const json = <T>(name: string, schema: z.ZodType) =>
  customType<{ data: T; driverData: unknown }>({
    dataType: () => 'json',
    toDriver: (value) => JSON.stringify(schema.parse(value)),
    fromDriver: (value) => (typeof value === 'string' ? JSON.parse(value) : value) as T,
  })(name);
const createdAt = () =>
  timestamp('created_at', { fsp: 3 })
    .notNull()
    .default(sql`current_timestamp(3)`);

export const shoots = mysqlTable('shoots', {
  id: int('id').autoincrement().primaryKey(),
  name: varchar('name', { length: 120 }).notNull(),
  date: date('date', { mode: 'string' }).notNull(),
  place: varchar('place', { length: 120 }).notNull().default(''),
  demo: boolean('demo').notNull().default(false),
  costs: json<ShootCosts>('costs', costsSchema)
    .notNull()
    .default(sql`'{"hour":0,"hoursThere":0,"other":0,"otherWhat":""}'`),
  /** The folder that its pictures were moved to. */
  archive: varchar('archive', { length: 400 }),
  /** Removed, and to be deleted for good after a while. */
  removedAt: timestamp('removed_at', { fsp: 3 }),
  createdAt: createdAt(),
});

export const setups = mysqlTable(
  'setups',
  {
    id: int('id').autoincrement().primaryKey(),
    shootId: int('shoot_id')
      .notNull()
      .references(() => shoots.id, { onDelete: 'cascade' }),
    name: varchar('name', { length: 120 }).notNull(),
    recipe: json<Recipe>('recipe', recipeSchema).notNull(),
    masks: json<HandMask[]>('masks', masksSchema)
      .notNull()
      .default(sql`'[]'`),
    /** How raw files are developed. */
    develop: json<Developing>('develop', developingSchema)
      .notNull()
      .default(sql`'{"exposure":0,"warmth":0}'`),
    watch: varchar('watch', { length: 400 }),
    follow: boolean('follow').notNull().default(false),
  },
  (table) => [index('setups_shoot').on(table.shootId)],
);

export const frames = mysqlTable(
  'frames',
  {
    id: int('id').autoincrement().primaryKey(),
    setupId: int('setup_id')
      .notNull()
      .references(() => setups.id, { onDelete: 'cascade' }),
    name: varchar('name', { length: 255 }).notNull(),
    file: hash('file').notNull(),
    /** The camera's raw file that it was developed from. */
    raw: hash('raw'),
    bytes: bigint('bytes', { mode: 'number' }).notNull(),
    width: int('width').notNull(),
    height: int('height').notNull(),
    depth: smallint('depth').notNull(),
    takenAt: varchar('taken_at', { length: 19 }),
    /** Seconds to be added to what the camera's clock wrote. */
    clock: int('clock').notNull().default(0),
    camera: json<Camera>('camera', cameraSchema)
      .notNull()
      .default(sql`'{"body":"","lens":"","focal":null,"aperture":null,"shutter":null,"iso":null,"profile":""}'`),
    facts: json<FrameFacts>('facts', frameFactsSchema),
    /** Whether it shows the empty screen of its setup. */
    plate: boolean('plate').notNull().default(false),
    pick: mysqlEnum('pick', picks),
    subject: varchar('subject', { length: 80 }).notNull().default(''),
    guidance: json<Guidance>('guidance', guidanceSchema)
      .notNull()
      .default(sql`'{"masks":[],"verdicts":[],"touches":[],"departures":[]}'`),
    review: json<Review>('review', reviewSchema),
    createdAt: createdAt(),
  },
  (table) => [
    unique('frames_setup_file').on(table.setupId, table.file),
    index('frames_file').on(table.file),
    index('frames_setup_subject').on(table.setupId, table.subject),
  ],
);

/** Files of watched folders that were looked at: each once, as long as it stays as it is. */
export const watchedFiles = mysqlTable(
  'watched_files',
  {
    id: int('id').autoincrement().primaryKey(),
    setupId: int('setup_id')
      .notNull()
      .references(() => setups.id, { onDelete: 'cascade' }),
    name: varchar('name', { length: 255 }).notNull(),
    bytes: bigint('bytes', { mode: 'number' }).notNull(),
    /** When it was written last, ms. */
    modified: bigint('modified', { mode: 'number' }).notNull(),
    /** Why it was not taken. */
    problem: json<Problem>('problem', problemSchema),
    createdAt: createdAt(),
  },
  (table) => [index('watched_files_setup').on(table.setupId)],
);

/** Who is photographed in a shoot; frames name them by `name`. */
export const subjects = mysqlTable(
  'subjects',
  {
    id: int('id').autoincrement().primaryKey(),
    shootId: int('shoot_id')
      .notNull()
      .references(() => shoots.id, { onDelete: 'cascade' }),
    number: varchar('number', { length: subjectFields.number.most }).notNull(),
    name: varchar('name', { length: subjectFields.name.most }).notNull(),
    group: varchar('group', { length: subjectFields.group.most }).notNull(),
    clothing: varchar('clothing', { length: subjectFields.clothing.most }).notNull(),
    consent: mysqlEnum('consent', ['unasked', 'yes', 'prints', 'no']).notNull(),
    consentBy: varchar('consent_by', { length: subjectFields.consentBy.most }).notNull(),
    background: varchar('background', { length: subjectFields.background.most }).notNull(),
    products: varchar('products', { length: subjectFields.products.most }).notNull(),
    note: varchar('note', { length: subjectFields.note.most }).notNull(),
    createdAt: createdAt(),
  },
  (table) => [index('subjects_shoot').on(table.shootId)],
);

export const cuts = mysqlTable(
  'cuts',
  {
    frameId: int('frame_id')
      .primaryKey()
      .references(() => frames.id, { onDelete: 'cascade' }),
    file: hash('file').notNull(),
    depth: smallint('depth').notNull(),
    recipe: json<Recipe>('recipe', recipeSchema).notNull(),
    quality: json<Quality>('quality', qualitySchema).notNull(),
    /**
     * The order it was made by: its fingerprint (empty in rows of an earlier version, until the next start), and its
     * parts.
     */
    fingerprint: varchar('fingerprint', { length: 32 }).notNull().default(''),
    /** `EXTRACTION` when it was made; 0: before it was counted. */
    extraction: smallint('extraction').notNull().default(0),
    guidance: json<Guidance>('guidance', guidanceSchema)
      .notNull()
      .default(sql`'{"masks":[],"verdicts":[],"touches":[],"departures":[]}'`),
    plate: hash('plate'),
    faces: json<Face[]>('faces', z.array(faceSchema))
      .notNull()
      .default(sql`'[]'`),
    hands: json<Extent[]>('hands', z.array(extentSchema))
      .notNull()
      .default(sql`'[]'`),
    createdAt: createdAt(),
  },
  (table) => [
    index('cuts_file').on(table.file),
    index('cuts_plate').on(table.plate),
    index('cuts_created').on(table.createdAt),
  ],
);

export const backgrounds = mysqlTable('backgrounds', {
  id: int('id').autoincrement().primaryKey(),
  name: varchar('name', { length: 255 }).notNull(),
  file: hash('file').notNull().unique(),
  width: int('width').notNull(),
  height: int('height').notNull(),
  tags: json<string[]>('tags', z.array(z.string()))
    .notNull()
    .default(sql`'[]'`),
  scene: json<SceneFacts>('scene', sceneFactsSchema)
    .notNull()
    .default(sql`'{"horizon":null,"cameraHeight":null,"focal":null,"lightFrom":null,"by":{},"ball":null,"notes":""}'`),
  /** No longer offered; it goes for good once nobody stands on it. */
  removedAt: timestamp('removed_at', { fsp: 3 }),
  createdAt: createdAt(),
});

export const placements = mysqlTable(
  'placements',
  {
    frameId: int('frame_id')
      .primaryKey()
      .references(() => frames.id, { onDelete: 'cascade' }),
    backgroundId: int('background_id')
      .notNull()
      .references(() => backgrounds.id),
    x: double('x').notNull(),
    y: double('y').notNull(),
    height: double('height').notNull(),
    look: json<Partial<Look>>('look', lookPartSchema)
      .notNull()
      .default(sql`'{}'`),
    others: json<Other[]>('others', z.array(otherSchema))
      .notNull()
      .default(sql`'[]'`),
    /** Crops that a hand moved, by the shape. */
    crops: json<Crops>('crops', cropsSchema)
      .notNull()
      .default(sql`'{}'`),
  },
  (table) => [index('placements_background').on(table.backgroundId)],
);

/** How the people of a shoot on one background are made to agree with it. */
export const styles = mysqlTable(
  'styles',
  {
    id: int('id').autoincrement().primaryKey(),
    shootId: int('shoot_id')
      .notNull()
      .references(() => shoots.id, { onDelete: 'cascade' }),
    backgroundId: int('background_id')
      .notNull()
      .references(() => backgrounds.id, { onDelete: 'cascade' }),
    look: json<Look>('look', lookSchema).notNull(),
    extras: json<Extras>('extras', extrasSchema)
      .notNull()
      .default(sql`'{"lut":null,"layers":[],"card":null}'`),
    standing: json<StandingModel>('standing', standingSchema),
  },
  (table) => [unique('styles_shoot_background').on(table.shootId, table.backgroundId)],
);

/** Look-up tables for whole pictures, as `.cube` files. */
export const luts = mysqlTable('luts', {
  id: int('id').autoincrement().primaryKey(),
  name: varchar('name', { length: 255 }).notNull(),
  file: hash('file').notNull().unique(),
  size: int('size').notNull(),
  createdAt: createdAt(),
});

export const batches = mysqlTable(
  'batches',
  {
    id: int('id').autoincrement().primaryKey(),
    shootId: int('shoot_id')
      .notNull()
      .references(() => shoots.id, { onDelete: 'cascade' }),
    kind: mysqlEnum('kind', batchKinds).notNull(),
    createdAt: createdAt(),
  },
  (table) => [index('batches_shoot').on(table.shootId)],
);

export const jobs = mysqlTable(
  'jobs',
  {
    id: int('id').autoincrement().primaryKey(),
    kind: varchar('kind', { length: 20 }).$type<JobKind>().notNull(),
    /** What it is to do, beside its frame; each kind has a schema of its own. */
    payload: json<object>('payload', z.object({}).loose())
      .notNull()
      .default(sql`'{}'`),
    /** Null for what belongs to no shoot. */
    shootId: int('shoot_id').references(() => shoots.id, { onDelete: 'cascade' }),
    /** Null for what stands alone. */
    batchId: int('batch_id').references(() => batches.id, { onDelete: 'cascade' }),
    frameId: int('frame_id').references(() => frames.id, { onDelete: 'cascade' }),
    /** Of those that wait, the lowest are taken first. */
    priority: smallint('priority').notNull().default(0),
    state: mysqlEnum('state', ['queued', 'running', 'done', 'failed', 'cancelled']).notNull().default('queued'),
    /** Attempts that failed by themselves. */
    attempts: int('attempts').notNull().default(0),
    /** How often its holder died or was killed over it; it waits behind those that were not. */
    interrupted: int('interrupted').notNull().default(0),
    /** Who runs it; a result is only taken from the holder of the token. */
    token: char('token', { length: 36 }),
    leaseUntil: timestamp('lease_until', { fsp: 3 }),
    problem: json<Problem>('problem', problemSchema),
    made: json<NonNullable<Job['made']>>('made', jobSchema.shape.made),
    milliseconds: int('milliseconds'),
    createdAt: createdAt(),
  },
  (table) => [
    unique('jobs_batch_frame').on(table.batchId, table.frameId),
    index('jobs_next').on(table.state, table.interrupted, table.priority, table.id),
    index('jobs_lease').on(table.state, table.leaseUntil),
    index('jobs_frame').on(table.frameId),
    index('jobs_shoot').on(table.shootId),
    index('jobs_batch_state').on(table.batchId, table.state),
  ],
);

export const deliveries = mysqlTable(
  'deliveries',
  {
    id: int('id').autoincrement().primaryKey(),
    shootId: int('shoot_id')
      .notNull()
      .references(() => shoots.id, { onDelete: 'cascade' }),
    batchId: int('batch_id')
      .notNull()
      .references(() => batches.id, { onDelete: 'cascade' }),
    settings: json<DeliverySettings>('settings', deliverySettingsSchema).notNull(),
    keptBack: json<KeptBack[]>('kept_back', z.array(keptBackSchema))
      .notNull()
      .default(sql`'[]'`),
    /** Frames that have no finished picture, because nobody had chosen a background for them. */
    notPlaced: json<string[]>('not_placed', z.array(z.string()))
      .notNull()
      .default(sql`'[]'`),
    /** The hand-over that it repeats. */
    repeats: int('repeats').references((): AnyMySqlColumn => deliveries.id, { onDelete: 'set null' }),
    createdAt: createdAt(),
  },
  (table) => [index('deliveries_shoot').on(table.shootId), index('deliveries_batch').on(table.batchId)],
);

export const deliveryFiles = mysqlTable(
  'delivery_files',
  {
    id: int('id').autoincrement().primaryKey(),
    deliveryId: int('delivery_id')
      .notNull()
      .references(() => deliveries.id, { onDelete: 'cascade' }),
    frameId: int('frame_id').references(() => frames.id, { onDelete: 'set null' }),
    name: varchar('name', { length: 255 }).notNull(),
    /** Which of the delivery’s presets it is made by; −1 for the small picture of contact sheet and proof pages. */
    preset: smallint('preset').notNull().default(0),
    /** Null until it has been made. */
    file: hash('file'),
    bytes: bigint('bytes', { mode: 'number' }).notNull().default(0),
    width: int('width').notNull().default(0),
    height: int('height').notNull().default(0),
    /** Fingerprint of all that it was made from. */
    madeFrom: hash('made_from'),
    background: varchar('background', { length: 255 }).notNull().default(''),
  },
  (table) => [
    unique('delivery_files_name').on(table.deliveryId, table.name),
    index('delivery_files_file').on(table.file),
    index('delivery_files_frame').on(table.frameId),
  ],
);

/** Planned sets of a shoot; one may be what a setup was built by. */
export const plans = mysqlTable(
  'plans',
  {
    id: int('id').autoincrement().primaryKey(),
    shootId: int('shoot_id')
      .notNull()
      .references(() => shoots.id, { onDelete: 'cascade' }),
    setupId: int('setup_id').references(() => setups.id, { onDelete: 'set null' }),
    plan: json<Plan>('plan', planSchema).notNull(),
    createdAt: createdAt(),
    changedAt: timestamp('changed_at', { fsp: 3 })
      .notNull()
      .default(sql`current_timestamp(3)`)
      .$onUpdate(() => new Date()),
  },
  (table) => [index('plans_shoot').on(table.shootId), index('plans_setup').on(table.setupId)],
);

/** Rounds of test frames of a setup and what was read from each. */
export const checks = mysqlTable(
  'checks',
  {
    id: int('id').autoincrement().primaryKey(),
    setupId: int('setup_id')
      .notNull()
      .references(() => setups.id, { onDelete: 'cascade' }),
    marks: json<MarksGiven>('marks', marksSchema).notNull(),
    /** Null until the pictures as they are now have been read. */
    findings: json<Findings>('findings', findingsSchema),
    signedAt: timestamp('signed_at', { fsp: 3 }),
    openPoints: json<string[]>('open_points', z.array(z.string())).notNull(),
    createdAt: createdAt(),
  },
  (table) => [index('checks_setup').on(table.setupId)],
);

export const testPictures = mysqlTable(
  'test_pictures',
  {
    id: int('id').autoincrement().primaryKey(),
    checkId: int('check_id')
      .notNull()
      .references(() => checks.id, { onDelete: 'cascade' }),
    kind: mysqlEnum('kind', pictureKinds).notNull(),
    name: varchar('name', { length: 255 }).notNull(),
    file: hash('file').notNull(),
    width: int('width').notNull(),
    height: int('height').notNull(),
    camera: json<Camera>('camera', cameraSchema)
      .notNull()
      .default(sql`'{"body":"","lens":"","focal":null,"aperture":null,"shutter":null,"iso":null,"profile":""}'`),
  },
  (table) => [unique('test_pictures_kind').on(table.checkId, table.kind), index('test_pictures_file').on(table.file)],
);

/** Sets with hidden faults, what was answered and what was true. */
export const rehearsals = mysqlTable('rehearsals', {
  id: int('id').autoincrement().primaryKey(),
  level: smallint('level').notNull(),
  seed: int('seed').notNull(),
  causes: json<RehearsedCause[]>('causes', z.array(z.string())).notNull(),
  pictures: json<(TestPicture & { file: string })[]>(
    'pictures',
    z.array(z.object({ file: z.string() }).loose()),
  ).notNull(),
  findings: json<Findings>('findings', findingsSchema).notNull(),
  answer: json<RehearsalAnswer>('answer', rehearsalAnswerSchema),
  createdAt: createdAt(),
});

/** Prints that were ordered, each by a reference that makes it one order however often it is sent. */
export const printOrders = mysqlTable(
  'print_orders',
  {
    id: int('id').autoincrement().primaryKey(),
    shootId: int('shoot_id')
      .notNull()
      .references(() => shoots.id, { onDelete: 'cascade' }),
    deliveryId: int('delivery_id')
      .notNull()
      .references(() => deliveries.id, { onDelete: 'cascade' }),
    reference: char('reference', { length: 36 }).notNull().unique(),
    items: json<PrintItem[]>('items', z.array(printItemSchema)).notNull(),
    /** What the service calls it. */
    number: varchar('number', { length: 40 }).notNull().default(''),
    price: double('price'),
    state: mysqlEnum('state', printStates).notNull(),
    problem: json<Problem>('problem', problemSchema),
    createdAt: createdAt(),
  },
  (table) => [index('print_orders_delivery').on(table.deliveryId)],
);

/** Time at the stations of a shoot by real activity, and as a hand set it right. */
export const workTimes = mysqlTable(
  'work_times',
  {
    id: int('id').autoincrement().primaryKey(),
    shootId: int('shoot_id')
      .notNull()
      .references(() => shoots.id, { onDelete: 'cascade' }),
    place: varchar('place', { length: 12 }).$type<WorkPlace>().notNull(),
    day: date('day', { mode: 'string' }).notNull(),
    seconds: int('seconds').notNull(),
    corrected: int('corrected'),
  },
  (table) => [unique('work_times_place_day').on(table.shootId, table.place, table.day)],
);

/** What was written down of a shoot, or has to be remembered of it. */
export const notes = mysqlTable(
  'notes',
  {
    id: int('id').autoincrement().primaryKey(),
    shootId: int('shoot_id')
      .notNull()
      .references(() => shoots.id, { onDelete: 'cascade' }),
    kind: mysqlEnum('kind', noteKinds).notNull(),
    at: varchar('at', { length: 19 }).notNull(),
    place: varchar('place', { length: 12 }).$type<WorkPlace>().notNull(),
    setupId: int('setup_id').references(() => setups.id, { onDelete: 'set null' }),
    words: varchar('words', { length: 4000 }).notNull(),
    camera: json<CameraNote>('camera', cameraNoteSchema),
    file: hash('file'),
    createdAt: createdAt(),
  },
  (table) => [index('notes_shoot').on(table.shootId), index('notes_file').on(table.file)],
);

/** The photographer's own lamps, cameras, materials and recipes. */
export const libraryItems = mysqlTable('library_items', {
  id: int('id').autoincrement().primaryKey(),
  item: json<LibraryEntry>('item', libraryEntrySchema).notNull(),
  createdAt: createdAt(),
});

/** What the application remembers about itself. */
export const remembered = mysqlTable('remembered', {
  name: varchar('name', { length: 40 }).primaryKey(),
  value: varchar('value', { length: 200 }).notNull(),
});
