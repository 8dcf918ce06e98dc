import type { Rgb } from './exposure.ts';
import { illuminance, type Source } from './light.ts';
import type { Plan } from './plan.ts';
import { vec, type Vec } from './vector.ts';

/**
 * Light that the lit screen throws on a small surface, per channel in lx: E = Σ ρ·Eₛ/π · cosθ·cosφ / r² · dA over the
 * screen and its sweep, in patches. (With Eₛ = 1 lx and ρ = 1 this is the form factor from surface to screen.)
 * @param lightOnScreen light on the screen per channel at a place, lx.
 * @param fineness patches across the screen; 24 is good to 1 % from half a metre on.
 */
export function bounceOn(
  plan: Pick<Plan, 'screen'>,
  point: Vec,
  normal: Vec,
  lightOnScreen: (place: Vec, placeNormal: Vec) => Rgb,
  fineness = 14,
): Rgb {
  const { screen } = plan;
  const reflectance: Rgb = [screen.red, screen.green, screen.blue];
  const out: Rgb = [0, 0, 0];
  const panel = (origin: Vec, across: Vec, along: Vec, facing: Vec): void => {
    const width = Math.hypot(across.x, across.y, across.z);
    const height = Math.hypot(along.x, along.y, along.z);
    const columns = fineness;
    const rows = Math.max(2, Math.round((fineness * height) / width));
    const area = (width * height) / (columns * rows);
    for (let j = 0; j < rows; j++) {
      for (let i = 0; i < columns; i++) {
        const u = (i + 0.5) / columns;
        const v = (j + 0.5) / rows;
        const place = vec(
          origin.x + u * across.x + v * along.x,
          origin.y + u * across.y + v * along.y,
          origin.z + u * across.z + v * along.z,
        );
        const dx = place.x - point.x;
        const dy = place.y - point.y;
        const dz = place.z - point.z;
        const received = dx * normal.x + dy * normal.y + dz * normal.z;
        const given = -(dx * facing.x + dy * facing.y + dz * facing.z);
        if (received <= 0 || given <= 0) continue;
        const r2 = Math.max(0.01, dx * dx + dy * dy + dz * dz);
        const factor = (received * given * area) / (Math.PI * r2 * r2);
        const light = lightOnScreen(place, facing);
        for (let c = 0; c < 3; c++) out[c] += factor * reflectance[c] * light[c];
      }
    }
  };
  panel(vec(-screen.width / 2, screen.bottom, 0), vec(screen.width, 0, 0), vec(0, screen.height, 0), vec(0, 0, 1));
  if (screen.sweep > 0)
    panel(vec(-screen.width / 2, 0, 0), vec(screen.width, 0, 0), vec(0, 0, screen.sweep), vec(0, 1, 0));
  return out;
}

/** Light on the screen, remembered on a grid, since every place of the person asks for the same patches. */
export function rememberLight(sources: readonly Source[]): (place: Vec, normal: Vec) => Rgb {
  const known = new Map<string, Rgb>();
  return (place, normal) => {
    const key = `${place.x.toFixed(3)} ${place.y.toFixed(3)} ${place.z.toFixed(3)}`;
    let light = known.get(key);
    if (!light) {
      light = [0, 0, 0];
      for (const source of sources) {
        const e = illuminance(source, place, normal);
        for (let c = 0; c < 3; c++) light[c] += e * source.light.rgb[c];
      }
      known.set(key, light);
    }
    return light;
  };
}
