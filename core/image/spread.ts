/**
 * Walks from the seeds over neighbours to the left, right, above and below. `accept` is asked for each step from a pixel to
 * the next, marks the next as its own if it takes it, and must not take a pixel twice.
 */
export function spread(width: number, height: number, seeds: number[], accept: (from: number, to: number) => boolean): void {
  const stack = seeds.slice();
  const visit = (p: number, q: number): void => {
    if (accept(p, q)) stack.push(q);
  };
  for (let p = stack.pop(); p !== undefined; p = stack.pop()) {
    const x = p % width;
    if (x > 0) visit(p, p - 1);
    if (x < width - 1) visit(p, p + 1);
    if (p >= width) visit(p, p - width);
    if (p < width * (height - 1)) visit(p, p + width);
  }
}
