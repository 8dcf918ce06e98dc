interface KernelMemory {
  memory: { readonly buffer: ArrayBuffer; grow(pages: number): number };
}

/** Reading, solving and finishing of fringe pixels; see assembly/ for what each function does. */
export interface RowKernel extends KernelMemory {
  layout(
    width: number,
    height: number,
    channels: number,
    sixteen: boolean,
    across: number,
    down: number,
    factor: number,
    cellsAcross: number,
    cellsDown: number,
    candidates: number,
  ): number;
  prepare(
    white: number,
    leastVariance: number,
    inverseVariance: number,
    kappa: number,
    kappaNeutral: number,
    neutralCost: number,
    pairCost: number,
    lighterSlack: number,
    darkerSlack: number,
    mostLit: number,
  ): void;
  read(count: number, y: number, share: number): void;
  solve(count: number): void;
  unmix(count: number): void;
  prepareFinish(blueScreen: boolean, byLarger: number, spillMethod: number): void;
  prepareSpill(hues: number, fade: number, replaced: number, red: number, green: number, blue: number): void;
  sort(y: number): number;
  colour(count: number, y: number): void;
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
  forePointer(): number;
  alphaPointer(): number;
  kindsPointer(): number;
  finalPointer(): number;
  encodePointer(): number;
  amountPointer(): number;
  gonePointer(): number;
  pixelsPointer(): number;
}

/** Steps over whole planes; see assembly/planes.ts, filling.ts and network.ts. */
export interface PlaneKernel extends KernelMemory {
  firstPlace(): number;
  grow(
    source: number,
    rows: number,
    since: number,
    out: number,
    width: number,
    height: number,
    reach: number,
    target: number,
  ): void;
  blur(source: number, rows: number, sums: number, out: number, width: number, height: number, radius: number): void;
  greatest(padded: number, out: number, width: number, height: number, radius: number): void;
  overTone(pixels: number, count: number, table: number, encode: number, level: number, tone: number): void;
  reduce(
    rows: number,
    count: number,
    width: number,
    channels: number,
    wide: boolean,
    factor: number,
    step: number,
    table: number,
    out: number,
  ): void;
  sumNormal(points: number, count: number, terms: number, normal: number, right: number): number;
  nearest(mask: number, xs: number, ys: number, squared: number, index: number, width: number, height: number): void;
  coarserBytes(width: number, height: number): number;
  pushPull(data: number, weight: number, width: number, height: number, coarser: number): void;
  depthwise(
    source: number,
    out: number,
    channels: number,
    width: number,
    height: number,
    stride: number,
    weights: number,
  ): void;
  pointwise(
    source: number,
    from: number,
    second: number,
    more: number,
    out: number,
    into: number,
    count: number,
    stride: number,
    weights: number,
    mode: number,
  ): void;
  halve(
    source: number,
    out: number,
    channels: number,
    width: number,
    height: number,
    stride: number,
    outStride: number,
  ): void;
  raise(
    source: number,
    out: number,
    channels: number,
    width: number,
    height: number,
    stride: number,
    outStride: number,
  ): void;
  rectify(at: number, count: number): void;
  purer(
    list: number,
    count: number,
    data: number,
    solid: number,
    leans: number,
    out: number,
    width: number,
    height: number,
    radius: number,
  ): void;
}

/** Two instances of the compiled module, since each has its memory to itself. */
export interface Kernels {
  rows: RowKernel;
  planes: PlaneKernel;
}

let installed: Kernels | undefined;

/**
 * Gives the core its compiled kernels; without them it computes the same in plain code, more slowly. One set for a
 * thread.
 */
export function installKernels(kernels: Kernels | undefined): void {
  installed = kernels;
}

export function installedKernels(): Kernels | undefined {
  return installed;
}

const PAGE = 65536;

/** Sees to it that a kernel's memory has so many bytes. */
export function makeRoom({ memory }: KernelMemory, bytes: number): void {
  const missing = bytes - memory.buffer.byteLength;
  if (missing > 0) memory.grow(Math.ceil(missing / PAGE));
}

/** Places of so many bytes each in a kernel's memory, which is grown if need be; what stood there is lost. */
export function placesIn(kernel: PlaneKernel, ...sizes: number[]): number[] {
  let end = kernel.firstPlace();
  const places = sizes.map((bytes) => {
    const at = end;
    end += (bytes + 31) & ~15;
    return at;
  });
  makeRoom(kernel, end);
  return places;
}
