import { useState } from 'react';
import type { ComparedFrame, Job, Setup } from '../../../contract/index.ts';
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

export function useTrial(setup: Setup): Trial {
  const [on, setOn] = useState(false);
  const [tried, tryOn] = useState<{ setupId: number; to: Partial<Recipe> }>();
  const [asked, ask] = useState<{ jobId: number; recipe: Recipe }>();
  const about = { setupId: setup.id };
  const comparing = useOpenJob(['trial'], about);
  const failed = useFailedJob(['trial'], about);
  const ended = useEndedJob(['trial'], about);
  const to = tried?.setupId === setup.id ? tried.to : NOTHING;
  const recipe = { ...setup.recipe, ...to };
  const drop = (): void => tryOn(undefined);
  return {
    ...{ on, to, recipe, drop, comparing, failed },
    setOn: (next) => {
      setOn(next);
      if (!next) drop();
    },
    change: (more) => {
      const next = Object.entries({ ...to, ...more }).filter(([name, v]) => v !== setup.recipe[name as keyof Recipe]);
      tryOn({ setupId: setup.id, to: Object.fromEntries(next) });
    },
    keep: () => {
      void changeSetup(setup, { recipe }, 'settings that were tried');
      drop();
    },
    compare: () => {
      void startJob(api.tryRecipe(setup.id, recipe)).then((job) => job && ask({ jobId: job.id, recipe }));
    },
    compared: asked && ended?.id === asked.jobId && sameRecipe(asked.recipe, recipe) ? ended.made?.compared : undefined,
  };
}
