import { gainsOf, stepOf, type LightStep } from '../colour/lightGains.ts';
import { encoderFor, linearTable } from '../colour/transfer.ts';
import { sameDepth, type EncodedRaster } from '../image/raster.ts';
import type { Rgb } from '../plan/exposure.ts';
import { recipeSettings, type PersonLight, type Recipe } from './recipe.ts';

type Set = Pick<Recipe, PersonLight>;

/**
 * A cut-out with the person’s light put right: exposure and white balance in linear light, after everything else. What
 * is lighter than white is white; coverage stays. Without any it is the very same picture.
 */
export function withPersonLight(
  cutout: EncodedRaster & { channels: 4 },
  { personExposure: exposure, personWarmth: warmth, personTint: tint }: Set,
): EncodedRaster & { channels: 4 } {
  if (exposure === 0 && warmth === 0 && tint === 0) return cutout;
  const values = linearTable(cutout.data);
  const encode = encoderFor(cutout.data);
  const changed = gainsOf({ exposure, warmth, tint }).map((gain) => {
    const table = sameDepth(cutout.data, values.length);
    for (let v = 0; v < table.length; v++) table[v] = encode(values[v] * gain);
    return table;
  });
  const data = cutout.data.slice();
  for (let i = 0; i < data.length; i += 4) for (let c = 0; c < 3; c++) data[i + c] = changed[c][data[i + c]];
  return { ...cutout, data };
}

/** The settings whose gains are nearest to those wanted, within their ranges and steps. @param gains linear, above 0. */
export function personLightFor(gains: Rgb): Set {
  const step: LightStep = stepOf(gains);
  const within = (name: PersonLight, value: number): number => {
    const { min, max, step: fine } = recipeSettings[name];
    const rounded = Math.round(Math.min(max, Math.max(min, value)) / fine) * fine;
    return Math.round(rounded * 100) / 100;
  };
  return {
    personExposure: within('personExposure', step.exposure),
    personWarmth: within('personWarmth', step.warmth),
    personTint: within('personTint', step.tint),
  };
}

/** What makes a grey card of these readings neutral and as light as it is: gains with green 1, and stops. */
export function personLightByCard({ gains, stops }: { gains: Rgb; stops: number }): Set {
  return personLightFor(gains.map((gain) => gain * 2 ** stops) as Rgb);
}
