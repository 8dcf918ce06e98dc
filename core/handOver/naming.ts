/** What file names of a hand-over can be put together from. */
export const nameTokens = {
  shoot: 'the shoot’s name',
  date: 'the shoot’s day, 2026-06-13',
  subject: 'who is on it',
  number: 'the subject’s number',
  group: 'the subject’s group',
  setup: 'the setup',
  frame: 'the photograph’s name',
  background: 'the background’s name',
  preset: 'the preset',
  count: 'a running number, as long as the last one',
} as const;
export type NameToken = keyof typeof nameTokens;
export type NameFacts = Record<Exclude<NameToken, 'count'>, string>;

/** Beginnings that are offered; what stands before a “/” is a folder. */
export const offeredPatterns = [
  '{preset}/{frame}',
  '{subject}/{preset} {frame}',
  '{preset}/{number} {subject} {count}',
  '{date} {shoot} {count} {preset}',
] as const;
export const LONGEST_PATTERN = 120;
/** Of a folder or a file; all of a name with its folders, ending and number keeps within 255. */
const LONGEST_PART = 60;
/** Parts of a name, the file's own among them. */
const MOST_PARTS = 4;

/** Why a pattern cannot be taken, in words; undefined if it can. */
export function patternFlaw(pattern: string): string | undefined {
  if (!pattern.trim()) return 'it is empty';
  if (pattern.length > LONGEST_PATTERN) return `it is longer than ${LONGEST_PATTERN} letters`;
  for (const [, token] of pattern.matchAll(/\{([^{}]*)\}/g))
    if (!Object.hasOwn(nameTokens, token)) return `{${token}} is not known`;
  if (/[{}]/.test(pattern.replace(/\{[^{}]*\}/g, ''))) return 'a brace stands alone';
  if (pattern.split('/').length > MOST_PARTS) return `it makes more than ${MOST_PARTS - 1} folders`;
  return undefined;
}

/** One picture in one preset. */
export interface Named {
  facts: NameFacts;
  /** Which of the delivered frames it is of, from 1. */
  count: number;
  ending: string;
}

/**
 * File names, one for each, in their order: the pattern filled, each part a name that every file system takes. What is
 * not known leaves nothing behind, neither its spaces nor its hyphens. Equal names, whatever the case, take a number.
 * Running numbers have as many digits as the last, so that files sort as they were counted.
 */
export function namesFor(pattern: string, items: readonly Named[], taken: ReadonlySet<string> = new Set()): string[] {
  const digits = String(items.reduce((most, { count }) => Math.max(most, count), 0)).length;
  const used = new Set([...taken].map((name) => name.toLowerCase()));
  return items.map(({ facts, count, ending }) => {
    const filled = pattern.split('/').map((part) => {
      const text = part.replace(/\{([^{}]*)\}/g, (_, token: string) =>
        token === 'count' ? String(count).padStart(digits, '0') : clean(facts[token as keyof NameFacts] ?? ''),
      );
      return tidy(text);
    });
    const file = filled.pop() || clean(facts.frame);
    const base = [...filled.filter(Boolean), file].map((part) => safeName(part)).join('/');
    for (let again = 1; ; again++) {
      const name = `${base}${again === 1 ? '' : `-${again}`}.${ending}`;
      if (used.has(name.toLowerCase())) continue;
      used.add(name.toLowerCase());
      return name;
    }
  });
}

/** A fact as part of a name: no slash of it makes a folder. */
function clean(text: string): string {
  return text.replace(/[/\\]/g, '_').trim();
}

function tidy(text: string): string {
  return text
    .replace(/\s+/g, ' ')
    .replace(/([-_,])(\s*[-_,])+/g, '$1')
    .replace(/^[\s\-_,]+|[\s\-_,]+$/g, '');
}

/** A name without its ending. */
export function stemOf(name: string): string {
  return name.replace(/(?<=.)\.[^.]*$/, '');
}

/** A name that every file system takes: what one of them refuses becomes an underscore. */
export function safeName(name: string): string {
  const safe = [...name.replace(/[\u0000-\u001f\u007f<>:"/\\|?*]/g, '_').replace(/^[.\s]+|[.\s]+$/g, '')]
    .slice(0, LONGEST_PART)
    .join('')
    .trim();
  // Windows keeps these for devices, whatever their ending.
  return /^(con|prn|aux|nul|com\d|lpt\d)(\.|$)/i.test(safe) ? `_${safe}` : safe || 'frame';
}
