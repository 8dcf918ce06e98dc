import { z } from 'zod';
import {
  forInks,
  intents,
  LEAST_BOUND,
  LONGEST_PATTERN,
  metadataFields,
  MOST_ON_SHEET,
  MOST_PRESETS,
  papers,
  patternFlaw,
  presetRanges,
  sheetFlaw,
  type Chosen,
  type KeptBack,
  type Metadata,
  type Papers,
  type PaperSheet,
  type Preset,
  type Print,
  type PrintCrop,
} from '../core/handOver/index.ts';
import { id, keyOf, problemSchema, ranged, revision, share } from './basics.ts';
import { batchSchema } from './jobs.ts';

/** What is handed over, and how it stands. */

export const LONGEST_PRESET_NAME = 60;
const presetName = z.string().trim().min(1, 'Give the preset a name.').max(LONGEST_PRESET_NAME);
export const storedHash = z.string().regex(/^[0-9a-f]{64}$/, 'is no stored file');
/** A colour profile of the library; inks: one for CMYK. */
export const profileSchema = z
  .object({ file: storedHash, name: z.string().max(120), inks: z.boolean().optional() })
  .strict();
const mm = ranged(presetRanges.side);
const whole = (facts: { min: number; max: number }) => ranged(facts).int();

const plain = z.boolean().optional();

const presetForms = [
  z
    .object({
      kind: z.literal('print'),
      name: presetName,
      width: mm,
      height: mm,
      resolution: whole(presetRanges.resolution),
      bleed: ranged(presetRanges.bleed),
      safe: ranged(presetRanges.safe),
      profile: z.union([z.enum(['srgb', 'p3']), profileSchema]),
      intent: keyOf(intents),
      paper: keyOf(papers),
      format: z.enum(['jpeg', 'tiff16']),
      quality: whole(presetRanges.quality),
      plain,
    })
    .strict(),
  z
    .object({
      kind: z.literal('screen'),
      name: presetName,
      longest: whole(presetRanges.longest),
      most: whole(presetRanges.most).refine(
        (kB) => kB === 0 || kB >= LEAST_BOUND,
        `Give at least ${LEAST_BOUND} kB, or 0 for no bound.`,
      ),
      format: z.enum(['jpeg', 'webp', 'avif', 'png']),
      quality: whole(presetRanges.quality),
      plain,
    })
    .strict(),
  z
    .object({
      kind: z.literal('cutout'),
      name: presetName,
      format: z.enum(['png', 'png16', 'tiff16']),
      trimmed: z.boolean(),
    })
    .strict(),
  z.object({ kind: z.literal('matte'), name: presetName, format: z.enum(['png', 'png16']) }).strict(),
  z.object({ kind: z.literal('layered'), name: presetName }).strict(),
  z
    .object({
      kind: z.literal('sheet'),
      name: presetName,
      width: mm,
      height: mm,
      resolution: whole(presetRanges.resolution),
      margin: ranged(presetRanges.safe),
      gap: ranged(presetRanges.gap),
      marks: z.boolean(),
      paper: keyOf(papers),
      plain,
      pictures: z
        .array(z.object({ width: mm, height: mm, count: whole(presetRanges.count) }).strict())
        .min(1, 'Put at least one picture on the sheet.')
        .max(MOST_ON_SHEET),
    })
    .strict(),
] as const;
export const presetSchema: z.ZodType<Preset> = z
  .discriminatedUnion('kind', [...presetForms])
  .superRefine((preset, context) => {
    const flaw = preset.kind === 'sheet' && sheetFlaw(preset as PaperSheet);
    if (flaw) context.addIssue({ code: 'custom', message: flaw, path: ['pictures'] });
    if (preset.kind === 'print' && forInks(preset as Print) && preset.format !== 'tiff16')
      context.addIssue({ code: 'custom', message: 'Inks (CMYK) are written as TIFF.', path: ['format'] });
  }) as never;

const text = (field: keyof typeof metadataFields) => z.string().trim().max(metadataFields[field].most);
const pattern = z
  .string()
  .max(LONGEST_PATTERN)
  .superRefine((value, context) => {
    const flaw = patternFlaw(value);
    if (flaw) context.addIssue({ code: 'custom', message: `The pattern cannot be used: ${flaw}.` });
  });
export const metadataSchema: z.ZodType<Metadata> = z
  .object({
    title: text('title').refine((value) => !value || !patternFlaw(value), 'has a word in braces that is not known'),
    photographer: text('photographer'),
    rights: text('rights'),
    place: text('place'),
    instructions: text('instructions'),
    persons: z.boolean(),
    taken: z.boolean(),
  })
  .strict() as never;

/** What is made beside the pictures, of all of them together. */
export const papersSchema: z.ZodType<Papers> = z
  .object({
    contact: z.boolean(),
    slips: z.boolean(),
    proof: z.boolean(),
  })
  .strict();

export const chosenSchema: z.ZodType<Chosen> = z
  .object({
    picks: z.enum(['all', 'keep']),
    subjects: z.array(z.string().max(80)).max(3000).nullable(),
    setups: z.array(id).max(200).nullable(),
    backgrounds: z.array(id).max(500).nullable(),
  })
  .strict();

export const deliverySettingsSchema = z
  .object({
    presets: z.array(presetSchema).min(1, 'Choose at least one preset.').max(MOST_PRESETS),
    names: pattern,
    chosen: chosenSchema,
    metadata: metadataSchema,
    papers: papersSchema,
  })
  .strict();
export type DeliverySettings = z.infer<typeof deliverySettingsSchema>;

export const keptBackSchema: z.ZodType<KeptBack> = z.object({
  frame: z.string(),
  subject: z.string(),
  reason: z.string(),
});
export type { KeptBack };

/** What is different from the hand-over that it repeats. */
export const differencesSchema = z.object({
  of: id,
  same: z.number(),
  changed: z.array(z.string()),
  added: z.array(z.string()),
  gone: z.array(z.string()),
});
export type Differences = z.infer<typeof differencesSchema>;

export const deliverySchema = z.object({
  id,
  shootId: id,
  settings: deliverySettingsSchema,
  createdAt: z.string(),
  batch: batchSchema.omit({ revision: true }),
  files: z.number(),
  bytes: z.number(),
  problems: z.array(problemSchema.extend({ frame: z.string() })),
  /** Frames without a finished picture, because nobody has chosen a background for them. */
  notPlaced: z.array(z.string()),
  /** Who was kept out of it, and why. */
  keptBack: z.array(keptBackSchema),
  /** Of a repeated one, once it is made. */
  differences: differencesSchema.nullable(),
  revision,
});
export type Delivery = z.infer<typeof deliverySchema>;

/** A crop by hand of one frame for one shape; null takes it back to the proposal. */
export const printCropSchema: z.ZodType<PrintCrop> = z.object({ x: share, y: share, width: share.min(0.01) }).strict();
export const shapeKeySchema = z.string().regex(/^\d{1,3}\.\d{3}$/);
export const cropsSchema = z.record(shapeKeySchema, printCropSchema);
export type Crops = z.infer<typeof cropsSchema>;
export const cropChangeSchema = z.object({ shape: shapeKeySchema, crop: printCropSchema.nullable() }).strict();
export type CropChange = z.infer<typeof cropChangeSchema>;

/** Where on the server’s machine a hand-over is copied to. */
export const folderRequestSchema = z.object({ folder: z.string().trim().min(1, 'Name a folder.').max(400) }).strict();
