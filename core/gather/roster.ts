import {
  consentWords,
  consents,
  distinctName,
  fieldNames,
  noSubject,
  subjectFields,
  type Consent,
  type Subject,
} from './subject.ts';

/** Lists of names from anywhere: what separates their columns, which column is what, and what is wrong in which line. */

/** What a column may be; a list may give names in two parts. */
export type ColumnUse = keyof Subject | 'firstName' | 'lastName' | 'none';
export const columnUses: Record<ColumnUse, string> = {
  ...(Object.fromEntries(fieldNames.map((field) => [field, subjectFields[field].label])) as Record<
    keyof Subject,
    string
  >),
  firstName: 'First name',
  lastName: 'Last name',
  none: 'into the note',
};

export interface RosterProblem {
  /** Line of the list, from 1. */
  line: number;
  reason: string;
}
export interface ReadRoster {
  subjects: Subject[];
  problems: RosterProblem[];
}

const SEPARATORS = [',', ';', '\t', '|'];
/** Lines looked at to find what separates the columns. */
const LOOKED_AT = 20;

/**
 * What separates the columns of a list: what stands, outside quotes, in nearly every line equally often.
 * @returns a comma where nothing does.
 */
export function separatorOf(text: string): string {
  const lines = unquoted(text)
    .split(/\r\n|\n|\r/)
    .filter((line) => line.trim() !== '')
    .slice(0, LOOKED_AT);
  let best = { separator: ',', agreeing: 0, columns: 0 };
  for (const separator of SEPARATORS) {
    const counts = lines.map((line) => line.split(separator).length - 1);
    const usual = counts.toSorted((a, b) => a - b)[counts.length >> 1] ?? 0;
    if (usual === 0) continue;
    const agreeing = counts.filter((count) => count === usual).length;
    if (agreeing > best.agreeing || (agreeing === best.agreeing && usual > best.columns))
      best = { separator, agreeing, columns: usual };
  }
  return best.separator;
}

/** The text without what stands in quotes, whatever lines and separators that holds. */
function unquoted(text: string): string {
  return text.replace(/"(?:[^"]|"")*"/g, '');
}

/**
 * Which column is what, by the words of the first row; without such words by what stands in the columns.
 * @param rows at least one, all columns as text.
 * @returns the use of each column, and whether the first row is a head.
 */
export function columnsOf(rows: readonly (readonly string[])[]): { uses: ColumnUse[]; head: boolean } {
  const width = Math.max(0, ...rows.map((row) => row.length));
  const first = rows[0] ?? [];
  const taken = new Set<ColumnUse>();
  const named = Array.from({ length: width }, (_, n) => {
    const use = useOf(first[n] ?? '');
    if (use === 'none' || taken.has(use)) return 'none';
    taken.add(use);
    return use;
  });
  const head = taken.has('name') || taken.has('lastName') || taken.has('firstName') || taken.size > 1;
  if (head) return { uses: named, head };
  return { uses: byContent(rows, width), head: false };
}

function useOf(header: string): ColumnUse {
  const words = header
    .trim()
    .toLowerCase()
    .replace(/[_.:-]+/g, ' ')
    .replace(/\s+/g, ' ')
    .trim();
  if (/^(first|given|fore) ?name$/.test(words)) return 'firstName';
  if (/^(last|family|sur) ?name$/.test(words)) return 'lastName';
  return fieldNames.find((field) => subjectFields[field].columns.includes(words)) ?? 'none';
}

/** Without a head: digits are the number, the first column of letters is the name. */
function byContent(rows: readonly (readonly string[])[], width: number): ColumnUse[] {
  const uses: ColumnUse[] = Array.from({ length: width }, () => 'none');
  const share = (column: number, like: RegExp): number =>
    rows.filter((row) => like.test((row[column] ?? '').trim())).length / Math.max(1, rows.length);
  const columns = uses.map((_, n) => n);
  const number = columns.find((n) => share(n, /^[A-Za-z]?\d+$/) > 0.8);
  if (number !== undefined) uses[number] = 'number';
  const name = columns.find((n) => uses[n] === 'none' && share(n, /\p{L}{2}/u) > 0.5);
  if (name !== undefined) uses[name] = 'name';
  return uses;
}

const consentsRead: Record<Consent, readonly string[]> = {
  yes: ['yes', 'y', 'true', '1', 'ok', 'all', 'given', 'x'],
  no: ['no', 'n', 'false', '0', 'none', 'refused'],
  prints: ['prints', 'print', 'only prints', 'prints only', 'print only', 'paper'],
  unasked: ['', '?', '-', 'not asked', 'unasked', 'open', 'unknown'],
};

/**
 * Subjects from the rows of a list. Nothing is lost: what has no column of its own, what is too long and what cannot be
 * read goes into the note; lines without anybody are named.
 * @param uses of each column. @param lines of the rows in the list. @param taken names that are there already.
 */
export function subjectsFrom(
  rows: readonly (readonly string[])[],
  uses: readonly ColumnUse[],
  heads: readonly string[],
  lines: readonly number[],
  taken: Iterable<string> = [],
): ReadRoster {
  const subjects: Subject[] = [];
  const problems: RosterProblem[] = [];
  const names = new Set([...taken].map((name) => name.toLowerCase()));
  rows.forEach((row, n) => {
    const cells = row.map((cell) => clean(cell));
    if (cells.every((cell) => cell === '')) return;
    const told = (reason: string): number => problems.push({ line: lines[n], reason });
    const subject: Subject = { ...noSubject };
    const rest: string[] = [];
    const called: [first: string, last: string] = ['', ''];
    cells.forEach((cell, column) => {
      const use = uses[column] ?? 'none';
      if (cell === '') return;
      if (use === 'none') rest.push(heads[column] ? `${heads[column]}: ${cell}` : cell);
      else if (use === 'firstName') called[0] = cell;
      else if (use === 'lastName') called[1] = cell;
      else if (use === 'consent') {
        const consent = consents.find((one) => consentsRead[one].includes(cell.toLowerCase()));
        if (consent) subject.consent = consent;
        else {
          rest.push(`consent: ${cell}`);
          told(`“${cell}” is no consent (${Object.values(consentWords).join(', ')}); it is kept in the note`);
        }
      } else {
        const { most, label } = subjectFields[use];
        subject[use] = cell.slice(0, most);
        if (cell.length <= most) return;
        rest.push(cell);
        told(`${label} is longer than ${most} characters; the whole of it is kept in the note`);
      }
    });
    if (!subject.name) subject.name = called.filter(Boolean).join(' ').slice(0, subjectFields.name.most);
    subject.note = [subject.note, ...rest].filter(Boolean).join('; ').slice(0, subjectFields.note.most);
    if (!subject.name && !subject.number)
      return void told(`neither a name nor a number: ${cells.filter(Boolean).join(', ')}`);
    const name = distinctName(subject, names);
    if (subject.name && name !== subject.name) told(`there is another “${subject.name}”; this one is called “${name}”`);
    subjects.push({ ...subject, name });
  });
  return { subjects, problems };
}

/** One line, without what nobody sees. */
function clean(cell: string): string {
  return cell
    .replace(/[\u0000-\u001f\u007f\u200b\ufeff]+/g, ' ')
    .replace(/\s+/g, ' ')
    .trim();
}

/** Rows of a roster to be written as a list that this reads again. */
export function rosterRows(subjects: readonly Subject[]): string[][] {
  return [
    fieldNames.map((field) => subjectFields[field].label),
    ...subjects.map((subject) =>
      fieldNames.map((field) => (field === 'consent' ? consentWords[subject.consent] : subject[field])),
    ),
  ];
}
