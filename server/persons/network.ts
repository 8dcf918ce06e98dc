import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { dirname, join, sep } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';
import { runInThisContext } from 'node:vm';
import { FACE_SIDE } from '../../core/persons/faces.ts';
import { NETWORK_SIDE } from '../../core/persons/personMap.ts';

/**
 * Runs a network once.
 * @param rgb side × side × 3, rows from the top, in the range that the network was made for.
 * @returns what it gives, the largest answer first.
 */
export type Network = (rgb: Float32Array) => Promise<Float32Array[]>;

/** The networks that are used: the package and file of their weights, and the side of the square that they look at. */
const networks = {
  persons: { weights: '@mediapipe/selfie_segmentation/selfie_segmentation.tflite', side: NETWORK_SIDE },
  faces: { weights: '@mediapipe/face_detection/face_detection_full_range.tflite', side: FACE_SIDE },
};

const loaded = new Map<keyof typeof networks, Promise<Network>>();

/** A network, loaded once for a thread. */
export function network(name: keyof typeof networks): Promise<Network> {
  const there = loaded.get(name);
  if (there) return there;
  const loading = load(networks[name]);
  loaded.set(name, loading);
  return loading;
}

let runtimeLoaded: Promise<typeof import('@litertjs/core')> | undefined;

async function load({ weights, side }: { weights: string; side: number }): Promise<Network> {
  const { loadAndCompile, Tensor } = await (runtimeLoaded ??= loadRuntime());
  const file = createRequire(import.meta.url).resolve(weights);
  const model = await quietly(async () =>
    loadAndCompile(new Uint8Array(await readFile(file)), { accelerator: 'wasm' }),
  );
  return async (rgb) => {
    const input = new Tensor(rgb, [1, side, side, 3]);
    const outputs = [await model.run(input)].flat();
    const answers: Float32Array[] = [];
    for (const output of outputs) answers.push(Float32Array.from((await output.data()) as Float32Array));
    for (const tensor of [input, ...outputs]) tensor.delete();
    return answers.sort((a, b) => b.length - a.length);
  };
}

async function loadRuntime(): Promise<typeof import('@litertjs/core')> {
  const require = createRequire(import.meta.url);
  const runtime = require.resolve('@litertjs/core');
  const restore = asInBrowser(require);
  try {
    const library = (await import(pathToFileURL(runtime).href)) as typeof import('@litertjs/core');
    const folder = pathToFileURL(join(dirname(runtime), '..', 'wasm') + sep).href;
    await quietly(() => library.loadLiteRt(folder, { threads: false }));
    return library;
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
