import { boxBlur, gaussianBlur } from '../../core/image/boxBlur.ts';
import { nearestFeature } from '../../core/image/distance.ts';
import {
  createLinear,
  createMask,
  createPlane,
  type EncodedRaster,
  type LinearRaster,
  type Plane,
} from '../../core/image/raster.ts';
import { seededRandom } from '../../core/random.ts';
import { curveOf, photograph, type Camera } from './camera.ts';
import { blank, type Painted } from './picture.ts';
import { ripple } from './noise.ts';
import { screenOf, type ScreenNeed } from './screens.ts';
import type { Lamp } from './forms.ts';
import type { Random } from '../../core/random.ts';

/** All that a generated frame is made with. */
export interface Scene {
  width: number;
  height: number;
  seed: number;
  lamp: Lamp;
  screen: ScreenNeed;
  camera: Camera;
  /**
   * Screen light on things: added everywhere, at rims, from below; and how much a surface takes the screen's colour
   * on. Shares.
   */
  spill: { all: number; rim: number; below: number; multiplied: number };
  /** The person's shadow on the screen: stops; its offset and softness as shares of the height. */
  shadow: { stops: number; x: number; y: number; soft: number };
  /** Lens blur (σ) and movement (length), pixels. */
  blur: number;
  motion: number;
  paint: (picture: Painted, random: Random) => void;
}

/** A frame as the camera wrote it, 16 bit, before any JPEG; and what is true about it. */
export interface Generated {
  frame: EncodedRaster;
  /** The empty screen, taken a moment later by the same camera; made when asked for. */
  plate: () => EncodedRaster;
  matte: Plane;
  /** Premultiplied linear RGBA, developed as the camera does: with the screen's light on it, and without. */
  foreground: LinearRaster;
  clean: LinearRaster;
  /** Typical colour of the screen, linear, developed. */
  screen: [number, number, number];
}

/** Renders a scene; the same scene always gives the same pixels. */
export function generate(scene: Scene): Generated {
  const { width, height, seed, camera } = scene;
  const random = seededRandom(seed);
  const picture = blank(width, height);
  scene.paint(picture, random);
  const { light, on } = screenOf(width, height, random, scene.screen);
  const lit = castShadow(light, picture, scene);
  const spilled = withSpill(picture, light, on, scene, seed);
  const clean = lens(picture.data, scene);
  const seen = lens(spilled, scene);
  const out = createLinear(width, height);
  for (let p = 0; p < width * height; p++)
    for (let c = 0; c < 3; c++)
      out.data[p * 3 + c] = seen.data[p * 4 + c] + (1 - seen.data[p * 4 + 3]) * lit.data[p * 3 + c];
  const frame = photograph(out, camera, random);
  // Lamps drift a little between two photographs.
  const drift = 1 + 0.03 * (random() - 0.5);
  const plate = (): EncodedRaster => photograph({ ...light, data: light.data.map((v) => v * drift) }, camera, random);
  const matte = createPlane(width, height);
  for (let p = 0; p < matte.data.length; p++) matte.data[p] = clean.data[p * 4 + 3];
  return {
    frame,
    plate,
    matte,
    foreground: develop(seen, camera),
    clean: develop(clean, camera),
    screen: typicalOf(light, on, camera),
  };
}

function typicalOf(
  { data }: LinearRaster,
  on: Float32Array,
  { balance, exposure, tone }: Camera,
): [number, number, number] {
  const sum = [0, 0, 0];
  let count = 0;
  for (let p = 0; p < on.length; p += 37) {
    if (on[p] < 1) continue;
    count++;
    for (let c = 0; c < 3; c++) sum[c] += data[p * 3 + c];
  }
  const curve = curveOf(tone, false);
  return sum.map((v, c) => curve((v / Math.max(1, count)) * balance[c] * 2 ** exposure)) as [number, number, number];
}

/** The screen with the person's shadow on it. */
function castShadow(light: LinearRaster, { width, height, data }: Painted, { shadow }: Scene): LinearRaster {
  if (shadow.stops <= 0) return light;
  const alpha = createPlane(width, height);
  for (let p = 0; p < alpha.data.length; p++) alpha.data[p] = data[p * 4 + 3];
  const soft = gaussianBlur(alpha, Math.max(2, shadow.soft * height));
  const dx = Math.round(shadow.x * height);
  const dy = Math.round(shadow.y * height);
  const out = createLinear(width, height);
  for (let y = 0; y < height; y++) {
    const sy = Math.max(0, Math.min(height - 1, y - dy));
    for (let x = 0; x < width; x++) {
      const sx = Math.max(0, Math.min(width - 1, x - dx));
      const factor = 2 ** (-shadow.stops * soft.data[sy * width + sx]);
      for (let c = 0; c < 3; c++) out.data[(y * width + x) * 3 + c] = light.data[(y * width + x) * 3 + c] * factor;
    }
  }
  return out;
}

/** The painted picture with the screen's light on it, premultiplied. */
function withSpill(
  { width, height, data }: Painted,
  light: LinearRaster,
  on: Float32Array,
  { spill }: Scene,
  seed: number,
): Float32Array {
  const open = createMask(width, height);
  const mean = [0, 0, 0];
  let count = 0;
  for (let p = 0; p < open.data.length; p++) {
    open.data[p] = data[p * 4 + 3] < 0.3 ? 1 : 0;
    if (!open.data[p] || on[p] < 1) continue;
    count++;
    for (let c = 0; c < 3; c++) mean[c] += light.data[p * 3 + c];
  }
  const screen = mean.map((v) => v / Math.max(1, count));
  const strongest = Math.max(...screen, 1e-3);
  const { distance } = nearestFeature(open);
  const length = 0.012 * height;
  const out = data.slice();
  for (let y = 0, p = 0; y < height; y++) {
    for (let x = 0; x < width; x++, p++) {
      const a = data[p * 4 + 3];
      if (a === 0) continue;
      const uneven = 1 + 0.5 * ripple((x / height) * 2.5, (y / height) * 2.5, seed + 77);
      const added = Math.max(
        0,
        uneven * (spill.all + spill.rim * Math.exp(-distance[p] / length) + spill.below * (y / height) ** 2),
      );
      for (let c = 0; c < 3; c++) {
        const own = data[p * 4 + c];
        out[p * 4 + c] =
          own * (1 - spill.multiplied + (spill.multiplied * screen[c]) / strongest) +
          a * added * screen[c] * (0.4 + Math.min(1, own / a) * 0.8);
      }
    }
  }
  return out;
}

/** Premultiplied RGBA through the lens: out of focus, and moved. */
function lens(data: Float32Array, { width, height, blur, motion }: Scene): LinearRaster {
  const out = createLinear(width, height, 4);
  for (let c = 0; c < 4; c++) {
    let plane = createPlane(width, height);
    for (let p = 0; p < plane.data.length; p++) plane.data[p] = data[p * 4 + c];
    // A box of one pixel around is too wide for the sharpest lens: mixed with what is sharp.
    if (blur > 0) {
      const soft = blur < 0.9 ? boxBlur(plane, 1) : gaussianBlur(plane, blur);
      const share = blur < 0.9 ? blur / 0.9 : 1;
      for (let p = 0; p < plane.data.length; p++) plane.data[p] += share * (soft.data[p] - plane.data[p]);
    }
    if (motion > 1) plane = moved(plane, Math.round(motion));
    for (let p = 0; p < plane.data.length; p++) out.data[p * 4 + c] = plane.data[p];
  }
  return out;
}

function moved({ width, height, data }: Plane, length: number): Plane {
  const out = createPlane(width, height);
  const reach = length >> 1;
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      let sum = 0;
      for (let k = -reach; k <= reach; k++) sum += data[y * width + Math.max(0, Math.min(width - 1, x + k))];
      out.data[y * width + x] = sum / (2 * reach + 1);
    }
  }
  return out;
}

/** Straight colours through the camera's balance, exposure and curve, premultiplied again. */
function develop({ width, height, data }: LinearRaster, { balance, exposure, tone }: Camera): LinearRaster {
  const out = createLinear(width, height, 4);
  const curve = curveOf(tone, false);
  const gain = balance.map((b) => b * 2 ** exposure);
  for (let i = 0; i < data.length; i += 4) {
    const a = data[i + 3];
    if (a <= 0) continue;
    for (let c = 0; c < 3; c++) out.data[i + c] = a * curve((data[i + c] / a) * gain[c]);
    out.data[i + 3] = a;
  }
  return out;
}
