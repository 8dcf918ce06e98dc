import { performance } from 'node:perf_hooks';
import type { MessagePort } from 'node:worker_threads';
import { PictureError } from '../pictures/decode.ts';
import { findPersonsOf } from '../persons/personsTask.ts';
import { renderBackground, renderShot } from '../standIn/renderTask.ts';
import { read, recognise } from '../stations/check/readTask.ts';
import { cut } from '../stations/extract/cutTask.ts';
import { look } from '../stations/extract/lookTask.ts';
import { ribbon } from '../stations/extract/ribbonTask.ts';
import { trial } from '../stations/extract/trialTask.ts';
import { takeHeic } from '../stations/gather/heicTask.ts';
import { develop } from '../stations/gather/developTask.ts';
import { findFacts } from '../stations/gather/factsTask.ts';
import { makePlate } from '../stations/gather/plateTask.ts';
import { copyOut } from '../stations/handOver/copyOutTask.ts';
import { placeOrder } from '../stations/handOver/printTask.ts';
import { makeFiles } from '../stations/handOver/filesTask.ts';
import { smallFinished } from '../stations/place/finishedTask.ts';
import { paintPlain } from '../stations/place/paintTask.ts';
import { fringe } from '../stations/place/fringeTask.ts';
import { takeSvg } from '../stations/place/svgTask.ts';
import { measureTones } from '../stations/place/tones.ts';
import { makeSet } from '../stations/rehearsal/rehearseTask.ts';
import { archive } from '../stations/log/archiveTask.ts';
import { unpack } from '../stations/shoots/unpackTask.ts';
import { openStore } from '../store/openStore.ts';
import type { StoreAt } from '../store/store.ts';
import type { Answer, Doing, Input, TaskKind } from './task.ts';

const tasks: { [K in TaskKind]: Doing<K> } = {
  cut,
  files: makeFiles,
  copyOut,
  archive,
  unpack,
  printOrder: placeOrder,
  plate: makePlate,
  read,
  recognise,
  rehearse: makeSet,
  shot: renderShot,
  background: renderBackground,
  painted: paintPlain,
  persons: findPersonsOf,
  ribbon,
  trial,
  look,
  fringe,
  tones: measureTones,
  facts: findFacts,
  develop,
  heic: takeHeic,
  svg: takeSvg,
  finished: smallFinished,
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
    const output = await tasks[kind](input, { store: openStore(store), tell: (share) => progress.postMessage(share) });
    return { ok: true, output, milliseconds: Math.round(performance.now() - start) };
  } catch (error) {
    if (error instanceof PictureError) return { ok: false, reason: error.reason, remedy: error.remedy };
    throw error;
  } finally {
    progress.close();
  }
}
