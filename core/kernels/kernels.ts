/** What compiled code gives; see assembly/rows.ts for what each function does. */
export interface RowKernel {
  memory: { readonly buffer: ArrayBuffer; grow(pages: number): number };
  layout(width: number, height: number, channels: number, sixteen: boolean, across: number, down: number, factor: number, cellsAcross: number, cellsDown: number, candidates: number): number;
  prepare(white: number, leastVariance: number, inverseVariance: number, kappa: number, kappaNeutral: number, neutralCost: number, provenSlack: number): void;
  read(count: number, y: number, share: number): void;
  solve(count: number): void;
  rowsPointer(): number;
  tablePointer(): number;
  screenPointer(): number;
  candidatePointer(n: number): number;
  xsPointer(): number;
  cellsPointer(): number;
  readingPointer(): number;
  backPointer(): number;
  nearPointer(): number;
  coveragePointer(): number;
  errorPointer(): number;
  apartPointer(): number;
}

let installed: RowKernel | undefined;

/** Gives the core its compiled kernels; without them it computes the same in plain code, more slowly. One set for a thread. */
export function installKernels(kernel: RowKernel | undefined): void {
  installed = kernel;
}

export function installedKernels(): RowKernel | undefined {
  return installed;
}
