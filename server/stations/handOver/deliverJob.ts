import { createHash } from 'node:crypto';
import { and, eq, inArray, isNotNull, isNull, sql } from 'drizzle-orm';
import { z } from 'zod';
import { id, lookSchema } from '../../../contract/index.ts';
import { clockedTime } from '../../../contract/clock.ts';
import { defaultRecipe } from '../../../core/cut/index.ts';
import {
  namesFor,
  peopleIn,
  presetKinds,
  SMALL,
  stemOf,
  writtenFacts,
  type StandsIn,
} from '../../../core/handOver/index.ts';
import type { Database } from '../../database/connect.ts';
import {
  backgrounds,
  cuts,
  deliveries,
  deliveryFiles,
  frames,
  placements,
  setups,
  shoots,
  styles,
  subjects,
} from '../../database/schema.ts';
import { flawOf } from '../../database/sound.ts';
import { defined, ready } from '../../jobs/definition.ts';
import { peopleOn } from '../gather/consent.ts';
import { filedExtras } from '../place/extras.ts';
import { filedOthers } from '../place/filedOthers.ts';
import { knownLight } from '../place/knownLight.ts';
import { lookOf } from '../place/readStyles.ts';
import type { FilesInput, WantedFile } from './filesTask.ts';

/** The files of one frame for one hand-over. */
export const deliverJob = defined({
  lane: 'batch',
  payload: z.object({ deliveryId: id }),
  tells: (_job, { deliveryId }) => ({ deliveries: [deliveryId] }),
  async prepare({ database }, { frameId }, { deliveryId }) {
    const [delivery] = await database.select().from(deliveries).where(eq(deliveries.id, deliveryId));
    if (!delivery || frameId === null) return undefined;
    const [row] = await database
      .select({ frame: frames, cut: cuts, shoot: shoots, setup: setups.name, subject: subjects })
      .from(frames)
      .innerJoin(setups, eq(setups.id, frames.setupId))
      .innerJoin(shoots, eq(shoots.id, setups.shootId))
      .leftJoin(cuts, eq(cuts.frameId, frames.id))
      .leftJoin(subjects, and(eq(subjects.shootId, setups.shootId), sql`binary ${subjects.name} = ${frames.subject}`))
      .where(eq(frames.id, frameId));
    if (!row) return undefined;
    const { frame, cut, shoot } = row;
    if (!cut) return { reason: 'it has not been extracted yet', remedy: 'Extract it, then hand over again.' };
    const { presets, metadata } = delivery.settings;
    const open = await database
      .select()
      .from(deliveryFiles)
      .where(
        and(eq(deliveryFiles.deliveryId, deliveryId), eq(deliveryFiles.frameId, frameId), isNull(deliveryFiles.file)),
      );
    const kinds = open.map(({ preset }) => (preset === SMALL ? null : presets[preset].kind));
    // What shows the person alone needs no background, nor a look that can be read.
    const alone = kinds.every((kind) => kind === 'cutout' || kind === 'matte');
    const finished = alone ? undefined : await finishedOf(database, shoot.id, frame, cut);
    if (finished && 'flaw' in finished)
      return {
        reason: `the look of “${finished.background}” cannot be read (${finished.flaw})`,
        remedy: 'Match person and background again at Place, then hand over again.',
      };
    if (!finished && kinds.some((kind) => kind && presetKinds[kind].placed))
      return {
        reason: 'it stands on no background any more',
        remedy: 'Choose its background at Place, then hand over again.',
      };
    const { recipe, guidance, plate } = cut;
    const input: FilesInput = {
      photograph: frame.file,
      order: { recipe: { ...defaultRecipe, ...recipe }, guidance, plate },
      cut: { file: cut.file, depth: cut.depth === 16 ? 16 : 8 },
      finished: finished?.input ?? null,
      wanted: [],
    };
    const people = (await peopleOn(database, shoot.id)).get(frameId) ?? [];
    const facts = (preset: string) => {
      const named = {
        shoot: shoot.name,
        date: shoot.date,
        subject: metadata.persons ? frame.subject : '',
        number: row.subject?.number ?? '',
        group: row.subject?.group ?? '',
        setup: row.setup,
        frame: stemOf(frame.name),
        background: finished?.name ?? '',
        preset,
      };
      const consents = people.map(({ consent }) => consent);
      const mayName = consents.every((consent) => consent === 'yes');
      const title = titleOf(metadata.title, { ...named, subject: mayName ? named.subject : '' });
      const subject = { name: people.map(({ name }) => name).join(', '), consents };
      return writtenFacts(metadata, title, subject, clockedTime(frame.takenAt, frame.clock));
    };
    const wanted = open.map(({ id: of, preset }): WantedFile => {
      const one = preset === SMALL ? null : presets[preset];
      const file = { preset: one, facts: facts(one?.name ?? '') };
      const madeFrom = createHash('sha256')
        .update(JSON.stringify({ ...input, ...file }))
        .digest('hex');
      return { row: of, ...file, madeFrom };
    });
    const made = await takeOver(database, delivery.repeats, frameId, wanted);
    input.wanted = wanted.filter(({ row: of }) => !made.has(of));
    if (!input.wanted.length) return undefined;
    return ready<'files'>({
      task: 'files',
      input,
      files: ({ files }) => files.map(({ file }) => file),
      keep: async (tx, { files }) => {
        const background = finished?.name ?? '';
        for (const { row: of, ...file } of files)
          await tx
            .update(deliveryFiles)
            .set({ ...file, background })
            .where(and(eq(deliveryFiles.id, of), isNull(deliveryFiles.file)));
        return {};
      },
    });
  },
});

/** A title by its pattern; file names are made by the same, but it may hold what they may not. */
function titleOf(pattern: string, facts: Parameters<typeof namesFor>[1][number]['facts']): string {
  return pattern
    .replace(/\{([a-z]+)\}/g, (_, token: string) => facts[token as keyof typeof facts] ?? '')
    .replace(/\s+/g, ' ')
    .trim();
}

type FrameRow = typeof frames.$inferSelect;
type CutRow = typeof cuts.$inferSelect;

/** A frame’s finished picture as a worker needs it; undefined without a background. */
async function finishedOf(
  database: Database,
  shootId: number,
  frame: FrameRow,
  cut: CutRow,
): Promise<
  { name: string; input: NonNullable<FilesInput['finished']> } | { flaw: string; background: string } | undefined
> {
  const [row] = await database
    .select({ placement: placements, background: backgrounds, style: styles })
    .from(placements)
    .innerJoin(backgrounds, eq(backgrounds.id, placements.backgroundId))
    .leftJoin(styles, and(eq(styles.shootId, shootId), eq(styles.backgroundId, placements.backgroundId)))
    .where(eq(placements.frameId, frame.id));
  if (!row) return undefined;
  const { placement, background, style } = row;
  const look = lookOf(style?.look, placement.look);
  const flaw = flawOf(lookSchema, look);
  if (flaw) return { flaw, background: background.name };
  const place = { x: placement.x, y: placement.y, height: placement.height };
  const own: StandsIn = {
    cut: frame,
    extent: cut.quality.extent,
    faces: cut.faces,
    hands: cut.hands,
    placement: place,
    mirrored: look.mirrorPerson,
  };
  const beside = placement.others.length
    ? await database
        .select({ frame: frames, cut: cuts })
        .from(frames)
        .innerJoin(cuts, eq(cuts.frameId, frames.id))
        .where(
          inArray(
            frames.id,
            placement.others.map(({ frameId }) => frameId),
          ),
        )
    : [];
  const others = placement.others.flatMap(({ frameId, mirrored, ...at }): StandsIn[] => {
    const found = beside.find((one) => one.frame.id === frameId);
    if (!found) return [];
    const { quality, faces, hands } = found.cut;
    return [{ cut: found.frame, extent: quality.extent, faces, hands, placement: at, mirrored }];
  });
  return {
    name: background.name,
    input: {
      background: background.file,
      others: await filedOthers(database, placement.others, background.scene),
      light: await knownLight(database, frame.setupId, background.scene),
      placement: place,
      look,
      extras: style ? await filedExtras(database, style.extras, frame.id, background.name) : undefined,
      people: peopleIn([own, ...others], background),
      crops: placement.crops,
    },
  };
}

/** Files that the repeated hand-over made from just the same are taken from there. @returns their rows. */
async function takeOver(
  database: Database,
  repeats: number | null,
  frameId: number,
  wanted: readonly WantedFile[],
): Promise<Set<number>> {
  const taken = new Set<number>();
  if (repeats === null || !wanted.length) return taken;
  const before = await database
    .select()
    .from(deliveryFiles)
    .where(
      and(eq(deliveryFiles.deliveryId, repeats), eq(deliveryFiles.frameId, frameId), isNotNull(deliveryFiles.file)),
    );
  for (const { row, madeFrom } of wanted) {
    const same = before.find((file) => file.madeFrom === madeFrom);
    if (!same) continue;
    const { file, bytes, width, height, background } = same;
    await database
      .update(deliveryFiles)
      .set({ file, bytes, width, height, background, madeFrom })
      .where(and(eq(deliveryFiles.id, row), isNull(deliveryFiles.file)));
    taken.add(row);
  }
  return taken;
}
