import { encoderFor } from '../colour/transfer.ts';
import { gaussianBlur } from '../image/boxBlur.ts';
import { createLinear, createPlane, type EncodedRaster, type LinearRaster, type Plane } from '../image/raster.ts';
import { cameraView, project } from '../plan/cameraView.ts';
import { noiseAt, sensorNoise, type Rgb } from '../plan/exposure.ts';
import { illuminance, sourcesOf } from '../plan/light.ts';
import type { Plan } from '../plan/plan.ts';
import { subtract, unit, vec } from '../plan/vector.ts';
import { linearOf } from '../plan/wardrobe.ts';
import { gaussian, seededRandom } from '../random.ts';
import { CHART_MARGIN, chartColours } from '../screen/chart.ts';
import type { TargetKind } from '../screen/targets.ts';
import type { Subject } from './figure.ts';
import { layOver } from './layOver.ts';
import { MATT_BALL } from './backgrounds.ts';
import { levelsPerLux, lightsOn, type Lights } from './lights.ts';
import { paintPerson } from './person.ts';
import { paintPlannedScreen } from './plannedScreen.ts';

/** What the stand-in camera takes. */
export interface Shot {
  /** People, the empty screen, a matt ball, a grey card or a colour chart where the first person's head would be. */
  kind: TargetKind;
  /** Who stands at the plan's places, in their order; each place takes as many as its count. */
  subjects: Subject[];
  seed: number;
  /** Pixels; the plan's camera sees the same frame at any size. */
  width: number;
  height: number;
  /** Left out, the sensor's own noise. */
  noiseless?: boolean;
  /** Noise as of the camera's own pixels, also in a smaller picture. */
  ownGrain?: boolean;
  /** People as they would look without the screen's light on them: what a perfect cut would give. */
  withoutBounce?: boolean;
  /** Light that people stand in, in the place of the plan's. */
  lights?: Lights;
  /** What went wrong when it was taken. */
  mistakes?: Mistakes;
}

/** Mistakes at the camera, beside what a plan can say. */
export interface Mistakes {
  /** Diameter of the disc that a point of the person becomes, pixels of this picture. */
  defocus?: number;
  /** How far the person moves sideways while the shutter is open, pixels of this picture. */
  motion?: number;
  /** Gains of a wrong white balance. */
  balance?: Rgb;
}

/** A rendered frame with everything that is true about it. */
export interface TakenFrame {
  /** The photograph, 16-bit sRGB. */
  frame: EncodedRaster & { channels: 3; data: Uint16Array };
  /** True coverage 0–1. */
  matte: Plane;
  /** True foreground, premultiplied linear RGBA. */
  foreground: LinearRaster;
  /** True screen behind it, linear RGB, shadows included. */
  screen: LinearRaster;
}

/** Height in metres that the painter's people are built to. */
const PAINTED_HEIGHT = 1.72;
/** Lens and sensor blur of what is in focus, pixels. */
const LENS_BLUR = 0.7;

/** Renders the frame that the plan would give. Same plan, same shot: the same picture. */
export function takeFrame(plan: Plan, shot: Shot): TakenFrame {
  const { width, height, seed } = shot;
  const screen = paintPlannedScreen(plan, width, height, seed, shot.kind === 'people');
  const foreground =
    shot.kind === 'people'
      ? soften(paintPeople(plan, shot), shot.mistakes)
      : shot.kind === 'plate'
        ? createLinear(width, height, 4)
        : paintTarget(plan, shot, shot.kind);
  const matte = createPlane(width, height);
  for (let p = 0; p < matte.data.length; p++) matte.data[p] = Math.min(1, foreground.data[p * 4 + 3]);
  return { frame: photograph(plan, shot, foreground, screen), matte, foreground, screen };
}

function paintPeople(plan: Plan, shot: Shot): LinearRaster {
  const { width, height } = shot;
  const view = cameraView(plan);
  const perPixel = width / plan.camera.pixelsAcross;
  const places = plan.people.flatMap((person) =>
    Array.from({ length: person.count }, (_, n) => ({
      person,
      x: person.x + (n - (person.count - 1) / 2) * 0.5,
      z: person.z - (n % 2) * Math.min(person.depth, 0.4),
    })),
  );
  const standing = places.slice(0, shot.subjects.length).map((place, n) => ({ ...place, subject: shot.subjects[n] }));
  // Those farther back are painted first.
  standing.sort((a, b) => a.z - b.z);
  let all: LinearRaster | undefined;
  for (const { person, x, z, subject } of standing) {
    const head = project(view, vec(x, person.height * 0.93, z));
    if (head.depth <= 0.3) continue;
    const scale = ((view.image / head.depth / view.pitch) * perPixel * person.height) / PAINTED_HEIGHT;
    const layer = paintPerson(
      subject,
      { width, height, scale, originX: head.x * perPixel, originY: head.y * perPixel },
      shot.lights ?? withBounce(lightsOn(plan, { ...person, x, z }), !shot.withoutBounce),
      LENS_BLUR,
    );
    if (all) layOver(all, { left: 0, top: 0, picture: layer });
    else all = layer;
  }
  return all ?? createLinear(width, height, 4);
}

const withBounce = (lights: Lights, wanted: boolean): Lights => (wanted ? lights : { ...lights, bounce: [0, 0, 0] });

/** A disc of diameter d has a standard deviation of d/4 along each axis; movement is even along its way. */
function soften(picture: LinearRaster, { defocus = 0, motion = 0 }: Mistakes = {}): LinearRaster {
  if (defocus < 0.5 && motion < 1) return picture;
  const { width, height, data } = picture;
  for (let c = 0; c < 4; c++) {
    let plane = createPlane(width, height);
    for (let p = 0; p < plane.data.length; p++) plane.data[p] = data[p * 4 + c];
    if (defocus >= 0.5) plane = gaussianBlur(plane, defocus / 4);
    if (motion >= 1) plane = smear(plane, Math.round(motion));
    for (let p = 0; p < plane.data.length; p++) data[p * 4 + c] = plane.data[p];
  }
  return picture;
}

/** Running mean along rows over `length` pixels, the border repeated. */
function smear({ width, height, data }: Plane, length: number): Plane {
  const out = createPlane(width, height);
  const half = length >> 1;
  for (let y = 0; y < height; y++) {
    const at = (x: number): number => data[y * width + Math.max(0, Math.min(width - 1, x))];
    let sum = 0;
    for (let x = -half; x < length - half; x++) sum += at(x);
    for (let x = 0; x < width; x++) {
      out.data[y * width + x] = sum / length;
      sum += at(x + length - half) - at(x - half);
    }
  }
  return out;
}

const BALL_RADIUS = 0.1;
const BALL: Rgb = [MATT_BALL, MATT_BALL, MATT_BALL];
const GREY_CARD: Rgb = [0.18, 0.18, 0.18];
const CARD = { halfWidth: 0.12, halfHeight: 0.15 };
const CHART = { halfWidth: 0.15, halfHeight: 0.105, border: 0.04 };

/** A matt ball, a grey card or a colour chart at the head's place, lit point by point. */
function paintTarget(plan: Plan, { width, height }: Shot, kind: 'ball' | 'grey card' | 'colour chart'): LinearRaster {
  const out = createLinear(width, height, 4);
  const person = plan.people[0];
  if (!person) return out;
  const view = cameraView(plan);
  const sources = sourcesOf(plan, 4);
  const perLux = levelsPerLux(plan, sources);
  const centre = vec(person.x, person.height * 0.93, person.z);
  const middle = project(view, centre);
  const perPixel = width / plan.camera.pixelsAcross;
  const scale = (view.image / middle.depth / view.pitch) * perPixel;
  const cx = middle.x * perPixel;
  const cy = middle.y * perPixel;
  const reach = 0.16 * scale;
  const toCamera = unit(subtract(plan.camera.position, centre));
  for (let y = Math.max(0, Math.floor(cy - reach)); y < Math.min(height, cy + reach); y++) {
    for (let x = Math.max(0, Math.floor(cx - reach)); x < Math.min(width, cx + reach); x++) {
      const dx = (x + 0.5 - cx) / scale;
      const dy = (cy - y - 0.5) / scale;
      const { halfWidth, halfHeight } = kind === 'grey card' ? CARD : CHART;
      const inside =
        kind === 'ball'
          ? (BALL_RADIUS - Math.hypot(dx, dy)) * scale
          : Math.min(halfWidth - Math.abs(dx), halfHeight - Math.abs(dy)) * scale;
      const a = Math.max(0, Math.min(1, inside + 0.5));
      if (a <= 0) continue;
      const dz = kind === 'ball' ? Math.sqrt(Math.max(0, BALL_RADIUS ** 2 - dx * dx - dy * dy)) : 0;
      const normal = kind === 'ball' ? unit(vec(dx, dy, dz + 1e-4)) : toCamera;
      const place = vec(centre.x + dx, centre.y + dy, centre.z + dz);
      const reflectance =
        kind === 'ball' ? BALL : kind === 'grey card' ? GREY_CARD : chartAt(dx / halfWidth, dy / halfHeight);
      const o = (y * width + x) * 4;
      for (const source of sources) {
        const e = illuminance(source, place, normal) * a;
        for (let c = 0; c < 3; c++) out.data[o + c] += e * reflectance[c] * source.light.rgb[c] * perLux[c];
      }
      out.data[o + 3] = a;
    }
  }
  return out;
}

/** Reflectance of the colour chart; both coordinates −1 to 1 from its middle, up and to the right. */
function chartAt(x: number, y: number): Rgb {
  const column = ((x + 1) / 2) * (6 + CHART_MARGIN) - CHART_MARGIN / 2;
  const row = ((1 - y) / 2) * (4 + CHART_MARGIN) - CHART_MARGIN / 2;
  const i = Math.floor(column);
  const j = Math.floor(row);
  const within = (v: number): boolean =>
    v - Math.floor(v) > CHART_MARGIN / 2 && v - Math.floor(v) < 1 - CHART_MARGIN / 2;
  const patch = chartColours[j]?.[i];
  return patch && within(column) && within(row) ? linearOf(patch) : [CHART.border, CHART.border, CHART.border];
}

/** Normally distributed numbers at hand, few enough to stay near. */
const NORMALS = 4096;

/** Mixes in linear light, adds the sensor's noise, clips and encodes. */
function photograph(plan: Plan, shot: Shot, foreground: LinearRaster, screen: LinearRaster): TakenFrame['frame'] {
  const { width, height } = shot;
  const data = new Uint16Array(width * height * 3);
  const encode = encoderFor(data);
  const sensor = sensorNoise(plan.camera);
  // A smaller picture is a reduced one: its pixels gather the light of several.
  const gathered = Math.sqrt((plan.camera.pixelsAcross * plan.camera.pixelsDown) / (width * height));
  const strength = shot.noiseless ? 0 : shot.ownGrain ? 1 : 1 / Math.max(1, gathered);
  const [red, green, blue] = shot.mistakes?.balance ?? [1, 1, 1];
  const random = seededRandom(shot.seed + 4242);
  const normal = Float32Array.from({ length: NORMALS }, () => gaussian(random));
  // Noise by level, in 1024 steps.
  const sigma = Float32Array.from({ length: 1025 }, (_, n) => strength * noiseAt(sensor, n / 1024));
  const f = foreground.data;
  const s = screen.data;
  let draw = (random() * 2 ** 32) | 0;
  const noisy = (level: number, chance: number): number =>
    encode(level + sigma[level < 1 ? (level * 1024) | 0 : 1024] * normal[chance & (NORMALS - 1)]);
  for (let p = 0, o = 0, i = 0; p < width * height; p++, o += 3, i += 4) {
    const covered = f[i + 3];
    const through = covered < 1 ? 1 - covered : 0;
    // A quick congruential generator is enough to draw from the table, one stretch of its bits for each channel.
    draw = (Math.imul(draw, 1664525) + 1013904223) | 0;
    data[o] = noisy(red * (f[i] + through * s[o]), draw >>> 20);
    data[o + 1] = noisy(green * (f[i + 1] + through * s[o + 1]), (draw >>> 12) ^ 0x5a5);
    data[o + 2] = noisy(blue * (f[i + 2] + through * s[o + 2]), (draw >>> 16) * 2531);
  }
  return { width, height, channels: 3, data };
}
