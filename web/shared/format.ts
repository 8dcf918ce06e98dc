/** Numbers as the interface writes them. */

export function minutes(value: number): string {
  return `${span(value)} by hand`;
}

/** A span of minutes. */
export function span(value: number): string {
  if (value <= 0) return '0 min';
  if (value < 1) return 'under 1 min';
  if (value < 90) return `${Math.round(value)} min`;
  return `${(value / 60).toFixed(1)} h`;
}

export function timeLeft(seconds: number | null): string {
  if (seconds === null) return 'measuring …';
  const whole = Math.max(1, Math.round(seconds));
  return whole < 60 ? `${whole} s left` : `${Math.floor(whole / 60)} min ${whole % 60} s left`;
}

export function fileSize(bytes: number): string {
  if (bytes < 1e6) return `${Math.ceil(bytes / 1e3)} kB`;
  return bytes < 1e9 ? `${(bytes / 1e6).toFixed(1)} MB` : `${(bytes / 1e9).toFixed(2)} GB`;
}

export function megapixels(width: number, height: number): string {
  return `${((width * height) / 1e6).toFixed(1)} MP`;
}

export function longDate(date: string): string {
  return new Date(`${date}T12:00:00`).toLocaleDateString('en-GB', { day: 'numeric', month: 'long', year: 'numeric' });
}

/** So many of something: “1 frame”, “3 frames”. */
export function counted(n: number, one: string, many = `${one}s`): string {
  return `${n} ${n === 1 ? one : many}`;
}
