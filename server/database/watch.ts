import { setTimeout as sleep } from 'node:timers/promises';
import type { Log } from '../log.ts';
import { startMariadb, type Mariadb } from './mariadb.ts';

/** How often the database's process is looked for, ms. */
const LOOK_EVERY = 250;
/** Between two tries to start it again, ms: at first, and at most. */
const FIRST_PAUSE = 250;
const LONGEST_PAUSE = 15_000;

/** The database did not come back while somebody waited for it. */
export class DatabaseAway extends Error {
  override name = 'DatabaseAway';
  readonly code = 'PROTOCOL_CONNECTION_LOST';
}

/**
 * Sees to it that the database runs: one that dies by itself is started again, on the same port, so that the open
 * pool goes on.
 */
export class DatabaseWatch {
  private current: Mariadb;
  private readonly stopping = new AbortController();
  private readonly loop: Promise<void>;
  private waiting = Promise.resolve();
  up = true;

  /** @param told when it has gone away and when it is back. */
  constructor(
    private readonly folder: string,
    started: Mariadb,
    private readonly log: Log,
    private readonly told: (up: boolean) => void,
  ) {
    this.current = started;
    this.loop = this.watch();
  }

  /** Waits while it is away. @throws DatabaseAway after `most` ms. */
  async whenUp(most: number): Promise<void> {
    if (this.up) return;
    await Promise.race([this.waiting, sleep(most, undefined, { ref: false })]);
    if (!this.up) throw new DatabaseAway('the database is not back yet');
  }

  /** Ends the watch and the database. */
  async stop(): Promise<void> {
    this.stopping.abort();
    await this.loop;
    await this.current.stop();
  }

  private async watch(): Promise<void> {
    while (await this.pause(LOOK_EVERY)) {
      if (isAlive(this.current.pid)) continue;
      let back = (): void => undefined;
      this.waiting = new Promise((resolve) => (back = resolve));
      this.up = false;
      this.told(false);
      this.log.warn('The database ended by itself; it is started again');
      if (!(await this.startAgain())) return;
      this.up = true;
      back();
      this.told(true);
    }
  }

  /** @returns false if it was stopped before. */
  private async startAgain(): Promise<boolean> {
    let pause = FIRST_PAUSE;
    do {
      try {
        this.current = await startMariadb(this.folder, this.current.port);
        return true;
      } catch (error) {
        this.log.error({ err: error }, 'The database could not be started again; the next try follows');
        pause = Math.min(LONGEST_PAUSE, pause * 2);
      }
    } while (await this.pause(pause));
    return false;
  }

  /** @returns false if it was stopped meanwhile. */
  private pause(milliseconds: number): Promise<boolean> {
    return sleep(milliseconds, true, { signal: this.stopping.signal, ref: false }).catch(() => false);
  }
}

function isAlive(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch {
    return false;
  }
}
