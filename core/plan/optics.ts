/** Thin-lens optics. Lengths in metres; distances are measured from the lens. */

/** Diameter on the sensor of the blur of a point at `distance`, focused at `focus`: f²·|d − s| / (N·d·(s − f)). */
export function blurDiameter(focal: number, aperture: number, focus: number, distance: number): number {
  return (focal * focal * Math.abs(distance - focus)) / (aperture * distance * Math.max(1e-6, focus - focal));
}

/**
 * Near and far limit of sharpness for a largest blur `circle` on the sensor; far is Infinity beyond the hyperfocal
 * distance.
 */
export function depthOfField(
  focal: number,
  aperture: number,
  focus: number,
  circle: number,
): { near: number; far: number } {
  const hyper = (focal * focal) / (aperture * circle);
  const near = (hyper * focus) / (hyper + (focus - focal));
  const rest = hyper - (focus - focal);
  return { near, far: rest > 0 ? (hyper * focus) / rest : Infinity };
}

/**
 * Contrast that a blur disc leaves of a sine pattern, 0–1: |2·J₁(πcν) / (πcν)|; `cycles` is cν, periods across the
 * disc.
 */
export function contrastThroughDisc(cycles: number): number {
  const u = Math.PI * cycles;
  if (u < 1e-4) return 1;
  return Math.min(1, Math.abs((2 * besselJ1(u)) / u));
}

/** Bessel function J₁ (Abramowitz & Stegun 9.4.4 and 9.4.6, error below 2·10⁻⁷). */
export function besselJ1(x: number): number {
  const a = Math.abs(x);
  if (a < 3) {
    const t = (x / 3) ** 2;
    return (
      x *
      (0.5 +
        t *
          (-0.56249985 + t * (0.21093573 + t * (-0.03954289 + t * (0.00443319 + t * (-0.00031761 + t * 0.00001109))))))
    );
  }
  const t = 3 / a;
  const f =
    0.79788456 +
    t * (0.00000156 + t * (0.01659667 + t * (0.00017105 + t * (-0.00249511 + t * (0.00113653 - t * 0.00020033)))));
  const theta =
    a -
    2.35619449 +
    t * (0.12499612 + t * (0.0000565 + t * (-0.00637879 + t * (0.00074348 + t * (0.00079824 - t * 0.00029166)))));
  return (Math.sign(x) * f * Math.cos(theta)) / Math.sqrt(a);
}
