import type { Coverage } from './coverage.ts';
import { noiseAt, sensorNoise, type Rgb } from './exposure.ts';
import { seenPlaces, type CastShadow, type Evenness, type LawnMap, type ScreenExposure } from './lawnMap.ts';
import type { Source } from './light.ts';
import type { Bounce, PersonLight } from './onPerson.ts';
import type { Plan } from './plan.ts';
import type { CircuitLoad, WindLoad } from './power.ts';
import { isWithin, type PlanReading, type ReadingId } from './readings.ts';
import type { Focus, Motion } from './sharpness.ts';
import type { Wardrobe } from './wardrobe.ts';

/** What is computed of a plan, before it is held against bounds. */
export interface PlanFacts {
  coverage: Coverage;
  map: LawnMap;
  evenness: Evenness | null;
  exposure: ScreenExposure | null;
  shadows: CastShadow[];
  person: PersonLight | null;
  bounce: Bounce | null;
  focus: Focus;
  motion: Motion;
  circuits: CircuitLoad[];
  wind: WindLoad | null;
  wardrobe: Wardrobe;
}

type Read = (id: ReadingId, value: number | undefined, reason: string) => void;

/**
 * Readings of a plan, each with its verdict and, in words, what it comes from.
 * @param sources as the map numbers them.
 * @param perLux level of a white thing in the picture by the light on it.
 */
export function readingsOf(plan: Plan, facts: PlanFacts, sources: readonly Source[], perLux: Rgb): PlanReading[] {
  const readings: PlanReading[] = [];
  const read: Read = (id, value, reason) => {
    if (value !== undefined && Number.isFinite(value))
      readings.push({ id, value, verdict: isWithin(id, value) ? 'within' : 'beyond', reason });
  };
  readScreen(read, plan, facts, sources, perLux);
  readPerson(read, facts);
  readExposure(read, plan, facts);
  readShadow(read, plan, facts, sources);
  readSharpness(read, plan, facts);
  readDay(read, plan, facts);
  return readings;
}

const nameOf = (sources: readonly Source[], n: number): string => sources[n]?.lamp.name ?? 'no lamp';
const percent = (share: number): string => `${Math.round(share * 100)} %`;
const signed = (stops: number): string => `${stops < 0 ? '−' : '+'}${Math.abs(stops).toFixed(2)}`;

function missingWords({ missing, share }: Coverage): string {
  const sides = (Object.keys(missing) as (keyof typeof missing)[]).filter((side) => missing[side].pixels > 0);
  if (!sides.length) return share > 0.995 ? 'The screen fills the frame.' : 'The camera looks past the screen.';
  return `Missing ${sides.map((side) => `${side} ${Math.round(missing[side].metres * 1000)} mm (${missing[side].pixels} px)`).join(', ')}.`;
}

function readScreen(
  read: Read,
  plan: Plan,
  { coverage, evenness, map, focus }: PlanFacts,
  sources: readonly Source[],
  perLux: Rgb,
): void {
  read('coverage', coverage.share * 100, missingWords(coverage));
  read(
    'arms',
    coverage.arms?.metres,
    coverage.arms
      ? `${coverage.arms.person}, ${coverage.arms.side} hand: ${coverage.arms.metres.toFixed(2)} m or ${coverage.arms.pixels} px of screen beside it${coverage.arms.outOfFrame ? '; the hand itself is outside the frame' : ''}.`
      : '',
  );
  if (evenness) {
    const where = ({ x, y }: { x: number; y: number }): string =>
      `${y < 0.35 ? 'top' : y > 0.65 ? 'bottom' : 'middle'} ${x < 0.35 ? 'left' : x > 0.65 ? 'right' : 'centre'}`;
    read(
      'spread',
      evenness.spread,
      `Hottest at the ${where(evenness.hot)} (${signed(evenness.hot.stops)} stops, mostly ${nameOf(sources, evenness.hot.source)}), darkest at the ${where(evenness.dark)} (${signed(evenness.dark.stops)}). Nine tenths of it lie within ${evenness.spread90.toFixed(2)} stops.`,
    );
    read(
      'mismatch',
      mismatchOf(map, sources),
      'Light on the left third against light on the right third, the channel that differs most relative to the others.',
    );
    read(
      'gloss',
      glossPeak(map, sources, plan, perLux),
      `The screen mirrors ${percent(plan.screen.gloss)} of what falls on it.`,
    );
    read(
      'wrinkle',
      creaseContrast(map, plan) * focus.creaseContrast * 100,
      `Creases every ${plan.screen.wrinklePeriod.toFixed(2)} m, ${(plan.screen.wrinkleDepth * 1000).toFixed(1)} mm deep; the lens leaves ${percent(focus.creaseContrast)} of their contrast. Lamps on both sides cancel each other’s relief.`,
    );
  }
}

function readPerson(read: Read, { person, evenness }: PlanFacts): void {
  if (person && evenness) {
    read(
      'keyScreen',
      person.keyOverScreen,
      `${person.key} gives ${Math.round(person.keyLux)} lx at the face, the screen gets ${Math.round(evenness.mean)} lx.`,
    );
    read('keyFill', person.keyOverFill, `${person.key} against all other light on the face.`);
    read(
      'screenOnPerson',
      person.screenLamps * 100,
      'Direct light of the screen lamps on the side of the person that gets most of it, relative to the key.',
    );
  }
}

function readExposure(read: Read, plan: Plan, { exposure }: PlanFacts): void {
  if (exposure) {
    const [r, g, b] = exposure.mean.map((level) => (level * 100).toFixed(0));
    read(
      'level',
      exposure.mean[plan.screen.colour === 'blue' ? 2 : 1] * 100,
      `Red ${r}, green ${g}, blue ${b} % of clipping on average; highest ${(exposure.highest * 100).toFixed(0)} %.`,
    );
    read('clipped', exposure.clipped * 100, `Highest level ${(exposure.highest * 100).toFixed(0)} % of clipping.`);
    read('purity', exposure.purity * 100, `Red ${r}, green ${g}, blue ${b} % of clipping.`);
    const own = exposure.mean[plan.screen.colour === 'blue' ? 2 : 1];
    read(
      'noise',
      own > 0.0005 ? (100 * noiseAt(sensorNoise(plan.camera), own)) / own : 30,
      `ISO ${plan.camera.iso}, screen at ${(own * 100).toFixed(0)} % of clipping.`,
    );
  }
}

function readShadow(
  read: Read,
  plan: Plan,
  { evenness, shadows, bounce }: PlanFacts,
  sources: readonly Source[],
): void {
  if (plan.people.length && evenness)
    read(
      'shadow',
      shadows[0]?.depth ?? 0,
      shadows[0]
        ? `${nameOf(sources, shadows[0].source)} casts it; it touches ${percent(shadows[0].share)} of the seen screen with an edge ${shadows[0].softEdge.toFixed(2)} m soft.`
        : 'No lamp casts one that the camera sees.',
    );
  if (bounce)
    read(
      'bounce',
      Math.min(bounce.left, bounce.right),
      `Left edge ${bounce.left.toFixed(1)}, right edge ${bounce.right.toFixed(1)}, back ${bounce.back.toFixed(1)} stops below the key. Seen from the back the screen fills ${percent(bounce.formFactor.back)} of the view.`,
    );
}

function readSharpness(read: Read, plan: Plan, { focus, motion }: PlanFacts): void {
  if (plan.people.length) {
    read(
      'sharpness',
      focus.ear,
      `Sharp from ${focus.near.toFixed(2)} to ${Number.isFinite(focus.far) ? focus.far.toFixed(2) : '∞'} m; eyes at ${focus.distance.toFixed(2)} m.`,
    );
    if (plan.people.length > 1 || plan.people[0].depth > 0)
      read('group', focus.group, 'The person farthest from the plane of focus.');
    read(
      'motion',
      motion.gesturing,
      `${motion.ruledByFlash ? 'The flash freezes it' : 'The shutter is open'} for 1/${Math.round(1 / motion.time)} s: standing ${motion.standing.toFixed(1)}, gesturing ${motion.gesturing.toFixed(1)}, jumping ${motion.jumping.toFixed(1)} px.`,
    );
  }
}

function readDay(read: Read, plan: Plan, { wardrobe, circuits, wind }: PlanFacts): void {
  const worn = wardrobe[plan.screen.colour === 'blue' ? 'blue' : 'green'];
  if (plan.event.roster.length)
    read(
      'wardrobe',
      worn.share * 100,
      worn.worn[0] && worn.worn[0].risk > 0.1
        ? `Nearest to the screen: ${worn.worn[0].guest}.`
        : 'No colour on the roster is near the screen’s.',
    );
  const fullest = circuits.reduce((most, c) => (c.load > most.load ? c : most), {
    name: '',
    load: 0,
    watts: 0,
    rating: 0,
    lamps: [] as string[],
  });
  if (circuits.length)
    read(
      'circuit',
      Math.min(999, fullest.load * 100),
      fullest.name
        ? `${fullest.name}: ${Math.round(fullest.watts)} of ${Math.round(fullest.rating)} W (${fullest.lamps.join(', ')}).`
        : 'Nothing draws from a circuit.',
    );
  if (wind)
    read(
      'wind',
      wind.takeDown - plan.room.wind,
      `Down at ${wind.takeDown.toFixed(1)} m/s mean wind; expected ${plan.room.wind.toFixed(1)} m/s presses with ${Math.round(wind.force)} N in gusts and asks for ${Math.round(wind.ballastNeeded)} kg of ballast.`,
    );
}

/** Difference in % of the colour of the light on the left and the right third of the seen screen. */
function mismatchOf(map: LawnMap, sources: readonly Source[]): number {
  const sums = [
    [0, 0, 0],
    [0, 0, 0],
  ];
  for (const p of seenPlaces(map)) {
    const x = (p % map.columns) / map.columns;
    const side = x < 1 / 3 ? sums[0] : x >= 2 / 3 ? sums[1] : undefined;
    if (side) sources.forEach((source, n) => source.light.rgb.forEach((k, c) => (side[c] += k * map.bySource[n][p])));
  }
  const [a, b] = sums.map(([r, g, bl]) => [r / g, bl / g]);
  if (![...a, ...b].every((v) => Number.isFinite(v) && v > 0)) return 0;
  return 100 * Math.max(Math.abs(Math.log(a[0] / b[0])), Math.abs(Math.log(a[1] / b[1])));
}

/** How far mirrored light lifts the brightest place above what the screen scatters, stops. */
function glossPeak(map: LawnMap, sources: readonly Source[], plan: Plan, perLux: Rgb): number {
  const channel = plan.screen.colour === 'blue' ? 2 : 1;
  const reflectance = [plan.screen.red, plan.screen.green, plan.screen.blue][channel];
  let peak = 0;
  for (const p of seenPlaces(map)) {
    const matt =
      sources.reduce((sum, source, n) => sum + map.bySource[n][p] * source.light.rgb[channel], 0) *
      reflectance *
      perLux[channel];
    if (matt > 0) peak = Math.max(peak, Math.log2(map.level[p * 3 + channel] / matt));
  }
  return peak;
}

/** Root mean square over the seen screen of the relative change of level by creases, before the lens. */
function creaseContrast(map: LawnMap, { screen }: Plan): number {
  // A crease as a sine of this depth from crest to trough: its slope, root mean square.
  const slope = (Math.PI * screen.wrinkleDepth) / screen.wrinklePeriod / Math.SQRT2;
  const places = seenPlaces(map);
  const mean = places.reduce((sum, p) => sum + map.creaseGain[p] ** 2, 0) / Math.max(1, places.length);
  return Math.min(1, slope * Math.sqrt(mean + 0.02));
}
