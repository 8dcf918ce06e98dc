import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { dirname, join, sep } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';
import { runInThisContext } from 'node:vm';
import { NETWORK_SIDE } from '../../core/persons/personMap.ts';

/**
 * Runs the segmentation network once.
 * @param rgb sRGB 0–1, 256 × 256 × 3, rows from the top.
 * @returns 256 × 256, how much each place is person, 0–1.
 */
export type Network = (rgb: Float32Array) => Promise<Float32Array>;

let loaded: Promise<Network> | undefined;

/** The network, loaded once for a thread. */
export function network(): Promise<Network> {
  return (loaded ??= load());
}

async function load(): Promise<Network> {
  const require = createRequire(import.meta.url);
  const runtime = require.resolve('@litertjs/core');
  const restore = asInBrowser(require);
  try {
    const { loadLiteRt, loadAndCompile, Tensor } = (await import(
      pathToFileURL(runtime).href
    )) as typeof import('@litertjs/core');
    await quietly(() => loadLiteRt(pathToFileURL(join(dirname(runtime), '..', 'wasm') + sep).href, { threads: false }));
    const weights = join(dirname(require.resolve('@mediapipe/selfie_segmentation')), 'selfie_segmentation.tflite');
    const model = await quietly(async () =>
      loadAndCompile(new Uint8Array(await readFile(weights)), { accelerator: 'wasm' }),
    );
    return async (rgb) => {
      const input = new Tensor(rgb, [1, NETWORK_SIDE, NETWORK_SIDE, 3]);
      const [output] = [await model.run(input)].flat();
      const map = Float32Array.from((await output.data()) as Float32Array);
      input.delete();
      output.delete();
      return map;
    };
  } finally {
    restore();
  }
}

/**
 * The runtime is written for browsers: it fetches its own files and runs a script as a worker would. In Node.js that
 * takes these few stand-ins, which are gone again once it is loaded.
 */
function asInBrowser(require: NodeRequire): () => void {
  const scope = globalThis as Record<string, unknown>;
  const before = ['self', 'navigator', 'require', 'importScripts', 'fetch', '__filename', '__dirname'].map(
    (name) => [name, Object.getOwnPropertyDescriptor(scope, name)] as const,
  );
  const fetchFromWeb = globalThis.fetch;
  scope.self = globalThis;
  if (!globalThis.navigator) scope.navigator = {};
  scope.require = require;
  scope.importScripts = (address: string) => {
    const file = fileURLToPath(address);
    scope.__filename = file;
    scope.__dirname = dirname(file);
    runInThisContext(require('node:fs').readFileSync(file, 'utf8'), { filename: file });
  };
  globalThis.fetch = async (...request) => {
    const address = String(request[0] instanceof Request ? request[0].url : request[0]);
    return address.startsWith('file:') ? new Response(await readFile(new URL(address))) : fetchFromWeb(...request);
  };
  return () => {
    for (const [name, descriptor] of before) {
      if (descriptor) Object.defineProperty(scope, name, descriptor);
      else delete scope[name];
    }
  };
}

/** The runtime reports its start on the console, where nobody asked for it. */
async function quietly<T>(work: () => Promise<T>): Promise<T> {
  const { log, info, warn, error } = console;
  const silent = (): void => undefined;
  Object.assign(console, { log: silent, info: silent, warn: silent, error: silent });
  try {
    return await work();
  } finally {
    Object.assign(console, { log, info, warn, error });
  }
}
