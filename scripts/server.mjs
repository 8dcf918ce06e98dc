// What the database tests need before they run.
export { ensureServer as default } from './prepare.mjs';
