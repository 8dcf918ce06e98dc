import { describe, expect, test } from 'vitest';
import { gainsOf, stepOf } from '../colour/lightGains.ts';
import { linearToSrgb, srgbToLinear } from '../colour/transfer.ts';
import type { EncodedRaster } from '../image/raster.ts';
import type { Rgb } from '../plan/exposure.ts';
import { seededRandom } from '../random.ts';
import { personLightByCard, personLightFor, withPersonLight } from './personLight.ts';

const none = { personExposure: 0, personWarmth: 0, personTint: 0 };
function cutout(sixteen: boolean): EncodedRaster & { channels: 4 } {
  const random = seededRandom(5);
  const white = sixteen ? 65535 : 255;
  const values = Array.from({ length: 40 * 30 * 4 }, () => Math.floor(random() * (white + 1)));
  return { width: 40, height: 30, channels: 4, data: sixteen ? Uint16Array.from(values) : Uint8Array.from(values) };
}

describe.each([
  ['8 bit', false],
  ['16 bit', true],
])('light put right afterwards, %s', (_what, sixteen) => {
  const before = cutout(sixteen);
  const white = sixteen ? 65535 : 255;

  test('without any is the very same picture', () => {
    expect(withPersonLight(before, none)).toBe(before);
  });

  test('a stop is twice the light, coverage stays, and what is beyond white is white', () => {
    const kept = before.data.slice();
    const after = withPersonLight(before, { ...none, personExposure: 1 });
    expect(before.data, 'the picture before is not changed').toEqual(kept);
    for (let i = 0; i < after.data.length; i += 4) {
      expect(after.data[i + 3]).toBe(before.data[i + 3]);
      for (let c = 0; c < 3; c++) {
        const wanted = linearToSrgb(Math.min(1, 2 * srgbToLinear(before.data[i + c] / white))) * white;
        expect(Math.abs(after.data[i + c] - wanted)).toBeLessThanOrEqual(1);
      }
    }
  });

  test('warmer gives red and takes blue, magenta takes green; neither changes how light a grey is', () => {
    const grey: EncodedRaster & { channels: 4 } = { ...before, data: before.data.slice().fill(white / 2) };
    const [warm, magenta] = [{ personWarmth: 60 }, { personTint: 0.5 }].map((set) =>
      Array.from(withPersonLight(grey, { ...none, ...set }).data.slice(0, 3)),
    );
    expect(warm[0]).toBeGreaterThan(warm[1]);
    expect(warm[1]).toBeGreaterThan(warm[2]);
    expect(magenta[1]).toBeLessThan(magenta[0]);
    for (const rgb of [warm, magenta]) {
      const [r, g, b] = rgb.map((v) => srgbToLinear(v / white));
      expect(0.2126 * r + 0.7152 * g + 0.0722 * b).toBeCloseTo(srgbToLinear(0.5), 2);
    }
  });
});

test('a card that was off is neutral and at its level again, whatever it was off by', () => {
  const random = seededRandom(11);
  for (let n = 0; n < 200; n++) {
    const off: Rgb = [0.75 + 0.6 * random(), 1, 0.75 + 0.6 * random()];
    const stops = 2.4 * random() - 1.2;
    // As a card is read: gains that make it neutral, green 1, and stops that bring green to where it should be.
    const gains = off.map((v) => off[1] / v) as Rgb;
    const set = personLightByCard({ gains, stops });
    const made = gainsOf({ exposure: set.personExposure, warmth: set.personWarmth, tint: set.personTint });
    made.forEach((gain, c) => expect(Math.abs(Math.log2(gain / (gains[c] * 2 ** stops)))).toBeLessThan(0.05));
  }
});

test('gains of a step lead back to it; what is out of range is held to it', () => {
  for (const step of [
    { exposure: 0.5, warmth: 40, tint: -0.3 },
    { exposure: -1, warmth: -80, tint: 0.6 },
  ]) {
    const back = stepOf(gainsOf(step));
    expect(back.exposure).toBeCloseTo(step.exposure, 1);
    expect(back.warmth).toBeCloseTo(step.warmth, 0);
    expect(back.tint).toBeCloseTo(step.tint, 2);
  }
  expect(personLightFor([40, 40, 40])).toEqual({ personExposure: 2, personWarmth: 0, personTint: 0 });
});
