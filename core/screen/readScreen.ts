import { components } from '../image/components.ts';
import { growMask } from '../image/growMask.ts';
import type { JpegFacts } from '../image/jpegFacts.ts';
import { both } from '../image/masks.ts';
import { createMask, type EncodedRaster, type LinearRaster, type Mask } from '../image/raster.ts';
import { purity } from '../plan/exposure.ts';
import { boxOf, type Box } from './box.ts';
import type { Evidence } from './checkReading.ts';
import { mark, signed, type Collected } from './collected.ts';
import { measureLawn, spreadOf, trendOf, type Lawn, type LawnSpread } from './lawn.ts';
import { creasesOf, driftOf, levelOf } from './levels.ts';
import { mirroredOn } from './mirrored.ts';
import { noiseOf, type ScreenNoise } from './noise.ts';
import { insideOf, outlineOf, type Outline } from './outline.ts';
import { reducedForCheck, type Reduced } from './reduced.ts';
import { fitScreenModel, type ScreenModel } from './screenModel.ts';
import { surveyScreen, type PlainSurvey } from './survey.ts';

/** What was found of the screen. */
export interface Screen {
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
export interface Seen extends Reduced {
  survey: PlainSurvey;
  model: ScreenModel;
}

/** @returns undefined if it shows no screen. */
export function look(frame: EncodedRaster): Seen | undefined {
  const base = reducedForCheck(frame);
  const survey = surveyScreen(base.picture);
  return survey && { ...base, survey, model: fitScreenModel(base.picture, survey) };
}

/** Readings of the lit screen. @param lead the full-size picture that `base` was reduced from. */
export function readScreen(lead: EncodedRaster, base: Seen, jpeg: JpegFacts | undefined, readings: Collected): Screen {
  const { survey } = base;
  const { channel } = survey;
  const { clear } = base.model;
  const outline = outlineOf(clear);
  const inside = insideOf(outline.polygon, clear.width, clear.height);
  const seen = both(clear, inside);
  const lawn = measureLawn(base.picture, seen, channel);
  const spread = spreadOf(lawn);
  readings.add('coverage', outline.share * 100, missingWords(outline), strips(outline));
  if (spread) addEvenness(spread, lawn, readings);
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
  const own = addLevel(levelOf(lead, base, seen), channel, readings);
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

/** How evenly it is lit. */
function addEvenness(spread: LawnSpread, lawn: Lawn, readings: Collected): void {
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

/** How bright and how pure it is. @returns mean level of the screen's channel. */
function addLevel(level: ReturnType<typeof levelOf>, channel: PlainSurvey['channel'], readings: Collected): number {
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
  return own;
}

function jpegWords(jpeg: JpegFacts | undefined): string {
  return jpeg ? `; JPEG of quality about ${jpeg.quality}${jpeg.halvedChroma ? ', colour at half resolution' : ''}` : '';
}

const placeWords = ({ x, y }: { x: number; y: number }): string =>
  `${y < 0.35 ? 'top' : y > 0.65 ? 'bottom' : 'middle'} ${x < 0.35 ? 'left' : x > 0.65 ? 'right' : 'centre'}`;

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
export function brightBeyond({ width, height, data }: LinearRaster, inside: Mask): Evidence[] {
  const mask = createMask(width, height);
  for (let p = 0; p < mask.data.length; p++)
    if (!inside.data[p] && Math.min(data[p * 3], data[p * 3 + 1], data[p * 3 + 2]) > 0.85) mask.data[p] = 1;
  return components(mask)
    .filter(({ pixels }) => pixels.length > 0.0004 * mask.data.length)
    .slice(0, 6)
    .map(({ pixels }) => ({ ...boxOf(pixels, width, height), words: 'a lamp or window in view' }));
}
