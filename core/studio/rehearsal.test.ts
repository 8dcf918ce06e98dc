import { describe, expect, test } from 'vitest';
import { rehearsedFacts, type RehearsedCause } from '../screen/causeFacts.ts';
import { judgeRehearsal, rehearse, remedies, type RemedyId } from './rehearsal.ts';

describe('rehearsal', () => {
  test('the same level and seed hide the same faults; levels ask for one or two, later sometimes none', () => {
    expect(rehearse(3, 12, 300)).toEqual(rehearse(3, 12, 300));
    const counts = (level: number): Set<number> =>
      new Set(Array.from({ length: 60 }, (_, seed) => rehearse(level, seed, 300).causes.length));
    expect([...counts(1)]).toEqual([1]);
    expect(counts(3)).toEqual(new Set([0, 1]));
    expect(counts(5)).toEqual(new Set([0, 2]));
  });

  test('no two faults that hide each other stand together', () => {
    for (let seed = 0; seed < 200; seed++) {
      const { causes } = rehearse(5, seed, 300);
      expect(new Set(causes).size).toBe(causes.length);
      expect(causes.includes('window') && causes.includes('mixedLamps')).toBe(false);
    }
  });

  test('every cause has a remedy, and every remedy cures something', () => {
    for (const cause of Object.keys(rehearsedFacts) as RehearsedCause[])
      expect(
        (Object.keys(remedies) as RemedyId[]).some((id) =>
          (remedies[id].cures as readonly RehearsedCause[]).includes(cause),
        ),
      ).toBe(true);
    for (const { cures } of Object.values(remedies)) expect(cures.length).toBeGreaterThan(0);
  });

  test('an answer is right when it names all and nothing else', () => {
    expect(judgeRehearsal(['gain'], ['gain'], 'lessGain')).toMatchObject({
      causesRight: true,
      remedyRight: true,
      remedies: ['lessGain'],
    });
    expect(judgeRehearsal(['gain'], ['gain', 'motion'], 'shorter')).toMatchObject({
      causesRight: false,
      remedyRight: false,
    });
    expect(judgeRehearsal(['keyShadow'], ['keyShadow'], 'personForward').remedyRight).toBe(true);
    expect(judgeRehearsal([], [], null)).toEqual({ causesRight: true, remedyRight: true, remedies: [] });
    expect(judgeRehearsal([], [], 'steam').remedyRight).toBe(false);
  });
});
