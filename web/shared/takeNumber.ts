/** What was typed as a number: with a point or a comma, a true minus or a hyphen. */
export function takeNumber(
  text: string,
  min: number,
  max: number,
): { value?: number; problem: 'none' | 'range' | 'no number' } {
  const typed = Number(text.trim().replace(',', '.').replace('−', '-'));
  if (text.trim() === '' || !Number.isFinite(typed)) return { problem: 'no number' };
  const value = Math.max(min, Math.min(max, typed));
  return { value, problem: value === typed ? 'none' : 'range' };
}

/** A number without noughts at its end. */
export function trimNumber(value: number, digits: number): string {
  return String(Number(value.toFixed(digits)));
}
