import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { installKernels, type PlaneKernel, type RowKernel } from '../core/kernels/kernels.ts';
import { root } from './root.ts';

const file = join(root, 'dist', 'kernels.wasm');

/** Gives this thread the compiled kernels, where they have been built; the results are the same without them. */
if (existsSync(file)) {
  const module = new WebAssembly.Module(readFileSync(file));
  const instance = (): unknown => new WebAssembly.Instance(module).exports;
  installKernels({ rows: instance() as RowKernel, planes: instance() as PlaneKernel });
}
