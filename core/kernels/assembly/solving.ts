import {
  LANES, apartAt, backAt, candidateBytes, candidateCount, candidatesAt, cellsAt, coverageAt, errorAt, foreAt, inverse, kappa, kappaNeutral, neutralCost, pairCost,
  darkerSlack, lighterSlack, mostLit, plane, quadAt, readingAt, scratchAt,
} from './layout';

// @ts-ignore: decorator
@inline
function times(a: v128, b: v128): v128 { return f32x4.mul(a, b); }
// @ts-ignore: decorator
@inline
function plus(a: v128, b: v128): v128 { return f32x4.add(a, b); }
// @ts-ignore: decorator
@inline
function minus(a: v128, b: v128): v128 { return f32x4.sub(a, b); }
// @ts-ignore: decorator
@inline
function over(a: v128, b: v128): v128 { return f32x4.div(a, b); }
// @ts-ignore: decorator
@inline
function all(value: f32): v128 { return f32x4.splat(value); }

/**
 * A candidate's colour for four pixels, which lie in reduced pixels at these places: puts its red, green and blue
 * into `quadAt`.
 */
// @ts-ignore: decorator
@inline
function gather(from: i32, c0: i32, c1: i32, c2: i32, c3: i32): void {
  const v0 = v128.load(from + c0);
  if (c0 === c3) {
    v128.store(quadAt, v128.shuffle<f32>(v0, v0, 0, 0, 0, 0));
    v128.store(quadAt + 16, v128.shuffle<f32>(v0, v0, 1, 1, 1, 1));
    v128.store(quadAt + 32, v128.shuffle<f32>(v0, v0, 2, 2, 2, 2));
    return;
  }
  const v1 = v128.load(from + c1);
  const v2 = v128.load(from + c2);
  const v3 = v128.load(from + c3);
  const r01g01 = v128.shuffle<f32>(v0, v1, 0, 4, 1, 5);
  const r23g23 = v128.shuffle<f32>(v2, v3, 0, 4, 1, 5);
  v128.store(quadAt, v128.shuffle<f32>(r01g01, r23g23, 0, 1, 4, 5));
  v128.store(quadAt + 16, v128.shuffle<f32>(r01g01, r23g23, 2, 3, 6, 7));
  v128.store(quadAt + 32, v128.shuffle<f32>(v128.shuffle<f32>(v0, v1, 2, 6, 2, 6), v128.shuffle<f32>(v2, v3, 2, 6, 2, 6), 0, 1, 4, 5));
}

/**
 * Coverage that one channel alone proves, less what it may seem to.
 * @param lit the screen as it may be lit at most.
 */
// @ts-ignore: decorator
@inline
function proven(I: v128, B: v128, lit: v128): v128 {
  const above = f32x4.gt(I, lit);
  const lighter = minus(over(minus(I, lit), minus(all(1), lit)), all(lighterSlack));
  const darker = minus(over(minus(B, I), B), all(darkerSlack));
  const isDarker = v128.and(f32x4.gt(B, I), f32x4.gt(B, all(0.06)));
  return v128.bitselect(v128.and(f32x4.lt(lit, all(0.9)), lighter), v128.and(isDarker, darker), above);
}

/** The lanes beyond the last pixel take its place. */
function fillLanes(count: i32): void {
  for (let k = count; k < count + LANES - 1; k++) store<i32>(cellsAt + (k << 2), load<i32>(cellsAt + ((count - 1) << 2)));
}

/**
 * Solves the first `count` pixels that were read: coverage, the best candidate's error, and how far good answers lie
 * apart.
 */
export function solve(count: i32): void {
  const one = all(1);
  fillLanes(count);
  for (let k = 0; k < count; k += LANES) {
    const o = k << 2;
    const I0 = v128.load(readingAt + o);
    const I1 = v128.load(readingAt + plane + o);
    const I2 = v128.load(readingAt + 2 * plane + o);
    const B0 = v128.load(backAt + o);
    const B1 = v128.load(backAt + plane + o);
    const B2 = v128.load(backAt + 2 * plane + o);
    const w0 = over(one, plus(times(all(0.5), plus(I0, B0)), all(0.03)));
    const w1 = over(one, plus(times(all(0.5), plus(I1, B1)), all(0.03)));
    const w2 = over(one, plus(times(all(0.5), plus(I2, B2)), all(0.03)));
    const wB0 = times(w0, B0);
    const wB1 = times(w1, B1);
    const wB2 = times(w2, B2);
    const BB = plus(plus(times(wB0, B0), times(wB1, B1)), times(wB2, B2));
    const BI = plus(plus(times(wB0, I0), times(wB1, I1)), times(wB2, I2));
    const II = plus(plus(times(times(w0, I0), I0), times(times(w1, I1), I1)), times(times(w2, I2), I2));
    const c0 = load<i32>(cellsAt + o) * 12;
    const c1 = load<i32>(cellsAt + o + 4) * 12;
    const c2 = load<i32>(cellsAt + o + 8) * 12;
    const c3 = load<i32>(cellsAt + o + 12) * 12;
    let bestError = all(Infinity);
    let leastCost = all(Infinity);
    for (let n = 0; n <= candidateCount; n++) {
      const neutral = n === candidateCount;
      const from = candidatesAt + n * candidateBytes;
      if (!neutral) gather(from, c0, c1, c2, c3);
      const F0 = neutral ? all(0.4) : v128.load(quadAt);
      const F1 = neutral ? all(0.4) : v128.load(quadAt + 16);
      const F2 = neutral ? all(0.4) : v128.load(quadAt + 32);
      const K = all(neutral ? kappaNeutral : kappa);
      const wF0 = times(w0, F0);
      const wF1 = times(w1, F1);
      const wF2 = times(w2, F2);
      const FF = plus(plus(plus(times(wF0, F0), times(wF1, F1)), times(wF2, F2)), K);
      const FB = plus(plus(plus(times(wF0, B0), times(wF1, B1)), times(wF2, B2)), K);
      const FI = plus(plus(plus(times(wF0, I0), times(wF1, I1)), times(wF2, I2)), K);
      const bb = plus(BB, K);
      const bi = plus(BI, K);
      const whole = times(FF, bb);
      const det = minus(whole, times(FB, FB));
      const solvable = f32x4.gt(det, times(whole, all(1e-6)));
      let u = v128.and(solvable, over(minus(times(FF, bi), times(FB, FI)), det));
      u = f32x4.min(one, f32x4.max(all(0), u));
      const rest = f32x4.max(all(0), minus(FI, times(u, FB)));
      const residual = minus(plus(minus(plus(II, K), times(plus(u, u), bi)), times(times(u, u), bb)), over(times(rest, rest), FF));
      const error = times(f32x4.max(all(0), residual), all(inverse));
      bestError = f32x4.min(bestError, error);
      const cost = neutral ? plus(error, all(neutralCost)) : error;
      leastCost = f32x4.min(leastCost, cost);
      v128.store(scratchAt + (n << 5), cost);
      v128.store(scratchAt + (n << 5) + 16, minus(one, u));
    }
    // The nearest colour over the average one, and grey over the average: all are the person, so where they explain a
    // pixel it is solid.
    const average = candidatesAt + (candidateCount - 1) * candidateBytes;
    gather(average, c0, c1, c2, c3);
    const E0 = v128.load(quadAt);
    const E1 = v128.load(quadAt + 16);
    const E2 = v128.load(quadAt + 32);
    const wE0 = times(w0, E0);
    const wE1 = times(w1, E1);
    const wE2 = times(w2, E2);
    const K = all(kappa);
    const EE = plus(plus(plus(times(wE0, E0), times(wE1, E1)), times(wE2, E2)), K);
    const EI = plus(plus(plus(times(wE0, I0), times(wE1, I1)), times(wE2, I2)), K);
    for (let n = 0; n < 2; n++) {
      if (n === 0) gather(candidatesAt, c0, c1, c2, c3);
      const D0 = n ? all(0.4) : v128.load(quadAt);
      const D1 = n ? all(0.4) : v128.load(quadAt + 16);
      const D2 = n ? all(0.4) : v128.load(quadAt + 32);
      const wD0 = times(w0, D0);
      const wD1 = times(w1, D1);
      const wD2 = times(w2, D2);
      const DD = plus(plus(plus(times(wD0, D0), times(wD1, D1)), times(wD2, D2)), K);
      const DE = plus(plus(plus(times(wD0, E0), times(wD1, E1)), times(wD2, E2)), K);
      const DI = plus(plus(plus(times(wD0, I0), times(wD1, I1)), times(wD2, I2)), K);
      const area = times(DD, EE);
      const apart = minus(area, times(DE, DE));
      const d = minus(times(EE, DI), times(DE, EI));
      const e = minus(times(DD, EI), times(DE, DI));
      const possible = v128.and(v128.and(f32x4.gt(apart, times(area, all(1e-3))), f32x4.gt(d, all(0))), f32x4.gt(e, all(0)));
      const residual = f32x4.max(all(0), minus(plus(II, K), over(plus(times(d, DI), times(e, EI)), apart)));
      const error = v128.bitselect(times(residual, all(inverse)), all(1e6), possible);
      bestError = f32x4.min(bestError, error);
      const cost = plus(error, all(n ? neutralCost + pairCost : pairCost));
      leastCost = f32x4.min(leastCost, cost);
      const at = scratchAt + ((candidateCount + 1 + n) << 5);
      v128.store(at, cost);
      v128.store(at + 16, one);
    }
    let sum = all(0);
    let total = all(0);
    let low = one;
    let high = all(0);
    for (let n = 0; n <= candidateCount + 2; n++) {
      const worse = minus(v128.load(scratchAt + (n << 5)), leastCost);
      const a = v128.load(scratchAt + (n << 5) + 16);
      let weight = over(one, plus(one, times(worse, all(0.015625))));
      weight = times(weight, weight);
      weight = times(weight, weight);
      weight = times(weight, weight);
      weight = times(weight, weight);
      weight = times(weight, weight);
      sum = plus(sum, times(weight, a));
      total = plus(total, weight);
      const nearly = f32x4.le(worse, all(4));
      low = v128.bitselect(f32x4.min(low, a), low, nearly);
      high = v128.bitselect(f32x4.max(high, a), high, nearly);
    }
    const mean = f32x4.min(one, over(sum, total));
    v128.store(apartAt + o, minus(f32x4.max(high, mean), f32x4.min(low, mean)));
    v128.store(errorAt + o, bestError);
    const strongest = f32x4.max(f32x4.max(B0, B1), B2);
    const there = v128.bitselect(I0, v128.bitselect(I1, I2, f32x4.eq(B1, strongest)), f32x4.eq(B0, strongest));
    const lit = f32x4.min(all(mostLit), f32x4.max(one, over(there, f32x4.max(strongest, all(1e-4)))));
    const bound = f32x4.max(
      f32x4.max(proven(I0, B0, times(lit, B0)), proven(I1, B1, times(lit, B1))),
      proven(I2, B2, times(lit, B2)),
    );
    v128.store(coverageAt + o, f32x4.max(mean, bound));
  }
}

// @ts-ignore: decorator
@inline
function blend(a: v128, b: v128, share: v128): v128 {
  const from = f32x4.min(all(1), a);
  return plus(from, times(share, minus(f32x4.min(all(1), f32x4.max(all(0), b)), from)));
}

/** Foreground colours of the first `count` pixels that were read, whose coverage stands in its plane. */
export function unmix(count: i32): void {
  fillLanes(count);
  for (let k = 0; k < count; k += LANES) {
    const o = k << 2;
    const a = v128.load(coverageAt + o);
    const through = minus(all(1), a);
    const I0 = v128.load(readingAt + o);
    const I1 = v128.load(readingAt + plane + o);
    const I2 = v128.load(readingAt + 2 * plane + o);
    const B0 = v128.load(backAt + o);
    const B1 = v128.load(backAt + plane + o);
    const B2 = v128.load(backAt + 2 * plane + o);
    const w0 = over(all(1), plus(times(all(0.5), plus(I0, B0)), all(0.03)));
    const w1 = over(all(1), plus(times(all(0.5), plus(I1, B1)), all(0.03)));
    const w2 = over(all(1), plus(times(all(0.5), plus(I2, B2)), all(0.03)));
    const r0 = minus(I0, times(through, B0));
    const r1 = minus(I1, times(through, B1));
    const r2 = minus(I2, times(through, B2));
    const wr0 = times(w0, r0);
    const wr1 = times(w1, r1);
    const wr2 = times(w2, r2);
    const prior = times(all(kappa), a);
    const whole = plus(plus(plus(times(wr0, r0), times(wr1, r1)), times(wr2, r2)), times(prior, a));
    const c0 = load<i32>(cellsAt + o) * 12;
    const c1 = load<i32>(cellsAt + o + 4) * 12;
    const c2 = load<i32>(cellsAt + o + 8) * 12;
    const c3 = load<i32>(cellsAt + o + 12) * 12;
    let least = all(Infinity);
    let F0 = all(0);
    let F1 = all(0);
    let F2 = all(0);
    for (let n = 0; n < candidateCount; n++) {
      const from = candidatesAt + n * candidateBytes;
      gather(from, c0, c1, c2, c3);
      const C0 = v128.load(quadAt);
      const C1 = v128.load(quadAt + 16);
      const C2 = v128.load(quadAt + 32);
      const CC = plus(plus(plus(times(times(w0, C0), C0), times(times(w1, C1), C1)), times(times(w2, C2), C2)), all(kappa));
      const Cr = f32x4.max(all(0), plus(plus(plus(times(wr0, C0), times(wr1, C1)), times(wr2, C2)), prior));
      const t = over(Cr, CC);
      const error = minus(whole, times(t, Cr));
      const better = f32x4.lt(error, least);
      least = v128.bitselect(error, least, better);
      F0 = v128.bitselect(times(t, C0), F0, better);
      F1 = v128.bitselect(times(t, C1), F1, better);
      F2 = v128.bitselect(times(t, C2), F2, better);
    }
    const c = f32x4.min(all(1), times(times(f32x4.max(all(0), least), all(inverse)), all(0.03125)));
    const own = times(times(c, c), minus(all(3), times(all(2), c)));
    const gain = over(all(1), a);
    v128.store(foreAt + o, blend(times(F0, gain), times(r0, gain), own));
    v128.store(foreAt + plane + o, blend(times(F1, gain), times(r1, gain), own));
    v128.store(foreAt + 2 * plane + o, blend(times(F2, gain), times(r2, gain), own));
  }
}
