import type { Frame, Setup } from '../../../contract/index.ts';
import { guidanceFor, instructionsOf, type Guidance } from '../../../core/cut/guidance.ts';
import { sameRecipe } from '../../../core/cut/recipe.ts';

/** Frames by id, and by setup and subject: what is said on one holds for the others of its group. */
export interface Groups {
  byId: Map<number, Frame>;
  alike: Map<string, Frame[]>;
}

export function groupFrames(frames: Frame[]): Groups {
  const alike = new Map<string, Frame[]>();
  for (const frame of frames) {
    const group = alike.get(groupOf(frame));
    if (group) group.push(frame);
    else alike.set(groupOf(frame), [frame]);
  }
  return { byId: new Map(frames.map((frame) => [frame.id, frame])), alike };
}

function groupOf({ setupId, subject }: Frame): string {
  return `${setupId} ${subject}`;
}

/** What a frame is to be cut with now, besides the recipe. */
export function wantedFor(
  frame: Frame,
  setup: Setup,
  { byId, alike }: Groups,
): { guidance: Guidance; plateFrameId: number | null; instructions: string } {
  const guidance = guidanceFor(frame, setup.masks, frame.subject ? (alike.get(groupOf(frame)) ?? []) : []);
  const plate = setup.plateFrameId === null ? undefined : byId.get(setup.plateFrameId);
  // As the batch does: a frame of another size, and the plate itself, are cut without it.
  const plateFrameId =
    plate && plate.id !== frame.id && plate.width === frame.width && plate.height === frame.height ? plate.id : null;
  return {
    guidance,
    plateFrameId,
    instructions: instructionsOf(guidance, plateFrameId, setup.recipe.bounce > 0 ? frame.placement : null),
  };
}

/** Frames whose cut is missing, failed, or made with other settings, masks, verdicts or another plate. A plate needs none. */
export function staleFrames(frames: Frame[], setups: Setup[], groups: Groups): Frame[] {
  const ofId = new Map(setups.map((setup) => [setup.id, setup]));
  return frames.filter((frame) => {
    const setup = ofId.get(frame.setupId);
    if (setup?.plateFrameId === frame.id) return false;
    return (
      !setup ||
      !frame.cut ||
      frame.job?.state === 'failed' ||
      !sameRecipe(frame.cut.recipe, setup.recipe) ||
      frame.cut.instructions !== wantedFor(frame, setup, groups).instructions
    );
  });
}
