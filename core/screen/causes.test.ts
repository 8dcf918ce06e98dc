import { describe, expect, test } from 'vitest';
import { isWithin, readingFacts, type ReadingFacts, type ReadingId } from '../plan/readings.ts';
import { createMask, type LinearRaster } from '../image/raster.ts';
import { causeFacts, type CauseId } from './causeFacts.ts';
import { rankCauses } from './causes.ts';
import type { CheckReading } from './checkReading.ts';
import type { Lawn } from './lawn.ts';
import { mirroredOn } from './mirrored.ts';
import { personLevelOf } from './personLevel.ts';

/** Readings that photographs of a setup give. */
const readable: ReadingId[] = [
  'coverage',
  'spread',
  'tilt',
  'bulge',
  'sides',
  'mismatch',
  'wrinkle',
  'level',
  'clipped',
  'purity',
  'gloss',
  'noise',
  'shadow',
  'bounce',
  'nearColour',
  'edge',
  'smear',
  'exposure',
  'personLevel',
  'whiteBalance',
  'cardScreen',
  'keyFill',
  'chart',
];

function reading(id: ReadingId, value: number): CheckReading {
  return {
    id,
    value,
    verdict: isWithin(id, value) ? 'within' : 'beyond',
    reason: 'So it was read.',
    minutes: 3,
    evidence: [],
  };
}

/** Just beyond and far beyond each bound that there is. */
const beyond = readable.flatMap((id) => {
  const { min, max, scale }: ReadingFacts = readingFacts[id];
  const just = (scale[1] - scale[0]) / 200;
  return [
    ...(max === undefined ? [] : [max + just, scale[1]]),
    ...(min === undefined ? [] : [min - just, Math.min(min - 2 * just, scale[0])]),
  ].map((value): [ReadingId, number] => [id, value]);
});

describe('every reading beyond its bound has a cause', () => {
  test.each(beyond)('%s at %f', (id, value) => {
    const causes = rankCauses({ readings: [reading(id, value)], colour: 'green' });
    expect(causes).toHaveLength(1);
    expect(causes[0].remedy).toMatch(/\d/);
    expect(causes[0].remedy.length).toBeGreaterThan(30);
  });

  test('also when others explain much of it away', () => {
    const readings = beyond.filter((_, n) => n % 2).map(([id, value]) => reading(id, value));
    const causes = rankCauses({ readings, colour: 'green' });
    for (const { id } of readings)
      expect(
        causes.some((cause) => shows(cause.id, id, causes)),
        id,
      ).toBe(true);
    expect(new Set(causes.map(({ id }) => id)).size).toBe(causes.length);
  });

  test('within all bounds there is none', () => {
    const sound = readable.map((id) => {
      const { min, max }: ReadingFacts = readingFacts[id];
      return reading(id, min !== undefined && max !== undefined ? (min + max) / 2 : (max ?? min ?? 0));
    });
    expect(rankCauses({ readings: sound, colour: 'green' })).toEqual([]);
  });
});

/** The reading's own causes, or one of those that are named with it. */
function shows(cause: CauseId, id: ReadingId, causes: { id: CauseId }[]): boolean {
  const related: Partial<Record<ReadingId, CauseId[]>> = {
    tilt: ['weakLamp', 'window', 'fallOff', 'shine'],
    bulge: ['hotMiddle', 'shine'],
    sides: ['lampsNear'],
    clipped: ['overlit'],
    level: ['overlit', 'dark'],
    purity: ['pale', 'overlit', 'shine'],
    mismatch: ['mixedLamps', 'window', 'shine'],
    shadow: ['keyShadow', 'tooClose'],
    spread: ['fallOff', 'weakLamp', 'lampsNear', 'window'],
  };
  return (
    causeFacts[cause].reading === id || (related[id] ?? []).some((one) => causes.some((other) => other.id === one))
  );
}

describe('mirrored light', () => {
  const lawn = (colour: (column: number) => [number, number, number]): Lawn => ({
    columns: 24,
    rows: 10,
    stops: new Float64Array(240),
    colour: Float64Array.from({ length: 720 }, (_, i) => colour(Math.floor(i / 3) % 24)[i % 3]),
  });
  const own: [number, number, number] = [0.08, 0.4, 0.1];

  test('is told from a brighter place, and from light of another colour', () => {
    expect(
      mirroredOn(
        lawn((x) => own.map((v) => v * (1 + x / 24)) as never),
        1,
      )?.stops,
    ).toBeCloseTo(0, 5);
    // Daylight beside warm lamps: more blue, less red.
    expect(
      mirroredOn(
        lawn((x) => (x > 16 ? [own[0] * 0.8, own[1], own[2] * 1.3] : own)),
        1,
      )?.stops,
    ).toBeLessThan(0.01);
    const shiny = mirroredOn(
      lawn((x) => (x > 20 ? (own.map((v) => v + 0.1) as never) : own)),
      1,
    );
    expect(shiny?.stops).toBeCloseTo(Math.log2(1.25), 2);
    expect(shiny?.x).toBeGreaterThan(0.8);
  });
});

describe('exposure of a person without a card', () => {
  const person = (
    skin: [number, number, number],
    cloth: [number, number, number],
    stops: number,
  ): number | undefined => {
    const frame: LinearRaster = { width: 60, height: 60, channels: 3, data: new Float32Array(60 * 60 * 3) };
    const mask = createMask(60, 60);
    for (let p = 0; p < 3600; p++) {
      mask.data[p] = 1;
      const colour = p < 1200 ? skin : cloth;
      for (let c = 0; c < 3; c++) frame.data[p * 3 + c] = Math.min(1, colour[c] * 2 ** stops);
    }
    return personLevelOf(frame, mask, 1)?.stops;
  };
  const light: [number, number, number] = [0.42, 0.26, 0.2];
  const dark: [number, number, number] = [0.1, 0.055, 0.04];
  const white: [number, number, number] = [0.8, 0.8, 0.8];
  const black: [number, number, number] = [0.03, 0.03, 0.03];

  test.each([
    ['light skin, white cloth', light, white],
    ['light skin, dark cloth', light, black],
    ['dark skin, white cloth', dark, white],
  ])('%s: exposed well it is within, three stops under it is not', (_, skin, cloth) => {
    expect(isWithin('personLevel', person(skin, cloth, 0) ?? NaN)).toBe(true);
    expect(isWithin('personLevel', person(skin, cloth, -3) ?? NaN)).toBe(false);
  });

  test('light skin two stops over is named', () => {
    expect(person(light, white, 2)).toBeGreaterThan(readingFacts.personLevel.max);
  });
});
