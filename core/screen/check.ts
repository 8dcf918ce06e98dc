import { components } from '../image/components.ts';
import { both } from '../image/masks.ts';
import { growMask } from '../image/growMask.ts';
import type { JpegFacts } from '../image/jpegFacts.ts';
import { createMask, type EncodedRaster, type LinearRaster, type Mask } from '../image/raster.ts';
import { purity } from '../plan/exposure.ts';
import { forecastOf, type Forecast } from '../plan/forecast.ts';
import { screenReflectance } from '../plan/library.ts';
import type { Plan } from '../plan/plan.ts';
import { isWithin, type ReadingId } from '../plan/readings.ts';
import { reportOn } from '../plan/report.ts';
import { startingPlan } from '../plan/startingPlan.ts';
import { moveTo, type BallReading, type Circle, type LightMove } from './ball.ts';
import { boxOf, type Box } from './box.ts';
import type { ChartReading } from './chart.ts';
import { rankCauses, type Cause } from './causes.ts';
import type { CheckReading, Evidence } from './checkReading.ts';
import { nearPatches, type NearPatch } from './clothing.ts';
import { comparePlan, type PlanDifference } from './difference.ts';
import { edgeBlurOf, type EdgeBlur } from './edges.ts';
import { LAWN_COLUMNS, measureLawn, spreadOf, trendOf, type Lawn, type LawnSpread } from './lawn.ts';
import { creasesOf, driftOf, levelOf } from './levels.ts';
import { noiseOf, type ScreenNoise } from './noise.ts';
import { mirroredOn } from './mirrored.ts';
import { insideOf, outlineOf, type Outline } from './outline.ts';
import { castShadow, personIn, type CastShadow } from './people.ts';
import { personLevelOf } from './personLevel.ts';
import { reducedForCheck, type Reduced } from './reduced.ts';
import { fitScreenModel, type ScreenModel } from './screenModel.ts';
import { spillOn, type Spill } from './spill.ts';
import { surveyScreen, type ScreenColour, type Survey } from './survey.ts';
import { CARD, readBallFrame, readCard, readChartFrame, type CardReading } from './targets.ts';

/** Photographs of one setup: a test frame with somebody in it or the empty screen, and what was taken beside it. */
export interface CheckInput {
  /** Left out when only the empty screen was taken. */
  frame?: EncodedRaster;
  plate?: EncodedRaster;
  ball?: EncodedRaster;
  card?: EncodedRaster;
  chart?: EncodedRaster;
  /** A photograph of the place of a background with a matt ball in it; its circle must be given. */
  background?: EncodedRaster;
  /** Ball, card and chart as marked by hand; left out, they are looked for. */
  marks?: Marks;
  jpeg?: JpegFacts;
  /** What was planned for this setup; its event weighs the forecast. */
  plan?: Plan;
}

/** Where things are in their photographs, if somebody has shown it. */
export interface Marks {
  ball?: Circle;
  background?: Circle;
  card?: Box;
  chart?: Box;
}

export interface CheckReport {
  /** False if no green or blue screen was found: then nothing else was measured. */
  found: boolean;
  colour?: ScreenColour;
  outline?: Outline;
  /** Lamps and other bright things beyond the screen. */
  inView: Evidence[];
  lawn?: Lawn;
  spread?: LawnSpread;
  noise?: ScreenNoise;
  edge?: EdgeBlur;
  spill?: Spill;
  shadow?: CastShadow;
  patches: NearPatch[];
  ball?: BallReading;
  /** The light at the background's place, and how the studio's main light has to move to match it. */
  background?: BallReading;
  move?: LightMove;
  card?: CardReading;
  chart?: ChartReading;
  jpeg?: JpegFacts;
  readings: CheckReading[];
  causes: Cause[];
  difference?: PlanDifference;
  forecast?: Forecast;
  ready: boolean;
}

/** Reads the photographs of one setup. */
export function checkSetup(input: CheckInput): CheckReport {
  const nothing: CheckReport = {
    found: false,
    inView: [],
    patches: [],
    readings: [],
    causes: [],
    ready: false,
    jpeg: input.jpeg,
  };
  const lead = input.plate ?? input.frame ?? input.card ?? input.ball ?? input.chart;
  if (!lead) return nothing;
  const base = reducedForCheck(lead);
  const survey = surveyScreen(base.picture);
  if (!survey) return nothing;
  const plan = input.plan ?? plainPlan(survey.screen);
  const readings = new Readings();
  const seen: Seen = { ...base, survey, model: fitScreenModel(base.picture, survey) };
  const empty = readScreen(lead, seen, input.jpeg, readings);
  const frame = input.frame && (input.plate ? look(input.frame) : seen);
  const person =
    input.frame && frame
      ? readPerson(
          input.frame,
          frame,
          input.plate ? { ...base, ...empty } : undefined,
          readings,
          input.card !== undefined,
        )
      : noPerson;
  const { marks = {} } = input;
  const card = input.card && readCard(input.card, survey.channel, marks.card);
  if (card) cardReadings(card, empty.own, survey, input.plan, readings);
  const ball = input.ball && readBallFrame(input.ball, survey.channel, marks.ball);
  if (ball)
    readings.add(
      'keyFill',
      ball.keyOverFill,
      `Main light from ${Math.abs(ball.azimuth).toFixed(0)}° ${ball.azimuth < 0 ? 'left' : 'right'}, ${ball.elevation.toFixed(0)}° up.`,
      [],
    );

  const chart = input.chart && readChartFrame(input.chart, marks.chart);
  if (chart)
    readings.add(
      'chart',
      chart.mean,
      `Worst patch: row ${chart.worstAt[0] + 1}, column ${chart.worstAt[1] + 1}, ${chart.worst.toFixed(1)} off. Greys ask for red × ${chart.gains[0].toFixed(2)}, blue × ${chart.gains[2].toFixed(2)} and ${signed(chart.stops)} stops.`,
      [],
    );
  const background =
    input.background && marks.background && readBallFrame(input.background, undefined, marks.background);

  const forecast = forecastOf(plan, readings.list);
  for (const reading of readings.list)
    reading.minutes = forecast.causes.find(({ id }) => id === reading.id)?.minutes ?? 0;
  const difference = input.plan && comparePlan(empty.lawn, reportOn(input.plan, LAWN_COLUMNS, 3), input.plan);
  const causes = rankCauses({
    readings: readings.list,
    spread: empty.spread,
    shadow: person.shadow,
    ball,
    difference,
    colour: survey.screen,
  });
  const { outline, lawn, spread, noise, inside } = empty;
  return {
    found: true,
    colour: survey.screen,
    outline,
    inView: brightBeyond(base.picture, inside),
    lawn,
    spread,
    noise,
    ...person,
    ball,
    background,
    move: background && ball ? moveTo(background, ball) : undefined,
    card,
    chart,
    jpeg: input.jpeg,
    readings: readings.list,
    causes,
    difference,
    forecast,
    ready: readings.list.every(({ verdict }) => verdict === 'within'),
  };
}

class Readings {
  readonly list: CheckReading[] = [];
  add(id: ReadingId, value: number, reason: string, evidence: Evidence[]): void {
    if (Number.isFinite(value))
      this.list.push({ id, value, verdict: isWithin(id, value) ? 'within' : 'beyond', reason, evidence, minutes: 0 });
  }
}

const noPerson: ReturnType<typeof readPerson> = { patches: [] };

/** Stands in for a plan that nobody made: only its event and camera weigh the forecast. */
function plainPlan(colour: ScreenColour): Plan {
  const plan = startingPlan('Test frame', '2000-01-01');
  return { ...plan, screen: { ...plan.screen, colour } };
}

/** What was found of the screen. */
interface Screen {
  outline: Outline;
  lawn: Lawn;
  spread?: LawnSpread;
  noise?: ScreenNoise;
  /** Where it is plainly seen; where it should be. */
  seen: Mask;
  inside: Mask;
  /** Mean level of the screen's channel. */
  own: number;
}

/** A frame and the screen in it. */
interface Seen extends Reduced {
  survey: Survey;
  model: ScreenModel;
}

/** @returns undefined if it shows no screen. */
function look(frame: EncodedRaster): Seen | undefined {
  const base = reducedForCheck(frame);
  const survey = surveyScreen(base.picture);
  return survey && { ...base, survey, model: fitScreenModel(base.picture, survey) };
}

function readScreen(lead: EncodedRaster, base: Seen, jpeg: JpegFacts | undefined, readings: Readings): Screen {
  const { survey } = base;
  const { channel } = survey;
  const { clear } = base.model;
  const outline = outlineOf(clear);
  const inside = insideOf(outline.polygon, clear.width, clear.height);
  const seen = both(clear, inside);
  const lawn = measureLawn(base.picture, seen, channel);
  const spread = spreadOf(lawn);
  readings.add('coverage', outline.share * 100, missingWords(outline), strips(outline));
  if (spread) {
    readings.add(
      'spread',
      spread.spread,
      `Hottest at the ${placeWords(spread.hot)}, darkest at the ${placeWords(spread.dark)}. Nine tenths of it lie within ${spread.spread90.toFixed(2)} stops.`,
      [
        mark(spread.hot.x, spread.hot.y, `hot, ${signed(spread.hot.stops)} stops`),
        mark(spread.dark.x, spread.dark.y, `dark, ${signed(spread.dark.stops)} stops`),
      ],
    );
    readings.add(
      'tilt',
      Math.abs(spread.tilt),
      `The ${spread.tilt > 0 ? 'right' : 'left'} edge is brighter, by a smooth surface through all places.`,
      [mark(spread.tilt > 0 ? 0.06 : 0.94, 0.5, 'darker side')],
    );
    readings.add(
      'bulge',
      spread.bulge + spread.arch / 2,
      `Across ${signed(spread.bulge)}, up and down ${signed(spread.arch)} stops, the latter counted half.`,
      [mark(spread.hot.x, spread.hot.y, `hot, ${signed(spread.hot.stops)} stops`)],
    );
    readings.add('sides', -spread.bulge, 'By a smooth surface through all places, from the middle to both sides.', [
      mark(0.06, spread.hot.y, 'side'),
      mark(0.94, spread.hot.y, 'side'),
    ]);
    readings.add(
      'mismatch',
      driftOf(lawn),
      'Colour of the left third against the right third of the screen, the channel that differs most.',
      [mark(0.16, 0.5, 'left third'), mark(0.84, 0.5, 'right third')],
    );
  }
  const mirrored = mirroredOn(lawn, channel);
  if (mirrored)
    readings.add(
      'gloss',
      mirrored.stops,
      mirrored.stops > 0.05
        ? 'A lamp’s own light lies over the screen’s colour there, as on plastic or gloss paint.'
        : 'No place is paler than its level explains.',
      mirrored.stops > 0.05 ? [mark(mirrored.x, mirrored.y, `mirrored, +${mirrored.stops.toFixed(2)} stops`)] : [],
    );
  const trend = trendOf(lawn, clear.width, clear.height);
  readings.add(
    'wrinkle',
    creasesOf(base.picture, growMask(seen, -3), trend.data, channel) * 100,
    'Unevenness finer than the light’s, as it stands in the picture; noise is taken off.',
    [],
  );
  const level = levelOf(lead, base, seen);
  const own = level.mean[channel];
  const [r, g, b] = level.mean.map((v) => (v * 100).toFixed(0));
  readings.add('level', own * 100, `Red ${r}, green ${g}, blue ${b} % of clipping on average.`, []);
  readings.add(
    'clipped',
    level.clipped * 100,
    `${(level.near * 100).toFixed(1)} % more stand just below clipping.`,
    level.place ? [{ ...level.place, words: 'clipped' }] : [],
  );
  readings.add('purity', purity(level.mean, channel) * 100, `Red ${r}, green ${g}, blue ${b} % of clipping.`, []);
  const noise = noiseOf(lead, seen, base.factor, channel, jpeg?.halvedChroma);
  if (noise)
    readings.add(
      'noise',
      100 / noise.signalToNoise,
      `Luma ${noise.luma.toFixed(1)}, chroma ${noise.chroma.toFixed(1)} of 255; signal ${noise.signalToNoise.toFixed(0)} times the noise${jpegWords(jpeg)}.`,
      [],
    );
  return { outline, lawn, spread, noise, seen, inside, own };
}

function jpegWords(jpeg: JpegFacts | undefined): string {
  return jpeg ? `; JPEG of quality about ${jpeg.quality}${jpeg.halvedChroma ? ', colour at half resolution' : ''}` : '';
}

function cardReadings(
  card: CardReading,
  own: number,
  { channel, screen }: Survey,
  plan: Plan | undefined,
  readings: Readings,
): void {
  const at = [{ x: card.x, y: card.y, width: card.width, height: card.height, words: 'grey card' }];
  readings.add(
    'exposure',
    -card.stops,
    `The card stands at ${(card.level[1] * 100).toFixed(0)} % of clipping.${card.clipped ? ' A channel is clipped, so white balance cannot be told.' : ''}`,
    at,
  );
  if (card.clipped) return;
  readings.add(
    'whiteBalance',
    100 * Math.max(Math.abs(Math.log(card.gains[0])), Math.abs(Math.log(card.gains[2]))),
    `Neutral with red × ${card.gains[0].toFixed(2)} and blue × ${card.gains[2].toFixed(2)}.`,
    at,
  );
  const { red, green, blue } = plan?.screen ?? screenReflectance[screen];
  const onScreen = own / [red, green, blue][channel];
  const onCard = card.level[channel] / CARD;
  readings.add(
    'cardScreen',
    Math.log2(onCard / onScreen),
    `The card gets ${(onCard * 100).toFixed(0)} % of clipping on white, the screen ${(onScreen * 100).toFixed(0)} %${plan ? '' : ', its reflectance taken as usual for its colour'}.`,
    at,
  );
}

/** Readings that need somebody in the frame. @param empty the screen without anybody, from the same place. */
function readPerson(
  frame: EncodedRaster,
  { picture, factor, survey, model }: Seen,
  empty: (Reduced & Screen) | undefined,
  readings: Readings,
  withCard: boolean,
): Pick<CheckReport, 'edge' | 'spill' | 'shadow' | 'patches'> {
  const { channel } = survey;
  const { clear, screen } = model;
  const { width, height } = clear;
  const same = empty && empty.picture.width === width && empty.picture.height === height ? empty : undefined;
  const inside = same?.inside ?? insideOf(outlineOf(clear).polygon, width, height);
  const person = personIn(clear, inside);
  if (!person) return { patches: [] };
  const shadow = same && castShadow(picture, same.picture, both(clear, same.seen), person, channel);
  if (shadow) {
    readings.add(
      'shadow',
      shadow.depth,
      shadow.depth > 0.05
        ? 'The screen beside the person is darker here than on the empty frame.'
        : 'The screen is as light beside the person as on the empty frame.',
      shadow.depth > 0.05 ? [mark(shadow.x, shadow.y, `${shadow.depth.toFixed(2)} stops darker`)] : [],
    );
  }
  const spill = spillOn(picture, person, clear, channel, factor);
  if (spill)
    readings.add(
      'bounce',
      spill.stops,
      `Along the outline, against the same cloth and skin farther in; as a colour difference ${spill.difference.toFixed(3)} in OKLab chroma.`,
      [mark(spill.worst.x, spill.worst.y, 'screen light on the edge')],
    );
  const patches = nearPatches(picture, screen, person, clear, inside, channel, same?.picture);
  readings.add(
    'nearColour',
    100 * patches.reduce((sum, patch) => sum + patch.share * patch.risk, 0),
    patches.length
      ? `${patches.length === 1 ? 'One patch' : `${patches.length} patches`}, the nearest ${Math.min(...patches.map(({ apart }) => apart)).toFixed(3)} from the screen’s colour.`
      : 'Nothing worn is near the screen’s colour.',
    patches.map(({ x, y, width: w, height: h, risk }) => ({
      x,
      y,
      width: w,
      height: h,
      words: `near the screen’s colour, risk ${Math.round(risk * 100)} %`,
    })),
  );
  if (!withCard) {
    const level = personLevelOf(picture, person, channel);
    if (level)
      readings.add(
        'personLevel',
        level.stops,
        `${level.skin === undefined ? 'No skin was found; ' : `Skin stands at ${(100 * level.skin).toFixed(0)} %, `}the lightest on the person at ${(100 * level.lightest).toFixed(0)} % of clipping. An estimate: a grey card tells exactly.`,
        [],
      );
  }
  const edge = edgeBlurOf(frame, person, clear, factor);
  if (edge) {
    readings.add(
      'edge',
      edge.blur,
      `The sharpest quarter of ${edge.places} plain places along the outline, from one fifth to four fifths of the way.`,
      [],
    );
    if (edge.smear !== undefined)
      readings.add(
        'smear',
        edge.smear,
        `How much softer outlines are across ${directionWords(edge.direction ?? 0)} than along it.`,
        [],
      );
  }
  return { edge, spill, shadow, patches };
}

function directionWords(degrees: number): string {
  const turn = ((degrees % 180) + 180) % 180;
  return turn < 25 || turn > 155
    ? 'a sideways movement'
    : turn > 65 && turn < 115
      ? 'an upward movement'
      : 'a slanting movement';
}

const signed = (stops: number): string => `${stops < 0 ? '−' : '+'}${Math.abs(stops).toFixed(2)}`;
const placeWords = ({ x, y }: { x: number; y: number }): string =>
  `${y < 0.35 ? 'top' : y > 0.65 ? 'bottom' : 'middle'} ${x < 0.35 ? 'left' : x > 0.65 ? 'right' : 'centre'}`;
const mark = (x: number, y: number, words: string): Evidence => ({
  x: x - 0.03,
  y: y - 0.02,
  width: 0.06,
  height: 0.04,
  words,
});

function missingWords({ missing }: Outline): string {
  const sides = (Object.keys(missing) as (keyof typeof missing)[]).filter((side) => missing[side] > 0);
  return sides.length
    ? `Not covered: ${sides.map((side) => `${side} ${(missing[side] * 100).toFixed(1)} %`).join(', ')} of the frame.`
    : 'The screen fills the frame.';
}

function strips({ missing }: Outline): Evidence[] {
  const all: [keyof typeof missing, Box][] = [
    ['left', { x: 0, y: 0, width: missing.left, height: 1 }],
    ['right', { x: 1 - missing.right, y: 0, width: missing.right, height: 1 }],
    ['top', { x: 0, y: 0, width: 1, height: missing.top }],
    ['bottom', { x: 0, y: 1 - missing.bottom, width: 1, height: missing.bottom }],
  ];
  return all.filter(([side]) => missing[side] > 0).map(([, box]) => ({ ...box, words: 'not covered' }));
}

/** Bright things beyond the screen: lamps, windows. */
function brightBeyond({ width, height, data }: LinearRaster, inside: Mask): Evidence[] {
  const mask = createMask(width, height);
  for (let p = 0; p < mask.data.length; p++)
    if (!inside.data[p] && Math.min(data[p * 3], data[p * 3 + 1], data[p * 3 + 2]) > 0.85) mask.data[p] = 1;
  return components(mask)
    .filter(({ pixels }) => pixels.length > 0.0004 * mask.data.length)
    .slice(0, 6)
    .map(({ pixels }) => ({ ...boxOf(pixels, width, height), words: 'a lamp or window in view' }));
}
