// What the unit tests need before they run.
export { ensureKernels as default } from './prepare.mjs';
