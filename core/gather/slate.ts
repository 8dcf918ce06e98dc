/** What the code on a slate says: kept short, so that its squares are large and are read from afar. */

const MARK = 'SL:';

/** @param number of a subject. @returns text of capitals and digits, which codes hold most densely. */
export function slateText(number: string): string {
  return MARK + number.toUpperCase();
}

/** @returns undefined for a code that is no slate of ours. */
export function numberOnSlate(text: string): string | undefined {
  return text.startsWith(MARK) && text.length > MARK.length ? text.slice(MARK.length) : undefined;
}
