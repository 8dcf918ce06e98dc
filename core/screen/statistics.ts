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
