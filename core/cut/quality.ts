import type { Analysis } from './analysis.ts';
import type { Matte } from './matte.ts';
import { Region } from './regions.ts';

/** What is doubtful in a cut and what it will cost by hand. */
export interface Quality {
  screen: 'green' | 'blue';
  /** Share of the frame that plainly shows the screen, 0–1. */
  screenShare: number;
  /** Share of the frame that had to be solved, 0–1. */
  fringeShare: number;
  /** Share of the fringe that unmixing could not explain, 0–1. */
  unexplained: number;
  /** Noise of the screen, % of its level. */
  noisePercent: number;
  /** Green patches kept as clothing, and removed as screen. */
  greenKept: number;
  greenRemoved: number;
  doubts: Doubt[];
  /** Sum over the doubts. */
  minutes: number;
}

export interface Doubt {
  kind: keyof typeof doubtFacts;
  minutes: number;
}

/**
 * Each doubt's wording, remedy, the reading it comes from with its accepted bound, and the minutes by hand for each
 * unit beyond the bound. First estimates; the photographer's own log will replace them.
 */
export const doubtFacts = {
  unexplained: {
    title: 'Fringe unmixing could not explain',
    reason: 'Colours in the outline are no mixture of the screen and the person beside it.',
    remedy: 'Look at hair and sheer cloth at full size; raise the hair reach if single hairs are missing.',
    bound: 0.04,
    minutesPerUnit: 60,
    most: 4,
  },
  greenClose: {
    title: 'Green close to the screen',
    reason: 'A patch of the screen’s hue sits in the person; its verdict rests on colour and level alone.',
    remedy: 'Compare the cut with the photograph; change “Green kept” if the verdict is wrong.',
    bound: 0,
    minutesPerUnit: 0.8,
    most: 3,
  },
  noisy: {
    title: 'Noisy screen',
    reason: 'Noise this strong hides fine hair and makes edges crawl.',
    remedy: 'Lower the gain or bring more light at the next shoot.',
    bound: 3,
    minutesPerUnit: 0.3,
    most: 2,
  },
  wideFringe: {
    title: 'Large uncertain area',
    reason: 'Much of the frame is neither plainly screen nor plainly person: sheer cloth, or something beyond the screen.',
    remedy: 'Crop to the screen before importing, or check what stands at the frame’s edge.',
    bound: 0.3,
    minutesPerUnit: 10,
    most: 5,
  },
} as const;

export function judgeQuality(analysis: Analysis, matte: Matte): Quality {
  const regions = analysis.regions.data;
  let clear = 0;
  let fringe = 0;
  for (let p = 0; p < regions.length; p++) {
    if (regions[p] === Region.clear) clear++;
    else if (regions[p] === Region.fringe) fringe++;
  }
  const greenKept = analysis.patches.filter((patch) => patch.verdict === 'keep').length;
  const readings = {
    unexplained: matte.unexplained,
    greenClose: analysis.patches.filter((patch) => patch.doubtful).length,
    noisy: analysis.noise * 100,
    wideFringe: fringe / regions.length,
  };
  const doubts: Doubt[] = [];
  for (const kind of Object.keys(readings) as (keyof typeof readings)[]) {
    const { bound, minutesPerUnit, most } = doubtFacts[kind];
    const over = readings[kind] - bound;
    if (over > 0) doubts.push({ kind, minutes: round(Math.min(most, over * minutesPerUnit)) });
  }
  doubts.sort((a, b) => b.minutes - a.minutes);
  return {
    screen: analysis.survey.screen,
    screenShare: round(clear / regions.length),
    fringeShare: round(fringe / regions.length),
    unexplained: round(matte.unexplained),
    noisePercent: round(analysis.noise * 100),
    greenKept,
    greenRemoved: analysis.patches.length - greenKept,
    doubts,
    minutes: round(doubts.reduce((sum, doubt) => sum + doubt.minutes, 0)),
  };
}

function round(value: number): number {
  return Math.round(value * 1000) / 1000;
}
