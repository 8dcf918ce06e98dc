import { expect, test } from 'vitest';
import { chosenBackgrounds } from './chosenBackground.ts';

const [dusk, wood] = [
  { id: 1, name: 'Harbour at dusk' },
  { id: 2, name: 'Wood' },
];
const frame = (subject: string, backgroundId?: number) => ({
  subject,
  placement: backgroundId === undefined ? null : { backgroundId },
});

test('frames go where the person on them chose, if one background is called so', () => {
  const [ada, there, bo, both] = [frame('Ada'), frame('Ada', 1), frame('Bo', 1), frame('Ada, Bo')];
  const subjects = [
    { name: 'Ada', background: 'dusk' },
    { name: 'Bo', background: ' WOOD ' },
    { name: 'Cy', background: 'Beach' },
  ];
  expect(chosenBackgrounds(subjects, [ada, there, bo, both], [dusk, wood])).toEqual({
    moves: [
      { background: dusk, frames: [ada] },
      { background: wood, frames: [bo] },
    ],
    unknown: [],
  });
});

test('what is called like none or like several is told with who chose it; nothing chosen is nothing wanted', () => {
  const subjects = ['Ada', 'Bo', 'Cy'].map((name) => ({ name, background: name === 'Cy' ? '' : 'wood' }));
  const woods = [wood, { id: 3, name: 'Wood' }];
  const found = chosenBackgrounds(
    subjects,
    subjects.map(({ name }) => frame(name)),
    woods,
  );
  expect(found).toEqual({ moves: [], unknown: [{ chosen: 'wood', people: ['Ada', 'Bo'] }] });
});
