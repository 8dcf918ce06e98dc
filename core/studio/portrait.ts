import { encoderFor } from '../colour/transfer.ts';
import { createPlane, type EncodedRaster, type LinearRaster, type Plane } from '../image/raster.ts';
import { buildFigure, type Subject } from './figure.ts';
import { drawKite } from './kite.ts';
import { paintScreen, type ScreenSetup } from './litScreen.ts';
import { traceBody, type View } from './march.ts';
import { gaussian, seededRandom } from './random.ts';
import { shadeBody, type Lights } from './shade.ts';
import { SolidField } from './solids.ts';
import { drawStrands, growHair } from './strands.ts';

/** One picture to render. */
export interface PortraitPlan {
  subject: Subject;
  screen: ScreenSetup;
  width: number;
  height: number;
  /** Light that the screen throws back on the person, relative to the key. */
  bounce: number;
  /** Read noise and shot noise of the camera, linear: σ² = read² + shot · level. */
  readNoise: number;
  shotNoise: number;
  /** Standard deviation of the lens blur in pixels. */
  blur: number;
}

/** A rendered frame with everything that is true about it. */
export interface Portrait {
  /** The photograph, 16-bit sRGB. */
  frame: EncodedRaster & { channels: 3; data: Uint16Array };
  /** True coverage 0–1. */
  matte: Plane;
  /** True foreground, premultiplied linear RGBA. */
  foreground: LinearRaster;
  /** True screen behind it, linear RGB. */
  screen: LinearRaster;
}

/** Half-length framing: the picture is this many metres high, the head's centre this far down. */
const FRAME_METRES = 1.02;
const HEAD_DOWN = 0.27;

/** Renders person, hair, prop and lit screen, mixes them in linear light, and photographs the result. */
export function renderPortrait(plan: PortraitPlan): Portrait {
  const { width, height, subject } = plan;
  const random = seededRandom(subject.seed);
  const figure = buildFigure(subject, random);
  const scale = height / FRAME_METRES;
  const lean = subject.pose === 'down' ? 0 : -0.03;
  const view: View = { width, height, scale, originX: width / 2 + (lean + (random() - 0.5) * 0.03) * scale, originY: HEAD_DOWN * scale };
  const lights = lightsFor(plan, random() < 0.5 ? -1 : 1);
  const body = new SolidField(figure.solids);
  const geometry = traceBody(body, view, lights.key);
  const shaded = shadeBody(geometry, view, subject, figure, lights);
  const strands = growHair(subject, figure, body);
  const picture = { width, height, channels: 4, data: new Float32Array(width * height * 4) };
  if (subject.prop === 'kite') {
    drawKite(
      picture,
      {
        centre: [figure.hand[0] - 0.035, figure.hand[1] + 0.21, -0.1],
        halfWidth: 0.165,
        halfHeight: 0.2,
        angle: 0.22,
        cloth: [[0.82, 0.8, 0.76], [0.86, 0.42, 0.3]],
        coverage: 0.55,
        hand: figure.hand,
        seed: subject.seed,
      },
      view,
      lights,
    );
  }
  drawStrands(picture, strands, view, geometry, subject.hair.colour, lights, 'behind');
  layOver(picture, shaded);
  drawStrands(picture, strands, view, geometry, subject.hair.colour, lights, 'front');
  const foreground = blurLens(picture, plan.blur);
  const matte = createPlane(width, height);
  for (let p = 0; p < matte.data.length; p++) matte.data[p] = Math.min(1, foreground.data[p * 4 + 3]);
  const screen = paintScreen(plan.screen, width, height, subject.seed + 900, matte);
  return { frame: photograph(plan, foreground, screen), matte, foreground, screen };
}

function lightsFor(plan: PortraitPlan, side: 1 | -1): Lights {
  const s = plan.screen.colour;
  return {
    key: unit(side * 0.55, 0.45, 0.72),
    keyColour: [1.02, 0.98, 0.93],
    fill: unit(-side * 0.7, 0.12, 0.7),
    fillColour: [0.2, 0.21, 0.22],
    edge: unit(-side * 0.6, 0.6, -0.52),
    edgeColour: [0.42, 0.43, 0.45],
    ambient: [0.15, 0.155, 0.16],
    bounce: [s[0] * plan.bounce, s[1] * plan.bounce, s[2] * plan.bounce],
  };
}

function unit(x: number, y: number, z: number): readonly [number, number, number] {
  const n = Math.hypot(x, y, z);
  return [x / n, y / n, z / n];
}

function layOver(below: LinearRaster, above: LinearRaster): void {
  const a = above.data;
  const b = below.data;
  for (let i = 0; i < a.length; i += 4) {
    const keep = 1 - a[i + 3];
    if (keep === 1) continue;
    for (let c = 0; c < 4; c++) b[i + c] = b[i + c] * keep + a[i + c];
  }
}

/** A 5-tap Gaussian along rows, then columns, over premultiplied values: what lens and sensor leave of an edge. */
function blurLens(picture: LinearRaster, sigma: number): LinearRaster {
  if (sigma <= 0) return picture;
  const { width, height } = picture;
  const taps = [0, 1, 2].map((d) => Math.exp(-(d * d) / (2 * sigma * sigma)));
  const total = taps[0] + 2 * (taps[1] + taps[2]);
  const [w0, w1, w2] = taps.map((t) => t / total);
  const pass = (source: Float32Array, target: Float32Array, stride: number, length: number, lines: number, lineStride: number): void => {
    for (let line = 0; line < lines; line++) {
      const start = line * lineStride;
      for (let n = 0; n < length; n++) {
        const a = start + Math.max(0, n - 2) * stride;
        const b = start + Math.max(0, n - 1) * stride;
        const m = start + n * stride;
        const c = start + Math.min(length - 1, n + 1) * stride;
        const d = start + Math.min(length - 1, n + 2) * stride;
        for (let k = 0; k < 4; k++) target[m + k] = w0 * source[m + k] + w1 * (source[b + k] + source[c + k]) + w2 * (source[a + k] + source[d + k]);
      }
    }
  };
  const rows = new Float32Array(picture.data.length);
  pass(picture.data, rows, 4, width, height, width * 4);
  pass(rows, picture.data, width * 4, height, width, 4);
  return picture;
}

function photograph(plan: PortraitPlan, foreground: LinearRaster, screen: LinearRaster): Portrait['frame'] {
  const { width, height } = plan;
  const random = seededRandom(plan.subject.seed + 4242);
  const data = new Uint16Array(width * height * 3);
  const encode = encoderFor(data);
  for (let p = 0; p < width * height; p++) {
    const through = 1 - Math.min(1, foreground.data[p * 4 + 3]);
    for (let c = 0; c < 3; c++) {
      const level = foreground.data[p * 4 + c] + through * screen.data[p * 3 + c];
      const sigma = Math.sqrt(plan.readNoise ** 2 + plan.shotNoise * level);
      data[p * 3 + c] = encode(level + sigma * gaussian(random));
    }
  }
  return { width, height, channels: 3, data };
}
