/**
 * The painter's bodies: solids described by signed distance, in metres, x right, y up, z towards the camera.
 * Solids of one part melt into each other; different parts meet sharply.
 */
export type Vector = readonly [number, number, number];

/** What a surface is made of; the shader gives it its colour. */
export const Part = {
  skin: 0,
  garment: 1,
  eye: 2,
  lips: 3,
  scalp: 4,
  trim: 5,
  shirt: 6,
  hat: 7,
  rim: 8,
  metal: 9,
  wood: 10,
  legs: 11,
} as const;
export type PartId = (typeof Part)[keyof typeof Part];

/** A capsule with two radii (end points equal: a sphere), or an ellipsoid. */
export type Solid =
  | { kind: 'capsule'; part: PartId; a: Vector; b: Vector; ra: number; rb: number; blend: number }
  | { kind: 'ellipsoid'; part: PartId; centre: Vector; radii: Vector; blend: number }
  /** Taken away from the skin before anything else is joined. */
  | { kind: 'hollow'; part: PartId; centre: Vector; radius: number; blend: number };

export function capsule(part: PartId, a: Vector, b: Vector, ra: number, rb: number, blend = 0.02): Solid {
  return { kind: 'capsule', part, a, b, ra, rb, blend };
}

export function ellipsoid(part: PartId, centre: Vector, radii: Vector, blend = 0.02): Solid {
  return { kind: 'ellipsoid', part, centre, radii, blend };
}

export function ball(part: PartId, centre: Vector, radius: number, blend = 0.01): Solid {
  return capsule(part, centre, centre, radius, radius, blend);
}

export function hollow(centre: Vector, radius: number, blend: number): Solid {
  return { kind: 'hollow', part: Part.skin, centre, radius, blend };
}

/** Bounding circle as the camera sees it, and the nearest and farthest depth: x, y, radius, front z, back z. */
export function boundsOf(solid: Solid): [number, number, number, number, number] {
  if (solid.kind === 'capsule') {
    const r = Math.max(solid.ra, solid.rb);
    const half = Math.hypot(solid.a[0] - solid.b[0], solid.a[1] - solid.b[1]) / 2;
    return [
      (solid.a[0] + solid.b[0]) / 2,
      (solid.a[1] + solid.b[1]) / 2,
      half + r,
      Math.max(solid.a[2], solid.b[2]) + r,
      Math.min(solid.a[2], solid.b[2]) - r,
    ];
  }
  const [x, y, z] = solid.centre;
  if (solid.kind === 'ellipsoid')
    return [x, y, Math.max(solid.radii[0], solid.radii[1]), z + solid.radii[2], z - solid.radii[2]];
  return [x, y, solid.radius, -Infinity, Infinity];
}

const STRIDE = 11;
const Kind = { capsule: 0, ellipsoid: 1, hollow: 2 } as const;

/**
 * Solids packed for quick evaluation, those of one part side by side. `select` gives a smaller field with only some
 * of them.
 */
export class SolidField {
  /** The part nearest to the last point asked for. */
  part: PartId = Part.skin;
  readonly solids: readonly Solid[];
  private readonly kinds: Uint8Array;
  private readonly values: Float64Array;
  /** Parts that occur, and behind the last solid of each. */
  private readonly parts: Uint8Array;
  private readonly ends: Uint16Array;

  constructor(solids: readonly Solid[]) {
    this.solids = [...solids].sort((a, b) => a.part - b.part);
    this.parts = Uint8Array.from(new Set(this.solids.map((solid) => solid.part)));
    this.ends = Uint16Array.from(this.parts, (part) => this.solids.findLastIndex((solid) => solid.part === part) + 1);
    this.kinds = Uint8Array.from(this.solids, (solid) => Kind[solid.kind]);
    this.values = new Float64Array(solids.length * STRIDE);
    this.solids.forEach((solid, n) => this.values.set(packed(solid), n * STRIDE));
  }

  /**
   * Signed distance in metres (negative inside), approximate for ellipsoids; 1000 where there is no solid; sets
   * `part`.
   */
  distance(x: number, y: number, z: number): number {
    const { kinds, parts, values, ends } = this;
    let best = FAR;
    let bestPart = 0;
    let n = 0;
    for (let i = 0; i < parts.length; i++) {
      let near = FAR;
      for (const end = ends[i]; n < end; n++) {
        const o = n * STRIDE;
        const px = x - values[o];
        const py = y - values[o + 1];
        const pz = z - values[o + 2];
        const blend = values[o + 8];
        let d: number;
        if (kinds[n] === Kind.capsule) {
          const bx = values[o + 3];
          const by = values[o + 4];
          const bz = values[o + 5];
          let t = (px * bx + py * by + pz * bz) * values[o + 9];
          t = t < 0 ? 0 : t > 1 ? 1 : t;
          const qx = px - t * bx;
          const qy = py - t * by;
          const qz = pz - t * bz;
          const square = qx * qx + qy * qy + qz * qz;
          // Too far to matter: no root is drawn.
          const reach = near + values[o + 10];
          if (reach > 0 && square > reach * reach) continue;
          d = Math.sqrt(square) - values[o + 6] - t * values[o + 7];
        } else if (kinds[n] === Kind.ellipsoid) {
          const ix = values[o + 3];
          const iy = values[o + 4];
          const iz = values[o + 5];
          const ex = px * ix;
          const ey = py * iy;
          const ez = pz * iz;
          const square = ex * ex + ey * ey + ez * ez;
          const reach = 1 + (near + blend) * values[o + 10];
          if (reach > 1 && square > reach * reach) continue;
          const k0 = Math.sqrt(square);
          const gx = ex * ix;
          const gy = ey * iy;
          const gz = ez * iz;
          const k1 = Math.sqrt(gx * gx + gy * gy + gz * gz);
          d = k1 > 1e-9 ? (k0 * (k0 - 1)) / k1 : -values[o + 6];
        } else {
          near = -smoothMin(-near, Math.sqrt(px * px + py * py + pz * pz) - values[o + 6], blend);
          continue;
        }
        near = smoothMin(near, d, blend);
      }
      if (near < best) {
        best = near;
        bestPart = parts[i];
      }
    }
    this.part = bestPart as PartId;
    return best;
  }

  select(chosen: (solid: Solid) => boolean): SolidField {
    return new SolidField(this.solids.filter(chosen));
  }
}

const FAR = 1e3;

/**
 * Place; axis or reciprocal radii (dividing costs more than all the rest); radius; change of radius; blend; 1 ÷
 * length²; what bounds the reach.
 */
function packed(solid: Solid): number[] {
  if (solid.kind === 'capsule') {
    const { a, b, ra, rb, blend } = solid;
    const axis = [b[0] - a[0], b[1] - a[1], b[2] - a[2]];
    return [
      ...a,
      ...axis,
      ra,
      rb - ra,
      blend,
      1 / Math.max(1e-12, axis[0] ** 2 + axis[1] ** 2 + axis[2] ** 2),
      Math.max(ra, rb) + blend,
    ];
  }
  if (solid.kind === 'ellipsoid') {
    const least = Math.min(...solid.radii);
    return [...solid.centre, ...solid.radii.map((r) => 1 / r), least, 0, solid.blend, 0, 1 / least];
  }
  return [...solid.centre, 0, 0, 0, solid.radius, 0, solid.blend, 0, 0];
}

/** Polynomial smooth minimum; within `k` of each other the two surfaces melt together. */
function smoothMin(a: number, b: number, k: number): number {
  if (k <= 0) return a < b ? a : b;
  const h = k - Math.abs(a - b);
  const low = a < b ? a : b;
  return h > 0 ? low - (h * h) / (4 * k) : low;
}
