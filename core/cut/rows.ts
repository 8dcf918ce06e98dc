import type { LinearRaster } from '../image/raster.ts';
import type { ChromaHalving } from './chromaRepair.ts';

/**
 * Reads and solves chosen pixels of one row after another, a plane for each kind of value. The caller writes `xs`, from
 * left to right, and for `solve` their reduced pixels `cells`.
 */
export interface FringeRows {
  readonly xs: Int32Array;
  readonly cells: Int32Array;
  /** Linear light of the pixel with its colour repaired, and of the screen behind it; red, green, blue. */
  readonly reading: readonly Float32Array[];
  readonly back: readonly Float32Array[];
  /** 1 where the pixel, as the file has it, differs from the screen by less than the given share of each channel. */
  readonly near: Uint8Array;
  /** Coverage 0–1, squared error of the best candidate in units of the noise, spread of the good answers. */
  readonly coverage: Float32Array;
  readonly error: Float32Array;
  readonly apart: Float32Array;
  /** Foreground colour; red, green, blue. */
  readonly fore: readonly Float32Array[];
  /** Fills `reading`, `back` and `near` for the first `count` pixels of row `y`. */
  read(count: number, y: number, share: number): void;
  /** Fills `coverage`, `error` and `apart` for what was read last. */
  solve(count: number): void;
  /** Fills `fore` for what was read last, whose coverage the caller has put into `coverage`. */
  unmix(count: number): void;
}

export interface RowsNeed {
  halving: ChromaHalving;
  /** B(x), reduced by `factor`. */
  screen: LinearRaster;
  factor: number;
}
