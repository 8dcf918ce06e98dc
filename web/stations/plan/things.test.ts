import { describe, expect, test } from 'vitest';
import { startingPlan } from '../../../core/plan/index.ts';
import { placeOf, thingsOf, within, withPlace, type ThingId } from './things.ts';

const plan = startingPlan('Test', '2026-06-13');

describe('things of a plan', () => {
  test('every lamp and person is on the list, and can be found by its id', () => {
    const ids = thingsOf(plan).map((thing) => thing.id);
    for (const lamp of plan.lamps) expect(ids).toContain(`lamp:${lamp.id}`);
    expect(new Set(ids).size).toBe(ids.length);
    expect(placeOf(plan, 'lamp:key')).toEqual(plan.lamps.find((l) => l.id === 'key')?.position);
    expect(placeOf(plan, 'aim:key')).toEqual(plan.lamps.find((l) => l.id === 'key')?.aim);
    expect(placeOf(plan, 'person:p1')).toMatchObject({ x: 0, z: 2.2 });
    expect(placeOf(plan, 'screen')).toBeUndefined();
  });
  test.each(['lamp:key', 'aim:key', 'camera'] as ThingId[])('%s goes where it is put, and nothing else moves', (id) => {
    const moved = withPlace(plan, id, { x: 0.4, y: 1.1, z: 3.3 });
    expect(placeOf(moved, id)).toEqual({ x: 0.4, y: 1.1, z: 3.3 });
    for (const other of ['lamp:fill', 'lamp:edge', 'person:p1'] as ThingId[])
      expect(placeOf(moved, other)).toEqual(placeOf(plan, other));
  });
  test('people stay on the floor, everything inside its range', () => {
    expect(withPlace(plan, 'person:p1', { x: 1, y: 9, z: -4 }).people[0]).toMatchObject({ x: 1, z: 0.1, height: 1.72 });
    expect(withPlace(plan, 'lamp:key', { x: 0, y: -5, z: 1e9 }).lamps.find((l) => l.id === 'key')?.position).toEqual({
      x: 0,
      y: 0,
      z: 120,
    });
    expect(withPlace(plan, 'camera', { x: 0, y: 1, z: -2 }).camera.position.z).toBe(0.3);
    expect(within({ min: 1, max: 2 }, NaN)).toBe(1);
  });
});
