import type { LinearRaster } from '../../core/image/raster.ts';
import type { Random } from '../../core/random.ts';
import { cloudy, ripple } from './noise.ts';
import { hsv } from './colours.ts';
import { createLinear } from '../../core/image/raster.ts';

export interface ScreenNeed {
  /** Degrees; from 200 on it is a blue screen. */
  hue: number;
  /** Stops between the lightest and the darkest part, strength of creases, of hot spots; 0 and more. */
  uneven: number;
  creases: number;
  hot: number;
  /** Shares of the frame that the screen leaves free: left, top, right, bottom; wall and rim are seen there. */
  free: readonly [number, number, number, number];
}

/** The lit screen without anybody. `on` is 1 on the screen, less at its rim, 0 on what is beyond. */
export function screenOf(
  width: number,
  height: number,
  random: Random,
  { hue, uneven, creases, hot, free }: ScreenNeed,
): { light: LinearRaster; on: Float32Array } {
  const light = createLinear(width, height);
  const on = new Float32Array(width * height);
  const base = hsv(hue, 0.55 + 0.35 * random(), 0.62 + 0.22 * random());
  const seed = Math.floor(1e6 * random());
  const long = Math.max(width, height);
  const slope = [0.7 * (random() - 0.5), 0.5 * (random() - 0.5), -0.5 * random(), -0.4 * random()];
  const spot = { x: random() * width, y: random() * height * 0.7, r: long * (0.05 + 0.12 * random()) };
  const tint = [0.06 * (random() - 0.5), 0, 0.06 * (random() - 0.5)];
  const period = long * (0.02 + 0.1 * random());
  const lean = random() < 0.6 ? 0.3 * (random() - 0.5) : 1.57 + 0.3 * (random() - 0.5);
  const wall = hsv(random() * 360, 0.15 * random(), 0.15 + 0.7 * random());
  const rim = random() < 0.6 ? 0.02 : 0.5;
  const rimWide = long * (0.004 + 0.014 * random());
  const tilt = [0, 1, 2, 3].map(() => 0.03 * (random() - 0.5));
  const floor = random() < 0.5 ? 1 : 0.4 + 0.5 * random();
  const fine = 0.01 + 0.02 * random();
  for (let y = 0, p = 0; y < height; y++) {
    for (let x = 0; x < width; x++, p++) {
      const u = (2 * x) / width - 1;
      const v = (2 * y) / height - 1;
      let stops =
        uneven * (slope[0] * u + slope[1] * v + slope[2] * u * u + slope[3] * v * v + 0.12 * cloudy(u, v, seed, 2));
      const a = (x * Math.cos(lean) + y * Math.sin(lean)) / period;
      const b = (y * Math.cos(lean) - x * Math.sin(lean)) / (period * 7);
      if (creases > 0)
        stops +=
          creases *
          (cloudy(a + 0.6 * ripple(b, a * 0.2, seed + 3), b, seed + 1, 3) +
            0.4 * Math.abs(ripple(a * 0.5, b * 2, seed + 2)));
      stops += fine * ripple(x / 2.3, y / 2.3, seed + 6);
      let level = 2 ** stops;
      const d = Math.hypot(x - spot.x, y - spot.y) / spot.r;
      const pale = hot * Math.exp(-d * d);
      level *= 1 + pale;
      const i = p * 3;
      for (let c = 0; c < 3; c++) light.data[i + c] = base[c] * level * (1 + tint[c] * u) + 0.12 * pale;
      // Distance inside the screen's border, pixels; straight, a little tilted.
      const inside = Math.min(
        free[0] > 0 ? x - width * (free[0] + tilt[0] * v) : Infinity,
        free[1] > 0 ? y - height * (free[1] + tilt[1] * u) : Infinity,
        free[2] > 0 ? width * (1 - free[2] + tilt[2] * v) - x : Infinity,
        free[3] > 0 ? height * (1 - free[3] + tilt[3] * u) - y : Infinity,
      );
      const cover = Math.max(0, Math.min(1, inside + 0.5));
      on[p] = cover;
      if (cover >= 1) continue;
      const beyond = inside > -rimWide ? rim : 1;
      const ground = y > height * 0.93 && floor < 1 ? floor : 1;
      for (let c = 0; c < 3; c++) {
        const w =
          beyond < 1
            ? beyond * 0.4
            : wall[c] *
              ground *
              (0.8 + 0.25 * ripple((x / long) * 3, (y / long) * 3, seed + 8)) *
              (1 + 0.05 * ripple(x / 3, y / 3, seed + 9));
        light.data[i + c] = light.data[i + c] * cover + w * (1 - cover);
      }
    }
  }
  return { light, on };
}
