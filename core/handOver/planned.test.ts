import { expect, test } from 'vitest';
import { everybody, noPapers, plannedFiles, SMALL, type Candidate } from './planned.ts';
import { shippedPresets, type Preset } from './preset.ts';

const preset = (name: string): Preset => shippedPresets.find((one) => one.name === name) as Preset;
const presets = [preset('Cutout'), preset('Screen'), preset('Print 13 × 18 cm')];
const shoot = { name: 'Pier', date: '2026-06-13' };
const settings = { presets, names: '{preset}/{frame}', chosen: everybody, papers: noPapers };

const one = (id: number, part: Partial<Candidate> = {}): Candidate => ({
  id,
  frame: `F${id}.jpg`,
  setup: { id: 1, name: 'Tent' },
  pick: null,
  subject: `Guest ${id}`,
  number: String(id),
  group: '',
  background: { id: 5, name: 'Dusk' },
  people: [{ name: `Guest ${id}`, consent: 'yes' }],
  ...part,
});

test('everybody who is placed is in every preset; who is not has the cutout, and is told', () => {
  const { files, notPlaced, keptBack } = plannedFiles(shoot, settings, [one(1), one(2, { background: null })]);
  expect(files.map(({ name }) => name)).toEqual([
    'Cutout/F1.png',
    'Screen/F1.jpg',
    'Print 13 × 18 cm/F1.jpg',
    'Cutout/F2.png',
  ]);
  expect(notPlaced).toEqual(['F2.jpg']);
  expect(keptBack).toEqual([]);
});

test('a no keeps the picture back, also of those beside; only prints means prints only', () => {
  const no = { name: 'Guest 1', consent: 'no' };
  const { files, keptBack } = plannedFiles(shoot, { ...settings, papers: { ...noPapers, proof: true } }, [
    one(1, { people: [no] }),
    one(2, { people: [{ name: 'Guest 2', consent: 'yes' }, no] }),
    one(3, { people: [{ name: 'Guest 3', consent: 'prints' }] }),
  ]);
  expect(files).toEqual([{ frameId: 3, preset: 2, name: 'Print 13 × 18 cm/F3.jpg' }]);
  expect(keptBack.map(({ frame, reason }) => [frame, reason])).toEqual([
    ['F1.jpg', 'said no'],
    ['F2.jpg', 'Guest 1 stands on it, who said no'],
    ['F3.jpg', 'allows only prints: not in “Cutout”, “Screen”, contact sheet, slips and proof pages'],
  ]);
});

test('chosen are picks, subjects, setups and backgrounds; dropped never; papers need a small picture of each', () => {
  const all = [
    one(1, { pick: 'keep' }),
    one(2, { pick: 'drop' }),
    one(3, { setup: { id: 2, name: 'Window' } }),
    one(4, { background: { id: 6, name: 'Sky' } }),
  ];
  const ids = (chosen: Partial<typeof everybody>) => [
    ...new Set(
      plannedFiles(shoot, { ...settings, chosen: { ...everybody, ...chosen } }, all).files.map((f) => f.frameId),
    ),
  ];
  expect(ids({})).toEqual([1, 3, 4]);
  expect(ids({ picks: 'keep' })).toEqual([1]);
  expect(ids({ subjects: ['Guest 3'] })).toEqual([3]);
  expect(ids({ setups: [1] })).toEqual([1, 4]);
  expect(ids({ backgrounds: [6] })).toEqual([4]);
  const { files } = plannedFiles(shoot, { ...settings, papers: { ...noPapers, contact: true } }, all);
  expect(files.filter(({ preset: of }) => of === SMALL).map(({ name }) => name)).toEqual([
    'proof/pictures/1.jpg',
    'proof/pictures/2.jpg',
    'proof/pictures/3.jpg',
  ]);
});
