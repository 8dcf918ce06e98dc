/**
 * A line with no more points than it needs (Douglas and Peucker): none left out lies farther than `tolerance` from
 * what is left.
 * @returns the same points, fewer of them; first and last stay.
 */
export function simplifyLine<P extends { x: number; y: number }>(points: readonly P[], tolerance: number): P[] {
  if (points.length < 3) return [...points];
  const keep = new Uint8Array(points.length);
  keep[0] = keep[points.length - 1] = 1;
  const spans: [number, number][] = [[0, points.length - 1]];
  for (let span = spans.pop(); span; span = spans.pop()) {
    const [from, to] = span;
    let farthest = 0;
    let at = -1;
    for (let n = from + 1; n < to; n++) {
      const distance = fromLine(points[n], points[from], points[to]);
      if (distance > farthest) [farthest, at] = [distance, n];
    }
    if (farthest <= tolerance) continue;
    keep[at] = 1;
    spans.push([from, at], [at, to]);
  }
  return points.filter((_, n) => keep[n]);
}

function fromLine(p: { x: number; y: number }, a: { x: number; y: number }, b: { x: number; y: number }): number {
  const [dx, dy] = [b.x - a.x, b.y - a.y];
  const square = dx * dx + dy * dy;
  const along = square ? Math.min(1, Math.max(0, ((p.x - a.x) * dx + (p.y - a.y) * dy) / square)) : 0;
  return Math.hypot(p.x - a.x - along * dx, p.y - a.y - along * dy);
}
