import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { installKernels, type RowKernel } from '../core/kernels/kernels.ts';

const file = join(import.meta.dirname, '..', 'dist', 'kernels.wasm');

/** Gives this thread the compiled kernels, where they have been built; the results are the same without them. */
if (existsSync(file)) installKernels(new WebAssembly.Instance(new WebAssembly.Module(readFileSync(file))).exports as unknown as RowKernel);
