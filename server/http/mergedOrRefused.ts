import { mergeChange } from '../../contract/merge.ts';
import { Refusal } from './answers.ts';

/**
 * A change laid over what stands now.
 * @param nameOf what a field is called on the page, given its path.
 * @throws Refusal with what another window made of the same field meanwhile.
 */
export function mergedOrRefused<T extends object>(
  now: T,
  seen: Partial<T>,
  to: Partial<T>,
  nameOf: (path: string[]) => string,
): T {
  const merged = mergeChange(now, seen, to);
  if (merged.ok) return merged.value;
  const value = typeof merged.now === 'number' ? Number(merged.now.toFixed(4)) : merged.now;
  const words =
    typeof value === 'string' || typeof value === 'number'
      ? `set to ${typeof value === 'string' ? `“${value}”` : value}`
      : value === null
        ? 'taken away'
        : 'changed';
  throw new Refusal(409, {
    reason: `${nameOf(merged.path)} was meanwhile ${words} in another window`,
    remedy: 'It stands as the other window left it; set it once more if yours is to hold.',
  });
}
