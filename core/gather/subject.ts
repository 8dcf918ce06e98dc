/** Who is photographed, as the roster has them. */

export const consentWords = { unasked: 'not asked', yes: 'yes', prints: 'only prints', no: 'no' } as const;
export type Consent = keyof typeof consentWords;
export const consents = Object.keys(consentWords) as Consent[];

export interface Subject {
  /** As it stands on the slate; may be empty. */
  number: string;
  /** Tells one from the other: no two of a shoot are equal. */
  name: string;
  group: string;
  clothing: string;
  consent: Consent;
  /** Who gave it, for children. */
  consentBy: string;
  /** Name of the background that they chose. */
  background: string;
  products: string;
  note: string;
}

/** The fields that are text: what they are called, how long they may be, and what their columns are called in lists. */
export const subjectFields: Record<keyof Subject, { label: string; most: number; columns: readonly string[] }> = {
  number: { label: 'Number', most: 12, columns: ['number', 'no', 'nr', 'num', 'id', 'code', '#'] },
  name: { label: 'Name', most: 80, columns: ['name', 'guest', 'subject', 'person', 'full name', 'who', 'child'] },
  group: { label: 'Group', most: 80, columns: ['group', 'class', 'team', 'table', 'family', 'department', 'party'] },
  clothing: { label: 'Clothing', most: 120, columns: ['clothing', 'clothes', 'colours', 'colors', 'wears', 'wear'] },
  consent: { label: 'Consent', most: 20, columns: ['consent', 'permission', 'release', 'allowed', 'agrees'] },
  consentBy: { label: 'Consent by', most: 80, columns: ['consent by', 'parent', 'guardian', 'given by', 'signed by'] },
  background: { label: 'Background', most: 120, columns: ['background', 'scene', 'backdrop', 'chosen background'] },
  products: { label: 'Products', most: 200, columns: ['products', 'product', 'prints', 'ordered', 'order', 'package'] },
  note: { label: 'Note', most: 500, columns: ['note', 'notes', 'remark', 'remarks', 'comment', 'comments'] },
};
export const fieldNames = Object.keys(subjectFields) as (keyof Subject)[];

/** Most subjects of a shoot. */
export const MOST_SUBJECTS = 3000;

export const noSubject: Subject = {
  number: '',
  name: '',
  group: '',
  clothing: '',
  consent: 'unasked',
  consentBy: '',
  background: '',
  products: '',
  note: '',
};

/**
 * A name that none of `taken` has: the number, else a count, is put behind one that is taken.
 * @param taken in lower case; the answer is added to it.
 */
export function distinctName({ name, number }: Pick<Subject, 'name' | 'number'>, taken: Set<string>): string {
  const most = subjectFields.name.most;
  const plain = (name.trim() || `Number ${number.trim()}`).slice(0, most);
  const tries = function* () {
    yield plain;
    if (number) yield withTail(plain, ` (${number})`, most);
    for (let n = 2; ; n++) yield withTail(plain, ` (${n})`, most);
  };
  for (const tried of tries()) {
    if (taken.has(tried.toLowerCase())) continue;
    taken.add(tried.toLowerCase());
    return tried;
  }
  throw new Error('unreachable');
}

function withTail(name: string, tail: string, most: number): string {
  return name.slice(0, most - tail.length) + tail;
}
