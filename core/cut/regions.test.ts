import { describe, expect, test } from 'vitest';
import { createLinear, createMask, createPlane, type LinearRaster, type Mask, type Plane } from '../image/raster.ts';
import { installedKernels, installKernels } from '../kernels/kernels.ts';
import { fitScreenModel, surveyScreen } from '../screen/index.ts';
import { candidateFields } from './candidates.ts';
import { evidenceOf } from './evidence.ts';
import { Region } from './region.ts';
import { classifyRegions, type Regions, type Sortable } from './regions.ts';
import { sortFrame } from './sorter/sortFrame.ts';
import { traitsOf } from './traits.ts';

type Rgb = [number, number, number];
const WIDTH = 200;
const HEIGHT = 260;
const SCREEN: Rgb = [0.08, 0.42, 0.1];

/** A screen with painted rectangles: left, top, right, bottom, colour, coverage. */
function scene(...shapes: [number, number, number, number, Rgb, number?][]): LinearRaster {
  const frame = createLinear(WIDTH, HEIGHT);
  for (let p = 0; p < WIDTH * HEIGHT; p++) frame.data.set(SCREEN, p * 3);
  for (const [left, top, right, bottom, colour, coverage = 1] of shapes) {
    for (let y = top; y < bottom; y++) {
      for (let x = left; x < right; x++) {
        for (let c = 0; c < 3; c++) {
          const i = (y * WIDTH + x) * 3 + c;
          frame.data[i] = coverage * colour[c] + (1 - coverage) * frame.data[i];
        }
      }
    }
  }
  return frame;
}

function sortable(frame: LinearRaster, persons?: Plane): Sortable {
  const survey = surveyScreen(frame);
  if (!survey) throw new Error('no screen');
  const model = fitScreenModel(frame, survey);
  const traits = traitsOf(frame, model.screen, survey.channel);
  const sorted = sortFrame(
    evidenceOf({
      reduced: frame,
      model,
      traits,
      channel: survey.channel,
      persons,
      outside: createMask(WIDTH, HEIGHT),
      plate: false,
    }),
    WIDTH,
    HEIGHT,
  );
  return { reduced: frame, screen: model.screen, sorted, survey, traits, edgeCells: 2 };
}
function classify(frame: LinearRaster, greenKeep = 0.5, hairReach = 2.5, persons?: Plane): Regions {
  return classifyRegions(sortable(frame, persons), { greenKeep, hairReach });
}

/** A map of persons with somebody in a rectangle: left, top, right, bottom. */
function somebody(left: number, top: number, right: number, bottom: number): Plane {
  const map = createPlane(WIDTH, HEIGHT);
  for (let y = top; y < bottom; y++) map.data.fill(1, y * WIDTH + left, y * WIDTH + right);
  return map;
}

/** A person with hair of uneven strands in the screen's hue, darker than it. */
function greenHair(left: number, top: number, right: number, bottom: number): LinearRaster {
  const frame = scene([60, 60, 140, 260, skin]);
  for (let y = top; y < bottom; y++)
    for (let x = left; x < right; x++)
      for (let c = 0; c < 3; c++) frame.data[at(x, y) * 3 + c] = SCREEN[c] * [0.7, 0.6, 0.66][x % 3] * [1.2, 1, 1.1][c];
  return frame;
}

const at = (x: number, y: number): number => y * WIDTH + x;
const skin: Rgb = [0.5, 0.3, 0.22];
const bottle: Rgb = [0.015, 0.075, 0.04];

describe('classifyRegions', () => {
  test('person core, screen clear, a fringe of the hair’s reach between', () => {
    const { regions } = classify(scene([60, 60, 140, 260, skin]));
    expect(regions.data[at(100, 160)]).toBe(Region.core);
    expect(regions.data[at(10, 10)]).toBe(Region.clear);
    expect(regions.data[at(59, 160)]).toBe(Region.fringe);
    expect(regions.data[at(63, 260 - 100)]).toBe(Region.core);
  });

  test('a longer hair reach opens a wider band and never closes one', () => {
    const frame = scene([60, 60, 140, 260, skin]);
    const near = classify(frame, 0.5, 1).regions.data;
    const far = classify(frame, 0.5, 6).regions.data;
    let wider = 0;
    for (let p = 0; p < near.length; p++) {
      if (near[p] === Region.fringe) expect(far[p]).toBe(Region.fringe);
      if (far[p] === Region.fringe && near[p] === Region.clear) wider++;
    }
    expect(wider).toBeGreaterThan(1000);
  });

  test('a shadow and a hot spot on the screen stay clear', () => {
    const frame = scene([60, 100, 140, 260, skin]);
    for (let y = 0; y < 40; y++)
      for (let x = 0; x < 60; x++) for (let c = 0; c < 3; c++) frame.data[at(x, y) * 3 + c] *= 0.7;
    for (let y = 0; y < 30; y++)
      for (let x = 150; x < 190; x++) for (let c = 0; c < 3; c++) frame.data[at(x, y) * 3 + c] *= 1.35;
    const { regions } = classify(frame);
    expect(regions.data[at(25, 15)]).toBe(Region.clear);
    expect(regions.data[at(170, 12)]).toBe(Region.clear);
  });

  test('a bottle-green shirt that runs out of the frame is kept, and is core', () => {
    const { regions, kept, patches } = classify(scene([80, 30, 120, 90, skin], [50, 90, 150, 260, bottle]));
    expect(patches[0].verdict).toBe('keep');
    expect(patches[0].box[3]).toBe(HEIGHT);
    expect(patches[0].evidence.mostScreen).toBeLessThan(0.3);
    expect(patches[0].likelihood).toBeGreaterThan(0.8);
    expect(kept.data[at(100, 200)]).toBe(1);
    expect(regions.data[at(100, 200)]).toBe(Region.core);
    expect(kept.data[at(100, 60)]).toBe(0);
  });

  test('a sheer white cloth over the screen is not kept as green', () => {
    const { patches, kept } = classify(
      scene([60, 120, 140, 260, skin], [60, 40, 140, 110, [0.7, 0.7, 0.7], 0.4]),
      0.5,
      2.5,
      somebody(60, 120, 140, 260),
    );
    expect(patches.every((patch) => patch.verdict === 'remove')).toBe(true);
    expect(kept.data.includes(1)).toBe(false);
  });

  test('“green kept” goes from none to all that differs', () => {
    const frame = scene([80, 30, 120, 90, skin], [50, 90, 150, 260, bottle]);
    expect(classify(frame, 0).kept.data.includes(1)).toBe(false);
    const kept = [0.3, 0.5, 0.8, 1].map((greenKeep) => classify(frame, greenKeep).kept.data.reduce((a, b) => a + b, 0));
    for (let n = 1; n < kept.length; n++) expect(kept[n]).toBeGreaterThanOrEqual(kept[n - 1]);
    expect(kept[3]).toBeGreaterThan(10000);
  });

  test('patches are numbered in the picture: largest first, 0 where there is none', () => {
    const { patches, labels } = classify(scene([80, 30, 120, 90, skin], [50, 90, 150, 260, bottle]));
    expect(labels[at(100, 200)]).toBe(1);
    expect(labels[at(100, 60)]).toBe(0);
    expect(labels[at(10, 10)]).toBe(0);
    expect(Math.max(...labels)).toBe(patches.length);
  });

  test('what the person encloses without plain screen is the person; a gap is a gap', () => {
    const mixed: Rgb = [0.3, 0.37, 0.17];
    const { regions } = classify(
      scene([40, 40, 160, 260, skin], [90, 120, 100, 130, mixed], [60, 180, 90, 240, SCREEN]),
    );
    expect(regions.data[at(95, 125)]).toBe(Region.core);
    expect(regions.data[at(75, 210)]).toBe(Region.clear);
  });

  test('white cloth with the screen’s light on it is solid up to its outline', () => {
    const frame = scene([60, 60, 140, 260, [0.62, 0.62, 0.6]]);
    for (let y = 60; y < 260; y++) {
      for (let x = 60; x < 140; x++) {
        const light = 0.12 * Math.max(0, 1 - Math.min(x - 60, 139 - x) / 16);
        for (let c = 0; c < 3; c++) frame.data[at(x, y) * 3 + c] += light * SCREEN[c];
      }
    }
    const { regions } = classify(frame);
    for (const x of [64, 66, 70, 133]) expect(regions.data[at(x, 180)], String(x)).toBe(Region.core);
    expect(regions.data[at(60, 180)]).toBe(Region.fringe);
  });

  test('a head of green hair is dyed; a few strands like it are strands over the screen', () => {
    const { dyed, patches } = classify(greenHair(50, 20, 150, 70), 0.5, 2.5, somebody(50, 20, 150, 260));
    expect(patches[0].verdict).toBe('keep');
    expect(dyed.data[at(100, 45)]).toBe(1);
    expect(dyed.data[at(100, 75)]).toBe(2);
    expect(dyed.data[at(100, 200)]).toBe(0);
    const few = classify(greenHair(90, 50, 103, 63), 0.5, 2.5, somebody(60, 60, 140, 260));
    expect(few.patches.every((patch) => patch.verdict === 'remove')).toBe(true);
    expect(few.dyed.data.some((v) => v > 0)).toBe(false);
  });

  test('green hair as bright as the screen never goes without a doubt; dark hair over the screen is none', () => {
    const head = (strands: Rgb[]): LinearRaster => {
      const frame = scene([60, 60, 140, 260, skin]);
      for (let y = 20; y < 70; y++)
        for (let x = 50; x < 150; x++) frame.data.set(strands[x % strands.length], at(x, y) * 3);
      return frame;
    };
    const lit = (level: number, shine: number): Rgb => [
      SCREEN[0] * level + shine,
      SCREEN[1] * level + shine,
      SCREEN[2] * level + shine,
    ];
    const [green] = classify(
      head([lit(0.95, 0.01), lit(0.95, 0.07), lit(1, 0.08), lit(0.95, 0.06)]),
      0.5,
      2.5,
      somebody(50, 20, 150, 260),
    ).patches;
    expect(green.verdict === 'keep' || green.doubtful).toBe(true);
    const dark = classify(
      head([
        [0.06, 0.2, 0.06],
        [0.075, 0.36, 0.09],
        [0.08, 0.42, 0.1],
      ]),
    ).patches;
    expect(dark.map(({ verdict, doubtful }) => [verdict, doubtful])).toEqual(dark.map(() => ['remove', false]));
    expect(dark.length).toBeGreaterThan(0);
  });

  test('strands of dyed hair before the face are the person', () => {
    const frame = greenHair(50, 20, 150, 70);
    const strand: Rgb = [0.16, 0.38, 0.13];
    for (let x = 70; x < 130; x += 2) for (let y = 74; y < 84; y++) frame.data.set(strand, at(x, y) * 3);
    const { regions } = classify(frame, 0.5, 2.5, somebody(50, 20, 150, 260));
    for (let x = 74; x < 126; x += 5) expect(regions.data[at(x, 79)], String(x)).toBe(Region.core);
  });

  test('screen between hairs beside kept cloth is not kept with it', () => {
    const lime: Rgb = [0.3, 0.45, 0.03];
    const { kept } = classify(
      scene([60, 40, 140, 120, skin], [40, 120, 160, 260, lime], [160, 120, 190, 180, [0.6, 0.45, 0.25], 0.2]),
    );
    expect(kept.data[at(100, 200)]).toBe(1);
    expect(kept.data[at(175, 150)]).toBe(0);
  });

  test('the outline of kept cloth is left to be solved', () => {
    const { regions, kept } = classify(scene([80, 30, 120, 90, skin], [50, 90, 150, 260, bottle]));
    expect(kept.data[at(49, 200)]).toBe(0);
    expect(regions.data[at(49, 200)]).toBe(Region.fringe);
  });
});

describe('candidateFields', () => {
  test('compiled and plain code sample the same colours', () => {
    const compiled = installedKernels();
    const frame = greenHair(70, 40, 130, 90);
    const regions = classify(frame);
    const seen = sortable(frame);
    const quick = candidateFields(seen, regions, 1);
    installKernels(undefined);
    try {
      expect(candidateFields(seen, regions, 1)).toEqual(quick);
    } finally {
      installKernels(compiled);
    }
    expect(quick.candidates.length).toBeGreaterThan(1);
  });

  test('offer the near colour and the one further inside', () => {
    const red: Rgb = [0.5, 0.05, 0.05];
    const frame = scene([50, 50, 150, 260, red], [62, 62, 138, 260, skin]);
    const { candidates } = candidateFields(sortable(frame), classify(frame), 1);
    const colours = candidates.map((field) => [...field.data.subarray(at(49, 160) * 3, at(49, 160) * 3 + 3)]);
    const near = (colour: number[], to: Rgb): boolean => colour.every((v, c) => Math.abs(v - to[c]) < 0.06);
    expect(colours.some((colour) => near(colour, red))).toBe(true);
    expect(colours.some((colour) => near(colour, skin))).toBe(true);
  });
  test('a pole beside a sleeve has its own colour, though it is too thin for samples well inside', () => {
    const wood: Rgb = [0.4, 0.28, 0.15];
    const frame = scene([70, 60, 140, 260, [0.2, 0.02, 0.02]], [50, 20, 59, 260, wood]);
    const { candidates } = candidateFields(sortable(frame), classify(frame), 1);
    const nearest = candidates[0].data.subarray(at(49, 160) * 3, at(49, 160) * 3 + 3);
    wood.forEach((v, c) => expect(nearest[c]).toBeCloseTo(v, 2));
  });
  /** Skin with hair beside it that is nowhere surely hair alone, as the sorter may see it. */
  const besideSkin = (hairColour: Rgb, truly: number, likelihood: number, expected = truly) => {
    const frame = scene([60, 60, 100, 260, skin], [100, 60, 140, 160, hairColour, truly]);
    const seen = sortable(frame);
    const part = (left: number, top: number, right: number, bottom: number): Mask => {
      const mask = createMask(WIDTH, HEIGHT);
      for (let y = top; y < bottom; y++) mask.data.fill(1, y * WIDTH + left, y * WIDTH + right);
      return mask;
    };
    const hair = part(100, 60, 140, 160);
    const [solid, coverage] = [createPlane(WIDTH, HEIGHT), createPlane(WIDTH, HEIGHT)];
    part(60, 60, 100, 260).data.forEach((flag, p) => flag && (solid.data[p] = coverage.data[p] = 1));
    hair.data.forEach((flag, p) => flag && ([solid.data[p], coverage.data[p]] = [likelihood, expected]));
    const regions = createMask(WIDTH, HEIGHT);
    regions.data.fill(Region.clear);
    part(60, 60, 100, 260).data.forEach((flag, p) => flag && (regions.data[p] = Region.core));
    part(100, 50, 150, 170).data.forEach((flag, p) => flag && (regions.data[p] = Region.fringe));
    const none = createMask(WIDTH, HEIGHT);
    const fields = (kept: Mask) =>
      candidateFields(
        { ...seen, sorted: { ...seen.sorted, solid, coverage } },
        { solid: part(62, 62, 98, 258), masses: hair, zone: part(96, 50, 150, 170), regions, kept, dyed: none },
        1,
      );
    const there = at(125, 110) * 3;
    const apart = ({ data }: LinearRaster): number => Math.hypot(...hairColour.map((v, c) => v - data[there + c]));
    return { hair, none, fields, apart };
  };
  const fair: Rgb = [0.62, 0.47, 0.22];

  test('hair that is loose all through has its own colour, with the screen between its strands taken out', () => {
    const { hair, none, fields, apart } = besideSkin(fair, 0.8, 0.6);
    const { candidates, colours } = fields(none);
    for (const field of [...candidates, ...colours]) expect(apart(field)).toBeLessThan(0.03);
    // What is kept for its green is no hair, and says nothing of it.
    expect(Math.min(...fields(hair).candidates.map(apart))).toBeGreaterThan(0.1);
  });

  test('fair strands that are half screen say what colour they have where no hair that is more lies near', () => {
    const { none, fields, apart } = besideSkin(fair, 0.6, 0.1);
    const { candidates } = fields(none);
    // The nearest samples are skin; one field has the strands' own colour.
    expect(Math.max(...candidates.map(apart))).toBeGreaterThan(0.1);
    expect(Math.min(...candidates.map(apart))).toBeLessThan(0.03);
    // Beside the skin that is not believed: samples lie near.
    const near = at(102, 110) * 3;
    for (const { data } of candidates) expect(data[near]).toBeCloseTo(skin[0], 1);
    // Believed a little denser than they are, they are a little greener, and still far nearer than skin.
    expect(Math.min(...besideSkin(fair, 0.6, 0.1, 0.65).fields(none).candidates.map(apart))).toBeLessThan(0.1);
  });

  test('of dark strands, and of those that cover less than half, nothing is believed', () => {
    const dark: Rgb = [0.06, 0.04, 0.03];
    const thin = besideSkin(dark, 0.4, 0.1);
    const dense = besideSkin(dark, 0.6, 0.1);
    for (const { fields, none, apart } of [thin, dense])
      expect(Math.min(...fields(none).candidates.map(apart))).toBeGreaterThan(0.1);
  });

  test('with nobody in the frame there is still one field', () => {
    const frame = scene();
    const none = { width: WIDTH, height: HEIGHT, data: new Uint8Array(WIDTH * HEIGHT) };
    const regions = { solid: none, masses: none, zone: none, regions: none, kept: none, dyed: none };
    expect(candidateFields(sortable(frame), regions, 1).candidates).toHaveLength(1);
  });
});
