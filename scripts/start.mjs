// npm start: puts in place what is missing, then runs the server in this process until Ctrl-C or SIGTERM.
import process from 'node:process';
import { ensurePackages, ensurePrograms, ensureServer, ensureWeb, mariadb, root } from './prepare.mjs';

ensurePackages();
ensurePrograms([mariadb]);
ensureWeb();
ensureServer();

const { start } = await import('../dist/server/main.js');

let ending = false;
let running;
const end = async () => {
  if (ending) return;
  ending = true;
  const { stop } = (await running.catch(() => undefined)) ?? {};
  await stop?.();
  process.exit(0);
};
process.on('SIGINT', end);
process.on('SIGTERM', end);
process.on('SIGHUP', end);
// npm hands signals on, but when npm itself is killed outright nobody tells us: then we have another parent.
if (process.env.npm_lifecycle_event === 'start') {
  const parent = process.ppid;
  setInterval(() => process.ppid !== parent && void end(), 500).unref();
}

running = start(root);
try {
  const { address } = await running;
  console.log(`Silent Lawn is ready: ${address}`);
  console.log('Ctrl-C ends it.');
} catch (error) {
  console.error(error.message);
  process.exit(1);
}
