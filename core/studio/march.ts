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
  /** Light that reaches the body from all around and from the key lamp; read it with `lightAt`. */
  light: BodyLight;
}

/** Pixels between traced corners in the first round, where a metre is large and where it is small; and in the last. */
const cellSide = (scale: number): number => (scale > 1200 ? 8 : 4);
const LEAST_CELL = 2;
/** Side of a tile in cells; one pixel more, so that its last column and row are corners too. */
const TILE_CELLS = 4;
const MOST_SIDE = 33;
/** Half-length from which a solid counts for shadow and open sky, metres. */
const LEAST_SHADE = 0.014;
const NEARER = 0.03;
/** Enough for a ray that grazes along an arm. */
const MOST_STEPS = 140;
/** Share of the distance to the nearest solid that a ray may step: always, and where it closes in on a surface. */
const CAREFUL = 0.92;
const BOLD = 3;
/** From where on it closes in, metres. */
const CLOSE = 0.005;
/** Open sky and key shadow change slowly: they are found at places so far apart, metres. */
const LIGHT_STEP_METRES = 0.007;

/** Finds the visible surface of the solids by sphere tracing (Hart 1996), each tile with only the solids it can see. */
export function traceBody(field: SolidField, view: View, keyDirection: readonly [number, number, number]): Geometry {
  const { width, height } = view;
  const count = width * height;
  const geometry = {
    coverage: new Float32Array(count),
    depth: new Float32Array(count).fill(-Infinity),
    normal: new Float32Array(count * 3),
    part: new Uint8Array(count),
  };
  const side = TILE_CELLS * cellSide(view.scale) + 1;
  for (let ty = 0; ty < height; ty += side) {
    for (let tx = 0; tx < width; tx += side) traceTile(field, view, tx, ty, side, geometry);
  }
  // Small things cast shadows too small to see.
  const light = lightBody(
    field.select((solid) => boundsOf(solid)[2] > LEAST_SHADE),
    view,
    keyDirection,
    geometry,
  );
  return { ...geometry, light };
}

type Surface = Omit<Geometry, 'light'>;

/**
 * One tile at work: its solids, where it is, and how near each traced pixel's ray came to a solid (below 0: not
 * traced).
 */
interface Tile {
  near: SolidField;
  view: View;
  /** Nearest and farthest depth of its solids. */
  front: number;
  back: number;
  left: number;
  top: number;
  right: number;
  bottom: number;
  clearance: Float64Array;
  out: Surface;
}

const clearance = new Float64Array(MOST_SIDE * MOST_SIDE);

function traceTile(field: SolidField, view: View, left: number, top: number, side: number, out: Surface): void {
  const { width, height, scale, originX, originY } = view;
  const cx = (left + side / 2 - originX) / scale;
  const cy = (originY - top - side / 2) / scale;
  const reach = (side * 0.75) / scale + 0.035;
  let front = -Infinity;
  let back = Infinity;
  const near = field.select((solid) => {
    const [x, y, r, nearZ, farZ] = boundsOf(solid);
    const inside = Math.hypot(x - cx, y - cy) < r + reach;
    if (inside) {
      front = Math.max(front, nearZ);
      back = Math.min(back, farZ);
    }
    return inside;
  });
  if (!near.solids.length || front === -Infinity) return;
  const tile: Tile = {
    near,
    view,
    front,
    back,
    left,
    top,
    right: Math.min(width, left + side),
    bottom: Math.min(height, top + side),
    clearance,
    out,
  };
  clearance.fill(-1);
  const cell = cellSide(scale);
  for (let y = top; y < tile.bottom; y += cell)
    for (let x = left; x < tile.right; x += cell) fillCell(tile, x, y, cell, front);
}

/** Traces a pixel unless it has been; @returns how near its ray comes to a solid, metres. */
function traceOnce(tile: Tile, x: number, y: number, from: number): number {
  const k = (y - tile.top) * MOST_SIDE + x - tile.left;
  if (tile.clearance[k] < 0) tile.clearance[k] = tracePixel(tile, x, y, from);
  return tile.clearance[k];
}

/**
 * A cell by its corners: where they lie on one smooth surface, or far off any, so does what is between them; else its
 * quarters are looked at the same way, and in the end every pixel.
 */
function fillCell(tile: Tile, x0: number, y0: number, size: number, from: number): void {
  const { right, bottom, out, view } = tile;
  const { width } = view;
  // The last column and row of a tile are cells without breadth; at the picture's edge a cell may lack its far corners.
  const thinX = x0 + 1 === right;
  const thinY = y0 + 1 === bottom;
  const x1 = thinX ? x0 : x0 + size;
  const y1 = thinY ? y0 : y0 + size;
  if (x1 >= right || y1 >= bottom)
    return traceAll(tile, x0, y0, Math.min(right, x0 + size), Math.min(bottom, y0 + size), from);
  const nearest = Math.min(
    traceOnce(tile, x0, y0, from),
    traceOnce(tile, x1, y0, from),
    traceOnce(tile, x0, y1, from),
    traceOnce(tile, x1, y1, from),
  );
  if (nearest > (1.5 * size) / view.scale) return;
  const a = y0 * width + x0;
  const b = y0 * width + x1;
  const c = y1 * width + x0;
  const d = y1 * width + x1;
  const endX = thinX ? x0 + 1 : x1;
  const endY = thinY ? y0 + 1 : y1;
  if (isSmooth(out, a, b, c, d)) {
    for (let y = y0; y < endY; y++) {
      for (let x = x0; x < endX; x++) {
        const k = (y - tile.top) * MOST_SIDE + x - tile.left;
        if (tile.clearance[k] < 0) interpolate(out, y * width + x, a, b, c, d, (x - x0) / size, (y - y0) / size);
      }
    }
    return;
  }
  // Nothing nearer than the corners by more than this is expected inside a cell of a few millimetres.
  const deepest = Math.max(out.depth[a], out.depth[b], out.depth[c], out.depth[d]) + NEARER;
  const start = Number.isFinite(deepest) ? Math.min(tile.front, deepest) : tile.front;
  if (size === LEAST_CELL) return traceAll(tile, x0, y0, endX, endY, start);
  const half = size / 2;
  for (let y = y0; y < endY; y += half) for (let x = x0; x < endX; x += half) fillCell(tile, x, y, half, start);
}

function traceAll(tile: Tile, x0: number, y0: number, x1: number, y1: number, from: number): void {
  for (let y = y0; y < y1; y++) for (let x = x0; x < x1; x++) traceOnce(tile, x, y, from);
}

/** Whether four traced places lie on one smooth surface. */
function isSmooth({ coverage, normal, part }: Surface, a: number, b: number, c: number, d: number): boolean {
  if (coverage[a] < 1 || coverage[b] < 1 || coverage[c] < 1 || coverage[d] < 1) return false;
  if (part[a] !== part[b] || part[a] !== part[c] || part[a] !== part[d] || part[a] === Part.eye) return false;
  return (
    likeness(normal, a, d) > 0.985 &&
    likeness(normal, b, c) > 0.985 &&
    likeness(normal, a, b) > 0.99 &&
    likeness(normal, a, c) > 0.99
  );
}

function likeness(normal: Float32Array, p: number, q: number): number {
  return normal[p * 3] * normal[q * 3] + normal[p * 3 + 1] * normal[q * 3 + 1] + normal[p * 3 + 2] * normal[q * 3 + 2];
}

/** Bilinear between the corners of a cell, `a` top left, `b` top right, `c` and `d` below. */
function interpolate(g: Surface, p: number, a: number, b: number, c: number, d: number, u: number, v: number): void {
  const wa = (1 - u) * (1 - v);
  const wb = u * (1 - v);
  const wc = (1 - u) * v;
  const wd = u * v;
  g.coverage[p] = 1;
  g.depth[p] = wa * g.depth[a] + wb * g.depth[b] + wc * g.depth[c] + wd * g.depth[d];
  g.part[p] = g.part[a];
  const n = g.normal;
  for (let k = 0; k < 3; k++)
    n[p * 3 + k] = wa * n[a * 3 + k] + wb * n[b * 3 + k] + wc * n[c * 3 + k] + wd * n[d * 3 + k];
}

/** @returns how near the ray comes to a solid, metres. */
function tracePixel({ near, view, back, out }: Tile, x: number, y: number, front: number): number {
  const { width, scale, originX, originY } = view;
  const wx = (x + 0.5 - originX) / scale;
  const wy = (originY - y - 0.5) / scale;
  // A small part of a pixel is as near as a ray needs to come.
  const touch = Math.max(0.0003, 0.06 / scale);
  const least = 2 * touch;
  let z = front + 0.03;
  let closest = Infinity;
  let closestZ = z;
  let part: PartId = Part.skin;
  let previous = 0;
  let stepped = 0;
  for (let step = 0; step < MOST_STEPS && z > back; step++) {
    const d = near.distance(wx, wy, z);
    if (d < closest) {
      closest = d;
      closestZ = z;
      part = near.part;
    }
    if (d < touch) {
      // Where the last step went too far, the surface lies between.
      if (d < -touch && previous > 0) closestZ += (stepped * (touch - d)) / (previous - d);
      break;
    }
    // Along a ray the distance to a convex solid bends upwards: where the last two would reach zero is not behind its
    // surface.
    const straight = d < CLOSE && d < previous ? (d * stepped) / (previous - d) : 0;
    stepped = Math.max(least, d * CAREFUL, Math.min(straight, d * BOLD));
    previous = d;
    z -= stepped;
  }
  const coverage = closest <= touch ? 1 : 1 - (closest - touch) * scale;
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

/** Open sky and key shadow of a body at places `step` pixels apart; open is below 0 where there is no body. */
export interface BodyLight {
  step: number;
  across: number;
  down: number;
  open: Float32Array;
  lit: Float32Array;
  depth: Float32Array;
}

function lightBody(field: SolidField, view: View, key: readonly [number, number, number], g: Surface): BodyLight {
  const { width, height, scale, originX, originY } = view;
  const step = Math.max(3, Math.min(24, Math.round(scale * LIGHT_STEP_METRES)));
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
      lit[o] = keyShadow(
        field,
        x + 0.004 * g.normal[p * 3],
        y + 0.004 * g.normal[p * 3 + 1],
        z + 0.004 * g.normal[p * 3 + 2],
        key,
      );
    }
  }
  return { step, across, down, open, lit, depth };
}

/**
 * Light that reaches a pixel of the body, between the nearest places by likeness of depth.
 * @param out receives open sky and key light, each 0–1.
 */
export function lightAt(
  { step, across, down, open, lit, depth }: BodyLight,
  x: number,
  y: number,
  z: number,
  out: [number, number],
): void {
  const fx = (x - (step >> 1)) / step;
  const fy = (y - (step >> 1)) / step;
  const x0 = Math.floor(fx);
  const y0 = Math.floor(fy);
  let so = 0;
  let sl = 0;
  let sw = 0;
  for (let k = 0; k < 4; k++) {
    const gx = x0 + (k & 1);
    const gy = y0 + (k >> 1);
    if (gx < 0 || gy < 0 || gx >= across || gy >= down) continue;
    const o = gy * across + gx;
    if (open[o] < 0) continue;
    const w = (1.02 - Math.abs(fx - gx)) * (1.02 - Math.abs(fy - gy)) * (1 / (1 + ((depth[o] - z) * 160) ** 2));
    so += w * open[o];
    sl += w * lit[o];
    sw += w;
  }
  out[0] = sw > 0 ? so / sw : 0.7;
  out[1] = sw > 0 ? sl / sw : 0.7;
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
