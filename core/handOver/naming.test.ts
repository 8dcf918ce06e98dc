import { expect, test } from 'vitest';
import { namesFor, patternFlaw, safeName, type Named, type NameFacts } from './naming.ts';

const facts: NameFacts = {
  shoot: 'Pier',
  date: '2026-06-13',
  subject: 'Ida',
  number: '7',
  group: '',
  setup: 'Tent',
  frame: 'IMG_1',
  background: 'Dusk',
  preset: 'Screen',
};
const one = (part: Partial<NameFacts> = {}, count = 1, ending = 'jpg'): Named => ({
  facts: { ...facts, ...part },
  count,
  ending,
});
const name = (pattern: string, part?: Partial<NameFacts>): string => namesFor(pattern, [one(part)])[0];

test('a pattern is filled; slashes of its own make folders, those of names do not', () => {
  expect(name('{preset}/{number} {subject} {frame}')).toBe('Screen/7 Ida IMG_1.jpg');
  expect(name('{subject}/{frame}', { subject: '../../etc' })).toBe('_.._etc/IMG_1.jpg');
  expect(name('{group}/{subject}', { subject: 'A/B' })).toBe('A_B.jpg');
});

test('what is not known leaves neither spaces nor hyphens behind; a name of nothing is the frame’s', () => {
  expect(name('{group} - {subject} - {frame}')).toBe('Ida - IMG_1.jpg');
  expect(name('{frame}-{group}')).toBe('IMG_1.jpg');
  expect(name('{preset}/{group}')).toBe('Screen/IMG_1.jpg');
});

test('equal names, whatever the case, are told apart; running numbers sort as they were counted', () => {
  expect(namesFor('{frame}', [one(), one({ frame: 'img_1' }), one()])).toEqual([
    'IMG_1.jpg',
    'img_1-2.jpg',
    'IMG_1-3.jpg',
  ]);
  const many = Array.from({ length: 120 }, (_, n) => one({}, n + 1));
  const names = namesFor('{count} {subject}', many);
  expect(names.slice(8, 10)).toEqual(['009 Ida.jpg', '010 Ida.jpg']);
  expect(names.toSorted()).toEqual(names);
});

test('the longest of names, thrice in folders, keeps within what file systems and rows hold', () => {
  const long = { subject: 'Ł'.repeat(200), frame: 'F'.repeat(300), group: 'G'.repeat(80), shoot: 'S'.repeat(120) };
  const names = namesFor('{shoot}/{group}/{subject}/{frame}', [one(long), one(long)]);
  for (const made of names) expect(made.length).toBeLessThanOrEqual(255);
  expect(new Set(names).size).toBe(2);
});

test.each([
  ['', 'empty'],
  ['{subjekt}', '{subjekt} is not known'],
  ['{constructor}', '{constructor} is not known'],
  ['{frame', 'brace'],
  ['a/b/c/d/{frame}', 'folders'],
  ['x'.repeat(200), 'longer'],
])('the pattern %j is refused with its reason', (pattern, reason) => {
  expect(patternFlaw(pattern)).toContain(reason);
});

test.each([
  ['../../etc/passwd', '_.._etc_passwd'],
  ['a:b*c?.', 'a_b_c_'],
  ['\u0000\u001f', '__'],
  ['   ', 'frame'],
  ['CON', '_CON'],
  ['nul.tar', '_nul.tar'],
  ['console', 'console'],
  ['Zoë & Łukasz 东京', 'Zoë & Łukasz 东京'],
])('%j becomes a name that every file system takes', (given, safe) => {
  expect(safeName(given)).toBe(safe);
});
