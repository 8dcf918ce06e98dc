import { beforeAll, describe, expect, test } from 'vitest';
import { noiseAt, sensorNoise } from '../plan/exposure.ts';
import { reportOn } from '../plan/report.ts';
import { startingPlan } from '../plan/startingPlan.ts';
import { personLightByCard, withPersonLight } from '../cut/personLight.ts';
import { sameDepth, type EncodedRaster } from '../image/raster.ts';
import { seededSet, shotsOf, takeFrame, type TestSet } from '../studio/index.ts';
import { checkSetup, type CheckReport } from './check.ts';
import type { RehearsedCause } from './causeFacts.ts';
import { plainReport } from './plain.ts';
import { recogniseKind } from './targets.ts';

const WIDTH = 480;

function photograph(
  set: TestSet,
  seed: number,
  width = WIDTH,
): Record<'people' | 'plate' | 'ball' | 'grey card', EncodedRaster> {
  const shots = shotsOf(set, seed, width);
  const taken = (kind: keyof typeof shots): EncodedRaster => takeFrame(set.plan, shots[kind]).frame;
  return { people: taken('people'), plate: taken('plate'), ball: taken('ball'), 'grey card': taken('grey card') };
}

/** A picture in another light, as on a person that is put right. */
function inLight(picture: EncodedRaster, light: Parameters<typeof withPersonLight>[1]): EncodedRaster {
  const { width, height, channels, data } = picture;
  const four = { width, height, channels: 4 as const, data: sameDepth(data, width * height * 4) };
  for (let p = 0; p < width * height; p++) for (let c = 0; c < 3; c++) four.data[p * 4 + c] = data[p * channels + c];
  const lit = withPersonLight(four, light).data;
  const out = sameDepth(data, width * height * 3);
  for (let p = 0; p < width * height; p++) for (let c = 0; c < 3; c++) out[p * 3 + c] = lit[p * 4 + c];
  return { width, height, channels: 3, data: out };
}

function readSet(causes: RehearsedCause[], seed: number, withPlan = false): CheckReport {
  const set = seededSet(seed, causes, WIDTH, [0.7, 1]);
  const { people, plate, ball, 'grey card': card } = photograph(set, seed);
  return checkSetup({ frame: people, plate, ball, card, plan: withPlan ? seededSet(seed, [], WIDTH).plan : undefined });
}

describe('a sound set', () => {
  let set: TestSet;
  let frames: ReturnType<typeof photograph>;
  let report: CheckReport;
  beforeAll(() => {
    set = seededSet(4100, [], WIDTH);
    frames = photograph(set, 4100);
    report = checkSetup({ frame: frames.people, plate: frames.plate, ball: frames.ball, card: frames['grey card'] });
  });

  test('is ready, with no cause named, each reading explained', () => {
    expect(report.causes).toEqual([]);
    expect(report.ready).toBe(true);
    expect(report.readings.length).toBeGreaterThan(14);
    for (const { reason } of report.readings) expect(reason).toMatch(/\.$/);
    expect(report.forecast?.minutes).toBeGreaterThan(0);
  });

  test('spread and noise are those of the light and the sensor', () => {
    const truth = reportOn(set.plan, 24, 4);
    expect(report.spread?.spread).toBeCloseTo(truth.evenness?.spread ?? NaN, 0);
    expect(Math.abs((report.spread?.spread ?? 9) - (truth.evenness?.spread ?? 0))).toBeLessThan(0.1);
    const level = truth.exposure?.mean[set.plan.screen.colour === 'blue' ? 2 : 1] ?? 0;
    expect((report.noise?.signalToNoise ?? 0) * noiseAt(sensorNoise(set.plan.camera), level)).toBeCloseTo(level, 1);
  });

  test('what each photograph shows is recognised', () => {
    for (const [kind, frame] of Object.entries(frames)) expect(recogniseKind(frame)).toBe(kind);
    const chart = takeFrame(set.plan, { ...shotsOf(set, 4100, WIDTH).plate, kind: 'colour chart' }).frame;
    expect(recogniseKind(chart)).toBe('colour chart');
    const read = checkSetup({ chart }).chart;
    expect(read?.mean).toBeLessThan(3);
  });

  test('a card and a chart in wrong light ask for what makes them right again', () => {
    const chart = takeFrame(set.plan, { ...shotsOf(set, 4100, WIDTH).plate, kind: 'colour chart' }).frame;
    const off = { personExposure: -0.6, personWarmth: -35, personTint: 0.12 };
    for (const kind of ['card', 'chart'] as const) {
      const picture = kind === 'card' ? frames['grey card'] : chart;
      const before = checkSetup({ [kind]: inLight(picture, off) }).balance;
      expect(before?.by).toBe(kind === 'card' ? 'grey card' : 'colour chart');
      if (!before) return;
      const right = inLight(inLight(picture, off), personLightByCard(before));
      const after = checkSetup({ [kind]: right }).balance;
      expect(Math.abs(after?.stops ?? 9), kind).toBeLessThan(0.08);
      for (const gain of after?.gains ?? [9]) expect(Math.abs(Math.log2(gain)), kind).toBeLessThan(0.06);
    }
  });

  test('can be told as plain JSON without holes', () => {
    const plain = plainReport(report);
    const back = JSON.parse(JSON.stringify(plain));
    expect(back.lawn.stops).toHaveLength(plain.lawn!.columns * plain.lawn!.rows);
    expect(JSON.stringify(back)).not.toMatch(/NaN|Infinity/);
  });

  test('is read from a frame with somebody in it alone', () => {
    const alone = checkSetup({ frame: frames.people });
    expect(alone.found).toBe(true);
    expect(alone.readings.find(({ id }) => id === 'shadow')).toBeUndefined();
    expect(Math.abs((alone.spread?.spread ?? 9) - (report.spread?.spread ?? 0))).toBeLessThan(0.15);
  });
});

describe('one gross fault is named first', () => {
  test.each<[RehearsedCause, number]>([
    ['weakLamp', 4201],
    ['lampsNear', 4202],
    ['hotMiddle', 4203],
    ['tooClose', 4304],
    ['keyShadow', 4205],
    ['window', 4206],
    ['wrinkles', 4207],
    ['overlit', 4208],
    ['gain', 4209],
    ['mixedLamps', 4210],
    ['whiteBalance', 4211],
    ['clothing', 4212],
    ['smallScreen', 4213],
    ['defocus', 4214],
    ['motion', 4215],
  ])('%s', (cause, seed) => {
    const report = readSet([cause], seed);
    expect(report.causes.map(({ id }) => id)).toContain(cause);
    expect(report.causes[0].id).toBe(cause);
    expect(report.causes[0].remedy).toMatch(/\w/);
    expect(report.ready).toBe(false);
  });

  test('with the plan the weak lamp is called by its name', () => {
    const report = readSet(['weakLamp'], 4201, true);
    const weakest = report.difference?.lamps.reduce((least, lamp) => (lamp.share < least.share ? lamp : least));
    expect(weakest?.share).toBeLessThan(0.7);
    expect(report.causes[0].remedy).toContain(weakest?.name);
  });
});

describe('what is no test frame', () => {
  const flat = (r: number, g: number, b: number, width = 60, height = 40): EncodedRaster => ({
    width,
    height,
    channels: 3,
    data: Uint8Array.from({ length: width * height * 3 }, (_, i) => [r, g, b][i % 3]),
  });

  test('without a screen it says so; nothing is nothing', () => {
    expect(checkSetup({ frame: flat(150, 140, 130) }).found).toBe(false);
    expect(checkSetup({}).found).toBe(false);
    expect(recogniseKind(flat(150, 140, 130))).toBeUndefined();
  });

  test.each([
    [1, 1],
    [3, 1],
    [1, 7],
    [9, 9],
    [60, 40],
  ])('%i × %i of plain green is read without a fault', (width, height) => {
    const report = checkSetup({ plate: flat(60, 170, 70, width, height), frame: flat(60, 170, 70, width, height) });
    for (const { value } of report.readings) expect(Number.isFinite(value)).toBe(true);
  });

  test('grey 8 and 16 bit pictures are taken as they are', () => {
    expect(
      checkSetup({ plate: { width: 30, height: 30, channels: 1, data: new Uint16Array(900).fill(20000) } }).found,
    ).toBe(false);
  });
});

test('a group, and people at the edge, are read as people', () => {
  const plan = {
    ...startingPlan('Group', '2026-06-13'),
    people: [{ ...startingPlan('Group', '2026-06-13').people[0], x: 0.38 }],
  };
  const set = seededSet(4300, [], WIDTH);
  const shot = { ...shotsOf(set, 4300, WIDTH).people, subjects: [set.subject] };
  const frame = takeFrame(plan, {
    ...shot,
    height: Math.round((WIDTH * plan.camera.pixelsDown) / plan.camera.pixelsAcross),
  }).frame;
  expect(recogniseKind(frame)).toBe('people');
  expect(checkSetup({ frame }).edge).toBeDefined();
});
