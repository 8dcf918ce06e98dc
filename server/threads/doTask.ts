import { performance } from 'node:perf_hooks';
import type { MessagePort } from 'node:worker_threads';
import { PictureError } from '../pictures/decode.ts';
import { openStore } from '../store/openStore.ts';
import type { StoreAt } from '../store/store.ts';
import type { Answer, Doing, Input, TaskKind } from './task.ts';

/** How each is done, loaded by the first that asks for it: a thread is there at once and stays small. */
const tasks: { [K in TaskKind]: () => Promise<Doing<K>> } = {
  cut: async () => (await import('../stations/extract/cutTask.ts')).cut,
  files: async () => (await import('../stations/handOver/filesTask.ts')).makeFiles,
  copyOut: async () => (await import('../stations/handOver/copyOutTask.ts')).copyOut,
  archive: async () => (await import('../stations/log/archiveTask.ts')).archive,
  unpack: async () => (await import('../stations/shoots/unpackTask.ts')).unpack,
  printOrder: async () => (await import('../stations/handOver/printTask.ts')).placeOrder,
  plate: async () => (await import('../stations/gather/plateTask.ts')).makePlate,
  read: async () => (await import('../stations/check/readTask.ts')).read,
  recognise: async () => (await import('../stations/check/readTask.ts')).recognise,
  rehearse: async () => (await import('../stations/rehearsal/rehearseTask.ts')).makeSet,
  shot: async () => (await import('../standIn/renderTask.ts')).renderShot,
  background: async () => (await import('../standIn/renderTask.ts')).renderBackground,
  painted: async () => (await import('../stations/place/paintTask.ts')).paintPlain,
  persons: async () => (await import('../persons/personsTask.ts')).findPersonsOf,
  ribbon: async () => (await import('../stations/extract/ribbonTask.ts')).ribbon,
  trial: async () => (await import('../stations/extract/trialTask.ts')).trial,
  look: async () => (await import('../stations/extract/lookTask.ts')).look,
  fringe: async () => (await import('../stations/place/fringeTask.ts')).fringe,
  tones: async () => (await import('../stations/place/tones.ts')).measureTones,
  facts: async () => (await import('../stations/gather/factsTask.ts')).findFacts,
  develop: async () => (await import('../stations/gather/developTask.ts')).develop,
  heic: async () => (await import('../stations/gather/heicTask.ts')).takeHeic,
  svg: async () => (await import('../stations/place/svgTask.ts')).takeSvg,
  finished: async () => (await import('../stations/place/finishedTask.ts')).smallFinished,
};

export interface Asked<K extends TaskKind = TaskKind> {
  kind: K;
  input: Input<K>;
  store: StoreAt;
  /** Told which share is done. */
  progress: MessagePort;
}

/** The entry point of every worker thread. */
export default async function doTask<K extends TaskKind>({
  kind,
  input,
  store,
  progress,
}: Asked<K>): Promise<Answer<K>> {
  const start = performance.now();
  try {
    const doing = await tasks[kind]();
    const output = await doing(input, { store: openStore(store), tell: (share) => progress.postMessage(share) });
    return { ok: true, output, milliseconds: Math.round(performance.now() - start) };
  } catch (error) {
    if (error instanceof PictureError) return { ok: false, reason: error.reason, remedy: error.remedy };
    throw error;
  } finally {
    progress.close();
  }
}
