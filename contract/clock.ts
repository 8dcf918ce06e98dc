/** Local times as cameras write them, ISO 8601 without zone. */

/** Seconds of a local time without zone, on a clock of its own; null if it is none. */
export function secondsOf(takenAt: string | null): number | null {
  const at = takenAt === null ? NaN : Date.parse(`${takenAt}Z`);
  return Number.isFinite(at) ? at / 1000 : null;
}

/** A local time moved by seconds. */
export function clockedTime(takenAt: string | null, seconds: number): string | null {
  const at = secondsOf(takenAt);
  return at === null || seconds === 0 ? takenAt : new Date((at + seconds) * 1000).toISOString().slice(0, 19);
}
