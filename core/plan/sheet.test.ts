import { describe, expect, test } from 'vitest';
import { cameraFacts, lampFacts, personFacts, roomFacts, screenFacts } from './facts.ts';
import { cameraModels, entry, lampFactsByKind, lampModels, materials } from './library.ts';
import { lampLight } from './lampLight.ts';
import type { Plan } from './plan.ts';
import { reportOn } from './report.ts';
import { scheduleOf } from './schedule.ts';
import { setSheet, shutterWords, type SheetSection } from './setSheet.ts';
import { lampFrom, startingPlan } from './startingPlan.ts';
import { fieldUnit, lengthWords } from './units.ts';

const base = startingPlan('Test', '2026-06-13');
const sheetOf = (plan: Plan, units: 'metric' | 'imperial' = 'metric'): SheetSection[] => {
  const report = reportOn(plan, 12, 2);
  return setSheet(plan, report, scheduleOf(plan, report.kit, report.forecast), units);
};
const section = (sheet: SheetSection[], title: string): SheetSection => {
  const found = sheet.find((s) => s.title === title);
  if (!found) throw new Error(title);
  return found;
};

describe('lengths in words', () => {
  test.each([
    [2.35, 'metric', '2.35 m'],
    [0.085, 'metric', '85 mm'],
    [0.0234, 'metric', '23.4 mm'],
    [2.3495, 'imperial', '7′ 8½″'],
    [1.8288, 'imperial', '6′ 0″'],
    [0.085, 'imperial', '3.35″'],
    [-0.3048, 'imperial', '−1′ 0″'],
  ] as const)('%f m in %s', (metres, units, words) => {
    expect(lengthWords(metres, units)).toBe(words);
  });
  test('an inch short of a foot never becomes 12 inches', () => {
    for (let inches = 1; inches < 60; inches += 0.1)
      expect(lengthWords(inches * 0.0254, 'imperial')).not.toMatch(/ 12″/);
  });
  test('fields of lengths turn into millimetres and feet and back; others stay', () => {
    expect(fieldUnit(cameraFacts.focal, 'metric')).toMatchObject({ unit: 'mm', factor: 1000 });
    expect(fieldUnit(screenFacts.width, 'metric')).toMatchObject({ unit: 'm', factor: 1 });
    expect(fieldUnit(screenFacts.width, 'imperial').factor * 0.3048).toBeCloseTo(1, 9);
    expect(fieldUnit(cameraFacts.aperture, 'imperial')).toMatchObject({ unit: '', factor: 1 });
  });
  test('shutter times as photographers write them', () => {
    expect(shutterWords(1 / 160)).toBe('1/160 s');
    expect(shutterWords(1.5)).toBe('1.5 s');
  });
});

describe('facts', () => {
  test('every default of the starting plan lies in its range', () => {
    const check = (facts: Record<string, { min: number; max: number }>, of: object): void => {
      for (const [name, { min, max }] of Object.entries(facts)) {
        const value = (of as Record<string, number>)[name];
        expect(value, name).toBeGreaterThanOrEqual(min);
        expect(value, name).toBeLessThanOrEqual(max);
      }
    };
    check(roomFacts, base.room);
    check(screenFacts, base.screen);
    check(cameraFacts, base.camera);
    for (const lamp of base.lamps) check(lampFacts, lamp);
    for (const person of base.people) check(personFacts, person);
  });
});

describe('the library', () => {
  test('every lamp lights, every camera takes, every material hangs', () => {
    for (const model of lampModels) {
      const lamp = lampFrom(model, 'x', 'key', { x: -1, y: 2, z: 4 }, { x: 0, y: 1.5, z: 2 });
      expect(lampLight(lamp).flux, model.name).toBeGreaterThan(0);
      expect(lampFactsByKind[model.kind].efficiency).toBeLessThanOrEqual(1);
      const { readings } = reportOn({ ...base, lamps: [lamp] }, 8, 2);
      expect(readings.length, model.name).toBeGreaterThan(10);
    }
    for (const { name: _, ...camera } of cameraModels)
      expect(reportOn({ ...base, camera: { ...base.camera, ...camera } }, 8, 2).coverage.share).toBeGreaterThan(0.3);
    for (const material of materials)
      expect(
        reportOn(
          {
            ...base,
            screen: {
              ...base.screen,
              material: material.name,
              gloss: material.gloss,
              wrinkleDepth: material.wrinkleDepth,
              wrinklePeriod: material.wrinklePeriod,
            },
          },
          8,
          2,
        ).kit.cost,
      ).toBeGreaterThan(0);
  });
  test('shiny plastic mirrors, a painted wall has no creases to speak of', () => {
    const reading = (name: string, id: string): number => {
      const material = entry(materials, name, 'material');
      const plan = {
        ...base,
        screen: {
          ...base.screen,
          material: name,
          gloss: material.gloss,
          wrinkleDepth: material.wrinkleDepth,
          wrinklePeriod: material.wrinklePeriod,
        },
      };
      return reportOn(plan, 12, 2).readings.find((r) => r.id === id)?.value ?? NaN;
    };
    expect(reading('Plastic sheet, doubled', 'gloss')).toBeGreaterThan(reading('Painted wall', 'gloss') * 4);
    expect(reading('Painted wall', 'wrinkle')).toBeLessThan(0.1);
  });
  test('a material of the plan’s own is costed', () => {
    const own = { ...materials[2], name: 'Felt from the attic', price: 0, mass: 1 };
    const plan = { ...base, materials: [own], screen: { ...base.screen, material: own.name } };
    expect(reportOn(plan, 8, 2).kit.items[0]).toMatchObject({ cost: 0 });
    expect(() => reportOn({ ...plan, materials: [] }, 8, 2)).toThrow(/screen.material: expected one of/);
  });
});

describe('set sheet', () => {
  test('names every standing lamp with place, turn and power', () => {
    const lamps = section(sheetOf(base), 'Lamps');
    expect(lamps.rows.map((row) => row[0])).toEqual(base.lamps.map((lamp) => lamp.name));
    for (const row of lamps.rows) expect(row).toHaveLength(lamps.head?.length ?? 0);
    const [left, right] = lamps.rows;
    expect(left[2]).toContain('left');
    expect(left[5]).toBe('45° right');
    expect(right[5]).toBe('45° left');
    expect(left[8]).toContain('flag right 35°');
  });
  test('a lamp that looks straight at the screen, level, is called so', () => {
    const [row] = section(
      sheetOf({ ...base, lamps: [{ ...base.lamps[0], position: { x: 0, y: 2, z: 3 }, aim: { x: 0, y: 2, z: 0 } }] }),
      'Lamps',
    ).rows;
    expect(row.slice(5, 7)).toEqual(['straight', 'level']);
    expect(row[2]).toBe('middle');
  });
  test('sun and sky are not carried to the set', () => {
    const sun = lampFrom(
      entry(lampModels, 'Direct sun', 'lamp'),
      'sun',
      'key',
      { x: 0, y: 10, z: 10 },
      { x: 0, y: 0, z: 0 },
    );
    const sheet = sheetOf({ ...base, lamps: [...base.lamps, sun] });
    expect(section(sheet, 'Lamps').rows).toHaveLength(base.lamps.length);
    expect(section(sheet, 'Packing list').rows.map((row) => row[0])).not.toContain('Direct sun');
  });
  test('lists slots, cautions and what is out of bounds with its remedy; feet where wanted', () => {
    const dark = { ...base, camera: { ...base.camera, iso: 25 } };
    const sheet = sheetOf(dark, 'imperial');
    expect(section(sheet, 'Slots').rows).toHaveLength(base.event.guests);
    expect(section(sheet, 'Cautions').rows.at(-1)?.[0]).toContain('Local rules');
    expect(section(sheet, 'What to expect').rows.flat().join(' ')).toContain('Change screen light or exposure');
    expect(section(sheet, 'Screen').rows.flat().join(' ')).toContain('8′ 10½″');
  });
  test('the packing list adds up', () => {
    const { rows } = section(sheetOf(base), 'Packing list');
    const masses = rows.map((row) => Number(row[3]));
    expect(masses.slice(0, -1).reduce((a, b) => a + b, 0)).toBeCloseTo(masses.at(-1) ?? 0, 0);
  });
});
