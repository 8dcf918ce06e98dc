/**
 * The extraction settings. One table that the code, the interface, the contract and the documents all read:
 * a setting has exactly one range, default, unit and wording.
 */
export interface Recipe extends Record<SettingName, number> {
  method: Method;
  spillMethod: SpillMethod;
}

export type Method = 'unmixing' | 'distance' | 'difference' | 'layers' | 'whole';
/** In the order that the kernel numbers them by. */
export const spillMethods = ['share', 'larger', 'average', 'greying', 'complement'] as const;
export type SpillMethod = (typeof spillMethods)[number];
export type SettingName =
  | 'floor'
  | 'ceiling'
  | 'edge'
  | 'softness'
  | 'specks'
  | 'holes'
  | 'hairReach'
  | 'greenKeep'
  | 'spill'
  | 'keyFrom'
  | 'keyTo'
  | 'headZone'
  | 'purity'
  | SpillColour
  | PersonLight;
/** From which hues spill is taken, and what colour it leaves. */
export type SpillColour = 'spillHues' | 'spillFade' | 'replaced' | 'replacedHue' | 'replacedPurity';
export const spillColour: readonly SpillColour[] = [
  'spillHues',
  'spillFade',
  'replaced',
  'replacedHue',
  'replacedPurity',
];
/** Light on the person as it is put right afterwards; neither screen nor coverage knows of it. */
export type PersonLight = 'personExposure' | 'personWarmth' | 'personTint';
export const personLight: readonly PersonLight[] = ['personExposure', 'personWarmth', 'personTint'];

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
  /** Set seldom: shown when asked for. */
  seldom?: boolean;
  /** Only these methods read it; all if left out. */
  methods?: readonly Method[];
}

const classic: readonly Method[] = ['distance', 'difference', 'layers'];

export const recipeSettings: Record<SettingName, SettingFacts> = {
  floor: {
    question: 'Is the screen gone?',
    label: 'Counts as gone',
    min: 0,
    max: 0.4,
    step: 0.01,
    default: 0.04,
    unit: 'coverage',
    effect: 'Coverage up to here is gone. Raise it until the screen is clean, no further: it eats fine hair.',
  },
  ceiling: {
    question: 'Is the person solid?',
    label: 'Counts as solid',
    min: 0.6,
    max: 1,
    step: 0.01,
    default: 0.97,
    unit: 'coverage',
    effect: 'Coverage from here on is solid. Lower it until the person is solid, no further: edges turn hard.',
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
    methods: ['unmixing'],
  },
  greenKeep: {
    question: 'What green stays?',
    label: 'Green kept',
    min: 0,
    max: 1,
    step: 0.05,
    default: 0.5,
    unit: 'share',
    effect:
      'How readily patches of the screen’s hue count as clothing: at 0 none, at 1 all. A verdict on one patch, given on the picture, wins over this.',
    methods: ['unmixing'],
  },
  keyFrom: {
    question: 'Where does the person begin?',
    label: 'Screen up to',
    min: 0,
    max: 0.6,
    step: 0.01,
    default: 0.1,
    unit: 'share of the way',
    effect:
      'The way leads from the screen’s own colour to one without its lead, or as far from it as grey. So far along it, all is screen.',
    methods: classic,
  },
  keyTo: {
    question: 'Where is it solid?',
    label: 'Person from',
    min: 0.1,
    max: 1,
    step: 0.01,
    default: 0.9,
    unit: 'share of the way',
    effect: 'From here along the same way, all is person. Nearer to “Screen up to” edges turn hard and noise grows.',
    methods: classic,
  },
  headZone: {
    question: 'How far does the hair come down?',
    label: 'Head zone',
    min: 0,
    max: 100,
    step: 1,
    default: 40,
    unit: '% of the person’s height',
    effect: 'From the top so far the soft matte is used, below it the hard one.',
    methods: ['layers'],
  },
  purity: {
    question: 'Is the screen pale?',
    label: 'Working copy’s purity',
    min: 0,
    max: 1,
    step: 0.05,
    default: 0,
    unit: 'share',
    effect:
      'What leans to the screen’s colour is made purer by so much while keying, which helps a pale screen; the picture keeps its own colours.',
    methods: classic,
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
  spillHues: {
    question: 'Which hues lose it?',
    label: 'Hues near the screen’s',
    min: 10,
    max: 180,
    step: 5,
    default: 180,
    unit: '° either side',
    effect: 'Spill is taken only from hues so near to the screen’s own; narrower spares yellow, cyan and brown.',
    seldom: true,
  },
  spillFade: {
    question: 'Where does that end?',
    label: 'Fading over',
    min: 0,
    max: 90,
    step: 5,
    default: 30,
    unit: '°',
    effect: 'Beyond those hues less and less is taken, over so many degrees.',
    seldom: true,
  },
  replaced: {
    question: 'What colour does it leave?',
    label: 'Drawn to a colour',
    min: 0,
    max: 1,
    step: 0.05,
    default: 0,
    unit: 'share',
    effect: 'What spill is taken from is drawn to the colour below, as far as it was spill; its brightness stays.',
    seldom: true,
  },
  replacedHue: {
    question: 'Which hue?',
    label: 'Hue of it',
    min: 0,
    max: 360,
    step: 5,
    default: 30,
    unit: '°, red is 0',
    effect: '30 is like skin, 45 like straw, 220 like dusk.',
    seldom: true,
  },
  replacedPurity: {
    question: 'How pure is it?',
    label: 'Purity of it',
    min: 0,
    max: 1,
    step: 0.05,
    default: 0.4,
    unit: 'share',
    effect: 'At 0 it is grey.',
    seldom: true,
  },
  edge: {
    question: 'Where does the outline lie?',
    label: 'Outline out or in',
    min: -3,
    max: 3,
    step: 0.1,
    default: 0,
    unit: 'pixels of the file',
    effect: 'Moves the outline out (above 0) or in (below 0). In hides a rim, out gives back thin hair.',
    seldom: true,
  },
  softness: {
    question: 'How steep is it?',
    label: 'Slope of the outline',
    min: 0,
    max: 4,
    step: 0.1,
    default: 0,
    unit: 'pixels of the file',
    effect: 'Blurs the coverage by this radius, for a background that is less sharp than the person.',
    seldom: true,
  },
  specks: {
    question: 'Which loose pieces stay?',
    label: 'Smallest piece kept',
    min: 0,
    max: 60,
    step: 1,
    default: 0,
    unit: 'pixels across',
    effect: 'Pieces apart from the person and smaller than this are cleared. Loose hairs are small too.',
    seldom: true,
  },
  holes: {
    question: 'Which gaps stay?',
    label: 'Smallest gap kept',
    min: 0,
    max: 60,
    step: 1,
    default: 0,
    unit: 'pixels across',
    effect: 'Openings inside the person smaller than this are filled. Lattice and hair loops are small too.',
    seldom: true,
  },
  personExposure: {
    question: 'Is the person as light as they were?',
    label: 'Person’s exposure',
    min: -2,
    max: 2,
    step: 0.05,
    default: 0,
    unit: 'stops',
    effect: 'Makes the person lighter or darker; the screen and the outline stay as they are.',
    seldom: true,
  },
  personWarmth: {
    question: 'Is the person’s white white?',
    label: 'Person’s warmth',
    min: -120,
    max: 120,
    step: 1,
    default: 0,
    unit: 'mired',
    effect: 'Warmer to the right, for a white balance that was off.',
    seldom: true,
  },
  personTint: {
    question: 'Is it green or magenta?',
    label: 'Person’s tint',
    min: -1,
    max: 1,
    step: 0.02,
    default: 0,
    unit: 'green – magenta',
    effect: 'More magenta to the right, for lamps that are green.',
    seldom: true,
  },
};

export interface ChoiceFacts<T extends string> {
  question: string;
  label: string;
  default: T;
  options: Record<T, { title: string; effect: string }>;
}

export const recipeChoices: { method: ChoiceFacts<Method>; spillMethod: ChoiceFacts<SpillMethod> } = {
  method: {
    question: 'How is it cut?',
    label: 'Method',
    default: 'unmixing',
    options: {
      unmixing: {
        title: 'Unmixing',
        effect:
          'Each pixel of the fringe is solved as person over the screen at that place. Keeps green cloth and strands; serves most frames.',
      },
      distance: {
        title: 'Distance from one colour',
        effect: 'Coverage by how far a colour lies from one screen colour. Simple and predictable; green cloth goes.',
      },
      difference: {
        title: 'Lead of the screen’s channel',
        effect:
          'Coverage by how much less green leads than in one screen colour. Soft hair; green cloth goes, grey stays.',
      },
      layers: {
        title: 'Soft and hard',
        effect: 'A soft matte about the head, a hard one below it, from the colour difference.',
      },
      whole: {
        title: 'Without a screen',
        effect:
          'All of the frame stays but what masks, touches and a matte of its own take away. For cutouts made elsewhere, and where there is no screen.',
      },
    },
  },
  spillMethod: {
    question: 'How is spill taken away?',
    label: 'Spill',
    default: 'share',
    options: {
      share: {
        title: 'The screen’s share',
        effect:
          'So much of the screen’s own light is subtracted as the colour leads by; half of the brightness is given back.',
      },
      larger: {
        title: 'Limit to the larger',
        effect: 'The screen’s channel is held to the larger of the other two. Gentle on yellow and cyan.',
      },
      average: {
        title: 'Limit to the average',
        effect: 'The screen’s channel is held to the mean of the other two. Strong; shifts yellow.',
      },
      greying: {
        title: 'Greying',
        effect: 'Where the screen’s channel leads the colour is drawn towards grey of the same brightness.',
      },
      complement: {
        title: 'Complement tint',
        effect: 'As much of the other two channels is added as the screen’s leads by: brighter, neutral.',
      },
    },
  },
};

export const settingNames = Object.keys(recipeSettings) as SettingName[];

export const defaultRecipe: Recipe = {
  ...(Object.fromEntries(settingNames.map((name) => [name, recipeSettings[name].default])) as Record<
    SettingName,
    number
  >),
  method: recipeChoices.method.default,
  spillMethod: recipeChoices.spillMethod.default,
};

/** The settings that a cut itself is made with; light on the person is put right after it. */
export const cutSettings = (Object.keys(defaultRecipe) as (keyof Recipe)[]).filter(
  (name) => !(personLight as readonly string[]).includes(name),
);

/**
 * A recipe for a reduced copy: lengths in pixels of the file become pixels of the copy.
 * @param scale pixels of the copy to one of the file.
 */
export function recipeAt(recipe: Recipe, scale: number): Recipe {
  const { edge, softness, specks, holes } = recipe;
  return { ...recipe, edge: scale * edge, softness: scale * softness, specks: scale * specks, holes: scale * holes };
}

/** A setting in which a frame differs from its setup's recipe. */
export type Departure = {
  [K in keyof Recipe]: {
    id: K;
    to: Recipe[K];
    /** Holds for all frames of its subject. */
    wholeSubject?: boolean;
  };
}[keyof Recipe];

/** A recipe with what departs from it; of two departures in one setting the later holds. */
export function departed(recipe: Recipe, departures: readonly Departure[]): Recipe {
  return { ...recipe, ...Object.fromEntries(departures.map(({ id, to }) => [id, to])) };
}

/** What a setting is called. */
export function labelOf(name: keyof Recipe): string {
  return (
    name in recipeChoices ? recipeChoices[name as keyof typeof recipeChoices] : recipeSettings[name as SettingName]
  ).label;
}

export function sameRecipe(a: Recipe, b: Recipe): boolean {
  return (Object.keys(defaultRecipe) as (keyof Recipe)[]).every((name) => a[name] === b[name]);
}
