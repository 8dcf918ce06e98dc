/** Anything that the server tells about: of two readings of one item that with the higher revision is the newer. */
export interface Item {
  id: number;
  revision: number;
}

/** A change of the hand that lies over what the server has told until it is saved or refused. */
export interface Laid<T> {
  ids: ReadonlySet<number>;
  lay: (item: T) => T;
}

/** Items of one kind as the server last told them, and the changes on their way laid over them. */
export class Overlay<T extends Item> {
  private server = new Map<number, T>();
  private readonly gone = new Map<number, number>();
  /** When all there is was read last: what was read before and is not in it is gone. */
  private allAt = -1;
  private readonly changes: Laid<T>[] = [];

  /** Takes what the server told, in whatever order it comes: the newest reading stays. */
  take(items: readonly T[]): void {
    for (const item of items) {
      const known = Math.max(this.server.get(item.id)?.revision ?? -1, this.gone.get(item.id) ?? -1, this.allAt);
      if (item.revision >= known) this.server.set(item.id, item);
    }
  }

  /** Forgets what is gone; an older reading does not bring it back. */
  remove(ids: readonly number[], revision: number): void {
    for (const id of ids) {
      this.gone.set(id, revision);
      if ((this.server.get(id)?.revision ?? -1) <= revision) this.server.delete(id);
    }
  }

  /** All there is, read at `revision`: what is not in it and was told before is gone. */
  takeAll(items: readonly T[], revision: number): void {
    const there = new Set(items.map(({ id }) => id));
    this.remove(
      [...this.server.values()].filter((item) => !there.has(item.id) && item.revision < revision).map(({ id }) => id),
      revision,
    );
    this.allAt = Math.max(this.allAt, revision);
    this.take(items);
  }

  clear(): void {
    this.allAt = -1;
    this.server = new Map();
    this.gone.clear();
  }

  lay(change: Laid<T>): void {
    this.changes.push(change);
  }

  lift(change: Laid<T>): void {
    const at = this.changes.indexOf(change);
    if (at >= 0) this.changes.splice(at, 1);
  }

  /** As it is to be shown: items without a change on its way are the very objects that were told. */
  shown(): T[] {
    return [...this.server.values()].map((item) =>
      this.changes.reduce((laid, { ids, lay }) => (ids.has(item.id) ? lay(laid) : laid), item),
    );
  }
}
