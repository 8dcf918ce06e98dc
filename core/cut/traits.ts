import type { LinearRaster } from '../image/raster.ts';
import { roughness } from '../image/roughness.ts';
import { firstBeside, secondBeside, type Channel } from '../colour/channels.ts';

/** What each reduced pixel shows by itself, before anything is decided. */
export interface Traits {
  /** Coverage by colour difference; above 1 for colours that lean away from the screen. */
  key: Float32Array;
  /** Lower bound of coverage, 0–1. */
  proven: Float32Array;
  /** Unevenness between neighbours relative to level. */
  rough: Float32Array;
}

export function traitsOf(frame: LinearRaster, screen: LinearRaster, channel: Channel): Traits {
  return {
    key: keyCoverage(frame, screen, channel),
    proven: provenCoverage(frame, screen),
    rough: roughness(frame, channel),
  };
}

/**
 * Coverage by colour difference, taking the person as having none: 1 − K(I)/K(B), K = primary − larger of the others
 * (Vlahos). Above 1 for colours that lean away from the screen.
 */
function keyCoverage(frame: LinearRaster, screen: LinearRaster, channel: Channel): Float32Array {
  const [one, other] = [firstBeside[channel], secondBeside[channel]];
  const out = new Float32Array(frame.width * frame.height);
  const f = frame.data;
  const b = screen.data;
  for (let p = 0, i = 0; p < out.length; p++, i += 3) {
    const keyB = b[i + channel] - Math.max(b[i + one], b[i + other]);
    const keyI = f[i + channel] - Math.max(f[i + one], f[i + other]);
    out[p] = keyB <= 1e-4 ? 1 : Math.max(0, 1 - keyI / keyB);
  }
  return out;
}

/** Lower bound of coverage: with F in 0–1, each channel alone proves a ≥ 1 − I/B and a ≥ (I − B)/(1 − B). */
function provenCoverage(frame: LinearRaster, screen: LinearRaster): Float32Array {
  const out = new Float32Array(frame.width * frame.height);
  const f = frame.data;
  const b = screen.data;
  for (let p = 0, i = 0; p < out.length; p++, i += 3) {
    let bound = 0;
    for (let c = 0; c < 3; c++) {
      const B = Math.max(1e-4, b[i + c]);
      // Dim channels of a screen prove nothing: a little glare or noise changes their ratio at will.
      if (B > 0.06) bound = Math.max(bound, 1 - f[i + c] / B);
      if (B < 0.95) bound = Math.max(bound, (f[i + c] - B) / (1 - B));
    }
    out[p] = bound;
  }
  return out;
}
