/**
 * The painter's bodies: solids described by signed distance, in metres, x right, y up, z towards the camera.
 * Solids of one part melt into each other; different parts meet sharply.
 */
export type Vector = readonly [number, number, number];

/** What a surface is made of; the shader gives it its colour. */
export const Part = { skin: 0, garment: 1, eye: 2, lips: 3, scalp: 4, trim: 5, shirt: 6, hat: 7, rim: 8, metal: 9, wood: 10, legs: 11 } as const;
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

/** Bounding circle as the camera sees it, and the nearest depth: x, y, radius, front z. */
export function boundsOf(solid: Solid): [number, number, number, number] {
  if (solid.kind === 'capsule') {
    const r = Math.max(solid.ra, solid.rb);
    const half = Math.hypot(solid.a[0] - solid.b[0], solid.a[1] - solid.b[1]) / 2;
    return [(solid.a[0] + solid.b[0]) / 2, (solid.a[1] + solid.b[1]) / 2, half + r, Math.max(solid.a[2], solid.b[2]) + r];
  }
  if (solid.kind === 'ellipsoid') {
    const r = Math.max(solid.radii[0], solid.radii[1]);
    return [solid.centre[0], solid.centre[1], r, solid.centre[2] + solid.radii[2]];
  }
  return [solid.centre[0], solid.centre[1], solid.radius, -Infinity];
}

const PARTS = 12;
const STRIDE = 10;

/** Solids packed for quick evaluation. `select` gives a smaller field with only some of them. */
export class SolidField {
  /** The part nearest to the last point asked for. */
  part: PartId = Part.skin;
  private readonly kinds: Uint8Array;
  private readonly parts: Uint8Array;
  private readonly values: Float64Array;
  private readonly nearest = new Float64Array(PARTS);
  /** Parts that occur, so that the others cost nothing. */
  private readonly present: Uint8Array;

  constructor(readonly solids: readonly Solid[]) {
    this.kinds = new Uint8Array(solids.length);
    this.parts = new Uint8Array(solids.length);
    this.values = new Float64Array(solids.length * STRIDE);
    this.present = Uint8Array.from(new Set<number>([Part.skin, ...solids.map((solid) => solid.part)]));
    solids.forEach((solid, n) => {
      this.parts[n] = solid.part;
      const o = n * STRIDE;
      if (solid.kind === 'capsule') {
        this.kinds[n] = 0;
        this.values.set([...solid.a, solid.b[0] - solid.a[0], solid.b[1] - solid.a[1], solid.b[2] - solid.a[2], solid.ra, solid.rb, solid.blend, 1 / Math.max(1e-12, (solid.b[0] - solid.a[0]) ** 2 + (solid.b[1] - solid.a[1]) ** 2 + (solid.b[2] - solid.a[2]) ** 2)], o);
      } else if (solid.kind === 'ellipsoid') {
        this.kinds[n] = 1;
        // Reciprocals, because dividing costs more than all the rest.
        this.values.set([...solid.centre, ...solid.radii.map((r) => 1 / r), Math.min(...solid.radii), 0, solid.blend, 0], o);
      } else {
        this.kinds[n] = 2;
        this.values.set([...solid.centre, solid.radius, 0, 0, 0, 0, solid.blend], o);
      }
    });
  }

  /** Signed distance in metres (negative inside), approximate for ellipsoids; sets `part`. */
  distance(x: number, y: number, z: number): number {
    const { kinds, parts, values, nearest, present } = this;
    for (let n = 0; n < present.length; n++) nearest[present[n]] = 1e3;
    for (let n = 0; n < kinds.length; n++) {
      const o = n * STRIDE;
      const px = x - values[o];
      const py = y - values[o + 1];
      const pz = z - values[o + 2];
      const blend = values[o + 8];
      const part = parts[n];
      let d: number;
      if (kinds[n] === 0) {
        const bx = values[o + 3];
        const by = values[o + 4];
        const bz = values[o + 5];
        let t = (px * bx + py * by + pz * bz) * values[o + 9];
        t = t < 0 ? 0 : t > 1 ? 1 : t;
        const qx = px - t * bx;
        const qy = py - t * by;
        const qz = pz - t * bz;
        d = Math.sqrt(qx * qx + qy * qy + qz * qz) - values[o + 6] - t * (values[o + 7] - values[o + 6]);
      } else if (kinds[n] === 1) {
        const ix = values[o + 3];
        const iy = values[o + 4];
        const iz = values[o + 5];
        const ex = px * ix;
        const ey = py * iy;
        const ez = pz * iz;
        const k0 = Math.sqrt(ex * ex + ey * ey + ez * ez);
        const gx = ex * ix;
        const gy = ey * iy;
        const gz = ez * iz;
        const k1 = Math.sqrt(gx * gx + gy * gy + gz * gz);
        d = k1 > 1e-9 ? (k0 * (k0 - 1)) / k1 : -values[o + 6];
      } else {
        const inside = Math.sqrt(px * px + py * py + pz * pz) - values[o + 3];
        nearest[part] = -smoothMin(-nearest[part], inside, blend);
        continue;
      }
      nearest[part] = smoothMin(nearest[part], d, blend);
    }
    let best = nearest[0];
    this.part = Part.skin;
    for (let n = 1; n < present.length; n++) {
      const part = present[n];
      if (nearest[part] < best) {
        best = nearest[part];
        this.part = part as PartId;
      }
    }
    return best;
  }

  select(chosen: (solid: Solid) => boolean): SolidField {
    return new SolidField(this.solids.filter(chosen));
  }
}

/** Polynomial smooth minimum; within `k` of each other the two surfaces melt together. */
function smoothMin(a: number, b: number, k: number): number {
  if (k <= 0) return a < b ? a : b;
  const h = k - Math.abs(a - b);
  const low = a < b ? a : b;
  return h > 0 ? low - (h * h) / (4 * k) : low;
}
