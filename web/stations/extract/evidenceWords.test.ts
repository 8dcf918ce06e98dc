import { expect, test } from 'vitest';
import { strongestEvidence } from './evidenceWords.ts';

const evidence = { apart: 0.02, mostScreen: 0.8, rough: 0.015, atBorder: false };

test('what is kept says what speaks for a thing, what goes says what speaks for the screen', () => {
  const keep = (part: Partial<typeof evidence>): string =>
    strongestEvidence({ verdict: 'keep', evidence: { ...evidence, ...part } });
  expect(keep({ apart: 0.1 })).toBe('its colour is not the screen’s');
  expect(keep({ mostScreen: 0.4 })).toBe('no more than 40 % screen could hide in it');
  expect(keep({ rough: 0.2 })).toBe('it is uneven, as cloth is');
  const goes = (part: Partial<typeof evidence>): string =>
    strongestEvidence({ verdict: 'remove', evidence: { ...evidence, ...part } });
  expect(goes({ apart: 0.005 })).toBe('it has the screen’s very colour');
  expect(goes({ mostScreen: 1 })).toBe('it could be nothing but screen');
  expect(goes({ rough: 0.004 })).toBe('it is as smooth as the screen');
});

test('what is see-through says by what it was told', () => {
  expect(strongestEvidence({ verdict: 'sheer', evidence })).toBe('what varies in it leads to the screen’s colour');
});

test('where nothing speaks for the verdict, that is said', () => {
  expect(strongestEvidence({ verdict: 'keep', evidence: { apart: 0, mostScreen: 1, rough: 0, atBorder: false } })).toBe(
    'little speaks for the screen',
  );
});
