import { expect, test } from 'vitest';
import { choicesFrom, orderWords } from './choices.ts';

const lines = [1, 2, 3, 4, 5];

test('a list of choices is read in any order of its columns; what is no answer is told by its line', () => {
  const read = choicesFrom(
    [
      ['Choice', 'frame', 'copies', 'note'],
      ['yes', 'A.jpg', '3', 'large'],
      ['no', 'B.jpg', '0', ''],
      ['perhaps', 'C.jpg'],
      ['yes', ''],
    ],
    lines,
  );
  if ('refused' in read) throw new Error(read.refused);
  expect(read.choices).toEqual([
    { frame: 'A.jpg', chosen: true, copies: 3, note: 'large' },
    { frame: 'B.jpg', chosen: false, copies: 0, note: '' },
  ]);
  expect(read.odd.map(({ line }) => line)).toEqual([4, 5]);
  expect(orderWords(read.choices)).toBe('3 × A.jpg (large)');
});

test('any other list is refused with what is missing; copies of nonsense are one', () => {
  expect(choicesFrom([['name', 'group']], lines)).toMatchObject({ refused: expect.stringContaining('frame') });
  expect(choicesFrom([], lines)).toHaveProperty('refused');
  const read = choicesFrom(
    [
      ['frame', 'choice', 'copies'],
      ["'-x.jpg", 'YES', 'many'],
    ],
    lines,
  );
  expect(read).toMatchObject({ choices: [{ frame: '-x.jpg', chosen: true, copies: 1 }] });
});
