import { gaussianBlur } from '../image/boxBlur.ts';
import { createLinear, createPlane, type LinearRaster, type Plane } from '../image/raster.ts';
import { cameraView, type CameraView } from '../plan/cameraView.ts';
import type { Rgb } from '../plan/exposure.ts';
import { lawnMap } from '../plan/lawnMap.ts';
import { blockersOf, illuminance, sourcesOf, type Source } from '../plan/light.ts';
import { blurDiameter } from '../plan/optics.ts';
import type { Plan } from '../plan/plan.ts';
import { vec } from '../plan/vector.ts';
import { noise2, fractalNoise, seededRandom } from '../random.ts';
import { levelsPerLux } from './lights.ts';

/** Places across the frame at which light is computed; it changes slowly between them. */
const LIGHT_COLUMNS = 28;

/**
 * What the camera sees behind the people, in linear sensor levels: the screen under the plan's lamps, pixel by pixel,
 * with creases, mirrored lamps, people's shadows and defocus, and the room where the screen ends.
 * @param people whether the plan's people stand there and cast shadows (a plate has none).
 * @param seed of creases and weave.
 */
export function paintPlannedScreen(
  plan: Plan,
  width: number,
  height: number,
  seed: number,
  people: boolean,
): LinearRaster {
  const view = cameraView(plan);
  // Blur in pixels of this picture, not of the camera's file.
  const blur =
    (blurDiameter(
      plan.camera.focal,
      plan.camera.aperture,
      view.focus,
      Math.max(plan.camera.focal * 2, plan.camera.position.z),
    ) /
      plan.camera.sensorWidth) *
    width;
  // What a disc of so many pixels leaves is drawn just as well on fewer.
  const step = Math.max(1, Math.min(8, Math.floor(blur / 3)));
  const small = paintSharp(
    plan,
    view,
    Math.ceil(width / step),
    Math.ceil(height / step),
    width / step,
    height / step,
    seed,
    people,
  );
  // A disc of diameter d has a standard deviation of d/4 along each axis.
  blurChannels(small, blur / step / 4);
  return step === 1 && small.width === width && small.height === height ? small : enlarge(small, width, height, step);
}

function paintSharp(
  plan: Plan,
  view: CameraView,
  columns: number,
  rows: number,
  width: number,
  height: number,
  seed: number,
  people: boolean,
): LinearRaster {
  const { screen, camera } = plan;
  const sources = sourcesOf(plan, 4);
  const perLux = levelsPerLux(plan, sources);
  // Light is computed on a screen larger than the real one, so that it can be read right up to the edge.
  const wide: Plan = {
    ...plan,
    screen: {
      ...screen,
      width: screen.width + 8,
      height: screen.height + screen.bottom + 6,
      bottom: screen.sweep > 0 ? screen.bottom : screen.bottom - 6,
    },
  };
  const map = lawnMap(wide, view, sources, people ? blockersOf(plan) : [], perLux, LIGHT_COLUMNS);
  const room = roomLevels(plan, sources, perLux);
  const creases = paintCreases(plan, seed);
  const out = createLinear(columns, rows);
  const from = camera.position;
  const { axis, right, up, image } = view;
  const halfWidth = screen.width / 2;
  const top = screen.bottom + screen.height;
  const low = screen.sweep > 0 ? 0 : screen.bottom;
  const level: Rgb = [0, 0, 0];
  for (let y = 0; y < rows; y++) {
    const sy = (0.5 - (y + 0.5) / height) * camera.sensorHeight;
    for (let x = 0; x < columns; x++) {
      const sx = ((x + 0.5) / width - 0.5) * camera.sensorWidth;
      const rx = axis.x * image + right.x * sx + up.x * sy;
      const ry = axis.y * image + right.y * sx + up.y * sy;
      const rz = axis.z * image + right.z * sx + up.z * sy;
      const t = rz < 0 ? -from.z / rz : Infinity;
      const px = from.x + rx * t;
      const py = from.y + ry * t;
      const floorT = ry < 0 ? -from.y / ry : Infinity;
      const onFloor = floorT < t;
      const fx = onFloor ? from.x + rx * floorT : px;
      const fz = onFloor ? from.z + rz * floorT : 0;
      const o = (y * columns + x) * 3;
      const isScreen = onFloor
        ? fz <= screen.sweep && Math.abs(fx) <= halfWidth
        : Math.abs(px) <= halfWidth && py >= low && py <= top;
      if (isScreen && Number.isFinite(t)) {
        const gain = readMap(map, (x + 0.5) / width, (y + 0.5) / height, level);
        const crease = onFloor ? 1 : 1 + gain * readCrease(creases, px, py) * 0.9;
        const weave = 1 + 0.015 * noise2(px * 260, (onFloor ? fz : py) * 260, seed + 3);
        for (let c = 0; c < 3; c++) out.data[o + c] = Math.max(0, level[c] * crease * weave);
      } else {
        const thing = onFloor ? cableAt(fx, fz, halfWidth) : standAt(px, py, halfWidth, top);
        const shade = onFloor ? room.floor : room.wall;
        const k = thing || 1 + 0.12 * fractalNoise(fx * 3, (onFloor ? fz : py) * 3, seed + 8, 3);
        for (let c = 0; c < 3; c++) out.data[o + c] = shade[c] * k;
      }
    }
  }
  return out;
}

/**
 * Reflectance against the wall's of the stand that holds the screen, or of the lamp's face beside it; 0 where there
 * is neither.
 */
function standAt(x: number, y: number, halfWidth: number, top: number): number {
  const beside = Math.abs(x) - halfWidth;
  if (beside > 0.04 && beside < 0.075)
    return y < top + 0.1 ? 0.12 + 0.5 * Math.max(0, 1 - Math.abs(beside - 0.052) / 0.006) : 0;
  if (y > top && y < top + 0.035 && beside < 0.07) return 0.3;
  // The lamp that lights it from this side, seen from behind.
  if (beside > 0.3 && beside < 0.75 && y > 1 && y < 1.9)
    return Math.hypot((beside - 0.52) / 0.16, (y - 1.45) / 0.3) < 1 ? 2.6 : 0.2;
  return 0;
}

/** A cable on the floor. */
function cableAt(x: number, z: number, halfWidth: number): number {
  return Math.abs(Math.abs(x) - halfWidth - 0.2 - 0.05 * Math.sin(z * 7)) < 0.006 ? 0.08 : 0;
}

/** Level of the room's surfaces behind and below the screen. */
function roomLevels(plan: Plan, sources: readonly Source[], perLux: Rgb): { wall: Rgb; floor: Rgb } {
  const level = (place: { x: number; y: number; z: number }, normal: { x: number; y: number; z: number }): Rgb => {
    const out: Rgb = [0, 0, 0];
    for (const source of sources) {
      const e = illuminance(source, place, normal) * plan.room.walls;
      for (let c = 0; c < 3; c++) out[c] += e * source.light.rgb[c] * perLux[c];
    }
    return out;
  };
  const beside = plan.screen.width / 2 + 0.4;
  return { wall: level(vec(beside, 1.5, -plan.room.behind), vec(0, 0, 1)), floor: level(vec(0, 0, 1), vec(0, 1, 0)) };
}

/** Reads level and crease gain between the map's places; NaN places count as dark. @returns the crease gain. */
function readMap(map: ReturnType<typeof lawnMap>, u: number, v: number, level: Rgb): number {
  const { columns, rows } = map;
  const gx = Math.max(0, Math.min(columns - 1.001, u * columns - 0.5));
  const gy = Math.max(0, Math.min(rows - 1.001, v * rows - 0.5));
  const x0 = gx | 0;
  const y0 = gy | 0;
  const right = columns > 1 ? 1 : 0;
  const down = rows > 1 ? columns : 0;
  level[0] = level[1] = level[2] = 0;
  let gain = 0;
  let weight = 0;
  for (let k = 0; k < 4; k++) {
    const p = y0 * columns + x0 + (k & 1 ? right : 0) + (k & 2 ? down : 0);
    const w = (k & 1 ? gx - x0 : 1 - gx + x0) * (k & 2 ? gy - y0 : 1 - gy + y0);
    const empty = map.empty[p];
    if (!(empty > 0) || w <= 0) continue;
    const lit = map.shadowed[p] / empty;
    for (let c = 0; c < 3; c++) level[c] += w * map.level[p * 3 + c] * lit;
    gain += w * map.creaseGain[p];
    weight += w;
  }
  if (weight > 0) for (let c = 0; c < 3; c++) level[c] /= weight;
  return weight > 0 ? gain / weight : 0;
}

interface Creases {
  plane: Plane;
  left: number;
  top: number;
  perMetre: number;
}

/** Slopes of the cloth over the whole screen: wandering near-upright creases, each with a lit and a shadow side. */
function paintCreases({ screen }: Plan, seed: number): Creases {
  const perMetre = Math.min(220, Math.max(40, 12 / screen.wrinklePeriod));
  const height = screen.height + screen.bottom;
  const plane = createPlane(Math.max(2, Math.ceil(screen.width * perMetre)), Math.max(2, Math.ceil(height * perMetre)));
  const creases: Creases = { plane, left: -screen.width / 2, top: screen.bottom + screen.height, perMetre };
  const slope = (Math.PI * screen.wrinkleDepth) / screen.wrinklePeriod;
  if (slope < 1e-4) return creases;
  const random = seededRandom(seed + 77);
  const count = Math.min(400, Math.ceil((1.6 * screen.width) / screen.wrinklePeriod) * Math.ceil(height / 0.9));
  const size = screen.wrinklePeriod * perMetre * 0.24;
  for (let n = 0; n < count; n++) {
    const x0 = random() * plane.width;
    const lean = (random() - 0.5) * 0.7;
    const strength = slope * (0.25 + 0.75 * random()) * 1.5;
    const breadth = size * (0.6 + 0.8 * random());
    const length = plane.height * (0.15 + 0.45 * random());
    const from = random() * plane.height - length / 2;
    const reach = breadth * 3;
    for (let y = Math.max(0, Math.floor(from)); y < Math.min(plane.height, from + length); y++) {
      const along = Math.sin((Math.PI * (y - from)) / length);
      const centre = x0 + lean * (y - from) + breadth * 2 * noise2(y / (perMetre * 0.22), n, seed);
      for (let x = Math.max(0, Math.floor(centre - reach)); x < Math.min(plane.width, centre + reach); x++) {
        const d = (x - centre) / breadth;
        plane.data[y * plane.width + x] += strength * along * 1.6 * d * Math.exp(-d * d);
      }
    }
  }
  return creases;
}

function readCrease({ plane, left, top, perMetre }: Creases, x: number, y: number): number {
  const gx = Math.max(0, Math.min(plane.width - 1.001, (x - left) * perMetre));
  const gy = Math.max(0, Math.min(plane.height - 1.001, (top - y) * perMetre));
  const o = (gy | 0) * plane.width + (gx | 0);
  const u = gx - (gx | 0);
  const v = gy - (gy | 0);
  const { data, width } = plane;
  return (data[o] * (1 - u) + data[o + 1] * u) * (1 - v) + (data[o + width] * (1 - u) + data[o + width + 1] * u) * v;
}

function blurChannels(picture: LinearRaster, sigma: number): void {
  if (sigma < 0.4) return;
  const { width, height, channels, data } = picture;
  const plane = createPlane(width, height);
  for (let c = 0; c < channels; c++) {
    for (let p = 0; p < plane.data.length; p++) plane.data[p] = data[p * channels + c];
    const soft = gaussianBlur(plane, sigma);
    for (let p = 0; p < plane.data.length; p++) data[p * channels + c] = soft.data[p];
  }
}

function enlarge(small: LinearRaster, width: number, height: number, step: number): LinearRaster {
  const out = createLinear(width, height);
  const s = small.data;
  const t = out.data;
  const across = small.width > 1 ? 3 : 0;
  const below = small.height > 1 ? small.width * 3 : 0;
  // Between which columns of the small picture each column lies, and how far along.
  const columns = new Int32Array(width);
  const shares = new Float32Array(width);
  for (let x = 0; x < width; x++) {
    const gx = Math.max(0, Math.min(small.width - 1.001, (x + 0.5) / step - 0.5));
    columns[x] = (gx | 0) * 3;
    shares[x] = gx - (gx | 0);
  }
  // One row between two rows of the small picture, then that row stretched.
  const row = new Float32Array(small.width * 3);
  for (let y = 0; y < height; y++) {
    const gy = Math.max(0, Math.min(small.height - 1.001, (y + 0.5) / step - 0.5));
    const v = gy - (gy | 0);
    const from = (gy | 0) * small.width * 3;
    for (let i = 0; i < row.length; i++) row[i] = s[from + i] * (1 - v) + s[from + below + i] * v;
    let o = y * width * 3;
    for (let x = 0; x < width; x++) {
      const u = shares[x];
      const a = columns[x];
      const b = a + across;
      t[o++] = row[a] + (row[b] - row[a]) * u;
      t[o++] = row[a + 1] + (row[b + 1] - row[a + 1]) * u;
      t[o++] = row[a + 2] + (row[b + 2] - row[a + 2]) * u;
    }
  }
  return out;
}
