import { MessageChannel, type StructuredSerializeOptions } from 'node:worker_threads';
import { Piscina } from 'piscina';
import type { Findings, MarksGiven, PictureKind } from '../../../contract/index.ts';
import type { Plan } from '../../../core/plan/index.ts';
import type { TargetKind } from '../../../core/screen/index.ts';
import type { CheckTask, GatheredPlate, Rehearsed } from './checkTask.ts';

/** One thread that reads test frames and gathers screens, apart from those that cut, so that a batch never keeps the set waiting. */
export class CheckPool {
  private readonly pool = new Piscina<CheckTask, unknown>({
    filename: new URL('./checkTask.ts', import.meta.url).href,
    minThreads: 0,
    maxThreads: 1,
    idleTimeout: 30_000,
    execArgv: ['--import', import.meta.resolve('tsx')],
  });

  constructor(private readonly store: string) {}

  read(pictures: Partial<Record<PictureKind, string>>, marks: MarksGiven, plan: Plan | undefined): Promise<Findings> {
    return this.pool.run({ kind: 'read', store: this.store, pictures, marks, plan }) as Promise<Findings>;
  }

  /** @param path of a picture that has been checked. */
  async recognise(path: string): Promise<TargetKind | null> {
    return ((await this.pool.run({ kind: 'recognise', store: this.store, path })) as { recognised: TargetKind | null })
      .recognised;
  }

  /** @param onRead told how many files have been read. */
  gather(files: string[], onRead: (done: number) => void): Promise<GatheredPlate> {
    const { port1, port2 } = new MessageChannel();
    port1.on('message', onRead);
    // The library's type names the options of the newer form of postMessage where it takes the list itself.
    const transferList = [port2] as StructuredSerializeOptions;
    return this.pool
      .run({ kind: 'gather', store: this.store, files, progress: port2 }, { transferList })
      .finally(() => port1.close()) as Promise<GatheredPlate>;
  }

  rehearse(level: number, seed: number): Promise<Rehearsed> {
    return this.pool.run({ kind: 'rehearse', store: this.store, level, seed }) as Promise<Rehearsed>;
  }
}
