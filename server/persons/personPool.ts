import { Piscina } from 'piscina';
import type { PersonTask } from './personTask.ts';

/** One thread that finds where persons are in photographs as they arrive, so that neither page nor batch waits for it. */
export class PersonPool {
  private readonly pool = new Piscina<PersonTask, Uint8Array>({
    filename: new URL('./personTask.ts', import.meta.url).href,
    minThreads: 0,
    maxThreads: 1,
    idleTimeout: 30_000,
    execArgv: ['--import', import.meta.resolve('tsx')],
  });

  constructor(private readonly store: string) {}

  /** The map of a stored photograph as a PNG; made once, then kept. */
  async file(hash: string): Promise<Buffer> {
    return Buffer.from(await this.pool.run({ store: this.store, hash }));
  }

  async stop(): Promise<void> {
    await this.pool.destroy();
  }
}
