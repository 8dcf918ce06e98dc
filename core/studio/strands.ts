import { createLinear } from '../image/raster.ts';
import { hairline, type Colour, type Figure, type Subject } from './figure.ts';
import type { Geometry, View } from './march.ts';
import { gaussian, seededRandom, type Random } from '../random.ts';
import type { Layer } from './layOver.ts';
import type { Lights } from './lights.ts';
import { boundsOf, type SolidField, type Vector } from './solids.ts';

/** One hair: a polyline in metres, its width at the root in metres (it tapers to a fifth), and its own tint. */
export interface Strand {
  points: Float32Array;
  width: number;
  tint: number;
}

const SEGMENTS = 18;
/** Height on the head from which a hat covers it, metres. */
const UNDER_HAT = 0.045;

/**
 * Grows hair, brows, lashes and beard of a subject.
 * @param share of the strands to grow, 0–1; fewer are wider, so that they cover as much.
 */
export function growHair(subject: Subject, figure: Figure, body: SolidField, share = 1): Strand[] {
  const random = seededRandom(subject.seed * 7 + 5);
  const strands: Strand[] = [];
  const { hair } = subject;
  if (hair.style !== 'none' && subject.headwear?.kind !== 'scarf') {
    const clumps = Array.from({ length: isCurly(hair.style) ? 420 : 260 }, () => ({
      phase: random() * 6.28,
      pitch: 0.8 + 0.5 * random(),
      bend: gaussian(random),
      root: rootOnScalp(random, figure.turn),
    }));
    // Small things do not hold hair up; what does is quickly asked.
    const support = body.select((solid) =>
      solid.kind === 'ellipsoid'
        ? solid.centre[1] > -0.6
        : solid.kind === 'capsule' && Math.max(solid.ra, solid.rb) > 0.03 && Math.max(solid.a[1], solid.b[1]) > -0.5,
    );
    for (let n = 0; n < hair.strands * share; n++) {
      const clump = clumps[(random() * clumps.length) | 0];
      const strand = headStrand(subject, figure, support, random, clump);
      // A hat keeps down what grows under it.
      if (subject.headwear && strand.points[1] > UNDER_HAT) continue;
      strands.push(widened(strand, 1 / share));
    }
  }
  growFace(subject, figure, body, random, strands);
  return strands;
}

function widened(strand: Strand, by: number): Strand {
  strand.width *= by;
  return strand;
}

function isCurly(style: Subject['hair']['style']): boolean {
  return style === 'curly' || style === 'frizzy';
}

interface Clump {
  phase: number;
  pitch: number;
  bend: number;
  root: Vector;
}

const SCALP = { centre: [0, 0.043, -0.012] as Vector, radii: [0.0755, 0.088, 0.0955] as Vector };

/** A point on the hairy part of the head. */
function rootOnScalp(random: Random, turn: number): Vector {
  for (;;) {
    const z = 2 * random() - 1;
    const a = 2 * Math.PI * random();
    const r = Math.sqrt(1 - z * z);
    const d: Vector = [r * Math.cos(a), r * Math.sin(a), z];
    const y = SCALP.centre[1] + d[1] * SCALP.radii[1];
    if (y < hairline(d[0], d[2])) continue;
    const x = d[0] * SCALP.radii[0];
    const zz = SCALP.centre[2] + d[2] * SCALP.radii[2];
    return [x * Math.cos(turn) + zz * Math.sin(turn), y, -x * Math.sin(turn) + zz * Math.cos(turn)];
  }
}

function headStrand(subject: Subject, figure: Figure, body: SolidField, random: Random, clump: Clump): Strand {
  const { style, flyaway, wind } = subject.hair;
  const curly = isCurly(style);
  const frizzy = style === 'frizzy';
  const spread = 0.011;
  let root: Vector = curly
    ? rootOnScalp(random, figure.turn)
    : [
        clump.root[0] + gaussian(random) * spread,
        clump.root[1] + gaussian(random) * spread,
        clump.root[2] + gaussian(random) * spread,
      ];
  root = ontoScalp(root, figure.turn);
  const stray = random() < flyaway;
  const length =
    subject.hair.length *
    (0.72 + 0.35 * random()) *
    (stray ? 1.05 : 1) *
    (style === 'short' && root[2] < -0.02 ? 0.6 : 1);
  const points = new Float32Array((SEGMENTS + 1) * 3);
  const step = length / SEGMENTS;
  const n = scalpNormal(root, figure.turn);
  const part = clump.bend > 0 ? 1 : -1;
  // Parted and combed as the head sees it, whichever way it is turned.
  const cos = Math.cos(figure.turn);
  const sin = Math.sin(figure.turn);
  const hx = root[0] * cos - root[2] * sin;
  const hz = root[0] * sin + root[2] * cos;
  const side = Math.sign(hx - 0.012) || part;
  const comb = side * 0.36;
  const back = hz > 0.03 ? -0.12 : -0.35;
  // Direction of growth: out of the scalp, then combed.
  let d: [number, number, number] =
    style === 'short'
      ? root[1] > 0.09
        ? [n[0] * 0.7 + 0.55, n[1] * 0.5 + 0.1, n[2] * 0.7 + (root[2] > 0 ? 0.3 : -0.4)]
        : [n[0] * 0.4, -0.6, n[2] * 0.4 - 0.3]
      : curly
        ? [n[0], n[1], n[2]]
        : [n[0] * 0.3 + comb * cos + back * sin, n[1] * 0.3, n[2] * 0.4 - comb * sin + back * cos];
  d = normalise(d);
  const pull = style === 'short' ? 0.1 : frizzy ? 0.1 : curly ? 0.2 : 0.75;
  const wild = stray ? 0.2 : frizzy ? 0.22 : curly ? 0.12 : 0.05;
  const phase = curly ? random() * 6.28 : clump.phase;
  let x = root[0];
  let y = root[1];
  let z = root[2];
  for (let s = 0; s <= SEGMENTS; s++) {
    const t = s / SEGMENTS;
    const curl = frizzy ? 0.0045 * Math.min(1, t * 3) : curly ? 0.0075 * Math.min(1, t * 3) : 0.0035 * t;
    const turns = frizzy ? 40 : curly ? 26 : 9;
    points[s * 3] = x + curl * Math.sin(phase + t * turns * clump.pitch);
    points[s * 3 + 1] = y + (curly ? 0.6 * curl * Math.cos(phase * 1.7 + t * turns) : 0);
    points[s * 3 + 2] = z + curl * Math.cos(phase + t * turns * clump.pitch);
    d[1] -= pull * (stray ? 0.5 : 1) * (0.4 + t);
    // Wind takes loose hair most, and the tips more than the roots.
    d[0] += wild * gaussian(random) + 0.03 * clump.bend + wind * (stray ? 0.5 : 0.16) * (0.3 + t);
    d[1] += wild * 0.6 * gaussian(random);
    d[2] += wild * gaussian(random);
    d = normalise(d);
    x += d[0] * step;
    y += d[1] * step;
    z += d[2] * step;
    // Hair lies on the body, it does not run through it; to look at every second point is enough.
    if (s & 1) continue;
    const away = body.distance(x, y, z);
    const room = 0.0065 + 0.01 * t;
    if (away < room) {
      const h = 0.002;
      const gx = body.distance(x + h, y, z) - away;
      const gy = body.distance(x, y + h, z) - away;
      const gz = body.distance(x, y, z + h) - away;
      const g = Math.hypot(gx, gy, gz) || 1;
      const push = Math.min(0.03, room - away);
      x += (gx / g) * push;
      y += (gy / g) * push;
      z += (gz / g) * push;
      const along = (d[0] * gx + d[1] * gy + d[2] * gz) / g;
      if (along < 0) d = normalise([d[0] - (along * gx) / g, d[1] - (along * gy) / g, d[2] - (along * gz) / g]);
    }
  }
  return {
    points,
    width: (stray ? 0.00016 : frizzy ? 0.00018 : 0.00024) * (0.7 + 0.6 * random()),
    tint: 1 + 0.16 * gaussian(random) + 0.1 * clump.bend,
  };
}

/** Half the size of a face with its beard, metres. */
const FACE_REACH = 0.16;

function growFace(subject: Subject, figure: Figure, body: SolidField, random: Random, strands: Strand[]): void {
  const turn = figure.turn;
  const face = body.select((solid) => {
    const [x, y, r] = boundsOf(solid);
    return Math.hypot(x, y) < r + FACE_REACH;
  });
  const onFace = (hx: number, y: number): Vector | undefined => {
    let z = 0.14;
    for (let n = 0; n < 40; n++) {
      const x = hx * Math.cos(turn) + z * Math.sin(turn);
      const zz = -hx * Math.sin(turn) + z * Math.cos(turn);
      const d = face.distance(x, y, zz);
      if (d < 0.0006) return [x, y, zz];
      z -= d * 0.8;
      if (z < -0.05) return undefined;
    }
    return undefined;
  };
  const add = (root: Vector | undefined, d: Vector, length: number, width: number, tint: number): void => {
    if (!root) return;
    const points = new Float32Array(4 * 3);
    for (let s = 0; s < 4; s++) {
      const t = s / 3;
      points[s * 3] = root[0] + d[0] * length * t;
      points[s * 3 + 1] = root[1] + d[1] * length * t - 0.1 * length * t * t;
      points[s * 3 + 2] = root[2] + 0.0012 + d[2] * length * t;
    }
    strands.push({ points, width, tint });
  };
  for (const side of [-1, 1]) {
    for (let n = 0; n < 330; n++) {
      const t = random();
      const hx = side * (0.013 + 0.037 * t);
      const y = 0.034 + 0.007 * Math.sin(t * 2.2) + gaussian(random) * 0.0024 * (1.1 - 0.6 * t);
      add(onFace(hx, y), normalise([side * (0.5 + t), 0.65 - t, 0.1]), 0.0075 * (0.7 + 0.5 * random()), 0.00022, 0.55);
    }
    for (let n = 0; n < 60; n++) {
      const t = random() * 2 - 1;
      const hx = side * 0.0315 + 0.0145 * t;
      const y = 0.0165 - 0.0045 * t * t;
      add(onFace(hx, y), normalise([t * 0.7, 0.45, 0.8]), 0.0055, 0.00022, 0.25);
    }
  }
  if (!subject.beard) return;
  for (let n = 0; n < 5200; n++) {
    const a = (random() * 2 - 1) * 1.25;
    const hx = 0.072 * Math.sin(a);
    const y = -0.05 - 0.075 * Math.sqrt(random()) * (0.35 + 0.65 * Math.cos(a)) - 0.01 * random();
    if (Math.abs(hx) < 0.022 && y > -0.082) continue;
    add(
      onFace(hx, y),
      normalise([hx * 5 + 0.3 * gaussian(random), -0.9, 0.4 + 0.3 * gaussian(random)]),
      0.014 * (0.6 + 0.8 * random()),
      0.0002,
      0.8 + 0.2 * random(),
    );
  }
}

/**
 * Draws strands as premultiplied linear RGBA, each pixel on a strand's way getting the share of it that the strand's
 * width covers: those that lie behind the body or beside it, and those in front of it.
 */
export function drawStrands(
  strands: readonly Strand[],
  view: View,
  geometry: Geometry,
  colour: Colour,
  lights: Lights,
): { behind: Layer; front: Layer } {
  const { scale, originX, originY } = view;
  const box = boxOf(strands, view);
  const { left, top, width, height } = box;
  const { depth, closed } = bodyIn(box, view.width, geometry);
  const behind = new Float32Array(width * height * 4);
  const front = new Float32Array(width * height * 4);
  for (const strand of inReach(strands)) {
    const { points } = strand;
    const count = points.length / 3;
    for (let s = 0; s + 1 < count; s++) {
      const x0 = originX - left + points[s * 3] * scale;
      const y0 = originY - top - points[s * 3 + 1] * scale;
      const dx = originX - left + points[s * 3 + 3] * scale - x0;
      const dy = originY - top - points[s * 3 + 4] * scale - y0;
      if (
        Math.max(y0, y0 + dy) < 0 ||
        Math.min(y0, y0 + dy) > height ||
        Math.max(x0, x0 + dx) < 0 ||
        Math.min(x0, x0 + dx) > width
      )
        continue;
      const steps = Math.max(1, Math.ceil(Math.max(Math.abs(dx), Math.abs(dy))));
      const t0 = s / (count - 1);
      const z0 = points[s * 3 + 2];
      const dz = points[s * 3 + 5] - z0;
      const [red, green, blue] = strandLight(points, s, strand.tint, t0, lights, colour);
      const way = t0 + 0.5 / (count - 1);
      // Crossing a pixel row at a slant lays more strand into it.
      const cover = Math.min(1, ((strand.width * scale * Math.hypot(dx, dy)) / steps) * (1 - 0.8 * way * way));
      // A pixel at a time along the longer axis; across it the strand is shared by two.
      const steep = Math.abs(dy) >= Math.abs(dx);
      const alongEnd = steep ? height : width;
      const acrossEnd = (steep ? width : height) - 1;
      const alongStride = steep ? 1 : height;
      const acrossStride = steep ? height : 1;
      const alongStep = (steep ? dy : dx) / steps;
      const acrossStep = (steep ? dx : dy) / steps;
      const depthStep = dz / steps;
      let along = (steep ? y0 : x0) - alongStep / 2;
      let across = (steep ? x0 : y0) - 0.5 - acrossStep / 2;
      let z = z0 - depthStep / 2;
      for (let n = 0; n < steps; n++) {
        along += alongStep;
        across += acrossStep;
        z += depthStep;
        if (along < 0 || across < 0 || along >= alongEnd || across >= acrossEnd) continue;
        const base = across | 0;
        const part = across - base;
        let p = (along | 0) * alongStride + base * acrossStride;
        for (let k = 0; k < 2; k++) {
          const state = closed[p];
          if (state !== CLOSED) {
            const side = z > depth[p] ? FRONT : BEHIND;
            if ((state & side) === 0) {
              const data = side === FRONT ? front : behind;
              const o = p * 4;
              // Those drawn before lie on top.
              const seen = 1 - data[o + 3];
              let a = seen * cover * (k ? part : 1 - part);
              if (seen - a < HIDDEN) {
                a = seen;
                closed[p] |= side;
              }
              data[o] += red * a;
              data[o + 1] += green * a;
              data[o + 2] += blue * a;
              data[o + 3] += a;
            }
          }
          p += acrossStride;
        }
      }
    }
  }
  return { behind: upright(box, behind), front: upright(box, front) };
}

/** A rectangle of the picture, pixels. */
interface Box {
  left: number;
  top: number;
  width: number;
  height: number;
}

/** Columns of a box that are turned together, so that their rows are still at hand. */
const STRIP = 32;

/** Sides of a pixel on which nothing more shows, as bits: before the body, behind it or beside it, both. */
const FRONT = 1;
const BEHIND = 2;
const CLOSED = 3;

/**
 * The body within a box, column by column: hair hangs down, so what follows along a strand is near in memory.
 * @returns depth, infinite beside the body, where all hair counts as behind; and the sides that are closed from the
 * start.
 */
function bodyIn(
  box: Box,
  pictureWidth: number,
  { depth, coverage }: Geometry,
): { depth: Float32Array; closed: Uint8Array } {
  const out = { depth: new Float32Array(box.width * box.height), closed: new Uint8Array(box.width * box.height) };
  inStrips(box, (x, y) => {
    const p = (box.top + y) * pictureWidth + box.left + x;
    const beside = depth[p] === -Infinity;
    out.depth[x * box.height + y] = beside ? Infinity : depth[p];
    out.closed[x * box.height + y] = beside ? FRONT : coverage[p] < 1 ? 0 : BEHIND;
  });
  return out;
}

/** A picture drawn column by column as one of rows. */
function upright(box: Box, columns: Float32Array): Layer {
  const picture = createLinear(box.width, box.height, 4);
  inStrips(box, (x, y) => {
    const from = (x * box.height + y) * 4;
    const to = (y * box.width + x) * 4;
    for (let k = 0; k < 4; k++) picture.data[to + k] = columns[from + k];
  });
  return { left: box.left, top: box.top, picture };
}

function inStrips({ width, height }: Box, visit: (x: number, y: number) => void): void {
  for (let x0 = 0; x0 < width; x0 += STRIP)
    for (let y = 0; y < height; y++) for (let x = x0; x < Math.min(width, x0 + STRIP); x++) visit(x, y);
}

/** Share of a pixel below which nothing more shows. */
const HIDDEN = 0.02;
/** Layers of hair, one under the other. */
const LAYERS = 4;

/**
 * Strands in layers, each from right to left, the upper first: neighbours are drawn one after the other, so that
 * their pixels are still at hand.
 */
function inReach(strands: readonly Strand[]): Strand[] {
  const order = strands.map((strand, n) => ({
    strand,
    layer: n % LAYERS,
    x: strand.points[Math.min(strand.points.length - 3, 27)],
  }));
  order.sort((a, b) => b.layer - a.layer || b.x - a.x);
  return order.map(({ strand }) => strand);
}

/** All that the strands reach within the view. */
function boxOf(strands: readonly Strand[], { width, height, scale, originX, originY }: View): Box {
  let left = width;
  let right = 0;
  let top = height;
  let bottom = 0;
  for (const { points } of strands) {
    for (let i = 0; i < points.length; i += 3) {
      const x = originX + points[i] * scale;
      const y = originY - points[i + 1] * scale;
      if (x < left) left = x;
      if (x > right) right = x;
      if (y < top) top = y;
      if (y > bottom) bottom = y;
    }
  }
  left = Math.max(0, Math.floor(left) - 1);
  top = Math.max(0, Math.floor(top) - 1);
  return {
    left,
    top,
    width: Math.max(1, Math.min(width, Math.ceil(right) + 2) - left),
    height: Math.max(1, Math.min(height, Math.ceil(bottom) + 2) - top),
  };
}

const shadeOut: [number, number, number] = [0, 0, 0];
const received: [number, number, number] = [0, 0, 0];

/** Light on a hair after Kajiya & Kay (1989): diffuse by the sine to the lamp, and a highlight along the strand. */
function strandLight(
  points: Float32Array,
  s: number,
  tint: number,
  t: number,
  lights: Lights,
  colour: Colour,
): [number, number, number] {
  const tx = points[s * 3 + 3] - points[s * 3];
  const ty = points[s * 3 + 4] - points[s * 3 + 1];
  const tz = points[s * 3 + 5] - points[s * 3 + 2];
  const n = Math.hypot(tx, ty, tz) || 1;
  const key = lights.key.direction;
  const keyColour = lights.key.colour;
  const kt = (tx * key[0] + ty * key[1] + tz * key[2]) / n;
  const x = points[s * 3];
  const y = points[s * 3 + 1];
  const z = points[s * 3 + 2];
  // Hair shades itself: towards the lamp, and far from the head, it is lighter.
  const outward = Math.hypot(x, y - 0.04, z + 0.01);
  const facing = outward ? (x * key[0] + (y - 0.04) * key[1] + (z + 0.01) * key[2]) / outward : 0;
  const depth = 0.32 + 0.68 * Math.min(1, Math.max(0, outward - 0.07) / 0.035);
  const lit = (0.3 + 0.7 * Math.max(0, Math.min(1, 0.45 + 0.75 * facing))) * depth;
  const sine = Math.sqrt(Math.max(0, 1 - kt * kt));
  const highlight = 0.1 * Math.pow(Math.max(0, Math.sqrt(Math.max(0, 1 - (kt * 0.6 + (tz / n) * 0.3) ** 2))), 24) * lit;
  const behind = Math.max(0, Math.min(1, 0.45 - z * 4));
  for (let c = 0; c < 3; c++)
    received[c] = keyColour[c] * sine * lit * 0.95 + lights.ambient[c] * depth + lights.bounce[c] * behind * 0.6;
  for (const { direction, colour: light } of lights.others) {
    const lt = (tx * direction[0] + ty * direction[1] + tz * direction[2]) / n;
    // From behind it runs along the rim of the hair, from the front it fills.
    const share =
      direction[2] < 0 ? Math.sqrt(Math.max(0, 1 - lt * lt)) * Math.max(0, -z * 6 + 0.25) * 0.5 : 0.5 * depth;
    for (let c = 0; c < 3; c++) received[c] += light[c] * share;
  }
  for (let c = 0; c < 3; c++)
    shadeOut[c] = Math.max(0.002, colour[c] * tint * (0.75 + 0.35 * t)) * received[c] + highlight * keyColour[c];
  return shadeOut;
}

function ontoScalp(p: Vector, turn: number): Vector {
  const c = Math.cos(turn);
  const s = Math.sin(turn);
  const x = p[0] * c - p[2] * s - SCALP.centre[0];
  const y = p[1] - SCALP.centre[1];
  const z = p[0] * s + p[2] * c - SCALP.centre[2];
  const k = 1 / (Math.hypot(x / SCALP.radii[0], y / SCALP.radii[1], z / SCALP.radii[2]) || 1);
  const qx = SCALP.centre[0] + x * k;
  const qz = SCALP.centre[2] + z * k;
  return [qx * c + qz * s, SCALP.centre[1] + y * k, -qx * s + qz * c];
}

function scalpNormal(p: Vector, turn: number): Vector {
  const c = Math.cos(turn);
  const s = Math.sin(turn);
  const x = (p[0] * c - p[2] * s) / SCALP.radii[0] ** 2;
  const y = (p[1] - SCALP.centre[1]) / SCALP.radii[1] ** 2;
  const z = (p[0] * s + p[2] * c - SCALP.centre[2]) / SCALP.radii[2] ** 2;
  const d = normalise([x, y, z]);
  return [d[0] * c + d[2] * s, d[1], -d[0] * s + d[2] * c];
}

function normalise(v: readonly [number, number, number]): [number, number, number] {
  const n = Math.hypot(v[0], v[1], v[2]) || 1;
  return [v[0] / n, v[1] / n, v[2] / n];
}
