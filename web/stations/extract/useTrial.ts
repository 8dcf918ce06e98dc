import { z } from 'zod';
import { create } from 'zustand';
import { createJSONStorage, persist } from 'zustand/middleware';
import { recipeSchema, someSettingsSchema, type ComparedFrame, type Job, type Setup } from '../../../contract/index.ts';
import { sameRecipe, type Recipe } from '../../../core/cut/recipe.ts';
import { api } from '../../state/api.ts';
import { changeSetup } from '../../state/changes.ts';
import { startJob, useEndedJob, useFailedJob, useOpenJob } from '../../state/jobs.ts';

/** Settings that are looked at on a setup before they are kept. */
export interface Trial {
  /** Whether changes of the setup's settings are tried first. */
  on: boolean;
  setOn: (on: boolean) => void;
  /** What is tried. */
  to: Partial<Recipe>;
  /** The setup's recipe with it. */
  recipe: Recipe;
  change: (to: Partial<Recipe>) => void;
  keep: () => void;
  drop: () => void;
  /** Has every frame of the setup compared. */
  compare: () => void;
  comparing: Job | undefined;
  failed: Job | undefined;
  /** How the frames compare, if it was these settings that they were compared by. */
  compared: ComparedFrame[] | undefined;
}

const NOTHING: Partial<Recipe> = {};

/** What is tried in this window; a reload does not lose it. */
const triedSchema = z.object({
  on: z.boolean(),
  tried: z.object({ setupId: z.number(), to: someSettingsSchema }).optional(),
  /** The comparison that was asked for last. */
  asked: z.object({ jobId: z.number(), recipe: recipeSchema }).optional(),
});
export const useTried = create(
  persist((): z.infer<typeof triedSchema> => ({ on: false }), {
    name: 'silent-lawn trial',
    storage: createJSONStorage(() => sessionStorage),
    merge: (kept, now) => triedSchema.safeParse(kept).data ?? now,
  }),
);
const setTried = (part: Partial<z.infer<typeof triedSchema>>): void => void useTried.setState(part);

export function useTrial(setup: Setup): Trial {
  const { on, tried, asked } = useTried();
  const about = { setupId: setup.id };
  const comparing = useOpenJob(['trial'], about);
  const failed = useFailedJob(['trial'], about);
  const ended = useEndedJob(['trial'], about);
  const to = tried?.setupId === setup.id ? tried.to : NOTHING;
  const recipe = { ...setup.recipe, ...to };
  const drop = (): void => setTried({ tried: undefined });
  return {
    ...{ on, to, recipe, drop, comparing, failed },
    setOn: (next) => {
      setTried({ on: next });
      if (!next) drop();
    },
    change: (more) => {
      const next = Object.entries({ ...to, ...more }).filter(([name, v]) => v !== setup.recipe[name as keyof Recipe]);
      setTried({ tried: { setupId: setup.id, to: Object.fromEntries(next) } });
    },
    keep: () => {
      void changeSetup(setup, { recipe }, 'settings that were tried');
      drop();
    },
    compare: () => {
      void startJob(api.tryRecipe(setup.id, recipe)).then(
        (job) => job && setTried({ asked: { jobId: job.id, recipe } }),
      );
    },
    compared: asked && ended?.id === asked.jobId && sameRecipe(asked.recipe, recipe) ? ended.made?.compared : undefined,
  };
}
