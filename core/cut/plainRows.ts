import type { EncodedRaster, LinearRaster } from '../image/raster.ts';
import { ChromaReader } from './chromaRepair.ts';
import type { FringeRows, RowsNeed } from './rows.ts';
import { sampleBilinear } from './sampleBilinear.ts';
import { PixelSolver } from './solver.ts';

/** The same arithmetic as the compiled kernel, in single precision and the same order; both give the same bits. */
export class PlainRows implements FringeRows {
  readonly xs: Int32Array;
  readonly cells: Int32Array;
  readonly reading: Float32Array[];
  readonly back: Float32Array[];
  readonly near: Uint8Array;
  readonly coverage: Float32Array;
  readonly error: Float32Array;
  readonly apart: Float32Array;
  readonly fore: Float32Array[];
  private readonly screen: LinearRaster;
  private readonly factor: number;
  private readonly reader: ChromaReader;
  private readonly solver: PixelSolver;
  protected readonly I = new Float32Array(3);
  protected readonly B = new Float32Array(3);
  protected readonly F = new Float32Array(3);

  constructor(
    protected readonly frame: EncodedRaster,
    { halving, screen, factor }: RowsNeed,
    protected readonly candidates: LinearRaster[],
    sigma: number,
  ) {
    this.screen = screen;
    this.factor = factor;
    const plane = (): Float32Array => new Float32Array(frame.width);
    this.xs = new Int32Array(frame.width);
    this.cells = new Int32Array(frame.width);
    this.reading = [plane(), plane(), plane()];
    this.back = [plane(), plane(), plane()];
    this.near = new Uint8Array(frame.width);
    this.coverage = plane();
    this.error = plane();
    this.apart = plane();
    this.fore = [plane(), plane(), plane()];
    this.reader = new ChromaReader(frame, halving);
    this.solver = new PixelSolver(sigma, candidates.length);
  }

  read(count: number, y: number, share: number): void {
    const { B, reader, screen, factor } = this;
    for (let k = 0; k < count; k++) {
      const x = this.xs[k];
      sampleBilinear(screen.data, screen.width, screen.height, (x + 0.5) / factor - 0.5, (y + 0.5) / factor - 0.5, B);
      this.near[k] = reader.isNear(y * this.frame.width + x, B, share) ? 1 : 0;
      reader.read(x, y);
      for (let c = 0; c < 3; c++) {
        this.back[c][k] = B[c];
        this.reading[c][k] = reader.value[c];
      }
    }
  }

  solve(count: number): void {
    const { I, B, solver, reading, back } = this;
    for (let k = 0; k < count; k++) {
      for (let c = 0; c < 3; c++) {
        I[c] = reading[c][k];
        B[c] = back[c][k];
      }
      this.coverage[k] = solver.coverage(I, B, this.candidates, this.cells[k]);
      this.error[k] = solver.bestError;
      this.apart[k] = solver.apart;
    }
  }

  unmix(count: number): void {
    const { I, B, F, solver, reading, back } = this;
    for (let k = 0; k < count; k++) {
      for (let c = 0; c < 3; c++) {
        I[c] = reading[c][k];
        B[c] = back[c][k];
      }
      solver.foreground(I, B, this.coverage[k], this.candidates, this.cells[k], F);
      for (let c = 0; c < 3; c++) this.fore[c][k] = F[c];
    }
  }
}
