import type { JpegFacts } from '../image/jpegFacts.ts';
import type { EncodedRaster } from '../image/raster.ts';
import { forecastOf, type Forecast } from '../plan/forecast.ts';
import { screenReflectance } from '../plan/library.ts';
import type { Plan } from '../plan/plan.ts';
import { reportOn } from '../plan/report.ts';
import { startingPlan } from '../plan/startingPlan.ts';
import { moveTo, type BallReading, type Circle, type LightMove } from './ball.ts';
import type { Box } from './box.ts';
import type { Cause } from './cause.ts';
import { rankCauses } from './causes.ts';
import type { Rgb } from '../plan/exposure.ts';
import type { ChartReading } from './chart.ts';
import type { CheckReading, Evidence } from './checkReading.ts';
import { Collected, signed } from './collected.ts';
import { comparePlan, type PlanDifference } from './difference.ts';
import { LAWN_COLUMNS, type Lawn, type LawnSpread } from './lawn.ts';
import type { ScreenNoise } from './noise.ts';
import type { Outline } from './outline.ts';
import { readPerson, type PersonRead } from './readPerson.ts';
import { brightBeyond, look, readScreen } from './readScreen.ts';
import type { PlainSurvey, ScreenColour } from './survey.ts';
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

export interface CheckReport extends PersonRead {
  /** False if no green or blue screen was found: then nothing else was measured. */
  found: boolean;
  colour?: ScreenColour;
  outline?: Outline;
  /** Lamps and other bright things beyond the screen. */
  inView: Evidence[];
  lawn?: Lawn;
  spread?: LawnSpread;
  noise?: ScreenNoise;
  ball?: BallReading;
  /** The light at the background's place, and how the studio's main light has to move to match it. */
  background?: BallReading;
  move?: LightMove;
  card?: CardReading;
  chart?: ChartReading;
  /** What the grey card, or else the chart, asks for: gains with green 1, and stops. */
  balance?: { by: 'grey card' | 'colour chart'; gains: Rgb; stops: number };
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
  const seen = look(lead);
  if (!seen) return nothing;
  const { survey } = seen;
  const plan = input.plan ?? plainPlan(survey.screen);
  const readings = new Collected();
  const empty = readScreen(lead, seen, input.jpeg, readings);
  const frame = input.frame && (input.plate ? look(input.frame) : seen);
  const person =
    input.frame && frame
      ? readPerson(
          input.frame,
          frame,
          input.plate ? { ...seen, ...empty } : undefined,
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
    inView: brightBeyond(seen.picture, inside),
    lawn,
    spread,
    noise,
    ...person,
    ball,
    background,
    move: background && ball ? moveTo(background, ball) : undefined,
    card,
    chart,
    balance: balanceOf(card, chart),
    jpeg: input.jpeg,
    readings: readings.list,
    causes,
    difference,
    forecast,
    ready: readings.list.every(({ verdict }) => verdict === 'within'),
  };
}

function balanceOf(card: CardReading | undefined, chart: ChartReading | undefined): CheckReport['balance'] {
  if (card && !card.clipped) return { by: 'grey card', gains: card.gains, stops: card.stops };
  return chart && { by: 'colour chart', gains: chart.gains, stops: chart.stops };
}

const noPerson: PersonRead = { patches: [] };

/** Stands in for a plan that nobody made: only its event and camera weigh the forecast. */
function plainPlan(colour: ScreenColour): Plan {
  const plan = startingPlan('Test frame', '2000-01-01');
  return { ...plan, screen: { ...plan.screen, colour } };
}

function cardReadings(
  card: CardReading,
  own: number,
  { channel, screen }: PlainSurvey,
  plan: Plan | undefined,
  readings: Collected,
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
