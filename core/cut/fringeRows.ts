import { linearTable } from '../colour/transfer.ts';
import { whiteLevel, type EncodedRaster, type LinearRaster } from '../image/raster.ts';
import { installedKernels, makeRoom, type RowKernel } from '../kernels/kernels.ts';
import { leastLumaVariance } from './chromaRepair.ts';
import { PlainRows } from './plainRows.ts';
import type { FringeRows, RowsNeed } from './rows.ts';
import { solverNumbers } from './solver.ts';

/** By the compiled kernel where one is installed, otherwise in plain code; the results are the same. */
export function fringeRows(
  frame: EncodedRaster,
  need: RowsNeed,
  candidates: LinearRaster[] = [],
  sigma = 1,
): FringeRows {
  const kernel = installedKernels()?.rows;
  return kernel
    ? new CompiledRows(kernel, frame, need, candidates, sigma)
    : new PlainRows(frame, need, candidates, sigma);
}

/** Rows of the reduced frame, in linear light already: the caller writes `reading`, `back` and `cells`, and solves. */
export function linearRows(screen: LinearRaster, candidates: LinearRaster[], sigma: number): FringeRows {
  const unread: EncodedRaster = { width: screen.width, height: 1, channels: 1, data: new Uint8Array(screen.width) };
  return fringeRows(unread, { halving: { across: -1, down: -1 }, screen, factor: 1 }, candidates, sigma);
}

/** Rows that the kernel holds, and how far below the one asked for it looks. */
const RING = 8;
const AHEAD = 3;

export class CompiledRows implements FringeRows {
  readonly xs: Int32Array;
  readonly cells: Int32Array;
  readonly reading: Float32Array[];
  readonly back: Float32Array[];
  readonly near: Uint8Array;
  readonly coverage: Float32Array;
  readonly error: Float32Array;
  readonly apart: Float32Array;
  readonly fore: Float32Array[];
  private readonly rows: Uint8Array | Uint16Array;
  private loaded = -1;

  constructor(
    protected readonly kernel: RowKernel,
    protected readonly frame: EncodedRaster,
    { halving, screen, factor }: RowsNeed,
    candidates: LinearRaster[],
    sigma: number,
  ) {
    const { width, height, channels, data } = frame;
    const sixteen = data instanceof Uint16Array;
    makeRoom(
      kernel,
      kernel.layout(
        width,
        height,
        channels,
        sixteen,
        halving.across,
        halving.down,
        factor,
        screen.width,
        screen.height,
        candidates.length,
      ),
    );
    const { buffer } = kernel.memory;
    const floats = (at: number, length: number): Float32Array => new Float32Array(buffer, at, length);
    this.rows = sixteen
      ? new Uint16Array(buffer, kernel.rowsPointer(), RING * width * channels)
      : new Uint8Array(buffer, kernel.rowsPointer(), RING * width * channels);
    this.xs = new Int32Array(buffer, kernel.xsPointer(), width);
    this.cells = new Int32Array(buffer, kernel.cellsPointer(), width);
    this.reading = this.planesAt(kernel.readingPointer());
    this.back = this.planesAt(kernel.backPointer());
    this.near = new Uint8Array(buffer, kernel.nearPointer(), width);
    this.coverage = floats(kernel.coveragePointer(), width);
    this.error = floats(kernel.errorPointer(), width);
    this.apart = floats(kernel.apartPointer(), width);
    this.fore = this.planesAt(kernel.forePointer());
    const table = linearTable(data);
    floats(kernel.tablePointer(), table.length).set(table);
    floats(kernel.screenPointer(), screen.data.length).set(screen.data);
    candidates.forEach((field, n) => floats(kernel.candidatePointer(n), field.data.length).set(field.data));
    const { inverse, kappa, kappaNeutral, neutralCost, pairCost, lighterSlack, darkerSlack, mostLit } =
      solverNumbers(sigma);
    kernel.prepare(
      whiteLevel(frame),
      leastLumaVariance(frame),
      inverse,
      kappa,
      kappaNeutral,
      neutralCost,
      pairCost,
      lighterSlack,
      darkerSlack,
      mostLit,
    );
  }

  protected planesAt(at: number): Float32Array[] {
    const { width } = this.frame;
    return [0, 1, 2].map((c) => new Float32Array(this.kernel.memory.buffer, at + c * (width + 4) * 4, width));
  }

  /** Rows around row y into the kernel's memory. */
  protected hold(y: number): void {
    const { width, height, channels, data } = this.frame;
    const length = width * channels;
    for (let row = Math.max(this.loaded + 1, y + AHEAD + 1 - RING, 0); row <= Math.min(height - 1, y + AHEAD); row++) {
      this.rows.set(data.subarray(row * length, (row + 1) * length), (row % RING) * length);
      this.loaded = row;
    }
  }

  read(count: number, y: number, share: number): void {
    this.hold(y);
    this.kernel.read(count, y, share);
  }

  solve(count: number): void {
    if (count) this.kernel.solve(count);
  }

  unmix(count: number): void {
    if (count) this.kernel.unmix(count);
  }
}
