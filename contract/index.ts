import { z } from 'zod';
import { noGuidance, type Guidance } from '../core/cut/guidance.ts';
import { doubtFacts, type DoubtKind } from '../core/cut/doubts.ts';
import { maskEffects } from '../core/cut/guidance.ts';
import {
  defaultRecipe,
  recipeChoices,
  recipeSettings,
  settingNames,
  type Method,
  type Recipe,
  type SettingName,
  type SpillMethod,
} from '../core/cut/recipe.ts';
import { placementFacts, type Placement } from '../core/place/placement.ts';
import { checkSchema } from './check.ts';
import { planRowSchema } from './plan.ts';

export * from './check.ts';
export * from './plan.ts';

/** Requests, responses and events of the HTTP interface; server and web both read these. */

const id = z.number().int().positive();
/** When the server read an item: of two readings of one item that with the higher number is the newer. Higher after a restart, too. */
const revision = z.number();
export const idSchema = z.coerce.number().int().positive();

function ranged(facts: { min: number; max: number }): z.ZodNumber {
  return z.number().min(facts.min).max(facts.max);
}

const settings = Object.fromEntries(settingNames.map((name) => [name, ranged(recipeSettings[name])])) as Record<
  SettingName,
  z.ZodNumber
>;
const choices = {
  method: z.enum(Object.keys(recipeChoices.method.options) as [Method, ...Method[]]),
  spillMethod: z.enum(Object.keys(recipeChoices.spillMethod.options) as [SpillMethod, ...SpillMethod[]]),
};

export const recipeSchema: z.ZodType<Recipe> = z.object({ ...settings, ...choices }).strict();

/** As in a recipe file or an older row: what is left out takes its default. */
export const recipeFileSchema = z
  .object({ ...settings, ...choices })
  .partial()
  .strict()
  .transform((given) => ({ ...defaultRecipe, ...given }) as Recipe);

const share = z.number().min(0).max(1);
const pointSchema = z.object({ x: share, y: share }).strict();
/** Polygons by hand, in shares of the frame. */
export const handMaskSchema = z
  .object({
    effect: z.enum(maskEffects),
    polygon: z.array(pointSchema).min(3, 'A mask needs three corners or more.').max(200),
    wholeSubject: z.boolean().optional(),
  })
  .strict();
export const masksSchema = z.array(handMaskSchema).max(40);
export const handVerdictSchema = z
  .object({
    x: share,
    y: share,
    chroma: z.tuple([share, share]),
    share: z.number().positive().max(1),
    keep: z.boolean(),
  })
  .strict();
export const guidanceSchema = z.object({ masks: masksSchema, verdicts: z.array(handVerdictSchema).max(60) }).strict();
/** For the command line: the same file may leave one of them out. */
export const guidanceFileSchema = guidanceSchema
  .partial()
  .transform((given): Guidance => ({ ...noGuidance, ...given }));

export const placementSchema = z
  .object({
    backgroundId: id,
    x: ranged(placementFacts.x),
    y: ranged(placementFacts.y),
    height: ranged(placementFacts.height),
  })
  .strict();
export type PlacedOn = z.infer<typeof placementSchema> & Placement;

export const problemSchema = z.object({ reason: z.string(), remedy: z.string() });
export type Problem = z.infer<typeof problemSchema>;

export const shootSchema = z.object({
  id,
  name: z.string(),
  date: z.string(),
  place: z.string(),
  demo: z.boolean(),
  frames: z.number(),
  cut: z.number(),
  placed: z.number(),
  minutes: z.number(),
  /** Frames of the demo still to be rendered; 0 otherwise. */
  pending: z.number(),
});
export type Shoot = z.infer<typeof shootSchema>;

export const newShootSchema = z
  .object({
    name: z.string().trim().min(1, 'Give the shoot a name.').max(120),
    date: z.iso.date('Give the date as year-month-day.'),
    place: z.string().trim().max(120).default(''),
  })
  .strict();
export type NewShoot = z.input<typeof newShootSchema>;

export const setupSchema = z.object({
  id,
  shootId: id,
  name: z.string(),
  recipe: recipeSchema,
  /** Masks for all of its frames. */
  masks: masksSchema,
  /** The frame that shows the empty screen. */
  plateFrameId: id.nullable(),
  revision,
});
export type Setup = z.infer<typeof setupSchema>;
export const newSetupSchema = z.object({ name: z.string().trim().min(1, 'Give the setup a name.').max(120) }).strict();
const setupFields = {
  name: newSetupSchema.shape.name,
  recipe: recipeSchema,
  masks: masksSchema,
  plateFrameId: id.nullable(),
};
export type SetupChange = Partial<z.infer<z.ZodObject<typeof setupFields>>>;
/** `seen` is what the change was made on; with it, what another window changed meanwhile stays. */
export const changeSetupSchema = z
  .object({ ...setupFields, seen: z.object(setupFields).partial().strict() })
  .partial()
  .strict();

const placeSchema = z.object({ x: z.number(), y: z.number(), width: z.number(), height: z.number() });
export const doubtSchema = z.object({
  kind: z.enum(Object.keys(doubtFacts) as [DoubtKind, ...DoubtKind[]]),
  minutes: z.number(),
  places: z.array(placeSchema),
});
const ledgerEntrySchema = z.object({
  place: placeSchema,
  centre: z.object({ x: z.number(), y: z.number() }),
  chroma: z.tuple([z.number(), z.number()]),
  share: z.number(),
  likelihood: z.number(),
  verdict: z.enum(['keep', 'remove']),
  doubtful: z.boolean(),
  byHand: z.boolean(),
  evidence: z.object({ apart: z.number(), mostScreen: z.number(), rough: z.number(), atBorder: z.boolean() }),
});
export const qualitySchema = z.object({
  screen: z.enum(['green', 'blue']),
  screenShare: z.number(),
  fringeShare: z.number(),
  unexplained: z.number(),
  noisePercent: z.number(),
  greenKept: z.number(),
  greenRemoved: z.number(),
  ledger: z.array(ledgerEntrySchema),
  doubts: z.array(doubtSchema),
  extent: placeSchema,
  minutes: z.number(),
});

export const jobStateSchema = z.enum(['queued', 'running', 'done', 'failed', 'cancelled']);
export type JobState = z.infer<typeof jobStateSchema>;

export const frameSchema = z.object({
  id,
  setupId: id,
  name: z.string(),
  width: z.number(),
  height: z.number(),
  depth: z.union([z.literal(8), z.literal(16)]),
  bytes: z.number(),
  takenAt: z.string().nullable(),
  /** Who is on it; verdicts and masks of a subject go with all of their frames in the setup. Empty: nobody has said. */
  subject: z.string(),
  /** What was said on this frame alone. */
  guidance: guidanceSchema,
  /** The finished cut, if there is one. `version` changes with every new cut. */
  cut: z
    .object({
      version: z.string(),
      quality: qualitySchema,
      recipe: recipeSchema,
      /** Name of the masks, verdicts and plate it was made with. */ instructions: z.string(),
    })
    .nullable(),
  /** The latest cutting job that is not done: waiting, running or failed. */
  job: z.object({ state: jobStateSchema, problem: problemSchema.nullable() }).nullable(),
  placement: placementSchema.nullable(),
  /** First digits of the photograph's hash, for the addresses of its pictures. */
  picture: z.string(),
  revision,
});
export type Frame = z.infer<typeof frameSchema>;
/** A plate put together from the setup's frames; over how much of the picture one of them shows the screen, 0–1. */
export const gatheredSchema = z.object({ setup: setupSchema, frame: frameSchema, seen: z.number() });

export const batchSchema = z.object({
  id,
  shootId: id,
  kind: z.enum(['cut', 'deliver']),
  total: z.number(),
  done: z.number(),
  failed: z.number(),
  cancelled: z.number(),
  /** Jobs waiting or running. */
  open: z.number(),
  /** Estimated from the jobs done so far; null until there is one. */
  secondsLeft: z.number().nullable(),
  revision,
});
export type Batch = z.infer<typeof batchSchema>;

export const backgroundSchema = z.object({
  id,
  name: z.string(),
  width: z.number(),
  height: z.number(),
  /** First digits of its file's hash. */ picture: z.string(),
});
export type Background = z.infer<typeof backgroundSchema>;

export const deliverySettingsSchema = z
  .object({
    cutout: z.enum(['none', 'png', 'png16']),
    finished: z.enum(['none', 'jpeg', 'png']),
    quality: z.number().int().min(60).max(100),
  })
  .strict()
  .refine((s) => s.cutout !== 'none' || s.finished !== 'none', 'Choose cutouts, finished pictures or both.');
export type DeliverySettings = z.infer<typeof deliverySettingsSchema>;

export const deliverySchema = z.object({
  id,
  shootId: id,
  settings: deliverySettingsSchema,
  createdAt: z.string(),
  batch: batchSchema.omit({ revision: true }),
  files: z.number(),
  bytes: z.number(),
  problems: z.array(problemSchema.extend({ frame: z.string() })),
  /** Frames that have no finished picture because nobody has chosen a background for them. */
  leftOut: z.array(z.string()),
  revision,
});
export type Delivery = z.infer<typeof deliverySchema>;

export const shootDetailSchema = z.object({
  shoot: shootSchema,
  setups: z.array(setupSchema),
  frames: z.array(frameSchema),
  batches: z.array(batchSchema),
  deliveries: z.array(deliverySchema),
  plans: z.array(planRowSchema),
  checks: z.array(checkSchema),
  /** What is kept and cannot be read; everything else is shown without it. */
  broken: z.array(problemSchema),
  revision,
  /** Seconds of this machine for one frame, measured on the latest cuts; null until there are some. */
  cutSeconds: z.number().nullable(),
});
export type ShootDetail = z.infer<typeof shootDetailSchema>;

export const importResultSchema = z.discriminatedUnion('outcome', [
  /** `question`: it is here, but something about it is odd. */
  z.object({ outcome: z.literal('stored'), name: z.string(), frame: frameSchema, question: problemSchema.optional() }),
  z.object({ outcome: z.literal('duplicate'), name: z.string(), of: z.string() }),
  z.object({ outcome: z.literal('refused'), name: z.string(), reason: z.string(), remedy: z.string() }),
]);
export type ImportResult = z.infer<typeof importResultSchema>;

export const backgroundResultSchema = z.discriminatedUnion('outcome', [
  z.object({ outcome: z.literal('stored'), name: z.string(), background: backgroundSchema }),
  z.object({ outcome: z.literal('duplicate'), name: z.string(), of: z.string() }),
  z.object({ outcome: z.literal('refused'), name: z.string(), reason: z.string(), remedy: z.string() }),
]);
export type BackgroundResult = z.infer<typeof backgroundResultSchema>;

const frameFields = { subject: z.string().trim().max(80), guidance: guidanceSchema };
export type FrameChange = Partial<z.infer<z.ZodObject<typeof frameFields>>>;
/** As with setups. */
export const changeFrameSchema = z
  .object({ ...frameFields, seen: z.object(frameFields).partial().strict() })
  .partial()
  .strict();

export const MOST_NAME = 255;
export const fileNameSchema = z.object({
  name: z
    .string()
    .min(1, 'the file has no name')
    .refine((name) => name.length <= MOST_NAME, {
      error: (issue) =>
        `“${String(issue.input).slice(0, 40)}…” is a name of ${String(issue.input).length} letters, more than ${MOST_NAME}`,
    }),
});

/** Which frames a batch or a placement is for; all of the shoot (or setup) when left out. */
export const cutRequestSchema = z.object({ frameIds: z.array(id).max(5000).optional() }).strict();
/** A placement of null takes the frames off their background. */
export const placeRequestSchema = z
  .object({ frameIds: z.array(id).max(5000).optional(), placement: placementSchema.nullable() })
  .strict();

export const viewSchema = z.enum(['photograph', 'matte', 'grey', 'white', 'red', 'black']);
export type View = z.infer<typeof viewSchema>;
const pixel = z.coerce.number().int();
export const regionSchema = z.object({
  view: viewSchema,
  x: pixel.min(0),
  y: pixel.min(0),
  width: pixel.min(1).max(2400),
  height: pixel.min(1).max(2400),
});

export const healthSchema = z.object({
  instance: z.string(),
  demo: z.object({ done: z.number(), total: z.number() }),
  /** 503 while it is down. */ database: z.enum(['up', 'starting']),
});

/** How far a plate is put together: frames read, of all. */
export const gatheringSchema = z.object({ done: z.number(), total: z.number(), secondsLeft: z.number().nullable() });
export type Gathering = z.infer<typeof gatheringSchema>;

/** The kinds of items that a shoot has and that pages are told about. */
export const itemSchemas = {
  setups: setupSchema,
  frames: frameSchema,
  batches: batchSchema,
  deliveries: deliverySchema,
  plans: planRowSchema,
  checks: checkSchema,
};
export type ItemKind = keyof typeof itemSchemas;
export const itemKinds = Object.keys(itemSchemas) as ItemKind[];
export type Items = { [K in ItemKind]: z.infer<(typeof itemSchemas)[K]>[] };
export const noItems = (): Items => ({ setups: [], frames: [], batches: [], deliveries: [], plans: [], checks: [] });

/** Server-sent events. */
export const eventSchema = z.discriminatedUnion('type', [
  /** Items of a shoot that are new, changed or gone, gathered over a moment. */
  z.object({
    type: z.literal('changed'),
    shootId: id,
    revision,
    items: z.object(
      Object.fromEntries(itemKinds.map((kind) => [kind, z.array(itemSchemas[kind]).optional()])) as unknown as {
        [K in ItemKind]: z.ZodOptional<z.ZodArray<(typeof itemSchemas)[K]>>;
      },
    ),
    gone: z.partialRecord(z.enum(itemKinds as [ItemKind, ...ItemKind[]]), z.array(id)),
  }),
  z.object({ type: z.literal('gathering'), shootId: id, setupId: id, progress: gatheringSchema.nullable() }),
  z.object({ type: z.literal('backgrounds') }),
  z.object({ type: z.literal('shoots') }),
  /** First on every line: all that was told before has at most this revision. */
  z.object({ type: z.literal('hello'), revision, databaseUp: z.boolean() }),
  /** Whether the database answers; while it is started again, requests wait. */
  z.object({ type: z.literal('database'), up: z.boolean() }),
]);
export type ServerEvent = z.infer<typeof eventSchema>;
