import type { LinearRaster } from '../image/raster.ts';
import { hairline, type Figure, type Subject } from './figure.ts';
import type { Lights } from './lights.ts';
import { lightAt, type Geometry, type View } from './march.ts';
import { fractalNoise, noise2 } from '../random.ts';
import { Part } from './solids.ts';

/**
 * From this scale on, px/m, cloth and skin are shaded at every second pixel each way and carried between: under a
 * millimetre.
 */
const SPARSE_SCALE = 1200;

/** Colours the body over what `out` holds already, premultiplied linear RGBA. */
export function shadeBody(
  g: Geometry,
  view: View,
  subject: Subject,
  figure: Figure,
  lights: Lights,
  out: LinearRaster,
): void {
  const { width, height, scale } = view;
  const creases = new FoldSlopes(view, subject.seed);
  const sparse = scale >= SPARSE_SCALE;
  const step = sparse ? 2 : 1;
  for (let y = 0; y < height; y += step)
    for (let x = 0; x < width; x += step) shadePixel(g, view, subject, figure, creases, lights, out.data, x, y);
  if (!sparse) return;
  for (let y = 0; y < height; y++) {
    for (let x = (y & 1) ^ 1; x < width; x += y & 1 ? 1 : 2) {
      if (!carry(g, out.data, width, height, x, y))
        shadePixel(g, view, subject, figure, creases, lights, out.data, x, y);
    }
  }
}

/**
 * Takes the mean of the shaded neighbours if all of them are of one part and wholly covered.
 * @returns whether it did.
 */
function carry(
  { coverage, part }: Geometry,
  data: Float32Array,
  width: number,
  height: number,
  x: number,
  y: number,
): boolean {
  const p = y * width + x;
  if (coverage[p] <= 0) return true;
  const kind = part[p];
  const x0 = x & ~1;
  const y0 = y & ~1;
  const x1 = x & 1 ? x0 + 2 : x0;
  const y1 = y & 1 ? y0 + 2 : y0;
  if (coverage[p] < 1 || kind === Part.eye || kind === Part.lips || kind === Part.rim || x1 >= width || y1 >= height)
    return false;
  const a = y0 * width + x0;
  const b = y0 * width + x1;
  const c = y1 * width + x0;
  const d = y1 * width + x1;
  if (
    coverage[a] < 1 ||
    coverage[b] < 1 ||
    coverage[c] < 1 ||
    coverage[d] < 1 ||
    part[a] !== kind ||
    part[b] !== kind ||
    part[c] !== kind ||
    part[d] !== kind
  )
    return false;
  for (let k = 0; k < 3; k++)
    data[p * 4 + k] = (data[a * 4 + k] + data[b * 4 + k] + data[c * 4 + k] + data[d * 4 + k]) / 4;
  data[p * 4 + 3] = 1;
  return true;
}

const albedo: [number, number, number] = [0, 0, 0];
const bent: [number, number, number] = [0, 0, 0];
const reached: [number, number] = [0, 0];

function shadePixel(
  g: Geometry,
  { width, scale, originX, originY }: View,
  subject: Subject,
  figure: Figure,
  creases: FoldSlopes,
  lights: Lights,
  out: Float32Array,
  x: number,
  y: number,
): void {
  const p = y * width + x;
  const coverage = g.coverage[p];
  if (coverage <= 0) return;
  bent[0] = g.normal[p * 3];
  bent[1] = g.normal[p * 3 + 1];
  bent[2] = g.normal[p * 3 + 2];
  const part = g.part[p];
  surface(
    part,
    (x + 0.5 - originX) / scale,
    (originY - y - 0.5) / scale,
    g.depth[p],
    subject,
    figure,
    creases,
    albedo,
    bent,
  );
  const gloss =
    part === Part.eye || part === Part.metal
      ? 0.9
      : part === Part.skin
        ? 0.1
        : part === Part.lips
          ? 0.18
          : part === Part.rim
            ? 0.4
            : 0;
  lightAt(g.light, x, y, g.depth[p], reached);
  light(albedo, bent, reached[0], reached[1], part, gloss, lights, out, p * 4, coverage);
}

function surface(
  part: number,
  x: number,
  y: number,
  z: number,
  subject: Subject,
  figure: Figure,
  creases: FoldSlopes,
  albedo: [number, number, number],
  n: [number, number, number],
): void {
  const { seed, garment } = subject;
  if (part === Part.skin || part === Part.lips) {
    skin(x, y, z, subject, figure, albedo);
    if (part === Part.lips) {
      albedo[0] = albedo[0] * 0.86;
      albedo[1] *= 0.52;
      albedo[2] *= 0.56;
    }
    bump(n, x, y, seed + 3, 900, 0.05 + 0.05 * subject.age);
    if (subject.age > 0.4) lines(n, x, y, figure, subject.age);
    return;
  }
  if (part === Part.eye) {
    eye(x, y, subject, figure, albedo);
    return;
  }
  if (part === Part.scalp) {
    for (let c = 0; c < 3; c++) albedo[c] = subject.hair.colour[c] * 0.5;
    return;
  }
  if (part === Part.rim || part === Part.metal || part === Part.wood) {
    const base = part === Part.rim ? RIM : part === Part.metal ? METAL : WOOD;
    const grain = part === Part.wood ? 1 + 0.25 * fractalNoise(x * 60, y * 260, seed + 6, 3) : 1;
    for (let c = 0; c < 3; c++) albedo[c] = base[c] * grain;
    return;
  }
  if (part === Part.hat && subject.headwear) {
    const weave = 1 + 0.08 * fractalNoise(x * 40, y * 40, seed + 7, 3) + 0.05 * Math.sin(y * 1400) * Math.sin(x * 1400);
    for (let c = 0; c < 3; c++) albedo[c] = subject.headwear.colour[c] * weave;
    if (subject.headwear.kind !== 'cap') folds(n, x * 1.6, y * 1.6, foldSlope(x * 1.6, y * 1.6, seed + 4));
    normalise(n);
    return;
  }
  const cloth =
    part === Part.legs
      ? garment.legs
      : part === Part.trim
        ? (garment.scarf ?? garment.colour)
        : part === Part.shirt
          ? garment.shirt
          : garment.colour;
  const wear = 1 + 0.1 * fractalNoise(x * 14, y * 14, seed + 5, 3) + 0.05 * noise2(x * 700, y * 700, seed + 9);
  const shade = part === Part.trim && !garment.scarf ? 0.8 : 1;
  for (let c = 0; c < 3; c++) albedo[c] = cloth[c] * wear * shade;
  if (part === Part.garment || part === Part.legs) folds(n, x, y, creases.at(x, y));
  if (part === Part.garment && garment.kind === 'knit') {
    const rib = Math.sin(x * 900 + 0.6 * Math.sin(y * 900));
    n[0] += 0.16 * rib;
    for (let c = 0; c < 3; c++)
      albedo[c] *= 0.93 + 0.07 * Math.sin(y * 900 + Math.PI * Math.floor((x * 900) / Math.PI));
  }
  if (part === Part.garment && garment.kind === 'jacket') {
    const seam = Math.abs(x - 0.003);
    if (seam < 0.0075 && y < -0.25) {
      const tooth = seam < 0.003 ? 0.55 + 0.4 * Math.sign(Math.sin(y * 1500)) : 0.7;
      for (let c = 0; c < 3; c++) albedo[c] *= tooth;
      n[0] += (x - 0.003) * 70;
    }
    if (Math.abs(Math.abs(x) - 0.1) < 0.045 && Math.abs(y + 0.48 + 0.25 * (Math.abs(x) - 0.1)) < 0.0022)
      for (let c = 0; c < 3; c++) albedo[c] *= 0.55;
  }
  if (part === Part.trim && garment.scarf) {
    const weave = Math.sin(x * 420) * Math.sin(y * 420);
    n[0] += 0.25 * Math.sin(y * 180 + x * 60 + 2 * noise2(x * 20, y * 20, seed));
    for (let c = 0; c < 3; c++) albedo[c] *= 0.92 + 0.08 * weave;
  }
  normalise(n);
}

const RIM = [0.03, 0.028, 0.03];
const METAL = [0.75, 0.6, 0.28];
const WOOD = [0.36, 0.22, 0.11];

function normalise(n: [number, number, number]): void {
  const length = Math.hypot(n[0], n[1], n[2]) || 1;
  n[0] /= length;
  n[1] /= length;
  n[2] /= length;
}

/** Creases of cloth: warped diagonal waves, stronger towards the waist and along the arms. */
function folds(n: [number, number, number], x: number, y: number, [across, up]: readonly [number, number]): void {
  const strength = 0.0045 * (0.55 + Math.min(1.2, Math.max(0, -y - 0.2) * 1.4 + Math.max(0, Math.abs(x) - 0.1) * 2.4));
  n[0] -= strength * across;
  n[1] -= strength * up;
}

/** Over how much of the cloth a slope is taken, metres. */
const FOLD_STEP = 0.002;
const slope: [number, number] = [0, 0];

function foldSlope(x: number, y: number, seed: number): [number, number] {
  const here = foldHeight(x, y, seed);
  slope[0] = (foldHeight(x + FOLD_STEP, y, seed) - here) / FOLD_STEP;
  slope[1] = (foldHeight(x, y + FOLD_STEP, seed) - here) / FOLD_STEP;
  return slope;
}

/** Slopes of the creases over all that a view shows, computed once for places two millimetres or a pixel apart. */
class FoldSlopes {
  private readonly step: number;
  private readonly left: number;
  private readonly low: number;
  private readonly columns: number;
  private readonly heights: Float32Array;

  constructor({ width, height, scale, originX, originY }: View, seed: number) {
    this.step = Math.max(FOLD_STEP, 1 / scale);
    this.left = -originX / scale;
    this.low = (originY - height) / scale;
    this.columns = Math.ceil(width / scale / this.step) + 3;
    const rows = Math.ceil(height / scale / this.step) + 3;
    this.heights = new Float32Array(this.columns * rows);
    for (let v = 0; v < rows; v++)
      for (let u = 0; u < this.columns; u++)
        this.heights[v * this.columns + u] = foldHeight(this.left + u * this.step, this.low + v * this.step, seed);
  }

  /** Slope to the right and upwards at a place inside the view, metres. */
  at(x: number, y: number): [number, number] {
    const { columns, heights } = this;
    const gx = (x - this.left) / this.step;
    const gy = (y - this.low) / this.step;
    const p = (gy | 0) * columns + (gx | 0);
    const u = gx - (gx | 0);
    const v = gy - (gy | 0);
    // Slopes between four places and their neighbours, taken bilinearly.
    const lower = heights[p + 1] - heights[p];
    const upper = heights[p + columns + 1] - heights[p + columns];
    const nextLower = heights[p + 2] - heights[p + 1];
    const nextUpper = heights[p + columns + 2] - heights[p + columns + 1];
    slope[0] = ((lower * (1 - u) + nextLower * u) * (1 - v) + (upper * (1 - u) + nextUpper * u) * v) / this.step;
    const before = heights[p + columns] - heights[p];
    const after = heights[p + columns + 1] - heights[p + 1];
    const before2 = heights[p + 2 * columns] - heights[p + columns];
    const after2 = heights[p + 2 * columns + 1] - heights[p + columns + 1];
    slope[1] = ((before * (1 - v) + before2 * v) * (1 - u) + (after * (1 - v) + after2 * v) * u) / this.step;
    return slope;
  }
}

function foldHeight(x: number, y: number, seed: number): number {
  const warp = 1.5 * fractalNoise(x * 5, y * 5, seed + 21, 2);
  const a = Math.sin(Math.abs(x) * 26 + y * 19 + 4 * warp);
  const b = Math.sin(y * 34 - Math.abs(x) * 22 + 5 * warp);
  const fine = fractalNoise(x * 42, y * 24, seed + 22, 3);
  return 0.5 * a * a * a + 0.45 * b * b * b + 0.8 * fine;
}

/** Lines of age: across the forehead, beside the eyes and from nose to mouth. */
function lines(n: [number, number, number], x: number, y: number, figure: Figure, age: number): void {
  const side = Math.abs(x - 0.06 * Math.sin(figure.turn));
  const forehead = Math.exp(-(((y - 0.062) / 0.02) ** 2)) * Math.sin(y * 700 + 3 * side * 20) * (side < 0.05 ? 1 : 0);
  const fold = Math.exp(-(((side - 0.026 - (-0.03 - y) * 0.35) / 0.0035) ** 2)) * (y < -0.028 && y > -0.075 ? 1 : 0);
  const eyes = Math.exp(-(((side - 0.058) / 0.008) ** 2) - ((y - 0.005) / 0.014) ** 2) * Math.sin(y * 1100);
  n[1] += age * 0.22 * (forehead + eyes);
  n[0] += age * 0.3 * fold * Math.sign(x);
  normalise(n);
}

function bump(
  n: [number, number, number],
  x: number,
  y: number,
  seed: number,
  frequency: number,
  amount: number,
): void {
  n[0] += amount * noise2(x * frequency, y * frequency, seed);
  n[1] += amount * noise2(x * frequency, y * frequency, seed + 1);
  normalise(n);
}

function skin(
  x: number,
  y: number,
  z: number,
  subject: Subject,
  figure: Figure,
  albedo: [number, number, number],
): void {
  const t = figure.turn;
  const hx = x * Math.cos(t) - z * Math.sin(t);
  const blush =
    spot(Math.abs(hx) - 0.042, y + 0.028, 0.026) * 0.75 +
    spot(hx, y + 0.032, 0.015) * 0.55 +
    spot(Math.abs(hx) - 0.078, y, 0.024) * 0.6 +
    spot(hx, y + 0.103, 0.02) * 0.3;
  const socket = spot(Math.abs(hx) - 0.0315, y - 0.008, 0.017);
  const mottle =
    1 + 0.06 * fractalNoise(x * 55, y * 55, subject.seed + 1, 4) + 0.03 * noise2(x * 420, y * 420, subject.seed + 2);
  const beard = subject.beard && y < -0.035 && y > -0.13 && z > -0.02 ? Math.min(1, (-0.035 - y) * 40) * 0.35 : 0;
  const s = subject.skin;
  albedo[0] = s[0] * mottle * (1 + 0.04 * blush - 0.14 * socket) * (1 - beard);
  albedo[1] = s[1] * mottle * (1 - 0.17 * blush - 0.2 * socket) * (1 - beard);
  albedo[2] = s[2] * mottle * (1 - 0.15 * blush - 0.16 * socket) * (1 - beard);
  if (subject.hair.style === 'none' || subject.headwear?.kind === 'scarf' || y < -0.1 || Math.abs(hx) > 0.0755) return;
  // Under dense hair the scalp is in its shade.
  const hz = x * Math.sin(t) + z * Math.cos(t);
  const length = Math.sqrt(hx * hx + (y - 0.043) ** 2 + (hz + 0.012) ** 2) || 1;
  const over = Math.max(0, Math.min(1, (y - hairline(hx / length, (hz + 0.012) / length)) / 0.008));
  for (let c = 0; c < 3; c++) albedo[c] += over * 0.85 * (subject.hair.colour[c] * 0.45 - albedo[c]);
}

function spot(dx: number, dy: number, radius: number): number {
  return Math.exp(-(dx * dx + dy * dy) / (radius * radius));
}

function eye(x: number, y: number, subject: Subject, figure: Figure, albedo: [number, number, number]): void {
  // The gaze goes to the camera, so the iris sits in the middle of the ball as seen; find the nearer ball.
  const t = figure.turn;
  const centre = (side: number): number => side * 0.0315 * Math.cos(t) + 0.065 * Math.sin(t);
  const side = Math.abs(x - centre(1)) < Math.abs(x - centre(-1)) ? 1 : -1;
  const dx = x - centre(side) + 0.003 * Math.sin(t);
  const dy = y - 0.0085;
  const r = Math.hypot(dx, dy) / 0.0062;
  const angle = Math.atan2(dy, dx);
  if (r < 0.42) albedo.fill(0.006);
  else if (r < 1) {
    const ray = 0.75 + 0.4 * noise2(angle * 9, r * 3, subject.seed + 31);
    const ring = r > 0.86 ? 0.35 : 1;
    for (let c = 0; c < 3; c++) albedo[c] = subject.eyes[c] * ray * ring;
  } else {
    const vein = 1 - 0.06 * (r - 1);
    albedo[0] = 0.66 * vein;
    albedo[1] = 0.6 * vein;
    albedo[2] = 0.57 * vein;
  }
  if (Math.hypot(dx + 0.0022, dy - 0.0024) < 0.0013) albedo.fill(2.2);
  if (dy > 0.0062) for (let c = 0; c < 3; c++) albedo[c] *= 0.45;
}

function light(
  albedo: [number, number, number],
  n: [number, number, number],
  open: number,
  lit: number,
  part: number,
  gloss: number,
  lights: Lights,
  out: Float32Array,
  o: number,
  coverage: number,
): void {
  const key = lights.key.direction;
  const keyColour = lights.key.colour;
  const k = n[0] * key[0] + n[1] * key[1] + n[2] * key[2];
  // Half vector between key and camera (0, 0, 1); most of cloth has no gloss to compute.
  let spec = 0;
  if (gloss > 0) {
    const hz = key[2] + 1;
    const toHalf = Math.max(0, (n[0] * key[0] + n[1] * key[1] + n[2] * hz) / Math.hypot(key[0], key[1], hz));
    spec = gloss * Math.pow(toHalf, part === Part.eye ? 120 : part === Part.metal ? 50 : 18) * lit;
  }
  // The screen fills the view of what faces back, and less than half of that of what faces sideways.
  const behind = Math.max(0, 0.42 - 0.58 * n[2]) * (0.3 + 0.7 * open);
  const away = 1 - Math.max(0, n[2]);
  const grazing = away * away * away;
  const isSkin = part === Part.skin || part === Part.lips;
  for (let c = 0; c < 3; c++) {
    // Light that entered the skin elsewhere softens the terminator, red most (a wrap of the cosine).
    const wrap = isSkin ? SKIN_WRAP[c] : 0.08;
    const diffuse = Math.max(0, (k + wrap) / (1 + wrap));
    const shadow = isSkin ? lit + (1 - lit) * SKIN_LEAK[c] : lit;
    received[c] =
      keyColour[c] * diffuse * shadow + lights.ambient[c] * (0.6 + 0.4 * n[1]) * open + lights.bounce[c] * behind;
    sheen[c] = lights.bounce[c] * 0.5;
  }
  const { others } = lights;
  for (let l = 0; l < others.length; l++) {
    const { direction, colour } = others[l];
    const facing = n[0] * direction[0] + n[1] * direction[1] + n[2] * direction[2];
    // What comes from behind grazes the outline unhindered; what comes from the front is kept out of the hollows.
    const reach = direction[2] < 0 ? 1 : open;
    const shine = direction[2] < 0 ? 1 : 0;
    for (let c = 0; c < 3; c++) {
      if (facing > 0) received[c] += colour[c] * facing * reach;
      sheen[c] += colour[c] * shine;
    }
  }
  const keep = 1 - coverage;
  for (let c = 0; c < 3; c++)
    out[o + c] =
      keep * out[o + c] +
      coverage * (albedo[c] * received[c] + (isSkin ? 0.02 : 0.012) * grazing * sheen[c] + spec * keyColour[c]);
  out[o + 3] = keep * out[o + 3] + coverage;
}

const received: [number, number, number] = [0, 0, 0];
const sheen: [number, number, number] = [0, 0, 0];
const SKIN_WRAP = [0.34, 0.2, 0.15];
const SKIN_LEAK = [0.14, 0.06, 0.04];
