import { describe, expect, test } from 'vitest';
import { cameraView, project, rayOf } from './cameraView.ts';
import { savingsOf, schoolsOf, singleChanges, withLamp } from './changes.ts';
import { coverageOf } from './coverage.ts';
import { demoPlans } from './demoPlans.ts';
import { purity } from './exposure.ts';
import { forecastOf, repairCauses, severity } from './forecast.ts';
import { improve, wholeFreedom } from './improve.ts';
import { kitOf } from './kit.ts';
import type { Plan } from './plan.ts';
import { HOUSE_WIND_LIMIT, cautionsOf, circuitLoads, windLoad, windPressure } from './power.ts';
import { forecastMinutes } from './quick.ts';
import { isWithin, readingFacts, type ReadingId } from './readings.ts';
import { reportOn } from './report.ts';
import { startingPlan } from './startingPlan.ts';
import { seededRandom } from '../random.ts';
import { chromaDistance, linearOf, wardrobeOf } from './wardrobe.ts';

const base = startingPlan('Test', '2026-06-13');
const reading = (plan: Plan, id: ReadingId): number => reportOn(plan).readings.find((r) => r.id === id)?.value ?? NaN;
const withCamera = (change: Partial<Plan['camera']>): Plan => ({ ...base, camera: { ...base.camera, ...change } });
const withScreen = (change: Partial<Plan['screen']>): Plan => ({ ...base, screen: { ...base.screen, ...change } });

describe('the camera', () => {
  const level = { ...base, people: [], camera: { ...base.camera, tilt: 0, pan: 0, position: { x: 0, y: 1, z: 4 } } };
  test('projects by similar triangles and looks back along the same ray', () => {
    const view = cameraView(level);
    const pixel = project(view, { x: 0.5, y: 1.2, z: 1 });
    expect(pixel.depth).toBeCloseTo(3, 9);
    expect(pixel.x - 2000).toBeCloseTo((view.image * 0.5) / 3 / view.pitch, 6);
    const ray = rayOf(view, pixel.x, pixel.y);
    expect(ray.x / -ray.z).toBeCloseTo(0.5 / 3, 9);
    expect(ray.y / -ray.z).toBeCloseTo(0.2 / 3, 9);
  });
  test('tilting up moves the picture down', () => {
    const point = { x: 0, y: 1, z: 0 };
    expect(project(cameraView({ ...level, camera: { ...level.camera, tilt: 5 } }), point).y).toBeGreaterThan(
      project(cameraView(level), point).y,
    );
  });
});

describe('coverage', () => {
  // A 50 mm lens on a 36 mm high sensor, 5 m away: the frame is 3.6 m high and 2.4 m wide on the screen (focused far).
  const plan: Plan = {
    ...base,
    people: [],
    screen: { ...base.screen, width: 2, height: 5, bottom: 0 },
    camera: { ...base.camera, focal: 0.05, tilt: 0, position: { x: 0, y: 2, z: 5 } },
  };
  test('counts what the screen leaves open, in metres and pixels', () => {
    const view = cameraView(plan);
    const { share, missing, mask } = coverageOf(plan, view);
    // 50 mm focused at 3 m lie 50.85 mm before 24 mm of sensor: 2.36 m at 5 m; the screen is 2 m wide.
    expect(share).toBeCloseTo(0.85, 1);
    expect(missing.left.metres).toBeCloseTo(0.18, 3);
    expect(missing.left.pixels).toBe(missing.right.pixels);
    expect(missing.top.pixels).toBe(0);
    expect(mask).toHaveLength(4);
    expect(Math.min(...mask.map((p) => p.x))).toBe(missing.left.pixels);
    expect(Math.max(...mask.map((p) => p.y))).toBe(6000);
  });
  test('an outstretched arm nearer to the camera covers more of the screen', () => {
    const room = (z: number): number =>
      coverageOf({ ...base, people: [{ ...base.people[0], z, reach: 0.2 }] }, cameraView(base)).arms?.metres ?? NaN;
    expect(room(1)).toBeGreaterThan(room(2));
  });
  test('a sweep fills the lower part of the frame', () => {
    const low = { ...plan, screen: { ...plan.screen, width: 6, bottom: 0 }, camera: { ...plan.camera, tilt: -15 } };
    expect(coverageOf({ ...low, screen: { ...low.screen, sweep: 3 } }, cameraView(low)).share).toBeGreaterThan(
      coverageOf(low, cameraView(low)).share + 0.1,
    );
  });
});

describe('readings', () => {
  test('equal lamps light both sides alike; one of them weaker shows and is named', () => {
    expect(reading(base, 'mismatch')).toBeLessThan(0.5);
    const uneven = withLamp(base, 'screen-right', () => ({ power: 0.2 }));
    expect(reading(uneven, 'spread')).toBeGreaterThan(reading(base, 'spread') + 0.3);
    expect(reportOn(uneven).readings.find((r) => r.id === 'spread')?.reason).toContain('Screen lamp left');
  });
  test('half the key is a stop less against a screen that it does not reach, a little less than that where it does', () => {
    const lost =
      reading(base, 'keyScreen') -
      reading(
        withLamp(base, 'key', () => ({ power: 0.5 })),
        'keyScreen',
      );
    expect(lost).toBeGreaterThan(0.75);
    expect(lost).toBeLessThan(1);
    const away = withLamp({ ...base, room: { ...base.room, walls: 0 } }, 'key', () => ({
      position: { x: -2.2, y: 1.6, z: 2.3 },
      aim: { x: 2, y: 1.6, z: 2.3 },
      beam: 30,
    }));
    expect(
      reading(away, 'keyScreen') -
        reading(
          withLamp(away, 'key', () => ({ power: 0.5 })),
          'keyScreen',
        ),
    ).toBeCloseTo(1, 2);
  });
  test('a warm lamp on one side makes two screens', () => {
    expect(
      reading(
        withLamp(base, 'screen-left', () => ({ temperature: 3200 })),
        'mismatch',
      ),
    ).toBeGreaterThan(12);
  });
  test('exposure: a stop of gain doubles the level; far too much clips', () => {
    expect(reading(withCamera({ iso: 2500 }), 'level') / reading(base, 'level')).toBeCloseTo(2, 1);
    expect(reading(withCamera({ iso: 12800 }), 'clipped')).toBeGreaterThan(50);
    expect(reading(base, 'clipped')).toBe(0);
  });
  test('green light makes the screen purer', () => {
    const green = {
      ...base,
      lamps: base.lamps.map((lamp) => (lamp.role === 'screen' ? { ...lamp, gel: 'screen green' } : lamp)),
    };
    expect(reading(green, 'purity')).toBeGreaterThan(reading(base, 'purity') + 10);
    expect(purity([0.1, 0.4, 0.2], 1)).toBeCloseTo(0.5, 9);
  });
  test('nearer to the screen: more bounce, more shadow', () => {
    const near = { ...base, people: [{ ...base.people[0], z: 0.7 }] };
    expect(reading(near, 'bounce')).toBeLessThan(reading(base, 'bounce') - 0.5);
  });
  test('a hard frontal key casts a shadow that is named, a screen in gloss mirrors its lamps', () => {
    const hard = withLamp({ ...base, people: [{ ...base.people[0], z: 0.8 }] }, 'key', () => ({
      position: { x: -0.6, y: 1.6, z: 4.5 },
      width: 0.1,
      height: 0.1,
    }));
    const report = reportOn(hard);
    expect(report.shadows[0]?.depth).toBeGreaterThan(0.15);
    expect(report.readings.find((r) => r.id === 'shadow')?.reason).toContain('Key');
    expect(reading(withScreen({ gloss: 0.3 }), 'gloss')).toBeGreaterThan(reading(base, 'gloss') + 0.2);
  });
  test('creases: lit from both sides they cancel, from one side they stay', () => {
    const oneSided = { ...base, lamps: base.lamps.filter((lamp) => lamp.id !== 'screen-right') };
    expect(reading(oneSided, 'wrinkle')).toBeGreaterThan(reading(base, 'wrinkle') * 1.3);
  });
  test('a flash freezes what the shutter does not', () => {
    const flash = {
      ...base,
      lamps: base.lamps.map((lamp) => ({ ...lamp, unit: 'joule' as const, output: 200, flashDuration: 0.001 })),
    };
    expect(reportOn(flash).motion.ruledByFlash).toBe(true);
    expect(reading(flash, 'motion') / reading(base, 'motion')).toBeCloseTo(0.16, 2);
  });
  test('every reading has a bound, a scale that holds it, and a remedy', () => {
    for (const [id, facts] of Object.entries(readingFacts)) {
      const { min, max, scale, remedy } = facts as {
        min?: number;
        max?: number;
        scale: readonly [number, number];
        remedy: string;
      };
      expect(min ?? max, id).toBeDefined();
      for (const bound of [min, max])
        if (bound !== undefined) expect(bound >= scale[0] && bound <= scale[1], id).toBe(true);
      expect(remedy.length, id).toBeGreaterThan(10);
    }
    expect(isWithin('spread', 1)).toBe(true);
    expect(isWithin('keyScreen', -0.01)).toBe(false);
  });
  test('nobody there, no lamps: fewer readings, no fault', () => {
    const empty = reportOn({
      ...base,
      lamps: [],
      people: [],
      circuits: [],
      event: { ...base.event, roster: [], guests: 0 },
    });
    expect(empty.readings.map((r) => r.id)).not.toContain('keyScreen');
    expect(empty.forecast.minutes).toBe(0);
  });
});

describe('power and wind', () => {
  test('½ρv²: 61 Pa at 10 m/s', () => {
    expect(windPressure(10)).toBeCloseTo(61.25, 2);
  });
  test('twice the wind wants four times the ballast; a lower screen less', () => {
    const outdoors = (wind: number, bottom = 0.5): Plan => ({
      ...base,
      room: { ...base.room, outdoors: true, wind },
      screen: { ...base.screen, bottom },
    });
    expect(windLoad(outdoors(8)).ballastNeeded / windLoad(outdoors(4)).ballastNeeded).toBeCloseTo(4, 9);
    expect(windLoad(outdoors(4, 0)).ballastNeeded).toBeLessThan(windLoad(outdoors(4)).ballastNeeded);
    // 2.7 × 2.7 m, lower edge at 0.5 m: 1.3 · 7.29 · 0.6125 · 36 N, arm 1.85 m.
    expect(windLoad(outdoors(4)).force).toBeCloseTo(1.3 * 7.29 * 0.6125 * 36, 6);
    expect(windLoad({ ...outdoors(4), screen: { ...base.screen, ballast: 2000, base: 3 } }).takeDown).toBe(
      HOUSE_WIND_LIMIT,
    );
  });
  test('circuits add up; a lamp on a circuit nobody knows is beyond every bound', () => {
    const [first] = circuitLoads(base);
    expect(first).toMatchObject({ watts: base.lamps.reduce((sum, lamp) => sum + lamp.watts, 0), rating: 3680 });
    expect(
      circuitLoads(withLamp(base, 'key', () => ({ circuit: 'elsewhere' }))).find((c) => c.name === 'elsewhere')?.load,
    ).toBe(Infinity);
  });
  test('cautions come where they apply, and local rules always', () => {
    expect(cautionsOf(base).join(' ')).not.toContain('sail');
    expect(cautionsOf({ ...base, room: { ...base.room, outdoors: true } }).join(' ')).toContain('power lines');
    expect(cautionsOf(withLamp(base, 'key', () => ({ unit: 'joule' }))).join(' ')).toContain('Flashing');
    expect(cautionsOf(withLamp(base, 'key', () => ({ kind: 'bare', watts: 800 }))).join(' ')).toContain('gloves');
    expect(cautionsOf({ ...base, lamps: [] }).at(-1)).toContain('Local rules');
  });
});

describe('wardrobe', () => {
  const wearing = (...colours: string[]): Plan['event'] => ({
    ...base.event,
    roster: [{ name: 'Crew', colours, people: 10 }],
  });
  test('green clothes want a blue screen, denim a green one, neutral clothes the usual green', () => {
    expect(wardrobeOf(wearing('2f9e4f'))).toMatchObject({ better: 'blue' });
    expect(wardrobeOf(wearing('4a6a94'))).toMatchObject({ better: 'green' });
    const plain = wardrobeOf(wearing('d8d4cc', '222222'));
    expect(plain.better).toBe('green');
    expect(plain.green.share).toBeLessThan(0.05);
    expect(plain.sure).toBeLessThan(wardrobeOf(wearing('4a6a94')).sure);
  });
  test('a fold of the same cloth is the same colour', () => {
    const cloth = linearOf('2f9e4f');
    expect(chromaDistance(cloth, [cloth[0] * 0.5, cloth[1] * 0.5, cloth[2] * 0.5])).toBeLessThan(0.02);
  });
});

describe('forecast', () => {
  test('a cause costs nothing where it begins and its full minutes where it is full, either way round', () => {
    for (const cause of Object.values(repairCauses)) {
      expect(severity(cause, cause.from)).toBe(0);
      expect(severity(cause, cause.to)).toBe(1);
      expect(severity(cause, cause.to + (cause.to - cause.from))).toBeGreaterThan(1);
    }
  });
  test('causes add up, frames multiply, and the spread holds the mean', () => {
    const report = reportOn(base);
    const { minutes, low, high, causes, frames } = report.forecast;
    expect(causes.reduce((sum, cause) => sum + cause.minutes, 0)).toBeCloseTo(minutes, 9);
    expect(frames).toBe(240);
    expect(low).toBeLessThan(minutes);
    expect(high).toBeGreaterThan(minutes);
    const twice = forecastOf({ ...base, event: { ...base.event, guests: 160 } }, report.readings);
    expect(twice.minutes / minutes).toBeCloseTo(2, 1);
  });
  test('a worse set costs more', () => {
    expect(forecastMinutes(withLamp(base, 'screen-right', () => ({ power: 0.2 })))).toBeGreaterThan(
      forecastMinutes(base),
    );
    expect(forecastMinutes({ ...base, people: [{ ...base.people[0], z: 0.6 }] })).toBeGreaterThan(
      forecastMinutes(base),
    );
  });
});

describe('changes', () => {
  test('one weak screen lamp: making both alike is offered, evens the screen, and nothing is left to save by it again', () => {
    const bad = withLamp(base, 'screen-right', () => ({ power: 0.25 }));
    const savings = savingsOf(bad);
    const alike = savings.find(({ words }) => words.includes('All screen lamps like'));
    if (!alike) throw new Error('not offered');
    expect(reading(alike.plan, 'spread')).toBeLessThan(reading(bad, 'spread') - 0.25);
    expect(savingsOf(alike.plan).some(({ words }) => words.includes('All screen lamps like'))).toBe(false);
    const minutes = savings.map((saving) => saving.minutes);
    expect(Math.min(...minutes)).toBeGreaterThanOrEqual(0.5);
    for (let n = 1; n < minutes.length; n++) expect(minutes[n]).toBeLessThanOrEqual(minutes[n - 1]);
  });
  test('no change puts anything outside the room or in the camera’s view', () => {
    const { room } = base;
    for (const { plan } of singleChanges(base)) {
      for (const { position } of plan.lamps) {
        expect(position.x).toBeGreaterThan(-room.left);
        expect(position.x).toBeLessThan(room.right);
        expect(position.y).toBeLessThan(room.height);
      }
    }
  });
  test('each school is priced', () => {
    const schools = schoolsOf(base);
    expect(schools.map((school) => school.answers.length)).toEqual([3, 2, 3, 2]);
    const [far, near] = schools[1].answers;
    expect(near.minutes).toBeGreaterThan(far.minutes);
  });
});

describe('improve', () => {
  test('lowers the forecast of badly laid out sets by a fifth or more, within the room', () => {
    for (const seed of [1, 2]) {
      const random = seededRandom(seed);
      const spoilt: Plan = {
        ...base,
        lamps: base.lamps.map((lamp) =>
          lamp.role === 'screen'
            ? {
                ...lamp,
                position: {
                  x: lamp.position.x * (0.6 + 0.3 * random()),
                  y: 0.6 + 1.8 * random(),
                  z: 0.5 + 0.6 * random(),
                },
                power: 0.2 + 0.8 * random(),
              }
            : lamp,
        ),
        people: [{ ...base.people[0], z: 0.9 + 0.4 * random() }],
      };
      const { before, after, plan, moves } = improve(spoilt, wholeFreedom, seed);
      expect(after, `seed ${seed}`).toBeLessThan(before * 0.8);
      expect(forecastMinutes(plan)).toBeCloseTo(after, 6);
      expect(moves.reduce((sum, move) => sum + move.minutes, 0)).toBeCloseTo(before - after, 4);
      for (const { position } of plan.lamps) expect(Math.abs(position.x)).toBeLessThan(base.room.left);
    }
  }, 120_000);
  test('searches by the minutes that it is given, as those of one’s own log', () => {
    // Whoever only ever paid for people near the screen moves them away from it.
    const nearness = (plan: Plan): number => 100 - 10 * plan.people[0].z;
    const { before, after, plan } = improve(base, wholeFreedom, 1, undefined, nearness);
    expect([before, after]).toEqual([nearness(base), nearness(plan)]);
    expect(plan.people[0].z).toBeGreaterThan(base.people[0].z + 0.2);
    expect(savingsOf(base, 0.5, nearness).every(({ moves }) => moves === 'person')).toBe(true);
  });
  test('leaves alone what may not move, and stops when told', () => {
    const { plan } = improve(base, { lamps: false, powers: true, people: false, camera: false, exposure: false });
    expect(plan.people).toEqual(base.people);
    expect(plan.camera).toEqual(base.camera);
    expect(plan.lamps.map((lamp) => lamp.position)).toEqual(base.lamps.map((lamp) => lamp.position));
    let rounds = 0;
    improve(base, wholeFreedom, 1, () => ++rounds < 1);
    expect(rounds).toBe(1);
  }, 60_000);
});

test('kit: hiring costs more than wear, and everything in the set is on the list', () => {
  const kit = kitOf(base);
  expect(kit.items.map((item) => item.name)).toEqual(expect.arrayContaining(base.lamps.map((lamp) => lamp.name)));
  const hired = kitOf({ ...base, lamps: base.lamps.map((lamp) => ({ ...lamp, supply: 'hired' as const })) });
  expect(hired.cost).toBeGreaterThan(kit.cost);
  expect(kit.packDownMinutes).toBeLessThan(kit.setUpMinutes);
});

test('the demo’s plans are sound: key near the screen’s level, frame filled, nothing clipped', () => {
  for (const plan of Object.values(demoPlans())) {
    const report = reportOn(plan);
    expect(report.coverage.share).toBeGreaterThan(0.9);
    expect(report.exposure?.clipped).toBe(0);
    expect(report.wardrobe.better).toBe('blue');
  }
});
