/**
 * The extraction settings. One table that the code, the interface, the contract and the documents all read:
 * a setting has exactly one range, default, unit and wording.
 */
export interface Recipe {
  floor: number;
  ceiling: number;
  hairReach: number;
  greenKeep: number;
  spill: number;
}

export interface SettingFacts {
  /** The question of the craft that this setting answers. */
  question: string;
  label: string;
  /** Inclusive. */
  min: number;
  max: number;
  step: number;
  default: number;
  unit: string;
  effect: string;
}

export const recipeSettings: Record<keyof Recipe, SettingFacts> = {
  floor: {
    question: 'Is the screen gone?',
    label: 'Floor',
    min: 0,
    max: 0.4,
    step: 0.01,
    default: 0.04,
    unit: 'coverage',
    effect: 'Coverage up to here becomes clear. Raise it until the screen is clean, no further: it eats fine hair.',
  },
  ceiling: {
    question: 'Is the person solid?',
    label: 'Ceiling',
    min: 0.6,
    max: 1,
    step: 0.01,
    default: 0.97,
    unit: 'coverage',
    effect: 'Coverage from here on becomes solid. Lower it until the person is solid, no further: edges turn hard.',
  },
  hairReach: {
    question: 'Is the hair there?',
    label: 'Hair reach',
    min: 0.2,
    max: 8,
    step: 0.1,
    default: 2.5,
    unit: '% of frame height',
    effect: 'How far from the person single hairs are looked for.',
  },
  greenKeep: {
    question: 'What green stays?',
    label: 'Green kept',
    min: 0,
    max: 1,
    step: 0.05,
    default: 0.5,
    unit: 'share',
    effect: 'How readily solid patches of the screen’s hue count as clothing. At 0 no green is kept as it is, at 1 all that differs from the screen.',
  },
  spill: {
    question: 'Is the edge clean?',
    label: 'Spill removed',
    min: 0,
    max: 1,
    step: 0.05,
    default: 0.85,
    unit: 'share',
    effect: 'How much of the screen’s light on skin, hair and cloth is taken away. As little as will do.',
  },
};

export const defaultRecipe: Recipe = Object.fromEntries(
  Object.entries(recipeSettings).map(([name, facts]) => [name, facts.default]),
) as unknown as Recipe;
