import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { MessageChannel, type StructuredSerializeOptions } from 'node:worker_threads';
import { Piscina } from 'piscina';
import { root } from '../root.ts';
import type { StoreAt } from '../store/store.ts';
import type { Asked } from './doTask.ts';
import type { Answer, Input, TaskKind } from './task.ts';

/**
 * Work of a kind never waits for work of another: a batch takes all cores, but who stands at the set and reads a test
 * frame, whoever waits for an answer while a page loads, and who looks closely at one frame, has a thread of their own.
 */
export type Lane = 'batch' | 'set' | 'asked' | 'look';

export interface RunOptions {
  signal?: AbortSignal;
  /** Told which share is done, 0–1. */
  onProgress?: (share: number) => void;
}

/** The one keeper of all worker threads. */
export class Pools {
  readonly width: Record<Lane, number>;
  private readonly pools: Record<Lane, Piscina>;

  /** @param cores threads of the batch lane. */
  constructor(
    private readonly store: StoreAt,
    cores: number,
  ) {
    this.width = { batch: cores, set: 1, asked: 1, look: 1 };
    const pool = (threads: number): Piscina =>
      new Piscina({
        filename: pathToFileURL(join(root, 'dist', 'server', 'doTask.js')).href,
        minThreads: 0,
        maxThreads: threads,
        idleTimeout: 30_000,
      });
    this.pools = { batch: pool(cores), set: pool(1), asked: pool(1), look: pool(1) };
  }

  async run<K extends TaskKind>(
    lane: Lane,
    kind: K,
    input: Input<K>,
    { signal, onProgress }: RunOptions = {},
  ): Promise<Answer<K>> {
    const { port1, port2 } = new MessageChannel();
    if (onProgress) port1.on('message', onProgress);
    const asked: Asked<K> = { kind, input, store: this.store, progress: port2 };
    // The library's type names the options of the newer form of postMessage where it takes the list itself.
    const transferList = [port2] as StructuredSerializeOptions;
    try {
      return (await this.pools[lane].run(asked, { signal, transferList })) as Answer<K>;
    } finally {
      port1.close();
    }
  }

  async stop(): Promise<void> {
    await Promise.all(Object.values(this.pools).map((pool) => pool.destroy()));
  }
}
