/**
 * What is known about one reading before anything is computed: its unit, its accepted range and where that comes from.
 */
export interface ReadingFacts {
  title: string;
  unit: '%' | 'stops' | 'm' | 'px' | 'm/s' | '';
  /** Accepted range, in the unit; one end may be open. */
  min?: number;
  max?: number;
  /** Ends of the scale on which it is drawn. */
  scale: readonly [number, number];
  digits: number;
  /** Why these bounds. */
  source: string;
  remedy: string;
}

const craft = 'usual practice';

/** The readings of a plan and of a test frame; Check measures those that a photograph can show. */
export const readingFacts = {
  coverage: {
    title: 'Frame filled by the screen',
    unit: '%',
    min: 99.5,
    scale: [50, 100],
    digits: 0,
    source: craft,
    remedy:
      'Move the camera or the person nearer to the screen, take a longer lens, or a larger screen; else mask the rest.',
  },
  arms: {
    title: 'Screen left beside outstretched arms',
    unit: 'm',
    min: 0.15,
    scale: [-1, 1],
    digits: 2,
    source: craft,
    remedy: 'Stand nearer to the screen, move the camera back with a longer lens, or take a wider screen.',
  },
  spread: {
    title: 'Unevenness of the seen screen',
    unit: 'stops',
    max: 1,
    scale: [0, 3],
    digits: 2,
    source: 'under 1 stop accepted, a third excellent',
    remedy: 'Turn the screen lamps across to the far side, move them back, make them equal, or add one.',
  },
  mismatch: {
    title: 'Colour difference left to right',
    unit: '%',
    max: 4,
    scale: [0, 30],
    digits: 1,
    source: craft,
    remedy: 'Use the same lamps on both sides, or correct one with a gel.',
  },
  keyScreen: {
    title: 'Key above the screen',
    unit: 'stops',
    min: 0,
    max: 0.5,
    scale: [-3, 3],
    digits: 2,
    source: 'key equal to the screen or up to half a stop above',
    remedy: 'Change the power or the distance of the key or of the screen lamps.',
  },
  keyFill: {
    title: 'Key over fill',
    unit: 'stops',
    min: 0.3,
    max: 4,
    scale: [0, 5],
    digits: 1,
    source: craft,
    remedy: 'Move the fill nearer or farther; a white board also fills.',
  },
  screenOnPerson: {
    title: 'Screen lamps on the person',
    unit: '%',
    max: 5,
    scale: [0, 60],
    digits: 0,
    source: 'the person stands forward of the screen lamps',
    remedy: 'Bring the person forward, turn the screen lamps farther towards the screen, or flag them.',
  },
  level: {
    title: 'Level of the screen',
    unit: '%',
    min: 10,
    max: 65,
    scale: [0, 100],
    digits: 0,
    source: 'mid-tone: too dark is noisy, too light is pale',
    remedy: 'Change screen light or exposure.',
  },
  clipped: {
    title: 'Screen clipped',
    unit: '%',
    max: 0,
    scale: [0, 50],
    digits: 0,
    source: 'no channel may clip',
    remedy: 'Less light on the screen, or expose less.',
  },
  purity: {
    title: 'Purity of the screen colour',
    unit: '%',
    min: 50,
    scale: [0, 100],
    digits: 0,
    source: 'how far the screen’s channel stands above the others',
    remedy: 'A duller, more saturated screen; less stray light on it; green light on it.',
  },
  gloss: {
    title: 'Mirrored lamp on the screen',
    unit: 'stops',
    max: 0.15,
    scale: [0, 2],
    digits: 2,
    source: craft,
    remedy: 'A matt screen, or lamps farther to the side.',
  },
  shadow: {
    title: 'Shadow of the person on the screen',
    unit: 'stops',
    max: 0.25,
    scale: [0, 2],
    digits: 2,
    source: 'no shadow on the seen screen',
    remedy: 'More distance from person to screen, the lamp farther to the side or higher, or a larger lamp.',
  },
  bounce: {
    title: 'Screen light on edges, below key',
    unit: 'stops',
    min: 3,
    scale: [0, 7],
    digits: 1,
    source: craft,
    remedy: 'More distance from the screen, a smaller screen, less light on it.',
  },
  wrinkle: {
    title: 'Creases left in the frame',
    unit: '%',
    max: 2,
    scale: [0, 20],
    digits: 1,
    source: craft,
    remedy: 'Steam and clamp the cloth, light it from both sides, or let it fall out of focus.',
  },
  sharpness: {
    title: 'Blur at the ear, eyes sharp',
    unit: 'px',
    max: 2.5,
    scale: [0, 12],
    digits: 1,
    source: craft,
    remedy: 'Close the aperture.',
  },
  group: {
    title: 'Blur at the back of the group',
    unit: 'px',
    max: 6,
    scale: [0, 30],
    digits: 1,
    source: craft,
    remedy: 'Close the aperture, or set people in one row.',
  },
  motion: {
    title: 'Movement of a gesturing hand',
    unit: 'px',
    max: 10,
    scale: [0, 60],
    digits: 1,
    source: craft,
    remedy: 'A shorter exposure, or flash.',
  },
  noise: {
    title: 'Noise of the screen',
    unit: '%',
    max: 2.5,
    scale: [0, 10],
    digits: 1,
    source: craft,
    remedy: 'More light and less gain.',
  },
  wardrobe: {
    title: 'Guests in colours near the screen’s',
    unit: '%',
    max: 5,
    scale: [0, 60],
    digits: 0,
    source: craft,
    remedy: 'The other screen colour, or warn these guests beforehand.',
  },
  circuit: {
    title: 'Fullest circuit',
    unit: '%',
    max: 80,
    scale: [0, 150],
    digits: 0,
    source: 'continuous load about four fifths',
    remedy: 'Share the lamps among more circuits, or use lamps that draw less.',
  },
  wind: {
    title: 'Wind limit over expected wind',
    unit: 'm/s',
    min: 0.5,
    scale: [-10, 10],
    digits: 1,
    source: 'safety factor 1.5, gusts 1.5 times the mean',
    remedy: 'More ballast, a wider base, a lower or smaller screen, or another day.',
  },
  // These only a photograph can show.
  tilt: {
    title: 'One side of the screen above the other',
    unit: 'stops',
    max: 0.2,
    scale: [0, 2],
    digits: 2,
    source: 'two equal lamps, one on each side',
    remedy: 'Make the screen lamps equal in power and distance, or put a third on the dark side.',
  },
  bulge: {
    title: 'Middle of the screen above its rim',
    unit: 'stops',
    max: 0.22,
    scale: [-2, 2],
    digits: 2,
    source: craft,
    remedy: 'Aim each screen lamp at the far third, or move both back.',
  },
  sides: {
    title: 'Sides of the screen above its middle',
    unit: 'stops',
    max: 0.4,
    scale: [-2, 2],
    digits: 2,
    source: 'lamps about half the screen’s width away, turned across',
    remedy: 'Take both screen lamps back and turn them across.',
  },
  cardScreen: {
    title: 'Grey card above the screen',
    unit: 'stops',
    min: -0.5,
    max: 0.6,
    scale: [-3, 3],
    digits: 2,
    source:
      'key equal to the screen or up to half a stop above; a card that faces the camera gets a little less than a meter pointed at the key',
    remedy: 'Change the power or the distance of the key or of the screen lamps.',
  },
  exposure: {
    title: 'Exposure of the grey card',
    unit: 'stops',
    min: -0.35,
    max: 0.35,
    scale: [-3, 3],
    digits: 2,
    source: 'a card of 18 % stands at 18 % of clipping',
    remedy: 'Open or close the aperture by so much, or change the key’s power.',
  },
  personLevel: {
    title: 'Exposure of the person, from skin and light cloth',
    unit: 'stops',
    min: -1.75,
    max: 1.3,
    scale: [-4, 3],
    digits: 1,
    source: 'without a card only a gross error can be told: skin spans four stops',
    remedy: 'Photograph a grey card where the person stands; open or close the aperture by so much.',
  },
  whiteBalance: {
    title: 'Grey card off neutral',
    unit: '%',
    max: 5,
    scale: [0, 60],
    digits: 1,
    source: craft,
    remedy: 'Set the white balance from the card where the person stands, and lock it.',
  },
  chart: {
    title: 'Colour chart off, after white balance',
    unit: '',
    max: 4,
    scale: [0, 20],
    digits: 1,
    source: 'mean distance in OKLab, hundredths; from 2 on it can be seen',
    remedy:
      'Look for a second light of another colour on the chart, or a picture style in the camera; photograph it again.',
  },
  edge: {
    title: 'Blur of the person’s outline',
    unit: 'px',
    max: 3.5,
    scale: [0, 16],
    digits: 1,
    source: craft,
    remedy: 'Focus on the eyes again, and close the aperture.',
  },
  smear: {
    title: 'Movement of the outline',
    unit: 'px',
    max: 6,
    scale: [0, 30],
    digits: 1,
    source: craft,
    remedy: 'A shorter exposure or flash; ask for a still moment.',
  },
  nearColour: {
    title: 'Person in colours near the screen’s',
    unit: '%',
    max: 0.8,
    scale: [0, 30],
    digits: 1,
    source: craft,
    remedy: 'Another cloth over it, the other screen colour, or check these patches at Extract.',
  },
} as const satisfies Record<string, ReadingFacts>;

export type ReadingId = keyof typeof readingFacts;

export interface PlanReading {
  id: ReadingId;
  value: number;
  verdict: 'within' | 'beyond';
  /** Why it is so in this plan. */
  reason: string;
}

/** @returns whether a value lies in the accepted range, both ends included. */
export function isWithin(id: ReadingId, value: number): boolean {
  const { min, max }: ReadingFacts = readingFacts[id];
  return (min === undefined || value >= min) && (max === undefined || value <= max);
}
