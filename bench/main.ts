import { accuracy } from './accuracy.ts';
import { speed } from './speed.ts';

/** npm run bench [-- accuracy | speed]: both without an argument. */
const [only] = process.argv.slice(2);
if (only !== undefined && only !== 'accuracy' && only !== 'speed') {
  console.error(`expected accuracy or speed, received ${only}`);
  process.exit(2);
}
if (only !== 'speed') await accuracy();
if (only !== 'accuracy') await speed();
