import { accuracy, photographs } from './accuracy.ts';
import { check, noise } from './check.ts';
import { filesIn } from './filesIn.ts';
import { fringe } from './fringe.ts';
import { gather } from './gather.ts';
import { handOver } from './handOver.ts';
import { match } from './match.ts';
import { speed } from './speed.ts';
import { touches } from './touches.ts';
import { viewing } from './viewing.ts';
import { walk } from './walk.ts';

/**
 * npm run bench [-- accuracy [DIR [EVERY]] | photographs DIR | check | noise | gather [. EVENTS] | filesIn [COUNT] | fringe [DIR [EVERY]] | handOver | match | speed | touches | viewing | walk [DIR [EVERY]]]: all but photographs without an
 * argument.
 */
const benches: Record<string, (folder?: string, every?: number) => Promise<void>> = {
  accuracy,
  photographs,
  check,
  noise,
  gather,
  filesIn,
  fringe,
  handOver,
  match,
  speed,
  touches,
  viewing,
  walk,
};
const [only, folder, every] = process.argv.slice(2);
if (only !== undefined && !(only in benches)) {
  console.error(`expected ${Object.keys(benches).join(', ')}; received ${only}`);
  process.exit(2);
}
for (const [name, bench] of Object.entries(benches))
  if (only === name || (only === undefined && name !== 'photographs'))
    await bench(folder, every === undefined ? undefined : Number(every));
