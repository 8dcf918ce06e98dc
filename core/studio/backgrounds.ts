import { encoderFor } from '../colour/transfer.ts';
import type { EncodedRaster } from '../image/raster.ts';
import { fitBallLight, type BallLight, type Facing } from '../place/ballLight.ts';
import type { Look } from '../place/look.ts';
import type { SceneFacts } from '../place/scene.ts';
import { smoothstep } from '../image/smoothstep.ts';
import { fractalNoise, noise2, seededRandom } from '../random.ts';
import type { Lights } from './lights.ts';
import type { Vector } from './solids.ts';

/** Reflectance of the stand-in camera's ball. */
export const MATT_BALL = 0.5;

/** A painted scene: linear colour at u (0 left – 1 right, in heights) and v (0 top – 1 bottom). */
type Scene = (u: number, v: number, out: [number, number, number]) => void;

/** A scene, and the light that somebody would stand in there, in its own levels: 1 is white. */
export interface DemoBackground {
  name: string;
  title: string;
  scene: () => Scene;
  /** Where its horizon lies, how high it was looked at from, and from where the light comes. */
  facts: Pick<SceneFacts, 'horizon' | 'cameraHeight' | 'lightFrom'>;
  tags: string[];
  /** In what its finished pictures differ from the proposed look. */
  look: Partial<Look>;
  lights: Lights;
}

const noBounce = { bounce: [0, 0, 0] } as const;
export const demoBackgrounds: DemoBackground[] = [
  {
    name: 'cliff-path',
    title: 'Cliff path',
    scene: cliffPath,
    facts: { horizon: 0.47, cameraHeight: 1.35, lightFrom: -0.5 },
    tags: ['outdoors', 'day', 'sea'],
    look: { haze: 0.04, vignette: 0.15 },
    // A hazy sun from the left, and much sky.
    lights: {
      key: { direction: toward(-0.5, 0.7, 0.5), colour: [0.72, 0.68, 0.62] },
      others: [],
      ambient: [0.26, 0.3, 0.36],
      ...noBounce,
    },
  },
  {
    name: 'sky-of-kites',
    title: 'Sky full of kites',
    scene: skyOfKites,
    facts: { horizon: 0.88, cameraHeight: 0.9, lightFrom: 0.5 },
    tags: ['outdoors', 'day'],
    look: { bounceBelow: 0.2 },
    // The sun from the right, sky, and light from the sand.
    lights: {
      key: { direction: toward(0.45, 0.75, 0.5), colour: [0.82, 0.77, 0.68] },
      others: [{ direction: toward(0, -0.9, 0.4), colour: [0.16, 0.13, 0.09] }],
      ambient: [0.26, 0.31, 0.39],
      ...noBounce,
    },
  },
  {
    name: 'harbour-at-dusk',
    title: 'Harbour at dusk',
    scene: harbourAtDusk,
    facts: { horizon: 0.5, cameraHeight: 1.35, lightFrom: 0.7 },
    tags: ['outdoors', 'evening', 'sea'],
    look: { glow: 0.3, vignette: 0.2 },
    // Harbour lamps from the right, the last of the sky behind, a dark sky before.
    lights: {
      key: { direction: toward(0.7, 0.35, 0.6), colour: [0.24, 0.16, 0.08] },
      others: [{ direction: toward(0, 0.25, -1), colour: [0.4, 0.2, 0.14] }],
      ambient: [0.1, 0.105, 0.14],
      ...noBounce,
    },
  },
  {
    name: 'net-loft',
    title: 'Net loft',
    scene: netLoft,
    facts: { horizon: null, cameraHeight: null, lightFrom: 0.4 },
    tags: ['indoors'],
    look: { wall: 0.45, shadowSide: -0.6, shadowLength: 0.6, vignette: 0.25 },
    // One lamp from the upper right, and what the boards throw back.
    lights: {
      key: { direction: toward(0.4, 0.6, 0.6), colour: [0.9, 0.82, 0.7] },
      others: [],
      ambient: [0.25, 0.22, 0.18],
      ...noBounce,
    },
  },
];

/** What a matt ball of the stand-in camera would show in such light. */
export function ballIn(lights: Lights): BallLight | null {
  const facings: Facing[] = [];
  for (let y = -0.9; y <= 0.9; y += 0.1)
    for (let x = -0.9; x <= 0.9; x += 0.1)
      if (x * x + y * y < 0.9) facings.push({ x, y, z: Math.sqrt(1 - x * x - y * y) });
  const colours = facings.map((facing) =>
    [0, 1, 2].map((c) =>
      [lights.key, ...lights.others].reduce(
        (sum, { direction: [x, y, z], colour }) =>
          sum + MATT_BALL * colour[c] * Math.max(0, x * facing.x + y * facing.y + z * facing.z),
        MATT_BALL * lights.ambient[c],
      ),
    ),
  );
  return fitBallLight(facings, colours) ?? null;
}

function toward(x: number, y: number, z: number): Vector {
  const length = Math.hypot(x, y, z);
  return [x / length, y / length, z / length];
}

/** Paints a background, 8-bit sRGB, with a little grain so that skies do not band. */
export function paintBackground(
  scene: Scene,
  width: number,
  height: number,
  seed: number,
): EncodedRaster & { channels: 3 } {
  const data = new Uint8Array(width * height * 3);
  const encode = encoderFor(data);
  const random = seededRandom(seed);
  const colour: [number, number, number] = [0, 0, 0];
  for (let y = 0, i = 0; y < height; y++) {
    for (let x = 0; x < width; x++, i += 3) {
      scene((x + 0.5) / height, (y + 0.5) / height, colour);
      const grain = 1 + 0.02 * (random() - 0.5);
      for (let c = 0; c < 3; c++) data[i + c] = encode(Math.max(0, colour[c]) * grain + 0.002 * (random() - 0.5));
    }
  }
  return { width, height, channels: 3, data };
}

function mixInto(out: [number, number, number], r: number, g: number, b: number, t: number): void {
  const k = t < 0 ? 0 : t > 1 ? 1 : t;
  out[0] += (r - out[0]) * k;
  out[1] += (g - out[1]) * k;
  out[2] += (b - out[2]) * k;
}

function daySky(u: number, v: number, seed: number, out: [number, number, number]): void {
  const t = Math.min(1, v / 0.6);
  out[0] = 0.16 + 0.42 * t;
  out[1] = 0.34 + 0.36 * t;
  out[2] = 0.66 + 0.18 * t;
  const cloud = fractalNoise(u * 2.2 + 3, v * 5.2, seed, 6) + 0.35 * fractalNoise(u * 7, v * 13, seed + 3, 4);
  const lit = 0.82 + 0.22 * fractalNoise(u * 6, v * 12 + 0.4, seed + 9, 4);
  mixInto(out, lit, lit * 0.985, lit * 0.96, smoothstep((cloud + 0.02) / 0.42) * 0.85);
}

function cliffPath(): Scene {
  return (u, v, out) => {
    daySky(u, v, 11, out);
    const horizon = 0.47;
    if (v > horizon) {
      const d = v - horizon;
      const ripple =
        noise2((u * 40) / (0.15 + d), (d * 900) / (0.4 + d * 6), 21) * 0.5 + fractalNoise(u * 30, d * 160, 22, 3);
      mixInto(out, 0.07 + 0.05 * ripple, 0.2 + 0.09 * ripple, 0.27 + 0.1 * ripple, 1);
      mixInto(out, 0.5, 0.6, 0.68, 0.55 * Math.exp(-d * 26));
    }
    // Far headlands, paler with distance.
    for (let n = 0; n < 3; n++) {
      const top =
        horizon -
        0.05 +
        0.018 * n -
        0.06 * smoothstep((u - 0.3 + 0.1 * n) / 0.5) +
        0.02 * fractalNoise(u * (6 + 3 * n), n, 31 + n, 4);
      if (v > top && v < horizon + 0.035 * n + 0.03 * (u - 0.2)) {
        const haze = 0.72 - 0.2 * n;
        const rock = 0.5 + 0.5 * fractalNoise(u * 40, v * 18, 40 + n, 4);
        mixInto(
          out,
          0.2 + 0.16 * rock + 0.3 * haze * 0.6,
          0.19 + 0.13 * rock + 0.3 * haze * 0.65,
          0.15 + 0.1 * rock + 0.3 * haze * 0.8,
          1,
        );
      }
    }
    // The near ground with the path running down to the viewer.
    const ground = 0.66 - 0.14 * smoothstep((u - 0.15) / 0.6) + 0.012 * fractalNoise(u * 14, 2, 55, 4);
    if (v > ground) {
      const depth = (v - ground) / (1 - ground + 0.2);
      const size = 1 / (0.12 + depth);
      const grass = fractalNoise(u * 90 * size * 0.5, v * 60 * size * 0.3, 60, 5);
      const blade = noise2(u * 420 * size * 0.25, v * 70 * size * 0.3, 61);
      const level = 0.75 + 0.35 * grass + 0.22 * blade;
      mixInto(out, 0.21 * level, 0.2 * level, 0.075 * level, 1);
      const thrift = smoothstep((fractalNoise(u * 60, v * 50, 64, 3) - 0.32) / 0.1) * (0.3 + depth);
      mixInto(out, 0.5, 0.2, 0.32, 0.55 * thrift);
      const centre = 0.4 + 0.22 * Math.pow(1 - depth, 2) + 0.05 * Math.sin(depth * 7);
      const half = 0.012 + 0.17 * depth * depth + 0.008 * fractalNoise(v * 30, 1, 66, 3);
      const stones = 0.8 + 0.25 * fractalNoise(u * 60 * size * 0.4, v * 40 * size * 0.4, 67, 5);
      mixInto(
        out,
        0.44 * stones,
        0.37 * stones,
        0.27 * stones,
        smoothstep((half - Math.abs(u - centre)) / (0.3 * half + 0.004) + 0.5),
      );
    }
  };
}

function skyOfKites(): Scene {
  const random = seededRandom(77);
  const palette = [
    [0.72, 0.1, 0.07],
    [0.85, 0.55, 0.06],
    [0.06, 0.2, 0.55],
    [0.8, 0.78, 0.72],
    [0.42, 0.08, 0.36],
    [0.03, 0.32, 0.36],
  ];
  const kites = Array.from({ length: 26 }, () => ({
    x: random() * 0.75,
    y: 0.04 + random() * 0.6,
    size: 0.012 + 0.05 * random() ** 3,
    angle: (random() - 0.5) * 0.9,
    colours: [palette[(random() * 6) | 0], palette[(random() * 6) | 0]],
    phase: random() * 6,
  }));
  return (u, v, out) => {
    daySky(u, v * 0.8, 91, out);
    for (const kite of kites) {
      const dx = u - kite.x;
      const dy = v - kite.y;
      if (Math.abs(dx) > kite.size * 1.6 || dy < -kite.size * 1.3 || dy > kite.size * 7) continue;
      const a = dx * Math.cos(kite.angle) + dy * Math.sin(kite.angle);
      const b = -dx * Math.sin(kite.angle) + dy * Math.cos(kite.angle);
      const inside = 1 - Math.abs(a) / (kite.size * 0.72) - Math.abs(b) / (b < 0 ? kite.size * 0.8 : kite.size * 1.25);
      if (inside > 0) {
        const c = kite.colours[a * b > 0 ? 0 : 1];
        const shade = 0.85 + 0.3 * (a / kite.size);
        mixInto(out, c[0] * shade, c[1] * shade, c[2] * shade, smoothstep(inside * kite.size * 900));
      }
      const along = dy - kite.size * 1.1;
      if (along > 0) {
        const wave =
          kite.size * 0.35 * Math.sin((along / kite.size) * 2.2 + kite.phase) * Math.min(1, along / kite.size);
        mixInto(out, 0.25, 0.24, 0.24, 0.8 * smoothstep(1.6 - Math.abs(dx - wave) * 1700));
      }
    }
    const dune = 0.86 + 0.03 * Math.sin(u * 5) + 0.015 * fractalNoise(u * 12, 0, 95, 4);
    if (v > dune - 0.03) {
      const sand = 0.85 + 0.2 * fractalNoise(u * 50, v * 90, 96, 4);
      mixInto(out, 0.6 * sand, 0.49 * sand, 0.33 * sand, smoothstep((v - dune) * 400));
      const reed = noise2(u * 260 + 18 * (dune - v), v * 10, 97) + 0.5 * noise2(u * 90, v * 5, 98);
      mixInto(
        out,
        0.27,
        0.24,
        0.11,
        smoothstep((reed - 0.25 - (dune - v) * 22) * 3) *
          smoothstep((v - dune + 0.03) * 60) *
          smoothstep((dune + 0.035 - v) * 50),
      );
    }
  };
}

function harbourAtDusk(): Scene {
  const random = seededRandom(5);
  const lamps = Array.from({ length: 17 }, () => ({ x: random() * 0.76, y: 0.475 - 0.03 * random(), warm: random() }));
  const masts = Array.from({ length: 13 }, () => ({
    x: random() * 0.78,
    top: 0.26 + 0.17 * random(),
    hull: 0.018 + 0.02 * random(),
  }));
  const water = 0.5;
  const sky: Scene = (u, v, out) => {
    const t = Math.min(1, v / water);
    out[0] = 0.03 + 0.62 * t * t * t + 0.05 * t;
    out[1] = 0.045 + 0.2 * t * t + 0.05 * t;
    out[2] = 0.13 + 0.12 * t - 0.05 * t * t * t;
    const band = fractalNoise(u * 2.5, v * 16, 3, 5);
    mixInto(out, 0.55, 0.2, 0.15, 0.6 * smoothstep(band * 2) * t);
    mixInto(
      out,
      0.028,
      0.03,
      0.05,
      smoothstep((v - 0.455 + 0.03 * fractalNoise(u * 9, 1, 8, 5) + 0.05 * Math.abs(u - 0.4)) * 300),
    );
    for (const mast of masts) {
      mixInto(out, 0.012, 0.013, 0.02, v > mast.top ? smoothstep(1.5 - Math.abs(u - mast.x) * 1500) : 0);
      mixInto(
        out,
        0.012,
        0.013,
        0.02,
        v > 0.478 ? smoothstep(1.5 - (Math.abs(u - mast.x) - mast.hull + (0.5 - v) * -0.4) * 300) : 0,
      );
      mixInto(
        out,
        0.012,
        0.013,
        0.02,
        v > mast.top ? 0.6 * smoothstep(1.2 - Math.abs(Math.abs(u - mast.x) - (v - mast.top) * 0.2) * 2600) : 0,
      );
    }
    for (const lamp of lamps) {
      const d = Math.hypot(u - lamp.x, v - lamp.y);
      const glow = 0.0000012 / (d * d * d + 0.0000004);
      out[0] += glow * 0.9;
      out[1] += glow * (0.45 + 0.25 * lamp.warm);
      out[2] += glow * 0.16;
    }
  };
  return (u, v, out) => {
    if (v < water) return sky(u, v, out);
    const d = v - water;
    const ripple =
      (noise2((u * 26) / (0.1 + d), (d * 260) / (0.25 + d), 12) +
        0.6 * noise2((u * 60) / (0.1 + d), (d * 700) / (0.25 + d), 13)) *
      (0.012 + 0.1 * d);
    sky(u + ripple * 0.35, Math.max(0, water - d * 0.95 - Math.abs(ripple) * 0.9), out);
    const dark = 0.72 - 0.5 * d;
    out[0] *= dark;
    out[1] *= dark;
    out[2] = out[2] * dark + 0.008;
  };
}

function netLoft(): Scene {
  return (u, v, out) => {
    const board = Math.floor(u / 0.072);
    const within = u / 0.072 - board;
    const grain = fractalNoise(u * 160 + board * 7, v * 5 + board * 3.1, 200 + board, 5);
    const knot = smoothstep((fractalNoise(u * 16, v * 9, 210, 2) - 0.42) * 9);
    const level =
      (0.78 + 0.3 * grain - 0.35 * knot) *
      (0.85 + 0.25 * noise2(board * 3.3, 0.5, 220)) *
      (1 - 0.7 * Math.exp(-(Math.min(within, 1 - within) ** 2) * 2600));
    out[0] = 0.34 * level;
    out[1] = 0.215 * level;
    out[2] = 0.13 * level;
    // A hanging net: two families of sagging lines.
    const sag = 0.05 * Math.sin((u - 0.1) * 5);
    const fall = v - 0.12 - sag;
    if (fall > 0 && u < 0.34 + 0.08 * Math.sin(v * 6)) {
      const a = Math.abs(((u * 18 + fall * 15 + 0.3 * noise2(u * 8, v * 8, 230)) % 1) - 0.5);
      const b = Math.abs(((u * 18 - fall * 15 + 40 + 0.3 * noise2(u * 8, v * 8, 231)) % 1) - 0.5);
      const line = Math.max(smoothstep((0.06 - a) * 30), smoothstep((0.06 - b) * 30));
      mixInto(out, 0.03, 0.12, 0.14, 0.85 * line * smoothstep((0.8 - fall) * 6));
    }
    // Cork floats on a rope along the top of the net.
    for (let n = 0; n < 6; n++) {
      const cx = 0.03 + n * 0.062;
      const cy = 0.12 + 0.05 * Math.sin((cx - 0.1) * 5);
      const d = Math.hypot(u - cx, (v - cy) * 1.25) / 0.024;
      if (d < 1.1) {
        const bright = Math.max(0.12, 0.95 - 0.75 * Math.hypot((u - cx) / 0.024 - 0.4, (v - cy) / 0.024 + 0.45) * 0.75);
        mixInto(out, 0.62 * bright, 0.2 * bright, 0.07 * bright, smoothstep((1 - d) * 24));
      }
    }
    const lamp = Math.exp(-((u - 0.62) ** 2 * 3.2 + (v - 0.18) ** 2 * 2.2));
    const floor = v > 0.9 ? 0.6 : 1;
    for (let c = 0; c < 3; c++) out[c] *= (0.25 + 1.5 * lamp * [1, 0.92, 0.8][c]) * floor;
  };
}
