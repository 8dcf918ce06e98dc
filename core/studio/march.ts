import { boundsOf, Part, type PartId, SolidField } from './solids.ts';

/** The camera of the painter: parallel rays, so a metre is the same number of pixels everywhere. */
export interface View {
  width: number;
  height: number;
  /** Pixels per metre. */
  scale: number;
  /** Pixel position of the origin (the centre of the head). */
  originX: number;
  originY: number;
}

/** The body as the camera sees it, per pixel. */
export interface Geometry {
  /** Coverage by the body, 0–1. */
  coverage: Float32Array;
  /** Depth z in metres; −Infinity where nothing is hit. */
  depth: Float32Array;
  /** Unit normal, 3 values. */
  normal: Float32Array;
  part: Uint8Array;
  /** Light that reaches the place from all around (0–1) and from the key lamp (0–1). */
  open: Float32Array;
  lit: Float32Array;
}

const TILE = 16;
const NEARER = 0.03;
/** Pixels between traced corners; divides TILE − 1, so that a tile's last column and row are corners too. */
const CELL = 5;
/** Nothing of a figure lies farther back than this, metres. */
const BACK = -0.35;
/** Open sky and key shadow change slowly: they are found at places so far apart, metres. */
const LIGHT_STEP_METRES = 0.005;

/** Finds the visible surface of the solids by sphere tracing (Hart 1996), each tile with only the solids it can see. */
export function traceBody(field: SolidField, view: View, keyDirection: readonly [number, number, number]): Geometry {
  const { width, height } = view;
  const count = width * height;
  const geometry: Geometry = {
    coverage: new Float32Array(count),
    depth: new Float32Array(count).fill(-Infinity),
    normal: new Float32Array(count * 3),
    part: new Uint8Array(count),
    open: new Float32Array(count).fill(1),
    lit: new Float32Array(count).fill(1),
  };
  for (let ty = 0; ty < height; ty += TILE) {
    for (let tx = 0; tx < width; tx += TILE) traceTile(field, view, tx, ty, geometry);
  }
  lightBody(field, view, keyDirection, geometry);
  return geometry;
}

function traceTile(field: SolidField, view: View, tx: number, ty: number, out: Geometry): void {
  const { width, height, scale, originX, originY } = view;
  const cx = (tx + TILE / 2 - originX) / scale;
  const cy = (originY - ty - TILE / 2) / scale;
  const reach = (TILE * 0.75) / scale + 0.035;
  let front = -Infinity;
  const near = field.select((solid) => {
    const [x, y, r, z] = boundsOf(solid);
    const inside = Math.hypot(x - cx, y - cy) < r + reach;
    if (inside && z > front) front = z;
    return inside;
  });
  if (!near.solids.length || front === -Infinity) return;
  const right = Math.min(width, tx + TILE);
  const bottom = Math.min(height, ty + TILE);
  // The corners of cells first; where they lie on one smooth surface, or far off any, so does what is between them.
  for (let y = ty; y < bottom; y += CELL) for (let x = tx; x < right; x += CELL) clearance[(y - ty) * TILE + x - tx] = tracePixel(near, view, x, y, front, out);
  for (let y = ty; y < bottom; y += CELL) {
    for (let x = tx; x < right; x += CELL) fillCell(near, view, x, y, Math.min(right, x + CELL), Math.min(bottom, y + CELL), front, out, tx, ty);
  }
}

/** Distance in metres from a corner's ray to the nearest solid. */
const clearance = new Float64Array(TILE * TILE);

/** Everything of a cell but its top left corner. Cells at the end of a tile are smaller and have no corners to go by. */
function fillCell(near: SolidField, view: View, x0: number, y0: number, x1: number, y1: number, front: number, out: Geometry, tx: number, ty: number): void {
  const { width } = view;
  const whole = x0 + CELL < Math.min(width, tx + TILE) && y0 + CELL < Math.min(view.height, ty + TILE);
  const a = y0 * width + x0;
  const corner = (y0 - ty) * TILE + x0 - tx;
  if (whole) {
    const away = (1.5 * CELL) / view.scale;
    if (clearance[corner] > away && clearance[corner + CELL] > away && clearance[corner + CELL * TILE] > away && clearance[corner + CELL * TILE + CELL] > away) return;
  }
  // Nothing nearer than the corners by more than this is expected inside a cell of a few millimetres.
  const start = whole ? Math.min(front, Math.max(out.depth[a], out.depth[a + CELL], out.depth[a + CELL * width], out.depth[a + CELL * width + CELL]) + NEARER) : front;
  const smooth = whole && isSmooth(out, a, a + CELL, a + CELL * width, a + CELL * width + CELL);
  for (let y = y0; y < y1; y++) {
    for (let x = x0; x < x1; x++) {
      if (x === x0 && y === y0) continue;
      if (smooth) interpolate(out, y * width + x, a, (x - x0) / CELL, (y - y0) / CELL, width);
      else tracePixel(near, view, x, y, Number.isFinite(start) ? start : front, out);
    }
  }
}

/** Whether four traced places lie on one smooth surface. */
function isSmooth({ coverage, normal, part }: Geometry, a: number, b: number, c: number, d: number): boolean {
  if (coverage[a] < 1 || coverage[b] < 1 || coverage[c] < 1 || coverage[d] < 1) return false;
  if (part[a] !== part[b] || part[a] !== part[c] || part[a] !== part[d] || part[a] === Part.eye) return false;
  return likeness(normal, a, d) > 0.985 && likeness(normal, b, c) > 0.985 && likeness(normal, a, b) > 0.99 && likeness(normal, a, c) > 0.99;
}

function likeness(normal: Float32Array, p: number, q: number): number {
  return normal[p * 3] * normal[q * 3] + normal[p * 3 + 1] * normal[q * 3 + 1] + normal[p * 3 + 2] * normal[q * 3 + 2];
}

/** Bilinear between the corners of a cell; `a` is the top left one. */
function interpolate(g: Geometry, p: number, a: number, u: number, v: number, width: number): void {
  const b = a + CELL;
  const c = a + CELL * width;
  const d = c + CELL;
  const wa = (1 - u) * (1 - v);
  const wb = u * (1 - v);
  const wc = (1 - u) * v;
  const wd = u * v;
  g.coverage[p] = 1;
  g.depth[p] = wa * g.depth[a] + wb * g.depth[b] + wc * g.depth[c] + wd * g.depth[d];
  g.part[p] = g.part[a];
  const n = g.normal;
  for (let k = 0; k < 3; k++) n[p * 3 + k] = wa * n[a * 3 + k] + wb * n[b * 3 + k] + wc * n[c * 3 + k] + wd * n[d * 3 + k];
}

/** @returns how near the ray comes to a solid, metres. */
function tracePixel(near: SolidField, view: View, x: number, y: number, front: number, out: Geometry): number {
  const { width, scale, originX, originY } = view;
  const wx = (x + 0.5 - originX) / scale;
  const wy = (originY - y - 0.5) / scale;
  let z = front + 0.03;
  let closest = Infinity;
  let closestZ = z;
  let part: PartId = Part.skin;
  for (let step = 0; step < 48 && z > BACK; step++) {
    const d = near.distance(wx, wy, z);
    if (d < closest) {
      closest = d;
      closestZ = z;
      part = near.part;
    }
    if (d < 0.0003) break;
    z -= Math.max(0.0006, d * 0.92);
  }
  const coverage = closest <= 0.0003 ? 1 : 1 - (closest - 0.0003) * scale;
  if (coverage <= 0) return closest;
  const p = y * width + x;
  out.coverage[p] = coverage;
  out.depth[p] = closestZ;
  out.part[p] = part;
  writeNormal(near, wx, wy, closestZ, out.normal, p * 3);
  return closest;
}

function writeNormal(field: SolidField, x: number, y: number, z: number, out: Float32Array, o: number): void {
  // Four samples at the corners of a tetrahedron.
  const h = 0.0008;
  const a = field.distance(x + h, y - h, z - h);
  const b = field.distance(x - h, y - h, z + h);
  const c = field.distance(x - h, y + h, z - h);
  const d = field.distance(x + h, y + h, z + h);
  const nx = a - b - c + d;
  const ny = -a - b + c + d;
  const nz = -a + b - c + d;
  const n = Math.hypot(nx, ny, nz) || 1;
  out[o] = nx / n;
  out[o + 1] = ny / n;
  out[o + 2] = nz / n;
}

/** Open sky and key shadow on a coarse grid, spread to the pixels between by likeness of depth. */
function lightBody(field: SolidField, view: View, key: readonly [number, number, number], g: Geometry): void {
  const { width, height, scale, originX, originY } = view;
  const step = Math.max(3, Math.min(16, Math.round(scale * LIGHT_STEP_METRES)));
  const across = Math.ceil(width / step);
  const down = Math.ceil(height / step);
  const open = new Float32Array(across * down).fill(-1);
  const lit = new Float32Array(across * down);
  const depth = new Float32Array(across * down);
  for (let gy = 0; gy < down; gy++) {
    for (let gx = 0; gx < across; gx++) {
      const px = Math.min(width - 1, gx * step + (step >> 1));
      const py = Math.min(height - 1, gy * step + (step >> 1));
      const p = py * width + px;
      if (g.coverage[p] <= 0) continue;
      const x = (px + 0.5 - originX) / scale;
      const y = (originY - py - 0.5) / scale;
      const z = g.depth[p];
      const o = gy * across + gx;
      depth[o] = z;
      open[o] = openness(field, x, y, z, g.normal, p * 3);
      lit[o] = keyShadow(field, x + 0.004 * g.normal[p * 3], y + 0.004 * g.normal[p * 3 + 1], z + 0.004 * g.normal[p * 3 + 2], key);
    }
  }
  for (let y = 0; y < height; y++) {
    const fy = (y - (step >> 1)) / step;
    for (let x = 0; x < width; x++) {
      const p = y * width + x;
      if (g.coverage[p] <= 0) continue;
      const fx = (x - (step >> 1)) / step;
      const x0 = Math.floor(fx);
      const y0 = Math.floor(fy);
      let so = 0;
      let sl = 0;
      let sw = 1e-6;
      for (let k = 0; k < 4; k++) {
        const gx = x0 + (k & 1);
        const gy = y0 + (k >> 1);
        if (gx < 0 || gy < 0 || gx >= across || gy >= down) continue;
        const o = gy * across + gx;
        if (open[o] < 0) continue;
        const w = (1.02 - Math.abs(fx - gx)) * (1.02 - Math.abs(fy - gy)) * Math.exp(-Math.abs(depth[o] - g.depth[p]) * 120);
        so += w * open[o];
        sl += w * lit[o];
        sw += w;
      }
      g.open[p] = sw > 2e-6 ? so / sw : 0.7;
      g.lit[p] = sw > 2e-6 ? sl / sw : 0.7;
    }
  }
}

/** Ambient occlusion by distance samples along the normal, 1 open – 0 closed in. */
function openness(field: SolidField, x: number, y: number, z: number, n: Float32Array, o: number): number {
  let blocked = 0;
  let weight = 1;
  for (const h of [0.006, 0.014, 0.03, 0.06, 0.11]) {
    const d = field.distance(x + n[o] * h, y + n[o + 1] * h, z + n[o + 2] * h);
    blocked += (weight * Math.max(0, h - d)) / h;
    weight *= 0.72;
  }
  return Math.max(0.08, 1 - blocked / 2.6);
}

/** How much of a large lamp is seen: the narrowest clearance on the way, relative to distance (soft shadow). */
function keyShadow(field: SolidField, x: number, y: number, z: number, key: readonly [number, number, number]): number {
  let clear = 1;
  let t = 0.012;
  for (let step = 0; step < 14 && t < 0.5; step++) {
    const d = field.distance(x + key[0] * t, y + key[1] * t, z + key[2] * t);
    clear = Math.min(clear, 0.5 + (3.2 * d) / t);
    if (clear <= 0) return 0;
    t += Math.max(0.01, d * 0.8);
  }
  const s = Math.max(0, Math.min(1, clear));
  return s * s * (3 - 2 * s);
}
