// npm run bench [-- accuracy | check | noise | speed]: compiles the kernels if need be, then measures.
import { ensureKernels } from './prepare.mjs';

ensureKernels();
await import('../bench/main.ts');
