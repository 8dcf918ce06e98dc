import { gaussianBlur } from '../image/boxBlur.ts';
import { createLinear, createPlane, type LinearRaster, type Plane } from '../image/raster.ts';
import type { Colour } from './figure.ts';
import { fractalNoise, seededRandom } from './random.ts';

/** The physical screen and the light on it. */
export interface ScreenSetup {
  /** Linear reflectance under unit light. */
  colour: Colour;
  /** Output of the left and right lamp; equal for an even screen. */
  left: number;
  right: number;
  /** Distance of the lamps from the screen in screen widths: nearer is less even. */
  lampDistance: number;
  /** Depth of the creases, share of level. */
  wrinkles: number;
  /** Depth of the person's soft shadow, 0–1. */
  shadow: number;
}

/** The screen as the camera sees it with nobody in front, linear RGB; `silhouette` casts the shadow (coverage per pixel). */
export function paintScreen(setup: ScreenSetup, width: number, height: number, seed: number, silhouette?: Plane): LinearRaster {
  const out = createLinear(width, height);
  const creases = paintCreases(width, height, seed, setup.wrinkles);
  const shadow = silhouette ? castShadow(silhouette) : undefined;
  const normal = lampLevel(setup, 0.5, 0.5);
  for (let y = 0; y < height; y++) {
    const v = y / height;
    for (let x = 0; x < width; x++) {
      const p = y * width + x;
      const weave = 1 + 0.012 * fractalNoise(x * 0.35, y * 0.35, seed + 4, 2);
      const light = (lampLevel(setup, x / width, v) / normal) * (1 + creases.data[p]) * weave * (1 - setup.shadow * (shadow?.data[p] ?? 0));
      for (let c = 0; c < 3; c++) out.data[p * 3 + c] = setup.colour[c] * light;
    }
  }
  return out;
}

/** Two lamps beside the screen at half its height: inverse square times the cosine at the screen. */
function lampLevel(setup: ScreenSetup, u: number, v: number): number {
  return fromLamp(-0.35, setup.left, u, v, setup.lampDistance) + fromLamp(1.35, setup.right, u, v, setup.lampDistance);
}

function fromLamp(lampU: number, power: number, u: number, v: number, h: number): number {
  const dx = u - lampU;
  const dy = (v - 0.45) * 1.2;
  return (power * h) / Math.pow(dx * dx + dy * dy + h * h, 1.5);
}

function paintCreases(width: number, height: number, seed: number, depth: number): Plane {
  const plane = createPlane(width, height);
  if (depth === 0) return plane;
  const random = seededRandom(seed + 77);
  const count = 16;
  for (let n = 0; n < count; n++) {
    const x0 = random() * width;
    const lean = (random() - 0.5) * 0.5;
    const size = width * (0.008 + 0.022 * random());
    const strength = depth * (0.3 + 0.7 * random());
    const from = random() * height * 0.6;
    const to = from + height * (0.25 + 0.6 * random());
    const reach = size * 4;
    for (let y = Math.max(0, Math.floor(from)); y < Math.min(height, to); y++) {
      const along = Math.sin((Math.PI * (y - from)) / (to - from));
      const centre = x0 + lean * (y - from) + size * 2 * fractalNoise(y / (height * 0.08), n, seed, 2);
      for (let x = Math.max(0, Math.floor(centre - reach)); x < Math.min(width, centre + reach); x++) {
        const d = (x - centre) / size;
        // One side of a crease looks to the lamp, the other away.
        plane.data[y * width + x] += strength * along * 1.6 * d * Math.exp(-d * d);
      }
    }
  }
  return plane;
}

/** The silhouette displaced away from the key and spread out, as a large lamp some way off casts it. */
function castShadow(silhouette: Plane): Plane {
  const { width, height } = silhouette;
  const step = 8;
  const small = createPlane(Math.ceil(width / step), Math.ceil(height / step));
  const dx = Math.round(width * 0.11);
  const dy = Math.round(height * 0.045);
  for (let y = 0; y < small.height; y++) {
    for (let x = 0; x < small.width; x++) {
      const sx = Math.min(width - 1, Math.max(0, x * step - dx));
      const sy = Math.min(height - 1, Math.max(0, y * step - dy));
      small.data[y * small.width + x] = silhouette.data[sy * width + sx];
    }
  }
  const soft = gaussianBlur(small, (width * 0.035) / step);
  const out = createPlane(width, height);
  for (let y = 0; y < height; y++) {
    const fy = Math.min(small.height - 1.001, y / step);
    for (let x = 0; x < width; x++) {
      const fx = Math.min(small.width - 1.001, x / step);
      const o = (fy | 0) * small.width + (fx | 0);
      const u = fx - (fx | 0);
      const v = fy - (fy | 0);
      const right = small.width > 1 ? 1 : 0;
      const down = small.height > 1 ? small.width : 0;
      out.data[y * width + x] = (soft.data[o] * (1 - u) + soft.data[o + right] * u) * (1 - v) + (soft.data[o + down] * (1 - u) + soft.data[o + down + right] * u) * v;
    }
  }
  return out;
}
