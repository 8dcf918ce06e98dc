import { Mutex } from 'async-mutex';
import { availableParallelism } from 'node:os';
import { setTimeout as sleep } from 'node:timers/promises';
import {
  itemKinds,
  noItems,
  type ItemKind,
  type Items,
  type Job,
  type Problem,
  type ShootDetail,
} from '../contract/index.ts';
import { atOneMoment, type Database, type Reader } from './database/connect.ts';
import type { Unread } from './database/sound.ts';
import type { Events } from './events.ts';
import type { Progress } from './jobs/progress.ts';
import { readBatches, readJobs } from './jobs/readJobs.ts';
import { readChecks } from './stations/check/readChecks.ts';
import { readCutSeconds } from './stations/extract/readCutSeconds.ts';
import { readOrders } from './stations/extract/readOrders.ts';
import { readFrames } from './stations/gather/readFrames.ts';
import { readSubjects } from './stations/gather/readSubjects.ts';
import { readSetups } from './stations/gather/readSetups.ts';
import { readDeliveries } from './stations/handOver/readDeliveries.ts';
import { readStyles } from './stations/place/readStyles.ts';
import { readPlans } from './stations/plan/readPlans.ts';

/** Ids of what changed, by kind. */
export type Changed = Partial<Record<ItemKind, readonly number[]>>;

/**
 * Changes that come within this time are read and told together, ms: pages are slow when they are told forty things
 * one by one.
 */
const GATHERED = 40;
/** Items told in one event: a page that takes in hundreds of frames at once stands still meanwhile. */
const AT_ONCE = 40;
/** Orders are short: those of a whole shoot may go together. */
const ORDERS_AT_ONCE = 500;

/**
 * Reads what pages see and tells them what changed. All reading goes through here, one reading after the other and each
 * with a higher revision, so that a page can always tell which of two readings is the newer, whichever way and however
 * late they come.
 */
export class News {
  private readonly reading = new Mutex();
  // Higher than anything an earlier run gave.
  private revision = Date.now() * 1000;
  private lastTold = -Infinity;
  private readonly waiting = new Map<number, { ids: Map<ItemKind, Set<number>>; told: Promise<Items> }>();

  constructor(
    private readonly database: Database,
    private readonly events: Events,
    private readonly progress: Progress,
    /** How many jobs run at once, for the time left. */
    readonly workers = availableParallelism(),
  ) {}

  /**
   * Reads what changed in a shoot and tells every page; what is not there any more is told as gone.
   * @returns the items, as the pages are told them (with others that were told at the same time).
   */
  tell(shootId: number, changed: Changed): Promise<Items> {
    let next = this.waiting.get(shootId);
    if (!next) {
      const ids = new Map<ItemKind, Set<number>>();
      const told = this.reading.runExclusive(async () => {
        const wait = this.lastTold + GATHERED - performance.now();
        if (wait > 0) await sleep(wait);
        // Whatever else changes until now goes with it.
        this.waiting.delete(shootId);
        this.lastTold = performance.now();
        return this.read(shootId, ids);
      });
      next = { ids, told };
      this.waiting.set(shootId, next);
    }
    for (const [kind, list] of Object.entries(changed) as [ItemKind, readonly number[]][])
      next.ids.set(kind, new Set([...(next.ids.get(kind) ?? []), ...list]));
    return next.told;
  }

  /** As `tell`, for one item. @returns undefined if it is gone. */
  async tellOne<K extends ItemKind>(shootId: number, kind: K, id: number): Promise<Items[K][number] | undefined> {
    const items = await this.tell(shootId, { [kind]: [id] });
    return items[kind].find((item) => item.id === id);
  }

  /** Reads a job that belongs to no shoot and tells every page. @returns undefined if it is gone. */
  tellJob(id: number): Promise<Job | undefined> {
    return this.reading.runExclusive(async () => {
      const revision = ++this.revision;
      const [read] = await readJobs(this.database, this.progress, { jobIds: [id] });
      if (!read) return undefined;
      const job = { ...read, revision };
      this.events.send({ type: 'job', job });
      return job;
    });
  }

  /** Everything of a shoot but its head. */
  detail(shootId: number): Promise<Omit<ShootDetail, 'shoot'>> {
    return this.reading.runExclusive(async () => {
      const revision = ++this.revision;
      const broken: Problem[] = [];
      const note = (problem: Problem): number => broken.push(problem);
      const where = { shootId };
      const { cutSeconds, ...items } = await atOneMoment(this.database, async (then) => ({
        batches: (await readBatches(then, this.workers, where)).filter((batch) => batch.open > 0),
        setups: await readSetups(then, where, note),
        frames: await readFrames(then, where, note),
        subjects: await readSubjects(then, where),
        deliveries: await readDeliveries(then, this.workers, where),
        plans: await readPlans(then, where, note),
        styles: await readStyles(then, where, note),
        checks: (await readChecks(then, where, note)).map(({ shootId: _, ...check }) => check),
        orders: await readOrders(then, where),
        jobs: await readJobs(then, this.progress, where),
        cutSeconds: await readCutSeconds(then, this.workers),
      }));
      const stamped = Object.fromEntries(
        Object.entries(items).map(([kind, list]) => [kind, list.map((item) => ({ ...item, revision }))]),
      ) as unknown as Items;
      return { ...stamped, broken, revision, cutSeconds };
    });
  }

  /** The revision of the latest reading. */
  get latest(): number {
    return this.revision;
  }

  private async read(shootId: number, wanted: Map<ItemKind, Set<number>>): Promise<Items> {
    const revision = ++this.revision;
    const ids = (kind: ItemKind): number[] => [...(wanted.get(kind) ?? [])];
    const read: { [K in ItemKind]: (then: Reader) => Promise<Unread<Items[K][number]>[]> } = {
      batches: (then) => readBatches(then, this.workers, { batchIds: ids('batches') }),
      setups: (then) => readSetups(then, { setupIds: ids('setups') }),
      frames: (then) => readFrames(then, { frameIds: ids('frames') }),
      subjects: (then) => readSubjects(then, { subjectIds: ids('subjects') }),
      deliveries: (then) => readDeliveries(then, this.workers, { deliveryIds: ids('deliveries') }),
      plans: (then) => readPlans(then, { planIds: ids('plans') }),
      styles: (then) => readStyles(then, { styleIds: ids('styles') }),
      checks: async (then) =>
        (await readChecks(then, { checkIds: ids('checks') })).map(({ shootId: _, ...check }) => check),
      orders: (then) => readOrders(then, { frameIds: ids('orders') }),
      jobs: (then) => readJobs(then, this.progress, { jobIds: ids('jobs') }),
    };
    const items = noItems();
    const kinds = itemKinds.filter((kind) => wanted.has(kind));
    await atOneMoment(this.database, async (then) => {
      for (const kind of kinds)
        items[kind] = (await read[kind](then)).map((item) => ({ ...item, revision })) as never[];
    });
    for (const kind of kinds) {
      const found = items[kind];
      const gone = ids(kind).filter((id) => !found.some((item: { id: number }) => item.id === id));
      const atOnce = kind === 'orders' ? ORDERS_AT_ONCE : AT_ONCE;
      for (let n = 0; n < Math.max(1, found.length); n += atOnce) {
        this.events.send({
          type: 'changed',
          shootId,
          revision,
          items: { [kind]: found.slice(n, n + atOnce) },
          gone: n === 0 && gone.length ? { [kind]: gone } : {},
        });
      }
    }
    return items;
  }
}
