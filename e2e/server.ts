import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtemp } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Health } from '../contract/index.ts';
import temporaryFolder from '../scripts/temporaryFolder.ts';

/** The application as a user starts it, with a data folder of its own. */
export interface Running {
  address: string;
  process: ChildProcess;
  output: () => string;
  /** Ends it in good order and waits. */
  stop: () => Promise<number | null>;
}

export async function newDataFolder(): Promise<string> {
  return mkdtemp(join(tmpdir(), 'silent-lawn-e2e-'));
}

/** Runs what `npm start` runs, or `npm start` itself, and waits for the printed address. */
export function startApplication(
  dataFolder: string,
  environment: Record<string, string> = {},
  byNpm = false,
): Promise<Running> {
  const root = join(import.meta.dirname, '..');
  const [program, args] = byNpm ? ['npm', ['start']] : [process.execPath, [join(root, 'scripts', 'start.mjs')]];
  const child = spawn(program, args, {
    cwd: root,
    env: {
      ...process.env,
      SILENT_LAWN_DATA: dataFolder,
      // Tests cut what they want cut.
      SILENT_LAWN_DEMO: 'pictures',
      SILENT_LAWN_DEMO_HEIGHT: '600',
      SILENT_LAWN_DEMO_FRAMES: '5',
      PORT: '4410',
      ...environment,
    },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  let text = '';
  const ended = new Promise<number | null>((resolve) => child.once('exit', resolve));
  return new Promise((resolve, reject) => {
    const read = (chunk: Buffer): void => {
      text += chunk.toString();
      const address = /ready: (\S+)/.exec(text)?.[1];
      if (address) resolve({ address, process: child, output: () => text, stop: () => (child.kill('SIGTERM'), ended) });
    };
    child.stdout.on('data', read);
    child.stderr.on('data', read);
    void ended.then((code) => reject(new Error(`it ended with code ${code}:\n${text}`)));
  });
}

/** One application for all tests that do not need their own; the address is in E2E_ADDRESS. */
export default async function setup(): Promise<() => Promise<void>> {
  const clear = temporaryFolder();
  const running = await startApplication(await newDataFolder());
  process.env.E2E_ADDRESS = running.address;
  for (;;) {
    const { sample } = (await (await fetch(`${running.address}api/health`)).json()) as Health;
    if (sample.total > 0 && sample.done === sample.total) break;
    await new Promise((resolve) => setTimeout(resolve, 500));
  }
  return async () => {
    await running.stop();
    clear();
  };
}
