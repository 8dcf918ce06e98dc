import { describe, expect, test } from 'vitest';
import { forecastOf } from './forecast.ts';
import { kitOf } from './kit.ts';
import type { Event, Plan } from './plan.ts';
import { daysBetween, scheduleOf, type Schedule } from './schedule.ts';
import { startingPlan } from './startingPlan.ts';
import { clock, minutesOf, sunDirection, sunThroughDay } from './sun.ts';

const base = startingPlan('Test', '2026-06-13');
const scheduleFor = (change: Partial<Event>): Schedule => {
  const plan = { ...base, event: { ...base.event, ...change } };
  return scheduleOf(plan, kitOf(plan), forecastOf(plan, []));
};

describe('schedule', () => {
  test('guests follow each other, the break is kept free', () => {
    const { slots, stretches, perHour } = scheduleFor({
      guests: 60,
      minutesPerGuest: 5,
      firstGuest: '10:30',
      breaks: [{ start: '12:02', minutes: 30 }],
    });
    expect(perHour).toBe(12);
    expect(slots[1].minute - slots[0].minute).toBe(5);
    for (const { minute } of slots) expect(minute + 5 <= minutesOf('12:02') || minute >= minutesOf('12:32')).toBe(true);
    expect(stretches.find((s) => s.words === 'Break')).toMatchObject({ from: 722, to: 752 });
  });
  test('slots carry the roster’s names, then numbers', () => {
    const { slots } = scheduleFor({
      guests: 4,
      roster: [
        { name: 'Ada', colours: [], people: 1 },
        { name: 'Crew', colours: [], people: 2 },
      ],
    });
    expect(slots.map((s) => s.name)).toEqual(['Ada', 'Crew 1', 'Crew 2', 'Guest 4']);
  });
  test('what does not fit is told with what would make it fit', () => {
    expect(scheduleFor({}).misfits).toEqual([]);
    const late = scheduleFor({ arrive: '10:20' });
    expect(late.misfits[0].words).toContain('after the first guest');
    const crowd = scheduleFor({ guests: 300 });
    expect(crowd.misfits.some((m) => m.words.includes('guests do not fit') && m.remedy.includes('min for each'))).toBe(
      true,
    );
    expect(crowd.capacity).toBeLessThan(300);
    expect(scheduleFor({ deadlineTime: '16:00' }).misfits.some((m) => m.words.includes('after the deadline'))).toBe(
      true,
    );
    expect(scheduleFor({ deadlineTime: '09:00', deadlineDate: '2026-06-14' }).misfits).toEqual([]);
    expect(scheduleFor({ guests: 20000, minutesPerGuest: 240 }).misfits.some((m) => m.words.includes('two days'))).toBe(
      true,
    );
  });
  test('extraction runs unattended after import, repair cannot end before it', () => {
    const { stretches, ready } = scheduleFor({});
    const cut = stretches.find((s) => s.words === 'Extract');
    const repair = stretches.find((s) => s.who === 'by hand');
    expect(cut?.unattended).toBe(true);
    expect(repair?.to).toBeGreaterThanOrEqual(cut?.to ?? 0);
    expect(ready).toBeGreaterThan(repair?.to ?? 0);
  });
  test('days between dates, over leap years', () => {
    expect(daysBetween('2026-06-13', '2026-06-14')).toBe(1);
    expect(daysBetween('2024-02-28', '2024-03-01')).toBe(2);
    expect(daysBetween('2026-12-31', '2027-01-01')).toBe(1);
    expect(daysBetween('2026-06-13', '2026-06-12')).toBe(-1);
  });
  test('clock times', () => {
    expect(clock(65)).toBe('01:05');
    expect(clock(1440 + 30)).toBe('00:30 +1');
    expect(minutesOf('23:59')).toBe(1439);
  });
});

describe('sun', () => {
  const outdoors: Plan = {
    ...base,
    room: { ...base.room, outdoors: true, latitude: 52, longitude: 0, utcOffset: 0, facing: 0 },
  };
  const at = (plan: Plan, minute: number) => {
    const found = sunThroughDay(plan)?.through.find((sun) => sun.minute === minute);
    if (!found) throw new Error('no sun');
    return found;
  };
  test('midsummer noon at 52° north: 61° high in the south', () => {
    const noon = at({ ...outdoors, event: { ...base.event, date: '2026-06-21' } }, 720);
    expect(noon.elevation).toBeGreaterThan(60.9);
    expect(noon.elevation).toBeLessThan(61.9);
    expect(noon.azimuth).toBeGreaterThan(175);
    expect(noon.azimuth).toBeLessThan(185);
  });
  test('equinox: the sun rises in the east', () => {
    const morning = at({ ...outdoors, event: { ...base.event, date: '2026-03-20' } }, 370);
    expect(morning.azimuth).toBeGreaterThan(85);
    expect(morning.azimuth).toBeLessThan(97);
  });
  test('a camera that looks north has the noon sun behind it: on the screen and the face', () => {
    expect(at(outdoors, 720)).toMatchObject({ onScreen: true, onFace: true, onBack: false });
    expect(at({ ...outdoors, room: { ...outdoors.room, facing: 180 } }, 720)).toMatchObject({
      onScreen: false,
      onFace: false,
      onBack: true,
    });
    expect(at(outdoors, 0)).toMatchObject({ onScreen: false, soft: true });
  });
  test('bearings turn into the set’s directions', () => {
    expect(sunDirection(0, 90, 0).x).toBeCloseTo(1, 9);
    expect(sunDirection(90, 90, 0).z).toBeCloseTo(-1, 9);
    expect(sunDirection(0, 0, 90).y).toBeCloseTo(1, 9);
  });
  test('indoors without a window there is no sun; through a window only where the ray passes it', () => {
    expect(sunThroughDay(base)).toBeUndefined();
    // A window on the right, low sun from the right (west for a camera looking south).
    const window = {
      ...base.lamps[0],
      kind: 'window' as const,
      position: { x: 2.4, y: 1.6, z: 2.2 },
      aim: { x: 0, y: 1.6, z: 2.2 },
      width: 1.4,
      height: 1.6,
    };
    const day = sunThroughDay({
      ...outdoors,
      room: { ...outdoors.room, outdoors: false, facing: 180 },
      lamps: [window],
    });
    const reached = day?.through.filter((sun) => sun.onFace || sun.onBack) ?? [];
    expect(reached.length).toBeGreaterThan(0);
    for (const sun of reached) expect(sun.towards.x).toBeGreaterThan(0.5);
    expect(reached.length).toBeLessThan(40);
  });
  test('test frames are called for through the day, the first before the first guest', () => {
    const again = sunThroughDay(outdoors)?.testAgain ?? [];
    expect(again[0]).toEqual({ minute: minutesOf(base.event.firstGuest), words: 'before the first guest' });
    expect(again.length).toBeGreaterThan(4);
  });
});
