/** NaN of an empty list. */
export function medianOf(values: readonly number[]): number {
  return quantileOf(values, 0.5);
}

/** Value below which the given share of the values lies; NaN of an empty list. */
export function quantileOf(values: readonly number[], share: number): number {
  if (!values.length) return NaN;
  const sorted = Float64Array.from(values).sort();
  return sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))];
}

/**
 * The value that would stand at place n if they were sorted; the values change their order. Hoare's selection, with
 * the middle of three as pivot.
 */
export function nthOf(values: Float64Array, n: number): number {
  let left = 0;
  let right = values.length - 1;
  while (left < right) {
    const [a, b, c] = [values[left], values[(left + right) >> 1], values[right]];
    const pivot = Math.max(Math.min(a, b), Math.min(Math.max(a, b), c));
    let i = left;
    let j = right;
    while (i <= j) {
      while (values[i] < pivot) i++;
      while (values[j] > pivot) j--;
      if (i > j) break;
      const kept = values[i];
      values[i++] = values[j];
      values[j--] = kept;
    }
    if (n <= j) right = j;
    else if (n >= i) left = i;
    else break;
  }
  return values[n];
}
