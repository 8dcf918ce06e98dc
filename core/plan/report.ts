import { bounceOn, rememberLight } from './bounce.ts';
import { cameraView, project, type CameraView } from './cameraView.ts';
import { coverageOf, type Coverage } from './coverage.ts';
import { faceOf, levelPerLux, lightOn, noiseAt, sensorNoise, whiteBalance, type Rgb } from './exposure.ts';
import { forecastOf, type Forecast } from './forecast.ts';
import { kitOf, type Kit } from './kit.ts';
import {
  evennessOf,
  exposureOf,
  lawnMap,
  seenPlaces,
  shadowsOf,
  type CastShadow,
  type Evenness,
  type LawnMap,
  type ScreenExposure,
} from './lawnMap.ts';
import { blockersOf, illuminance, sourcesOf, type Source } from './light.ts';
import { blurDiameter, contrastThroughDisc, depthOfField } from './optics.ts';
import type { Plan } from './plan.ts';
import { cautionsOf, circuitLoads, windLoad, type CircuitLoad, type WindLoad } from './power.ts';
import { isWithin, type PlanReading, type ReadingId } from './readings.ts';
import { subtract, unit, vec, type Vec } from './vector.ts';
import { wardrobeOf, type Wardrobe } from './wardrobe.ts';

/** Everything computed about a plan. */
export interface Report {
  readings: PlanReading[];
  coverage: Coverage;
  map: LawnMap;
  evenness: Evenness | null;
  exposure: ScreenExposure | null;
  shadows: CastShadow[];
  person: PersonLight | null;
  bounce: Bounce | null;
  focus: Focus;
  motion: Motion;
  losses: {
    lamp: string;
    modifier: number;
    gel: number;
    diffusion: number;
    dimmer: number;
    temperature: number;
    tint: number;
  }[];
  circuits: CircuitLoad[];
  wind: WindLoad | null;
  wardrobe: Wardrobe;
  kit: Kit;
  forecast: Forecast;
  cautions: string[];
}

/** Light on the person, in lx; ratios in stops. */
export interface PersonLight {
  key: string;
  keyLux: number;
  keyOverScreen: number;
  keyOverFill: number;
  /** Screen lamps' direct light on the worst side of the person, as a share of the key. */
  screenLamps: number;
}

/** Screen light on the person, stops below the key in the screen's channel. */
export interface Bounce {
  left: number;
  right: number;
  back: number;
  /** Share of a hemisphere that the screen fills as seen from the left edge, right edge and back. */
  formFactor: { left: number; right: number; back: number };
}

export interface Focus {
  distance: number;
  /** Blur of the screen, px. */
  screenBlur: number;
  /** Share of the creases' contrast that the lens leaves. */
  creaseContrast: number;
  near: number;
  far: number;
  ear: number;
  group: number;
  /** The same at a wide and a moderate aperture, to choose a school by. */
  schools: { aperture: number; screenBlur: number; creaseContrast: number; ear: number }[];
}

export interface Motion {
  /** Time that freezes the picture, s: shutter, or flash where it rules. */
  time: number;
  ruledByFlash: boolean;
  standing: number;
  gesturing: number;
  jumping: number;
}

/** Speeds in m/s. */
const SPEEDS = { standing: 0.03, gesturing: 1.2, jumping: 3 };
/** From eyes to ear along the line of sight, m. */
const EAR = 0.1;
/** Largest blur that passes for sharp, px. */
const SHARP = 2;

/**
 * Computes all readings of a plan.
 * @param columns places across the lawn map; 24 for reading, 10–14 when many plans are compared.
 * @param fineness samples across a lamp.
 */
export function reportOn(plan: Plan, columns = 24, fineness = 4): Report {
  const view = cameraView(plan);
  const sources = sourcesOf(plan, fineness);
  const blockers = blockersOf(plan);
  const gain = whiteBalance(plan, sources);
  const perLux = gain.map((g) => g * levelPerLux(plan.camera)) as Rgb;
  const map = lawnMap(plan, view, sources, blockers, perLux, columns);
  const evenness = evennessOf(map) ?? null;
  const exposure = exposureOf(map, plan.screen.colour) ?? null;
  const shadows = shadowsOf(map, sources, blockers);
  const coverage = coverageOf(plan, view);
  const person = personLight(plan, sources, evenness);
  const bounce = bounceReport(plan, sources, gain);
  const focus = focusReport(plan, view);
  const motion = motionReport(plan, view, sources);
  const circuits = circuitLoads(plan);
  const wind = plan.room.outdoors ? windLoad(plan) : null;
  const wardrobe = wardrobeOf(plan.event);
  const readings: PlanReading[] = [];
  const read = (id: ReadingId, value: number | undefined, reason: string): void => {
    if (value !== undefined && Number.isFinite(value))
      readings.push({ id, value, verdict: isWithin(id, value) ? 'within' : 'beyond', reason });
  };
  const lampName = (n: number): string => sources[n]?.lamp.name ?? 'no lamp';
  const percent = (share: number): string => `${Math.round(share * 100)} %`;

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
      `Hottest at the ${where(evenness.hot)} (${signed(evenness.hot.stops)} stops, mostly ${lampName(evenness.hot.source)}), darkest at the ${where(evenness.dark)} (${signed(evenness.dark.stops)}). Nine tenths of it lie within ${evenness.spread90.toFixed(2)} stops.`,
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
  if (plan.people.length && evenness)
    read(
      'shadow',
      shadows[0]?.depth ?? 0,
      shadows[0]
        ? `${lampName(shadows[0].source)} casts it; it touches ${percent(shadows[0].share)} of the seen screen with an edge ${shadows[0].softEdge.toFixed(2)} m soft.`
        : 'No lamp casts one that the camera sees.',
    );
  if (bounce)
    read(
      'bounce',
      Math.min(bounce.left, bounce.right),
      `Left edge ${bounce.left.toFixed(1)}, right edge ${bounce.right.toFixed(1)}, back ${bounce.back.toFixed(1)} stops below the key. Seen from the back the screen fills ${percent(bounce.formFactor.back)} of the view.`,
    );
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

  const losses = sources
    .filter((source) => source.kind !== 'room')
    .map(({ lamp, light }) => ({ lamp: lamp.name, ...light.losses, temperature: light.temperature, tint: light.tint }));
  return {
    readings,
    coverage,
    map,
    evenness,
    exposure,
    shadows,
    person,
    bounce,
    focus,
    motion,
    losses,
    circuits,
    wind,
    wardrobe,
    kit: kitOf(plan),
    forecast: forecastOf(plan, readings),
    cautions: cautionsOf(plan),
  };
}

const signed = (stops: number): string => `${stops < 0 ? '−' : '+'}${Math.abs(stops).toFixed(2)}`;

function missingWords({ missing, share }: Coverage): string {
  const sides = (Object.keys(missing) as (keyof typeof missing)[]).filter((side) => missing[side].pixels > 0);
  if (!sides.length) return share > 0.995 ? 'The screen fills the frame.' : 'The camera looks past the screen.';
  return `Missing ${sides.map((side) => `${side} ${Math.round(missing[side].metres * 1000)} mm (${missing[side].pixels} px)`).join(', ')}.`;
}

function personLight(plan: Plan, sources: readonly Source[], evenness: Evenness | null): PersonLight | null {
  const person = plan.people[0];
  if (!person || !plan.lamps.length) return null;
  const face = faceOf(person);
  // Read as with a meter held at the face and pointed at each lamp, which for sun and sky means the side they come from.
  const towards = (source: Source): Vec =>
    source.kind === 'sky' || source.kind === 'room'
      ? vec(0, 0.5, 0.866)
      : source.kind === 'sun'
        ? vec(-source.axis.x, -source.axis.y, -source.axis.z)
        : unit(subtract(source.centre, face));
  const at = sources.map((source) => ({ source, lux: illuminance(source, face, towards(source)) }));
  const keys = at.filter(({ source }) => source.lamp.role === 'key');
  const lamps = at.filter(({ source }) => source.kind !== 'room');
  const key = (keys.length ? keys : lamps).reduce((most, one) => (one.lux > most.lux ? one : most));
  const toCamera = unit(subtract(plan.camera.position, face));
  const fill = at
    .filter((one) => one !== key && one.source.lamp.role !== 'edge')
    .reduce((sum, { source }) => sum + illuminance(source, face, toCamera), 0);
  const keyOnFace = illuminance(key.source, face, toCamera);
  const sides = [vec(-1, 0, 0), vec(1, 0, 0), vec(0, 0, 1)].map((normal) =>
    sources
      .filter((s) => s.lamp.role === 'screen')
      .reduce((sum, s) => sum + illuminance(s, vec(face.x, face.y - 0.25, person.z), normal), 0),
  );
  if (key.lux <= 0) return null;
  return {
    key: key.source.lamp.name,
    keyLux: key.lux,
    keyOverScreen: evenness && evenness.mean > 0 ? Math.log2(key.lux / evenness.mean) : 0,
    keyOverFill: Math.min(8, Math.log2((keyOnFace + fill) / Math.max(1e-6, fill))),
    screenLamps: Math.max(...sides) / key.lux,
  };
}

function bounceReport(plan: Plan, sources: readonly Source[], gain: Rgb): Bounce | null {
  const person = plan.people[0];
  if (!person || !sources.length) return null;
  const channel = plan.screen.colour === 'blue' ? 2 : 1;
  const face = faceOf(person);
  const chin = vec(person.x, person.height * 0.88, person.z);
  const key = lightOn(sources, face, unit(subtract(plan.camera.position, face)))[channel] * gain[channel];
  if (key <= 0) return null;
  const light = rememberLight(sources);
  const unitLight = (): Rgb => [1, 1, 1];
  const white = { screen: { ...plan.screen, red: 1, green: 1, blue: 1 } };
  // The edges that the camera still sees look sideways and a little back; the back is what hair shows through.
  const sides = { left: unit(vec(-1, 0, -0.35)), right: unit(vec(1, 0, -0.35)), back: vec(0, 0, -1) };
  const below = (normal: Vec): number =>
    Math.min(12, Math.log2(key / Math.max(1e-9, bounceOn(plan, chin, normal, light)[channel] * gain[channel])));
  const factor = (normal: Vec): number => bounceOn(white, chin, normal, unitLight, 10)[0];
  return {
    left: below(sides.left),
    right: below(sides.right),
    back: below(sides.back),
    formFactor: { left: factor(sides.left), right: factor(sides.right), back: factor(sides.back) },
  };
}

function focusReport(plan: Plan, view: CameraView): Focus {
  const { camera, screen } = plan;
  const screenDistance = Math.max(camera.focal * 2, camera.position.z / Math.max(0.2, -view.axis.z));
  const at = (aperture: number): { screenBlur: number; creaseContrast: number; ear: number } => {
    const disc = blurDiameter(camera.focal, aperture, view.focus, screenDistance);
    return {
      screenBlur: disc / view.pitch,
      creaseContrast: contrastThroughDisc(disc / ((screen.wrinklePeriod * view.image) / screenDistance)),
      ear: blurDiameter(camera.focal, aperture, view.focus, view.focus + EAR) / view.pitch,
    };
  };
  const depths = plan.people.flatMap((person) => {
    const middle = project(view, vec(person.x, person.height * 0.93, person.z)).depth;
    return [middle, middle + person.depth];
  });
  const group = Math.max(
    0,
    ...depths
      .filter((d) => d > 0.1)
      .map((d) => blurDiameter(camera.focal, camera.aperture, view.focus, d) / view.pitch),
  );
  const { near, far } = depthOfField(camera.focal, camera.aperture, view.focus, SHARP * view.pitch);
  return {
    distance: view.focus,
    ...at(camera.aperture),
    near,
    far,
    group,
    schools: [2, 2.8, 4, 5.6, 8, 11].map((aperture) => ({ aperture, ...at(aperture) })),
  };
}

function motionReport(plan: Plan, view: CameraView, sources: readonly Source[]): Motion {
  const { camera } = plan;
  const person = plan.people[0];
  let flash = 0;
  let whole = 1e-9;
  let duration = 0;
  if (person) {
    const face = faceOf(person);
    const toCamera = unit(subtract(camera.position, face));
    for (const source of sources) {
      const e = illuminance(source, face, toCamera);
      whole += e;
      if (source.lamp.unit !== 'joule') continue;
      flash += e;
      duration = Math.max(duration, source.lamp.flashDuration);
    }
  }
  const ruledByFlash = flash / whole > 0.85;
  const time = ruledByFlash ? Math.min(camera.shutter, duration) : camera.shutter;
  const pixels = (speed: number): number => (speed * time * view.image) / view.focus / view.pitch;
  return {
    time,
    ruledByFlash,
    standing: pixels(SPEEDS.standing),
    gesturing: pixels(SPEEDS.gesturing),
    jumping: pixels(SPEEDS.jumping),
  };
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
