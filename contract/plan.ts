import { z } from 'zod';
import {
  cameraFacts,
  circuitFacts,
  eventFacts,
  guestFacts,
  lampFacts,
  lampKinds,
  lampRoles,
  outputUnits,
  personFacts,
  placeFacts,
  roomFacts,
  screenColours,
  screenFacts,
  supplies,
  type Fact,
} from '../core/plan/facts.ts';
import { diffusions, gels, materials, type CameraModel, type LampModel } from '../core/plan/library.ts';
import type { Material, Plan } from '../core/plan/plan.ts';
import { demoPeople, type SubjectName } from '../core/studio/cast.ts';
import { recipeSchema } from './extract.ts';
import { presetSchema, profileSchema } from './handOver.ts';
import { factorsSchema } from './log.ts';

/** The schema of a plan file; every number has the range that the form and the documentation show. */

/** A number within its fact's range, described by its label and unit. */
function numbers<T extends Record<string, Fact>>(facts: T): { [K in keyof T]: z.ZodNumber } {
  return Object.fromEntries(
    Object.entries(facts).map(([name, { label, unit, min, max }]) => [
      name,
      z
        .number()
        .min(min)
        .max(max)
        .describe(unit ? `${label}, ${unit}` : label),
    ]),
  ) as { [K in keyof T]: z.ZodNumber };
}

const choice = <T extends string>(words: Record<T, string>): z.ZodEnum<{ [K in T]: K }> =>
  z.enum(Object.keys(words) as T[]) as never;
const named = (list: readonly { name: string }[]): z.ZodEnum =>
  z.enum(list.map((item) => item.name) as [string, ...string[]]);
const name = z.string().trim().min(1).max(120);
const id = z.string().min(1).max(60);
const place = z.object(numbers(placeFacts)).strict();
const time = z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/, 'Give the time of day as HH:MM.');
const date = z.iso.date('Give the date as year-month-day.');
const colour = z.string().regex(/^[0-9a-f]{6}$/i, 'Give a colour as six hex digits.');
const whole = (facts: Fact): z.ZodNumber => z.number().int().min(facts.min).max(facts.max).describe(facts.label);

const lampSchema = z
  .object({
    id,
    name,
    kind: choice(lampKinds),
    role: choice(lampRoles),
    position: place,
    aim: place,
    unit: choice(outputUnits),
    gel: named(gels),
    diffusion: named(diffusions),
    circuit: z.string().max(60),
    supply: choice(supplies),
    ...numbers(lampFacts),
  })
  .strict();

const screenSchema = z
  .object({ colour: choice(screenColours), material: name, supply: choice(supplies), ...numbers(screenFacts) })
  .strict();
const cameraSchema = z
  .object({
    ...numbers(cameraFacts),
    pixelsAcross: whole(cameraFacts.pixelsAcross),
    pixelsDown: whole(cameraFacts.pixelsDown),
    position: place,
    file: z.enum(['jpeg', '16-bit', 'raw']),
  })
  .strict();
const personSchema = z.object({ id, name, ...numbers(personFacts), count: whole(personFacts.count) }).strict();
const eventSchema = z
  .object({
    date,
    arrive: time,
    firstGuest: time,
    packedBy: time,
    deadlineDate: date,
    deadlineTime: time,
    breaks: z.array(z.object({ start: time, minutes: z.number().min(1).max(600) }).strict()).max(20),
    roster: z
      .array(z.object({ name, colours: z.array(colour).max(12), people: whole(guestFacts.people) }).strict())
      .max(2000),
    ...numbers(eventFacts),
    guests: whole(eventFacts.guests),
  })
  .strict();

const positive = (max: number): z.ZodNumber => z.number().min(0).max(max);
const materialSchema: z.ZodType<Material> = z
  .object({
    name,
    note: z.string().max(300),
    gloss: screenSchema.shape.gloss,
    wrinklePeriod: screenSchema.shape.wrinklePeriod,
    wrinkleDepth: screenSchema.shape.wrinkleDepth,
    price: positive(1e5),
    uses: z.number().min(1).max(1e5),
    mass: positive(100),
    setUp: positive(1000),
    widest: z.number().min(0.1).max(100),
    outdoors: z.boolean(),
  })
  .strict();

const unique = (list: readonly { id: string }[]): boolean => new Set(list.map((item) => item.id)).size === list.length;

export const planSchema: z.ZodType<Plan> = z
  .object({
    format: z.literal('silent-lawn-plan'),
    version: z.literal(1),
    name,
    room: z.object({ outdoors: z.boolean(), ...numbers(roomFacts) }).strict(),
    screen: screenSchema,
    lamps: z.array(lampSchema).max(24).refine(unique, 'Each lamp needs an id of its own.'),
    people: z.array(personSchema).max(12).refine(unique, 'Each person needs an id of their own.'),
    camera: cameraSchema
      .refine((c) => c.position.z > 0.2, 'The camera must stand in front of the screen.')
      .refine((c) => c.focal < 2 * c.position.z, 'The focal length is longer than the set.'),
    materials: z.array(materialSchema).max(20),
    circuits: z.array(z.object({ name: z.string().trim().min(1).max(60), ...numbers(circuitFacts) }).strict()).max(20),
    event: eventSchema,
  })
  .strict()
  .refine((plan) => [...plan.materials, ...materials].some((m) => m.name === plan.screen.material), {
    path: ['screen', 'material'],
    message: 'is neither in the library nor among the plan’s own materials.',
  }) as never;

/** The documented form of a plan file as JSON Schema. */
export function planJsonSchema(): unknown {
  return z.toJSONSchema(planSchema, { io: 'input' });
}

const model = { name };
const lampModelSchema: z.ZodType<LampModel> = lampSchema
  .pick({
    kind: true,
    output: true,
    unit: true,
    beam: true,
    width: true,
    height: true,
    temperature: true,
    tint: true,
    watts: true,
    flashDuration: true,
  })
  .extend(model)
  .strict();
const cameraModelSchema: z.ZodType<CameraModel> = cameraSchema
  .pick({ sensorWidth: true, sensorHeight: true, pixelsAcross: true, pixelsDown: true, focal: true })
  .extend(model)
  .strict();
/** What a photographer adds to the library. */
export const libraryEntrySchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('lamp'), entry: lampModelSchema }),
  z.object({ kind: z.literal('camera'), entry: cameraModelSchema }),
  z.object({ kind: z.literal('material'), entry: materialSchema }),
  z.object({ kind: z.literal('recipe'), entry: z.object({ name, recipe: recipeSchema }).strict() }),
  z.object({ kind: z.literal('preset'), entry: presetSchema }),
  z.object({ kind: z.literal('profile'), entry: profileSchema }),
  /** What the own log made of the shipped coefficients; the latest holds. */
  z.object({ kind: z.literal('factors'), entry: z.object({ name, factors: factorsSchema }).strict() }),
]);
export type LibraryEntry = z.infer<typeof libraryEntrySchema>;
export const libraryItemSchema = z.object({ id: z.number().int().positive(), item: libraryEntrySchema });
export type LibraryItem = z.infer<typeof libraryItemSchema>;

export const planRowSchema = z.object({
  id: z.number().int().positive(),
  shootId: z.number().int().positive(),
  setupId: z.number().int().positive().nullable(),
  plan: planSchema,
  changedAt: z.string(),
  revision: z.number(),
});
export type PlanRow = z.infer<typeof planRowSchema>;
export const newPlanSchema = z
  .object({ plan: planSchema, setupId: z.number().int().positive().nullable().default(null) })
  .strict();
export const changePlanSchema = z
  .object({ plan: planSchema.optional(), setupId: z.number().int().positive().nullable().optional() })
  .strict();

/** What the stand-in camera is asked to take, and who stands there. */
export const shotRequestSchema = z
  .object({
    kind: z.enum(['people', 'plate', 'ball', 'grey card', 'colour chart']),
    people: z.array(z.enum(Object.keys(demoPeople) as [SubjectName, ...SubjectName[]])).max(12),
    pose: z.enum(['down', 'hip', 'hips', 'raised', 'wave', 'holding']).default('down'),
    seed: z.number().int().min(0).max(1e6).default(1),
    setupId: z.number().int().positive(),
  })
  .strict();
export type ShotRequest = z.input<typeof shotRequestSchema>;
