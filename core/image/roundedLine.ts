interface Point {
  x: number;
  y: number;
}

/**
 * A closed line that goes through all its corners without a kink (centripetal Catmull and Rom, each stretch a Bézier
 * curve), as points on it.
 * @param most points that are wanted at most; never fewer than the corners.
 */
export function roundedLine(corners: readonly Point[], most: number): Point[] {
  const count = corners.length;
  const each = Math.min(FINEST, Math.floor(most / count));
  if (count < 3 || each < 2) return [...corners];
  const at = (n: number): Point => corners[(n + count) % count];
  return corners.flatMap((from, n) => {
    const [before, to, after] = [at(n - 1), at(n + 1), at(n + 2)];
    const [a, b, c] = [apart(before, from), apart(from, to), apart(to, after)];
    const first = handle(from, to, before, b, a);
    const second = handle(to, from, after, b, c);
    return Array.from({ length: each }, (_, k) => onCurve(from, first, second, to, k / each));
  });
}
/** Points on a stretch, at most. */
const FINEST = 12;

/** Square root of the distance: by that, short stretches beside long ones make no loops. */
function apart(p: Point, q: Point): number {
  return Math.sqrt(Math.max(1e-9, Math.hypot(p.x - q.x, p.y - q.y)));
}

/** The handle at `end` of the stretch to `other`, `beyond` the corner before it. */
function handle(end: Point, other: Point, beyond: Point, along: number, back: number): Point {
  const of = (v: 'x' | 'y'): number =>
    (back * back * other[v] -
      along * along * beyond[v] +
      (2 * back * back + 3 * back * along + along * along) * end[v]) /
    (3 * back * (back + along));
  return { x: of('x'), y: of('y') };
}

function onCurve(a: Point, b: Point, c: Point, d: Point, t: number): Point {
  const s = 1 - t;
  const of = (v: 'x' | 'y'): number =>
    s * s * s * a[v] + 3 * s * s * t * b[v] + 3 * s * t * t * c[v] + t * t * t * d[v];
  return { x: of('x'), y: of('y') };
}
