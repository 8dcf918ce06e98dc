import type { Form, Hit } from './picture.ts';

/** Direction that light comes from, right and down, for all forms of a frame. */
export interface Lamp {
  x: number;
  y: number;
  /** Share of light from everywhere. */
  ambient: number;
}

/** A limb between two points, thick at each end by so many pixels. */
export interface Limb {
  ax: number;
  ay: number;
  bx: number;
  by: number;
  ra: number;
  rb: number;
}

/** Brightness of a rounded surface, `nx` and `ny` from −1 (left, top) to 1. */
function lit(nx: number, ny: number, { x, y, ambient }: Lamp): number {
  const square = nx * nx + ny * ny;
  const front = square < 1 ? Math.sqrt(1 - square) : 0;
  return ambient + (1 - ambient) * Math.max(0, 0.75 * front + 0.66 * (nx * x + ny * y));
}

/** Limbs joined smoothly. @param join pixels over which joints are rounded. */
export function body(limbs: readonly Limb[], lamp: Lamp, join = 4): Form {
  const reach = (pick: (limb: Limb) => number, best: (...values: number[]) => number): number =>
    best(...limbs.map(pick));
  return {
    left: reach((l) => Math.min(l.ax - l.ra, l.bx - l.rb), Math.min) - join,
    top: reach((l) => Math.min(l.ay - l.ra, l.by - l.rb), Math.min) - join,
    right: reach((l) => Math.max(l.ax + l.ra, l.bx + l.rb), Math.max) + join,
    bottom: reach((l) => Math.max(l.ay + l.ra, l.by + l.rb), Math.max) + join,
    at(x, y, hit: Hit) {
      let distance = 1e9;
      let best = 1e9;
      let nx = 0;
      let ny = 0;
      for (const { ax, ay, bx, by, ra, rb } of limbs) {
        const dx = bx - ax;
        const dy = by - ay;
        const length = dx * dx + dy * dy;
        const t = length > 0 ? Math.max(0, Math.min(1, ((x - ax) * dx + (y - ay) * dy) / length)) : 0;
        const ox = x - ax - t * dx;
        const oy = y - ay - t * dy;
        const r = ra + t * (rb - ra);
        const d = Math.sqrt(ox * ox + oy * oy) - r;
        // Polynomial smooth minimum.
        const h = Math.max(0, join - Math.abs(distance - d)) / join;
        distance = Math.min(distance, d) - (h * h * join) / 4;
        if (d < best) {
          best = d;
          nx = ox / r;
          ny = oy / r;
        }
      }
      hit.distance = distance;
      hit.light = lit(nx, ny, lamp);
    },
  };
}

export function ellipse(cx: number, cy: number, rx: number, ry: number, lamp: Lamp, turn = 0): Form {
  const reach = Math.max(rx, ry);
  const c = Math.cos(turn);
  const s = Math.sin(turn);
  return {
    left: cx - reach,
    top: cy - reach,
    right: cx + reach,
    bottom: cy + reach,
    at(x, y, hit) {
      const nx = ((x - cx) * c + (y - cy) * s) / rx;
      const ny = ((y - cy) * c - (x - cx) * s) / ry;
      const d = Math.sqrt(nx * nx + ny * ny);
      hit.distance = (d - 1) * Math.min(rx, ry);
      hit.light = lit(nx * c - ny * s, ny * c + nx * s, lamp);
    },
  };
}

/** A flat polygon, corners as x, y in pixels. */
export function polygon(corners: readonly (readonly [number, number])[], light = 1): Form {
  const xs = corners.map(([x]) => x);
  const ys = corners.map(([, y]) => y);
  return {
    left: Math.min(...xs),
    top: Math.min(...ys),
    right: Math.max(...xs),
    bottom: Math.max(...ys),
    at(x, y, hit) {
      let inside = false;
      let least = Infinity;
      for (let n = 0, m = corners.length - 1; n < corners.length; m = n++) {
        const [ax, ay] = corners[n];
        const [bx, by] = corners[m];
        const ex = bx - ax;
        const ey = by - ay;
        const t = Math.max(0, Math.min(1, ((x - ax) * ex + (y - ay) * ey) / (ex * ex + ey * ey + 1e-9)));
        least = Math.min(least, (x - ax - t * ex) ** 2 + (y - ay - t * ey) ** 2);
        if (ay > y !== by > y && x < ax + ((y - ay) / (by - ay)) * (bx - ax)) inside = !inside;
      }
      hit.distance = (inside ? -1 : 1) * Math.sqrt(least);
      hit.light = light;
    },
  };
}

/** What lies in both. */
export function within(form: Form, other: Form): Form {
  const second: Hit = { distance: 0, light: 1 };
  return {
    left: Math.max(form.left, other.left),
    top: Math.max(form.top, other.top),
    right: Math.min(form.right, other.right),
    bottom: Math.min(form.bottom, other.bottom),
    at(x, y, hit) {
      form.at(x, y, hit);
      other.at(x, y, second);
      hit.distance = Math.max(hit.distance, second.distance);
    },
  };
}
