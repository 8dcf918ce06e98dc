import { describe, expect, test } from 'vitest';
import { linearTable } from '../colour/transfer.ts';
import type { EncodedRaster } from '../image/raster.ts';
import { seededRandom } from '../random.ts';
import {
  compositeOnBackground,
  defaultLook,
  laidIn,
  gradeCube,
  isPlain,
  lookFacts,
  lookSettings,
  matchBounds,
  matchOf,
  miredOf,
  painted,
  placedPicture,
  plainLook,
  sidesShown,
  skinTurn,
  tonesOf,
  withSidesHidden,
  type Also,
  type Look,
  type Measured,
  type Tones,
} from './index.ts';
import { warmer } from '../colour/lightGains.ts';
import { hueOf, skins } from './match.ts';

/** Matching and joining a person and a background. */

type Rgba = EncodedRaster & { channels: 4 };
const table = linearTable(new Uint8Array());

function filled(width: number, height: number, rgb: (x: number, y: number) => number[]): EncodedRaster {
  const data = new Uint8Array(width * height * 3);
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++) for (const v of rgb(x, y)) data[i++] = Math.max(0, Math.min(255, Math.round(v)));
  return { width, height, channels: 3, data };
}
/** Somebody of one colour who takes up a part of a frame. */
function standing(
  { left, right, top, bottom }: { left: number; right: number; top: number; bottom: number },
  rgb: readonly number[] = [180, 130, 110],
  width = 60,
  height = 90,
): Rgba {
  const data = new Uint8Array(width * height * 4);
  for (let y = top; y < bottom; y++) for (let x = left; x < right; x++) data.set([...rgb, 255], (y * width + x) * 4);
  return { width, height, channels: 4, data };
}
const person = standing({ left: 20, right: 40, top: 10, bottom: 80 });
const whole = { x: 0.5, y: 1, height: 1 };
const scene = filled(60, 90, (x, y) => [40 + x, 60 + y, 120]);
const pixel = ({ data, width, channels }: EncodedRaster, x: number, y: number): number[] => [
  ...data.subarray((y * width + x) * channels, (y * width + x) * channels + 3),
];
const look = (part: Partial<Look>): Look => ({ ...plainLook, ...part });
const place = (part: Partial<Look>, behind = scene, cut: Rgba = person, measured?: Measured): EncodedRaster =>
  placedPicture(cut, behind, whole, look(part), measured);
const tones = (part: Partial<Tones> = {}): Tones => ({
  black: [0.01, 0.01, 0.01],
  middle: [0.2, 0.2, 0.2],
  white: [0.6, 0.6, 0.6],
  level: 0.2,
  light: [1, 1, 1],
  saturation: 0.3,
  blur: 0.7,
  grain: 0,
  side: 0,
  ...part,
});
const size = { width: 60, height: 90 };
const matched = (there: Partial<Tones>, part: Partial<Look> = {}, here: Partial<Tones> = {}) =>
  matchOf(
    { person: tones(here), scene: tones(there), cut: size, background: size, lightFrom: null },
    look({ toLevel: 1, toTint: 1, ...part }),
    whole,
  );

describe('a look that does nothing', () => {
  test('is the plain composite to the bit, also where only lengths differ', () => {
    const plain = compositeOnBackground(person, scene, whole).data;
    expect(place({}).data).toEqual(plain);
    expect(place({ wrapWidth: 15, shadowLength: 1, shadowSide: -1 }).data).toEqual(plain);
    expect(isPlain(plainLook)).toBe(true);
    expect(isPlain(defaultLook)).toBe(false);
  });
  test('and the long way gives the same within a step', () => {
    // A vignette too weak to be seen takes the long way.
    const long = place({ vignette: 1e-9 }).data;
    compositeOnBackground(person, scene, whole).data.forEach((v, i) =>
      expect(Math.abs(v - long[i])).toBeLessThanOrEqual(1),
    );
  });
});

test('every setting does something at both of its ends, changes no input and gives no figure beyond its depth', () => {
  const ball = standing({ left: 40, right: 80, top: 20, bottom: 140 }, undefined, 120, 180);
  const light = filled(120, 180, (x, y) => [120 + x, 140 + y / 2, 235]);
  const before = [ball.data.slice(), light.data.slice()];
  const there = tones({
    black: [0.001, 0.02, 0.03],
    blur: 3,
    grain: 0.05,
    saturation: 0.7,
    level: 0.03,
    light: [1.4, 1, 0.6],
  });
  const measured: Measured = { person: tones(), scene: there, cut: size, background: size, lightFrom: 1 };
  const shape = { wrap: 1, wrapWidth: 20, contact: 1, ground: 1, wall: 1 };
  const basis: [RegExp, Partial<Look>][] = [
    [/^shadow|^wrapWidth/, shape],
    [/^shade./, { shade: 0.8 }],
    [/^behind(Across|Down)/, { behindZoom: 2 }],
    [/^allShadows/, { allExposure: -2 }],
  ];
  // What only shapes another setting is tried with that one; a look-up table has tests of its own.
  for (const name of lookSettings.filter((one) => one !== 'lutStrength')) {
    const { min, max, none } = lookFacts[name];
    const base = basis.find(([of]) => of.test(name))?.[1] ?? {};
    for (const value of [min, max]) {
      if (value === none || value === base[name as 'wrap']) continue;
      const out = place({ ...base, [name]: value }, light, ball, measured).data;
      expect(out, `${name} ${value}`).not.toEqual(place(base, light, ball, measured).data);
    }
  }
  expect([ball.data, light.data]).toEqual(before);
});

test('any look, anywhere, gives whole pixels of the background’s depth', () => {
  const random = seededRandom(8);
  for (let n = 0; n < 8; n++) {
    const any = { ...plainLook, mirrorPerson: random() > 0.5, mirrorBackground: random() > 0.5 };
    for (const name of lookSettings) {
      const { min, max } = lookFacts[name];
      any[name] = min + random() * (max - min);
    }
    const at = { x: random() * 2 - 0.5, y: random() * 2, height: 0.05 + random() * 2 };
    const deep: EncodedRaster = { ...scene, data: Uint16Array.from(scene.data, (v) => v * 257) };
    const measured: Measured = {
      person: tones(),
      scene: tones({ grain: 0.03 }),
      cut: size,
      background: size,
      lightFrom: -0.4,
    };
    const out = placedPicture(person, scene, at, any, measured);
    const wide = placedPicture(person, deep, at, any, measured);
    expect(out.data).toHaveLength(60 * 90 * 3);
    expect(wide.data).toBeInstanceOf(Uint16Array);
    out.data.forEach((v, i) => expect(Math.abs(v - wide.data[i] / 257)).toBeLessThan(1.1));
  }
});

describe('light round the edge', () => {
  const bright = filled(60, 90, () => [250, 250, 255]);
  test('lightens the edge before something bright and not the middle, and nothing before something dark', () => {
    const out = place({ wrap: 1, wrapWidth: 20 }, bright);
    expect(pixel(out, 20, 45)[0]).toBeGreaterThan(200);
    expect(Math.abs(pixel(out, 30, 45)[0] - 180)).toBeLessThanOrEqual(2);
    expect(
      pixel(
        place(
          { wrap: 1 },
          filled(60, 90, () => [10, 10, 10]),
        ),
        20,
        45,
      ),
    ).toEqual([180, 130, 110]);
  });
  test('adds no light of its own: nothing is lighter than the lightest of person and background', () => {
    for (const part of [{ wrap: 1, wrapWidth: 20 }, { haze: 0.6 }, { wrap: 0.6, haze: 0.3 }]) {
      const out = place(part, bright).data;
      for (let i = 0; i < out.length; i += 3) expect(out[i + 2]).toBeLessThanOrEqual(255);
      const inside = pixel(
        place(
          part,
          filled(60, 90, () => [200, 90, 60]),
        ),
        20,
        45,
      );
      expect(inside[0]).toBeLessThanOrEqual(200);
      expect(inside[1]).toBeGreaterThanOrEqual(90);
      expect(inside[2]).toBeGreaterThanOrEqual(60);
    }
  });
});

describe('light from the surroundings', () => {
  test('a red wall beside somebody reddens that side', () => {
    const wall = filled(60, 90, (x) => (x < 30 ? [200, 20, 20] : [150, 150, 150]));
    const out = place({ bounce: 1 }, wall);
    const share = ([r, g]: number[]): number => r / g;
    expect(share(pixel(out, 21, 45))).toBeGreaterThan(share(pixel(out, 38, 45)) * 1.1);
  });
  test('stays within three fifths of a channel at full strength from everywhere', () => {
    const out = place(
      { bounce: 1, bounceBelow: 1 },
      filled(60, 90, () => [0, 0, 0]),
    );
    for (let y = 10; y < 80; y += 5) expect(table[pixel(out, 20, y)[0]]).toBeGreaterThan(0.39 * table[180]);
  });
});

test('light from a side lightens that side, darkens the other, and leaves the middle and the background', () => {
  const out = place({ sideLight: 1 });
  expect(pixel(out, 39, 45)[0]).toBeGreaterThan(190);
  expect(pixel(out, 20, 45)[0]).toBeLessThan(170);
  expect(Math.abs(pixel(out, 30, 45)[0] - 180)).toBeLessThanOrEqual(4);
  expect(pixel(out, 5, 45)).toEqual(pixel(scene, 5, 45));
  const other = place({ sideLight: -1 });
  expect(pixel(other, 20, 45)[0]).toBeGreaterThan(190);
});

describe('shadows', () => {
  const ground = filled(60, 90, () => [150, 150, 150]);
  const dark = (out: EncodedRaster, x: number, y: number): number => 150 - pixel(out, x, y)[0];
  test('only darken, and nothing on the person', () => {
    const out = place({ contact: 1, ground: 1, wall: 1, shadowSide: 1 }, ground);
    for (let i = 0; i < out.data.length; i += 3) {
      const covered = person.data[(i / 3) * 4 + 3] > 0;
      if (covered) expect(out.data[i]).toBe(180);
      else expect(out.data[i]).toBeLessThanOrEqual(150);
    }
  });
  test('fall to the side they are asked to fall to', () => {
    const right = place({ wall: 1, shadowSide: 1, shadowSoftness: 0 }, ground);
    const left = place({ wall: 1, shadowSide: -1, shadowSoftness: 0 }, ground);
    expect(dark(right, 44, 50)).toBeGreaterThan(30);
    expect(dark(right, 15, 50)).toBe(0);
    expect(dark(left, 15, 50)).toBeGreaterThan(30);
  });
  test('of feet need feet: who goes on below the frame presses on nothing', () => {
    expect(dark(place({ contact: 1 }, ground), 30, 80)).toBeGreaterThan(30);
    const half = standing({ left: 20, right: 40, top: 10, bottom: 90 });
    const up = { ...whole, y: 0.8 };
    const out = placedPicture(half, ground, up, look({ contact: 1, ground: 1 }), undefined);
    expect(pixel(out, 30, 75)).toEqual([150, 150, 150]);
  });
});

describe('mirroring', () => {
  test('turns the one and leaves the other', () => {
    const aside = standing({ left: 5, right: 15, top: 10, bottom: 80 });
    const out = place({ mirrorPerson: true }, scene, aside);
    expect(pixel(out, 50, 40)).toEqual([180, 130, 110]);
    expect(pixel(out, 10, 40)).toEqual(pixel(scene, 10, 40));
    const behind = place({ mirrorBackground: true });
    expect(pixel(behind, 2, 5)).toEqual(pixel(scene, 57, 5));
    expect(pixel(behind, 30, 40)).toEqual([180, 130, 110]);
  });
});

test('blur behind leaves the person sharp; softening the person leaves the background', () => {
  const stripes = filled(60, 90, (x) => (x % 4 < 2 ? [40, 40, 40] : [200, 200, 200]));
  const out = place({ behindBlur: 20 }, stripes);
  expect(Math.abs(pixel(out, 4, 5)[0] - pixel(out, 6, 5)[0])).toBeLessThan(60);
  expect(pixel(out, 21, 45)).toEqual([180, 130, 110]);
  const soft = place({ blur: 6 }, stripes, standing({ left: 20, right: 40, top: 10, bottom: 80 }));
  expect(pixel(soft, 4, 5)).toEqual(pixel(stripes, 4, 5));
});

describe('the proposed match', () => {
  test('a warm, a dark, and a like scene', () => {
    expect(matched({ light: [1.4, 0.95, 0.55] }).proposed.warmth).toBeGreaterThan(20);
    expect(matched({ light: [0.8, 1, 1.4] }).proposed.warmth).toBeLessThan(-3);
    // A dusk: the middle lies three stops under the lightest.
    expect(matched({ level: 0.06, white: [0.8, 0.6, 0.3] }).proposed.exposure).toBeLessThan(-1);
    const like = matched({ level: 0.25 }, {}, { white: [0.35, 0.35, 0.35] });
    expect(Math.abs(like.proposed.exposure)).toBeLessThan(0.2);
    expect(Math.abs(like.proposed.warmth)).toBeLessThan(2);
  });
  test('blacks of a scene without anything dark are not taken for haze', () => {
    expect(matched({ black: [0.2, 0.2, 0.25] }, { toBlacks: 1 }).proposed.lift).toBe(0);
    expect(matched({ black: [0.03, 0.03, 0.04] }, { toBlacks: 1 }).proposed.lift).toBeGreaterThan(0.005);
  });
  test('skin is turned no further than stated, whatever the scene', () => {
    const random = seededRandom(21);
    for (let n = 0; n < 200; n++) {
      const light: [number, number, number] = [0.2 + 3 * random(), 0.2 + 3 * random(), 0.2 + 3 * random()];
      const { step, proposed } = matched({ light });
      expect(proposed.skinTurn).toBeLessThanOrEqual(matchBounds.skinTurn + 1e-6);
      const [r, g, b] = skins[n % skins.length];
      const turned = hueOf([r * step.gain[0], g * step.gain[1], b * step.gain[2]]) - hueOf([r, g, b]);
      expect(Math.abs(turned)).toBeLessThanOrEqual(matchBounds.skinTurn + 1e-6);
    }
    expect(skinTurn([0.7, 1, 1.5])).toBeGreaterThan(matchBounds.skinTurn);
  });
  test('grain and blur add up to those of the background, and never take any away', () => {
    expect(matched({ grain: 0.05 }, { toGrain: 1 }, { grain: 0.03 }).grain).toBeCloseTo(0.04, 6);
    expect(matched({ grain: 0.01 }, { toGrain: 1 }, { grain: 0.03 }).grain).toBe(0);
    expect(matched({ blur: 5 }, { toSharpness: 1 }, { blur: 3 }).blur).toBeCloseTo((4 * 1000) / 90, 6);
    expect(matched({ blur: 1 }, { toSharpness: 1 }, { blur: 3 }).blur).toBe(0);
  });
  test('warmth in mired and back', () => {
    for (const mired of [-80, 0, 60, 200]) expect(miredOf(warmer(mired))).toBeCloseTo(mired, 1);
  });
});

describe('what is measured', () => {
  test('of a cut only where it is solid; of nothing, nothing', () => {
    const there = tonesOf(person);
    expect(there?.middle[0]).toBeCloseTo(table[180], 5);
    expect(there?.saturation).toBeCloseTo(1 - table[110] / table[180], 3);
    expect(tonesOf(standing({ left: 0, right: 0, top: 0, bottom: 0 }))).toBeUndefined();
  });
  test('grain of a plain picture, within a tenth', () => {
    const random = seededRandom(4);
    const normal = (): number => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
    const grainy = filled(300, 300, () => {
      const n = 6 * normal();
      return [120 + n, 120 + n, 120 + n];
    });
    const found = tonesOf(grainy)?.grain ?? 0;
    expect(found * 255).toBeGreaterThan(5.2);
    expect(found * 255).toBeLessThan(6.8);
  });
  test.each([1, 2, 4])('blur of an edge of %i pixels, within a quarter', (sigma) => {
    const edge = (x: number): number => {
      let sum = 0;
      for (let k = -60; k <= 60; k++) sum += (x + k / 4 < 100 ? 40 : 210) * Math.exp(-((k / 4 / sigma) ** 2) / 2);
      return sum;
    };
    const total = edge(-1000) / 40;
    const found = tonesOf(filled(200, 120, (x) => Array<number>(3).fill(edge(x) / total)))?.blur ?? 0;
    expect(found).toBeGreaterThan(0.75 * sigma);
    expect(found).toBeLessThan(1.25 * sigma);
  });
  test('the side that a picture is lit from', () => {
    expect(tonesOf(filled(80, 80, (x) => [60 + x, 60 + x, 60 + x]))?.side).toBeGreaterThan(0.2);
    expect(tonesOf(filled(80, 80, (x) => [140 - x, 140 - x, 140 - x]))?.side).toBeLessThan(-0.2);
  });
});

describe('light and shade of the scene', () => {
  const lamp = filled(60, 90, (x, y) => (Math.hypot(x - 12, y - 30) < 6 ? [255, 240, 200] : [20, 20, 24]));

  test('a lamp’s glow lightens the person near it, the far side hardly, and the background not at all', () => {
    const before = place({}, lamp);
    const after = place({ glow: 1 }, lamp);
    const gain = (x: number): number => table[pixel(after, x, 30)[0]] - table[pixel(before, x, 30)[0]];
    expect(gain(21)).toBeGreaterThan(0.01);
    expect(gain(38)).toBeLessThan(gain(21) / 4);
    expect(gain(4)).toBe(0);
    // It spreads what shines and adds no more than that.
    expect(gain(21)).toBeLessThan(table[255]);
  });

  test('a shade lies over its part of the person and over nothing else, never below what the sky leaves', () => {
    const before = place({});
    const after = place({ shade: 1, shadeFrom: 0, shadeReach: 0.5, shadeSoftness: 5 });
    const kept = (x: number, y: number): number => table[pixel(after, x, y)[0]] / table[pixel(before, x, y)[0]];
    expect(kept(30, 15)).toBeCloseTo(0.25, 1);
    expect(kept(30, 75)).toBeCloseTo(1, 2);
    expect(kept(5, 15)).toBe(1);
    const right = place({ shade: 1, shadeFrom: 90, shadeReach: 0.5, shadeSoftness: 5 });
    expect(pixel(right, 38, 40)[0]).toBeLessThan(pixel(right, 22, 40)[0] - 40);
  });

  test('a polished ground mirrors the feet first, weaker downwards; of whoever goes on below there is nothing', () => {
    const bright = standing({ left: 20, right: 40, top: 10, bottom: 70 }, [255, 60, 60]);
    const after = place({ reflection: 0.8 }, scene, bright);
    const plain = place({}, scene, bright);
    const red = (y: number): number => pixel(after, 30, y)[0] - pixel(plain, 30, y)[0];
    expect(red(72)).toBeGreaterThan(60);
    expect(red(84)).toBeLessThan(red(72));
    expect(pixel(after, 5, 75)).toEqual(pixel(plain, 5, 75));
    const half = standing({ left: 20, right: 40, top: 10, bottom: 90 });
    expect(place({ reflection: 0.8 }, scene, half).data).toEqual(place({ haze: 1e-9 }, scene, half).data);
  });
});

describe('the side of the light', () => {
  const turnOf = (lightFrom: number | null, own: number, part: Partial<Look> = {}): number =>
    matchOf(
      { person: tones({ side: own }), scene: tones(), cut: size, background: size, lightFrom },
      look({ toSide: 1, ...part }),
      whole,
    ).turn;

  test('is turned towards the scene’s, the more the farther apart they are, and not at all where nobody said', () => {
    expect(turnOf(null, -0.4)).toBe(0);
    expect(turnOf(0.5, 0.25)).toBeCloseTo(0);
    expect(turnOf(0.5, 0)).toBeGreaterThan(0);
    expect(turnOf(0.5, -0.25)).toBeGreaterThan(turnOf(0.5, 0));
    expect(turnOf(-0.5, 0.25)).toBeLessThan(0);
    expect(turnOf(1, -0.25, { toSide: 0 })).toBe(0);
  });

  test('mirroring either turns it round', () => {
    expect(turnOf(0.5, -0.25, { mirrorPerson: true })).toBeCloseTo(0);
    expect(turnOf(0.5, -0.25, { mirrorBackground: true })).toBeCloseTo(0);
    expect(turnOf(0.5, -0.25, { mirrorPerson: true, mirrorBackground: true })).toBeCloseTo(-turnOf(0.5, -0.25));
  });

  test('the side it comes from is lighter in the picture, the other darker', () => {
    const lit = place({ toSide: 1 }, scene, person, {
      person: tones(),
      scene: tones(),
      cut: size,
      background: size,
      lightFrom: 1,
    });
    const plain = place({ toSide: 1e-9 });
    expect(pixel(lit, 38, 45)[0]).toBeGreaterThan(pixel(plain, 38, 45)[0]);
    expect(pixel(lit, 21, 45)[0]).toBeLessThan(pixel(plain, 21, 45)[0]);
  });
});

describe('turned', () => {
  test('a quarter of the way there and back: the middle stays, and covers as much', () => {
    const straight = place({ haze: 1e-9 });
    const tilted = place({ turn: 15 });
    const covered = (of: EncodedRaster): number => {
      let sum = 0;
      for (let i = 0; i < of.data.length; i += 3) sum += of.data[i] > 150 ? 1 : 0;
      return sum;
    };
    expect(pixel(tilted, 30, 45)).toEqual(pixel(straight, 30, 45));
    expect(covered(tilted) / covered(straight)).toBeGreaterThan(0.95);
    expect(covered(tilted) / covered(straight)).toBeLessThan(1.05);
    // Clockwise: the head goes to the right.
    expect(pixel(tilted, 44, 14)[0]).toBeGreaterThan(150);
    expect(pixel(tilted, 22, 14)[0]).toBeLessThan(150);
  });

  test('a side by which somebody is cut off comes into the picture when they are turned; larger it is hidden', () => {
    const extent = { x: 0.3, y: 0.1, width: 0.4, height: 0.9 };
    const background = { width: 60, height: 90 };
    expect(sidesShown(size, extent, background, whole)).toEqual([]);
    expect(sidesShown(size, extent, background, whole, 8)).toEqual(['bottom']);
    const hidden = withSidesHidden(size, ['bottom'], background, whole, 8);
    expect(sidesShown(size, extent, background, hidden, 8)).toEqual([]);
  });
});

describe('the grade', () => {
  test('shadows and lights leave the middle grey, and keep every order of tones', () => {
    const steps = filled(256, 4, (x) => [x, x, x]);
    const nobody = standing({ left: 0, right: 0, top: 0, bottom: 0 }, undefined, 8, 8);
    for (const part of [{ allShadows: 1 }, { allShadows: -1 }, { allLights: 1 }, { allLights: -1 }]) {
      const row = place(part, steps, nobody).data.subarray(0, 256 * 3);
      for (let x = 1; x < 256; x++) expect(row[x * 3], JSON.stringify(part)).toBeGreaterThanOrEqual(row[(x - 1) * 3]);
      // 18 % of the light is 118 of 255.
      expect(Math.abs(row[118 * 3] - 118)).toBeLessThanOrEqual(1);
    }
    expect(place({ allShadows: 1 }, steps, nobody).data[40 * 3]).toBeGreaterThan(48);
    expect(place({ allLights: -1 }, steps, nobody).data[220 * 3]).toBeLessThan(200);
  });

  test('written as a look-up table it is the same grade', () => {
    const part = { allExposure: 0.3, allWarmth: 20, allShadows: 0.4, allContrast: 1.1 };
    const cube = gradeCube(look(part), {}, 'Grade', 33);
    const random = seededRandom(12);
    const many = filled(40, 40, () => [random() * 255, random() * 255, random() * 255]);
    const nobody = standing({ left: 0, right: 0, top: 0, bottom: 0 }, undefined, 8, 8);
    const graded = place(part, many, nobody).data;
    const tabled = placedPicture(nobody, many, whole, plainLook, undefined, { lut: cube }).data;
    const off = [...graded].map((v, i) => Math.abs(v - tabled[i])).sort((a, b) => a - b);
    expect(off[Math.floor(off.length * 0.99)]).toBeLessThanOrEqual(2);
  });
});

describe('layers and card', () => {
  const veil = (rgb: readonly number[], alpha: number): Rgba => {
    const data = new Uint8Array(60 * 90 * 4);
    for (let i = 0; i < data.length; i += 4) data.set([...rgb, alpha], i);
    return { width: 60, height: 90, channels: 4, data };
  };
  const linear = ([r]: number[]): number => table[r];
  const laid = (also: Also): EncodedRaster => placedPicture(person, scene, whole, plainLook, undefined, also);
  const plain = compositeOnBackground(person, scene, whole);
  const grey = { picture: veil([188, 188, 188], 128), strength: 1 };

  test('one behind covers the background only, one before covers both: in linear light', () => {
    const behind = laid({ behind: [{ ...grey, way: 'over' }] });
    expect(pixel(behind, 30, 40)).toEqual(pixel(plain, 30, 40));
    const mixed = (under: number): number => (128 / 255) * table[188] + (127 / 255) * under;
    expect(linear(pixel(behind, 5, 40))).toBeCloseTo(mixed(linear(pixel(plain, 5, 40))), 2);
    const front = laid({ front: [{ ...grey, way: 'over' }] });
    expect(linear(pixel(front, 30, 40))).toBeCloseTo(mixed(linear(pixel(plain, 30, 40))), 2);
  });

  test('one of light adds its light, by its strength', () => {
    const lit = laid({ front: [{ ...grey, strength: 0.5, way: 'light' }] });
    const added = 0.5 * (128 / 255) * table[188];
    expect(linear(pixel(lit, 5, 40))).toBeCloseTo(linear(pixel(plain, 5, 40)) + added, 2);
  });

  test('a card lies over everything, after the grade', () => {
    const card = veil([255, 255, 255], 0);
    card.data.fill(255, 0, 60 * 4);
    const out = placedPicture(person, scene, whole, look({ allExposure: -2 }), undefined, { card });
    expect(pixel(out, 30, 0)).toEqual([255, 255, 255]);
    expect(pixel(out, 30, 1)[0]).toBeLessThan(pixel(plain, 30, 1)[0]);
  });

  test('a layer of another shape fills the picture from its middle', () => {
    const stripes = { width: 20, height: 10, channels: 4 as const, data: new Uint8Array(20 * 10 * 4) };
    for (let y = 0; y < 10; y++)
      for (let x = 0; x < 20; x++)
        stripes.data.set(x >= 8 && x < 12 ? [255, 0, 0, 255] : [0, 0, 255, 255], (y * 20 + x) * 4);
    const whole60 = laidIn(stripes, { width: 60, height: 90 });
    expect(pixel(whole60, 30, 45)).toEqual([255, 0, 0]);
    expect(pixel(whole60, 2, 45)).toEqual([0, 0, 255]);
    expect(whole60.data.every((v, i) => i % 4 !== 3 || v === 255)).toBe(true);
  });

  test('a layer at a place lies there and nowhere else, in its own form', () => {
    const square = { width: 10, height: 10, channels: 3 as const, data: new Uint8Array(300).fill(255) };
    const at = { x: 0.25, y: 0.5, height: 0.2 };
    const laidOut = laidIn(square, { width: 60, height: 90 }, at);
    const covered = (x: number, y: number): number => laidOut.data[(y * 60 + x) * 4 + 3];
    // 18 pixels high and wide, its middle at 15 across, its lower edge at 45.
    expect([covered(15, 36), covered(8, 29), covered(22, 43)]).toEqual([255, 255, 255]);
    expect([covered(15, 20), covered(15, 50), covered(30, 36), covered(2, 36)]).toEqual([0, 0, 0, 0]);
    const placed = laid({ front: [{ picture: square, strength: 1, way: 'over', at }] });
    expect(pixel(placed, 15, 36)).toEqual([255, 255, 255]);
    expect(pixel(placed, 50, 80)).toEqual(pixel(plain, 50, 80));
  });
});

test('painted backgrounds: one tone is one tone; a gradient goes from one to the other without a step to be seen', () => {
  const plain = painted({ from: '#8090a0', to: '#000000', way: 'plain' }, 20, 30);
  expect(new Set(plain.data)).toEqual(new Set([0x80, 0x90, 0xa0]));
  const down = painted({ from: '#202020', to: '#e0e0e0', way: 'down' }, 40, 200);
  const rowMean = (y: number): number => {
    let sum = 0;
    for (let x = 0; x < 40; x++) sum += down.data[(y * 40 + x) * 3];
    return sum / 40;
  };
  expect(rowMean(0)).toBeLessThan(0x20 + 3);
  expect(rowMean(199)).toBeGreaterThan(0xe0 - 3);
  for (let y = 1; y < 200; y++) expect(rowMean(y) - rowMean(y - 1)).toBeLessThan(2);
  const round = painted({ from: '#ffffff', to: '#000000', way: 'round' }, 60, 90);
  expect(pixel(round, 30, 38)[0]).toBeGreaterThan(pixel(round, 2, 2)[0] + 150);
});
