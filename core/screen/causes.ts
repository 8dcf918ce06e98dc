import { readingFacts, type ReadingFacts, type ReadingId } from '../plan/readings.ts';
import type { BallReading } from './ball.ts';
import { causeFacts, type CauseId } from './causeFacts.ts';
import type { CheckReading, Evidence } from './checkReading.ts';
import type { PlanDifference } from './difference.ts';
import type { LawnSpread } from './lawn.ts';
import type { CastShadow } from './people.ts';
import type { ScreenColour } from './survey.ts';

export interface Cause {
  id: CauseId;
  title: string;
  /** How far it lies beyond what is accepted: 1 just at the bound. */
  weight: number;
  /** Minutes of hand repair that go with it. */
  minutes: number;
  /** What to move, and by how much. */
  remedy: string;
  evidence: Evidence[];
}

export interface Observed {
  readings: CheckReading[];
  spread?: LawnSpread;
  shadow?: CastShadow;
  ball?: BallReading;
  difference?: PlanDifference;
  colour: ScreenColour;
}

/** A main light seen under less than this (sine of half the angle) draws a shadow with an edge. */
const HARD = 0.15;
/** Share by which one side's shadow is deeper than the other's, at which a hard key becomes likelier than a near screen; and what counts as much as full hardness. */
const ONE_SIDED = 0.82;
const ONE_SIDED_STEP = 0.06;

type Add = (id: CauseId, weight: number, remedy: string, evidence?: Evidence[]) => unknown;

/** Names what explains the readings that are out of bounds, likeliest first. */
export function rankCauses(observed: Observed): Cause[] {
  const of = (id: ReadingId): CheckReading | undefined => observed.readings.find((reading) => reading.id === id);
  const found: Cause[] = [];
  const add: Add = (id, weight, remedy, evidence) => {
    if (!(weight > 1)) return;
    const { title, reading } = causeFacts[id];
    found.push({
      id,
      title,
      weight,
      minutes: of(reading)?.minutes ?? 0,
      remedy,
      evidence: evidence ?? of(reading)?.evidence ?? [],
    });
  };
  const over = (id: ReadingId): number => beyondBound(id, of(id)?.value);
  const figure = (id: ReadingId): number => of(id)?.value ?? 0;
  lightCauses(observed, over, (id) => of(id)?.evidence ?? [], add);
  shadowCauses(observed, over('bounce'), of('shadow')?.evidence ?? of('bounce')?.evidence ?? [], figure('bounce'), add);

  add(
    'wrinkles',
    over('wrinkle'),
    `Creases stand out by ${figure('wrinkle').toFixed(1)} % of the level, 2 are accepted. Steam the cloth, weight its hem and clamp its sides; or open the aperture by ${Math.max(0.5, Math.log2(Math.max(1, figure('wrinkle') / 2))).toFixed(1)} stops, so that they go soft.`,
  );
  const level = figure('level');
  add(
    'overlit',
    Math.max(level > MIDDLE_LEVEL ? over('level') : 0, over('clipped')),
    `The screen stands at ${level.toFixed(0)} % of clipping. Take ${Math.max(0.3, Math.log2(level / MIDDLE_LEVEL)).toFixed(1)} stops off the screen lamps, or move them back by a factor of ${Math.sqrt(Math.max(1.1, level / MIDDLE_LEVEL)).toFixed(1)}.`,
  );
  add(
    'gain',
    over('noise'),
    `Noise is ${figure('noise').toFixed(1)} %. For half of it take gain down by two stops and give the light back by exposure time, aperture or power.`,
  );
  add(
    'whiteBalance',
    over('whiteBalance'),
    `The card is ${figure('whiteBalance').toFixed(0)} % off neutral. ${of('whiteBalance')?.reason ?? ''} Set it from the card and lock it.`,
  );
  add(
    'clothing',
    over('nearColour'),
    `${figure('nearColour').toFixed(1)} % of the person are near the screen’s colour. Cover these patches or use ${observed.colour === 'green' ? 'a blue' : 'a green'} screen; else settle them in Cut.`,
  );
  add(
    'smallScreen',
    over('coverage'),
    `It fills ${figure('coverage').toFixed(0)} % of the frame. Move the camera or the person nearer to the screen, or take a lens longer by ${Math.ceil(100 * (Math.sqrt(100 / Math.max(10, figure('coverage'))) - 1) * 2)} %, or a larger screen; what is left becomes the mask.`,
  );
  // What a movement smears is soft across every outline a little.
  add(
    'defocus',
    over('edge') * (over('smear') > 1 ? 0.5 : 1),
    `The sharpest outlines are ${figure('edge').toFixed(1)} px soft. Focus on the eyes again; if it stays, close the aperture by a stop.`,
  );
  add(
    'motion',
    over('smear'),
    `Outlines are smeared by about ${figure('smear').toFixed(0)} px. A third of the exposure time, or flash.`,
  );
  furtherCauses(observed, over, add);
  const explained = explainAway(found);
  // Nothing beyond its bound is left without a cause, however well another explains it.
  for (const reading of observed.readings) {
    if (reading.verdict !== 'beyond' || explained.some(({ id }) => isShownBy(id, reading.id))) continue;
    const [likeliest] = found.filter(({ id }) => isShownBy(id, reading.id)).sort((a, b) => b.weight - a.weight);
    const { title, remedy }: ReadingFacts = readingFacts[reading.id];
    const id = causeOf[reading.id];
    if (likeliest) explained.push({ ...likeliest, weight: 1 });
    else if (id)
      explained.push({
        id,
        title: causeFacts[id].title,
        weight: 1,
        minutes: reading.minutes,
        remedy: `${title}: ${howFar(reading)}. ${remedy}`,
        evidence: reading.evidence,
      });
  }
  return explained.sort((a, b) => b.weight - a.weight);
}

function isShownBy(cause: CauseId, reading: ReadingId): boolean {
  return causeFacts[cause].reading === reading || (alsoShownBy[cause]?.includes(reading) ?? false);
}

/** Readings besides its own that a cause explains. */
const alsoShownBy: Partial<Record<CauseId, ReadingId[]>> = {
  weakLamp: ['tilt'],
  window: ['tilt', 'spread'],
  lampsNear: ['sides'],
  hotMiddle: ['bulge'],
  fallOff: ['tilt'],
  overlit: ['clipped', 'purity'],
  tooClose: ['shadow'],
  shine: ['bulge', 'purity', 'mismatch', 'tilt', 'spread'],
};

/** What a reading beyond its bound means where no other sign tells more. */
const causeOf: Partial<Record<ReadingId, CauseId>> = {
  coverage: 'smallScreen',
  spread: 'fallOff',
  tilt: 'weakLamp',
  bulge: 'hotMiddle',
  sides: 'lampsNear',
  mismatch: 'mixedLamps',
  wrinkle: 'wrinkles',
  level: 'dark',
  clipped: 'overlit',
  purity: 'pale',
  gloss: 'shine',
  noise: 'gain',
  shadow: 'keyShadow',
  bounce: 'tooClose',
  nearColour: 'clothing',
  edge: 'defocus',
  smear: 'motion',
  whiteBalance: 'whiteBalance',
  cardScreen: 'keyLevel',
  exposure: 'exposure',
  personLevel: 'personExposure',
  keyFill: 'lightRatio',
  chart: 'chartOff',
};

/** How far a reading lies beyond its bound, in its unit. */
function howFar({ id, value }: CheckReading): string {
  const { min, max, unit, digits }: ReadingFacts = readingFacts[id];
  const beyond = max !== undefined && value > max ? value - max : (min ?? 0) - value;
  return `${beyond.toFixed(digits)} ${unit} ${max !== undefined && value > max ? 'above' : 'below'} its bound`.replace(
    '  ',
    ' ',
  );
}

/** Levels and balances: each with what to move and by how much. */
function furtherCauses({ readings, spread }: Observed, over: (id: ReadingId) => number, addAny: Add): void {
  const isBeyond = (id: ReadingId): boolean =>
    readings.some((reading) => reading.id === id && reading.verdict === 'beyond');
  const add: Add = (id, weight, remedy) =>
    isBeyond(causeFacts[id].reading) && addAny(id, Math.max(weight, 1.01), remedy);
  const value = (id: ReadingId): number => readings.find((reading) => reading.id === id)?.value ?? 0;
  const level = value('level');
  if (level < MIDDLE_LEVEL) {
    const stops = Math.log2(MIDDLE_LEVEL / Math.max(0.1, level));
    add(
      'dark',
      beyondLeast('level', level),
      `The screen stands at ${level.toFixed(0)} % of clipping, where noise makes tight keys. Give its lamps ${stops.toFixed(1)} stops more, bring them nearer by a factor of ${Math.sqrt(2 ** stops).toFixed(1)}, or, if the person is dark as well, expose ${stops.toFixed(1)} stops more.`,
    );
  }
  if (spread) {
    const { hot, dark } = spread;
    const down = Math.abs(hot.y - dark.y) > Math.abs(hot.x - dark.x);
    const darker = down ? (dark.y > hot.y ? 'bottom' : 'top') : dark.x > hot.x ? 'right' : 'left';
    add(
      'fallOff',
      over('spread'),
      `From the hottest to the darkest place the light falls by ${value('spread').toFixed(1)} stops, towards the ${darker}. ${down ? `Lower both screen lamps to half the screen’s height, or tip them towards the ${darker}` : `Turn the lamps towards the ${darker}`}; ${Math.max(0.3, value('spread') - 1).toFixed(1)} stops more there are enough.`,
    );
  }
  add(
    'pale',
    over('purity'),
    `Only ${value('purity').toFixed(0)} % of the screen’s level is its own colour. Keep ${(50 - value('purity')).toFixed(0)} % more of the white light off it (flag the key and the window), darken it by half a stop if it is light, or take a duller, more saturated screen.`,
  );
  add(
    'shine',
    over('gloss'),
    `A lamp is mirrored there and adds ${value('gloss').toFixed(1)} stops of its own light. Move the lamp on that side 20° farther out, or tip the screen by 10°, until the pale place leaves the frame; a matt screen has none.`,
  );
  const key = value('cardScreen');
  add(
    'keyLevel',
    key > 0 ? key / 0.6 : beyondLeast('cardScreen', key),
    `By the card the key is ${Math.abs(key).toFixed(1)} stops ${key < 0 ? 'weaker' : 'stronger'} than the screen. ${key < 0 ? 'Give the key' : 'Take from the key'} ${Math.abs(key).toFixed(1)} stops, or move it ${key < 0 ? 'nearer' : 'back'} by a factor of ${Math.sqrt(2 ** Math.abs(key)).toFixed(1)}.`,
  );
  const exposure = value('exposure');
  add(
    'exposure',
    Math.abs(exposure) / 0.35,
    `The card is ${Math.abs(exposure).toFixed(1)} stops too ${exposure < 0 ? 'dark: open the aperture or raise the key' : 'light: close the aperture or lower the key'} by as much.`,
  );
  const person = value('personLevel');
  add(
    'personExposure',
    person > 0 ? person / 1.3 : person / -1.75,
    `Skin and light cloth stand about ${Math.abs(person).toFixed(1)} stops too ${person < 0 ? 'low: open the aperture or raise the key' : 'high: close the aperture or lower the key'} by some ${Math.max(1, Math.abs(person) - 0.5).toFixed(0)} stops, and photograph a grey card to be exact.`,
  );
  const ratio = value('keyFill');
  add(
    'lightRatio',
    ratio > 4 ? ratio / 4 : beyondLeast('keyFill', ratio),
    ratio > 4
      ? `The key is ${ratio.toFixed(1)} stops above the fill: shadows on the face close. Bring the fill nearer, or a white board, for ${(ratio - 3).toFixed(1)} stops more.`
      : `Key and fill differ by only ${ratio.toFixed(1)} stops: the face is flat. Take one stop from the fill.`,
  );
  add(
    'chartOff',
    over('chart'),
    `Colours are off by ${value('chart').toFixed(1)} on average after white balance. Look for a second light of another colour, set the camera to its neutral picture style, and photograph the chart again.`,
  );
}

/** As `beyondBound`, for a reading below its least. */
function beyondLeast(id: ReadingId, value: number): number {
  const { min, scale }: ReadingFacts = readingFacts[id];
  return min === undefined || value >= min ? 0 : 1 + (min - value) / Math.max(0.1, (min - scale[0]) / 3);
}

/** Level of a well lit screen, % of clipping. */
const MIDDLE_LEVEL = 42;
/** How far beyond an open or zero bound counts as far as the bound itself: % of the frame. */
const STEP: Partial<Record<ReadingId, number>> = { coverage: 4, clipped: 12 };

/** A reading against its bound: 1 at the bound, 2 twice as far, at most 1 within; 0 where there is no reading. */
function beyondBound(id: ReadingId, value: number | undefined): number {
  if (value === undefined) return 0;
  const { min, max }: ReadingFacts = readingFacts[id];
  const step = STEP[id];
  if (step !== undefined) return 1 + (max !== undefined ? value - max : (min ?? 0) - value) / step;
  if (max !== undefined && value > Math.max(0, max)) return value / max;
  if (min !== undefined && value < min) return min < 0 ? value / min : 1 + (min - value);
  return 0;
}

/** What one cause does to the readings of another: with the first there, the second needs to be so much stronger. */
const sideEffects: Partial<Record<CauseId, Partial<Record<CauseId, number>>>> = {
  shine: { window: 0.2, mixedLamps: 0.4, hotMiddle: 0.6, overlit: 0.6, wrinkles: 0.6, pale: 0.7 },
  overlit: { mixedLamps: 0.3, clothing: 0.4, pale: 0.3, exposure: 0.8 },
  window: { overlit: 0.4, wrinkles: 0.4, lampsNear: 0.6, whiteBalance: 0.7, smallScreen: 0.5, fallOff: 0.3 },
  hotMiddle: { overlit: 0.4, wrinkles: 0.6, fallOff: 0.4 },
  smallScreen: { weakLamp: 0.35, window: 0.35, clothing: 0.5, motion: 0.6 },
  weakLamp: { fallOff: 0.3 },
  exposure: { dark: 0.7, personExposure: 0.3 },
  gain: { pale: 0.8 },
  lampsNear: { wrinkles: 0.6, mixedLamps: 0.8, fallOff: 0.4 },
  motion: { clothing: 0.3 },
  defocus: { clothing: 0.5 },
  clothing: { keyShadow: 0.3, tooClose: 0.3 },
  wrinkles: { weakLamp: 0.6 },
};

/** Weights as they were found decide what explains; so no two explain each other away. */
function explainAway(found: Cause[]): Cause[] {
  return found
    .map((cause) => ({
      ...cause,
      weight: found.reduce(
        (weight, other) => weight * (other.weight > 1.15 ? (sideEffects[other.id]?.[cause.id] ?? 1) : 1),
        Math.min(cause.weight, MOST_WEIGHT),
      ),
    }))
    .filter(({ weight }) => weight > 1);
}
/** Beyond so many times its bound nothing gets worse. */
const MOST_WEIGHT = 4;

/** What the lamps that light the screen do wrong: its slope, its bulge and its drift of colour tell them apart. */
function lightCauses(
  { spread, difference }: Observed,
  over: (id: ReadingId) => number,
  evidence: (id: ReadingId) => Evidence[],
  add: Add,
): void {
  if (!spread) return;
  const slopes = evidence('tilt');
  const { tilt } = spread;
  const side = tilt > 0 ? 'left' : 'right';
  const other = tilt > 0 ? 'right' : 'left';
  const hue = over('mismatch');
  const slope = over('tilt');
  const weakest = difference?.lamps.length
    ? difference.lamps.reduce((least, lamp) => (lamp.share < least.share ? lamp : least))
    : undefined;
  const words =
    weakest && weakest.share < 0.85
      ? `${weakest.name} gives ${Math.round(weakest.share * 100)} % of what was planned beside the others`
      : `The ${side} edge is ${Math.abs(tilt).toFixed(1)} stops darker than the ${other} one`;
  if (hue > 1 && slope > 1)
    add(
      'window',
      Math.max(hue, slope),
      `Light and colour change together towards the ${other}. Close the blind on the ${other}, or flag that light off the screen.`,
      slopes,
    );
  else {
    add(
      'weakLamp',
      slope,
      `${words}. Raise the ${side} lamp by ${Math.abs(tilt).toFixed(1)} stops, or check its dimmer, gel and tube.`,
      slopes,
    );
    add(
      'mixedLamps',
      hue,
      'Use the same lamps on both sides, or correct the odd one with a gel until both thirds agree.',
    );
  }
  add(
    'hotMiddle',
    over('bulge'),
    `The middle is ${Math.max(spread.bulge, spread.arch).toFixed(1)} stops above the rim. Aim each lamp at the far third, or move both back.`,
    evidence('bulge'),
  );
  add(
    'lampsNear',
    over('sides'),
    `The sides are ${(-spread.bulge).toFixed(1)} stops above the middle. Take both screen lamps back to half the screen’s width and turn them across.`,
    evidence('sides'),
  );
}

/** A hard key draws its shadow on one side; a person who is too close stands in everybody's light, on both. */
function shadowCauses(
  { shadow, ball }: Observed,
  spillOver: number,
  evidence: Evidence[],
  bounce: number,
  add: Add,
): void {
  if (!shadow) {
    add(
      'tooClose',
      spillOver,
      `The screen’s light on the edges is ${bounce.toFixed(1)} stops below the key. Bring the person and the lamps on them forward, by half a metre for each half stop.`,
      evidence,
    );
    return;
  }
  const deep = beyondBound('shadow', shadow.depth);
  const oneSided = Math.abs(shadow.left - shadow.right) / Math.max(0.05, shadow.left + shadow.right);
  // Either sign may be missing, and creases and windows blur both; together they decide.
  const soft = ball ? (HARD - ball.softness) / HARD : 0;
  const hard = soft + (oneSided - ONE_SIDED) / ONE_SIDED_STEP > 0;
  const spill =
    spillOver > 1 ? ` The screen’s light on the edges is only ${bounce.toFixed(1)} stops below the key.` : '';
  add(
    'tooClose',
    Math.max(hard ? deep * 0.3 : deep, spillOver),
    `The person shades the screen by ${shadow.depth.toFixed(1)} stops.${spill} Bring the person and the lamps on them forward, by half a metre for each half stop.`,
    evidence,
  );
  add(
    'keyShadow',
    hard ? deep : deep * 0.3,
    `The shadow is ${shadow.depth.toFixed(1)} stops deep. Raise the key and take it farther to the side until its shadow leaves the frame, use a larger source, or bring the person forward.`,
    evidence,
  );
}
