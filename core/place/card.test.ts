import { describe, expect, test } from 'vitest';
import { cardPlaces, cardSvg, filled, laidOut, unknownFields, type Card, type CardFields, type Draw } from './card.ts';

/** Cards: fields, places, and that nothing runs out. */

const fields: CardFields = {
  name: 'Noor',
  frame: 'SKM_0101',
  number: '007',
  shoot: 'Kite Meet',
  date: '13 June 2026',
  place: 'Saltmarsh',
  background: 'Cliff path',
};
/** A font whose letters are all half an em wide. */
const draw: Draw = (text) => ({ width: text.length / 2, path: text ? 'M0 0H1' : '' });
const line = (part: Partial<Card['lines'][number]> = {}): Card['lines'][number] => ({
  id: 'a',
  text: '{name}',
  at: 'bottom',
  size: 40,
  font: 'plain',
  tone: '#ffffff',
  edge: false,
  ...part,
});
const card = (part: Partial<Card> = {}): Card => ({ lines: [line()], margin: 40, border: 0, tone: '#ffffff', ...part });

test('fields are filled; what is no field stays as it is written', () => {
  expect(filled('No. {number}: {name}, {date}', fields)).toBe('No. 007: Noor, 13 June 2026');
  expect(filled('{nmae} {name}', fields)).toBe('{nmae} Noor');
  expect(unknownFields('{nmae} {name} {x}')).toEqual(['nmae', 'x']);
});

describe('laid out', () => {
  const sizes = [
    [1800, 2400],
    [2400, 1600],
    [300, 300],
    [80, 900],
  ];
  test('in no size and at no place does a line run out, however long and however many', () => {
    for (const [width, height] of sizes)
      for (const at of Object.keys(cardPlaces) as (keyof typeof cardPlaces)[])
        for (const length of [1, 20, 200]) {
          const lines = Array.from({ length: 12 }, (_, n) =>
            line({ id: `${n}`, at, text: 'x'.repeat(length), size: 200 }),
          );
          const laid = laidOut(card({ lines, border: 10 }), fields, width, height, draw);
          expect(laid).toHaveLength(12);
          for (const { x, baseline, em, drawn } of laid) {
            expect(x).toBeGreaterThanOrEqual(-1e-6);
            expect(x + drawn.width * em).toBeLessThanOrEqual(width + 1e-6);
            expect(baseline - 0.7 * em).toBeGreaterThanOrEqual(-1e-6);
            expect(baseline).toBeLessThanOrEqual(height + 1e-6);
          }
        }
  });

  test('a short line keeps its size: its capitals are as high as was asked for', () => {
    const [{ em }] = laidOut(card(), fields, 1000, 1400, draw);
    expect(0.7 * em).toBeCloseTo(40);
  });

  test('lines at one place stand under each other, empty ones take no room', () => {
    const lines = [line({ id: '1' }), line({ id: '2', text: '' }), line({ id: '3', text: '{shoot}' })];
    const laid = laidOut(card({ lines }), fields, 1000, 1400, draw);
    expect(laid.map(({ line: { id } }) => id)).toEqual(['1', '3']);
    expect(laid[1].baseline).toBeGreaterThan(laid[0].baseline + 40);
  });
});

test('no text is left to the fonts of a machine, and no name can break out of the drawing', () => {
  const hostile = { ...fields, name: '"/><script>' };
  const svg = cardSvg(card({ border: 6 }), hostile, 600, 800, draw);
  expect(svg).not.toContain('<text');
  expect(svg).not.toContain('script');
  expect(svg).toContain('<rect');
});
