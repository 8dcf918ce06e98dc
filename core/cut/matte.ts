import type { EncodedRaster, Plane } from '../image/raster.ts';
import type { Analysis } from './analysis.ts';
import { smoothstep } from '../image/smoothstep.ts';
import { ChromaReader } from './chromaRepair.ts';
import { Region } from './regions.ts';
import { PixelSolver, solverBounds } from './solver.ts';

/** Coverage of every full-size pixel, 0–65535, before floor and ceiling; and how well the fringe was explained. */
export interface Matte {
  width: number;
  height: number;
  alpha: Uint16Array;
  /** Number of fringe pixels. */
  fringePixels: number;
  /** Share of fringe pixels that no candidate explains within three times the noise. */
  unexplained: number;
}

/**
 * Solves I = t·F + u·B for every fringe pixel, for each competing candidate F, by weighted least squares in linear
 * light with a soft condition t + u = 1 that decides where F and B point the same way (green cloth). Coverage is
 * 1 − u. Candidates are mixed by how well they explain the pixel. Clear pixels get 0, core pixels 65535.
 */
export function solveMatte(frame: EncodedRaster, analysis: Analysis): Matte {
  const { width, height } = frame;
  const { factor, regions, screen, candidates, solidity, beyond } = analysis;
  const alpha = new Uint16Array(width * height);
  const cellsAcross = regions.width;
  const sigma = Math.max(solverBounds.minSigma, 2.2 * analysis.noise);
  const solve = new PixelSolver(sigma, candidates.length);
  const reader = new ChromaReader(frame, analysis.halving);
  const B = new Float32Array(3);
  let fringePixels = 0;
  let unexplained = 0;
  for (let y = 0; y < height; y++) {
    const cellRow = ((y / factor) | 0) * cellsAcross;
    for (let x = 0; x < width; x++) {
      const cell = cellRow + ((x / factor) | 0);
      const region = regions.data[cell];
      if (region === Region.clear) continue;
      const i = y * width + x;
      if (region === Region.core && solidity.data[cell] >= 0.999) {
        alpha[i] = 65535;
        continue;
      }
      const cx = (x + 0.5) / factor - 0.5;
      const cy = (y + 0.5) / factor - 0.5;
      if (beyond.data[cell] >= 0) {
        alpha[i] = Math.round(65535 * smoothstep(samplePlane(beyond, cx, cy)));
        continue;
      }
      fringePixels++;
      reader.read(x, y);
      sampleBilinear(screen.data, screen.width, screen.height, cx, cy, B);
      let coverage = solve.coverage(reader.value, B, candidates, cell);
      if (solve.bestError > 9) unexplained++;
      if (region === Region.core) coverage += (1 - coverage) * samplePlane(solidity, cx, cy);
      alpha[i] = Math.round(coverage * 65535);
    }
  }
  return { width, height, alpha, fringePixels, unexplained: fringePixels ? unexplained / fringePixels : 0 };
}

function samplePlane(plane: Plane, x: number, y: number): number {
  const { width, height, data } = plane;
  const cx = x < 0 ? 0 : x > width - 1 ? width - 1 : x;
  const cy = y < 0 ? 0 : y > height - 1 ? height - 1 : y;
  const x0 = cx | 0;
  const y0 = cy | 0;
  const a = y0 * width + x0;
  const right = x0 + 1 < width ? 1 : 0;
  const down = y0 + 1 < height ? width : 0;
  const top = data[a] + (cx - x0) * (data[a + right] - data[a]);
  const bottom = data[a + down] + (cx - x0) * (data[a + down + right] - data[a + down]);
  return top + (cy - y0) * (bottom - top);
}

/** Bilinear sample of three interleaved channels at pixel-centre coordinates, clamped at the border. */
export function sampleBilinear(data: Float32Array, width: number, height: number, x: number, y: number, out: Float32Array): void {
  const cx = x < 0 ? 0 : x > width - 1 ? width - 1 : x;
  const cy = y < 0 ? 0 : y > height - 1 ? height - 1 : y;
  const x0 = cx | 0;
  const y0 = cy | 0;
  const fx = cx - x0;
  const fy = cy - y0;
  const a = (y0 * width + x0) * 3;
  const b = x0 + 1 < width ? a + 3 : a;
  const down = y0 + 1 < height ? width * 3 : 0;
  const wa = (1 - fx) * (1 - fy);
  const wb = fx * (1 - fy);
  const wc = (1 - fx) * fy;
  const wd = fx * fy;
  for (let c = 0; c < 3; c++) out[c] = wa * data[a + c] + wb * data[b + c] + wc * data[a + down + c] + wd * data[b + down + c];
}
