import { accuracy } from './accuracy.ts';
import { check, noise } from './check.ts';
import { speed } from './speed.ts';

/** npm run bench [-- accuracy | check | noise | speed]: all without an argument. */
const benches = { accuracy, check, noise, speed };
const [only] = process.argv.slice(2);
if (only !== undefined && !(only in benches)) {
  console.error(`expected ${Object.keys(benches).join(', ')}; received ${only}`);
  process.exit(2);
}
for (const [name, bench] of Object.entries(benches)) if (only === undefined || only === name) await bench();
