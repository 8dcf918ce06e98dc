/**
 * Changes are sent with what they were made on, so that two windows, or a slow answer, never undo each other: what only
 * one side changed is taken from that side, lists keep what either added and lose what either took away.
 */

export type Merged<T> =
  | { ok: true; value: T }
  | {
      ok: false;
      /** Names from the outside in. */ path: string[];
      /** What the other side made of it. */ now: unknown;
    };

/**
 * @param now as it stands.
 * @param seen what the change was made on; a field it lacks is simply set.
 * @param to what it is to become.
 * @returns all of `now` with the change in it, or the first field that both changed in different ways.
 */
export function mergeChange<T extends object>(now: T, seen: Partial<T>, to: Partial<T>): Merged<T> {
  const value = { ...now };
  for (const name of Object.keys(to) as (keyof T & string)[]) {
    if (to[name] === undefined) continue;
    const merged = name in seen ? mergeValue(now[name], seen[name], to[name]) : { ok: true as const, value: to[name] };
    if (!merged.ok) return { ...merged, path: [name, ...merged.path] };
    value[name] = merged.value as T[typeof name];
  }
  return { ok: true, value };
}

/** For showing a change before it is saved: where both sides changed the same, the change wins. */
export function layChange<T extends object>(now: T, seen: Partial<T>, to: Partial<T>): T {
  const value = { ...now };
  for (const name of Object.keys(to) as (keyof T & string)[]) {
    const merged = name in seen ? mergeValue(now[name], seen[name], to[name]) : undefined;
    value[name] = (merged?.ok ? merged.value : to[name]) as T[typeof name];
  }
  return value;
}

function mergeValue(now: unknown, seen: unknown, to: unknown): Merged<unknown> {
  if (same(now, seen) || same(now, to)) return { ok: true, value: to };
  if (same(seen, to)) return { ok: true, value: now };
  if (Array.isArray(now) && Array.isArray(seen) && Array.isArray(to))
    return [now, seen, to].every(isNamed)
      ? mergeNamed(now as Named[], seen as Named[], to as Named[])
      : { ok: true, value: mergeLists(now, seen, to) };
  if (isPlain(now) && isPlain(seen) && isPlain(to)) return mergeChange(now, seen, to);
  return { ok: false, path: [], now };
}

function mergeLists(now: unknown[], seen: unknown[], to: unknown[]): unknown[] {
  const gone = without(seen, to);
  const fresh = without(to, seen);
  return [...without(now, gone), ...without(fresh, now)];
}

type Named = { id: string };
function isNamed(list: unknown[]): boolean {
  return list.every((item) => isPlain(item) && typeof item.id === 'string');
}

/** Lists whose items have names of their own: what both sides changed of one item is merged, and it stays one item. */
function mergeNamed(now: Named[], seen: Named[], to: Named[]): Merged<unknown> {
  const value: Named[] = [];
  const find = (list: Named[], id: string): Named | undefined => list.find((item) => item.id === id);
  for (const item of now) {
    const [before, after] = [find(seen, item.id), find(to, item.id)];
    // Taken away by this side; or new on the other side, and so not in what this side saw.
    if (before && !after) continue;
    const merged = before && after ? mergeValue(item, before, after) : { ok: true as const, value: after ?? item };
    if (!merged.ok) return { ...merged, path: [item.id, ...merged.path] };
    value.push(merged.value as Named);
  }
  // What the other side took away stays away, whatever this side changed of it.
  const fresh = to.filter(({ id }) => !find(seen, id) && !find(now, id));
  return { ok: true, value: [...value, ...fresh] };
}

/** What is in `list` and not in `others`; equal ones count one by one. */
function without(list: unknown[], others: unknown[]): unknown[] {
  const left = others.map((other) => JSON.stringify(other));
  return list.filter((item) => {
    const at = left.indexOf(JSON.stringify(item));
    if (at >= 0) left.splice(at, 1);
    return at < 0;
  });
}

function same(a: unknown, b: unknown): boolean {
  return a === b || JSON.stringify(a) === JSON.stringify(b);
}

function isPlain(value: unknown): value is Record<string, unknown> {
  return typeof value === 'object' && value !== null && !Array.isArray(value);
}
