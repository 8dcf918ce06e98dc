import { linearToSrgb, srgbToLinear } from '../../core/colour/transfer.ts';
import { boxBlur, gaussianBlur } from '../../core/image/boxBlur.ts';
import { createPlane, type EncodedRaster, type LinearRaster, type Plane } from '../../core/image/raster.ts';
import { gaussian, type Random } from '../../core/random.ts';

/** What a camera does to the light; everything is 0 or 1 where it does nothing. */
export interface Camera {
  /** Stops. */
  exposure: number;
  /** Gains of red, green and blue: white balance that is off. */
  balance: readonly [number, number, number];
  /** Contrast that its curve adds, −0.2–0.3. */
  tone: number;
  /** Signal-to-noise at middle grey; and how much of the noise is blotches of colour, 0–1. */
  signalToNoise: number;
  blotches: number;
  /** Red and blue magnified against green, pixels at the frame's corner. */
  fringe: number;
  /** Radius of smearing noise reduction in pixels; halo of sharpening, share. */
  smear: number;
  sharpen: number;
  /** JPEG quality and its colour's resolution; undefined: a 16-bit file. */
  jpeg?: { quality: number; colour: '4:2:0' | '4:2:2' | '4:4:4' };
}

export function someCamera(random: Random): Camera {
  const between = (from: number, to: number): number => from + (to - from) * random();
  const noisy = random();
  return {
    exposure: between(-0.6, 0.4),
    balance: random() < 0.5 ? [1, 1, 1] : [between(0.88, 1.14), 1, between(0.86, 1.16)],
    tone: random() < 0.4 ? 0 : between(-0.1, 0.22),
    signalToNoise: noisy < 0.5 ? between(45, 120) : between(18, 50),
    blotches: random() < 0.5 ? 0 : random() * 0.7,
    fringe: random() < 0.5 ? 0 : between(-0.9, 0.9),
    smear: random() < 0.8 ? 0 : 1 + Math.floor(2 * random()),
    sharpen: random() < 0.4 ? 0 : between(0.2, 0.9),
    jpeg:
      random() < 0.06
        ? undefined
        : {
            quality: Math.round(between(80, 95)),
            colour: random() < 0.75 ? '4:2:0' : random() < 0.5 ? '4:2:2' : '4:4:4',
          },
  };
}

/** Steps of a curve, even in the root of the light, which is about even to the eye. */
const STEPS = 4096;

/**
 * The curve of a camera as a table: light, exposure and balance applied, to developed light or to its sRGB encoding,
 * 0–1.
 */
export function curveOf(tone: number, encoded: boolean): (light: number) => number {
  const table = Float32Array.from({ length: STEPS + 2 }, (_, n) => {
    const e = linearToSrgb(Math.min(1, (n / STEPS) ** 2));
    const toned = Math.min(1, Math.max(0, e - (tone * Math.sin(2 * Math.PI * e)) / (2 * Math.PI)));
    return encoded ? toned : srgbToLinear(toned);
  });
  return (light) => {
    const at = light <= 0 ? 0 : light >= 1 ? STEPS : Math.sqrt(light) * STEPS;
    const n = at | 0;
    return table[n] + (at - n) * (table[n + 1] - table[n]);
  };
}

/** Takes the picture. @param light linear, changed. @returns 16 bit, before any JPEG. */
export function photograph(light: LinearRaster, camera: Camera, random: Random): EncodedRaster {
  const { width, height } = light;
  const gain = camera.balance.map((b) => b * 2 ** camera.exposure);
  const planes = gain.map((g, c) => {
    const plane = createPlane(width, height);
    for (let p = 0; p < plane.data.length; p++) plane.data[p] = g * light.data[p * 3 + c];
    return c === 1 || camera.fringe === 0
      ? plane
      : magnified(plane, 1 + (camera.fringe * (c === 0 ? 1 : -1)) / Math.hypot(width / 2, height / 2));
  });
  addNoise(planes, camera, gain, random);
  if (camera.smear > 0) smearNoise(planes, camera.smear);
  const data = new Uint16Array(width * height * 3);
  const curve = curveOf(camera.tone, true);
  planes.forEach((plane, c) => {
    for (let p = 0; p < plane.data.length; p++) plane.data[p] = curve(plane.data[p]);
    const soft = camera.sharpen > 0 ? gaussianBlur(plane, 1) : plane;
    for (let p = 0; p < plane.data.length; p++)
      data[p * 3 + c] = Math.round(
        65535 * Math.min(1, Math.max(0, plane.data[p] + camera.sharpen * (plane.data[p] - soft.data[p]))),
      );
  });
  return { width, height, channels: 3, data };
}

function magnified({ width, height, data }: Plane, scale: number): Plane {
  const out = createPlane(width, height);
  for (let y = 0; y < height; y++) {
    const sy = Math.max(0, Math.min(height - 1.001, height / 2 + (y - height / 2) / scale));
    const y0 = Math.floor(sy);
    for (let x = 0; x < width; x++) {
      const sx = Math.max(0, Math.min(width - 1.001, width / 2 + (x - width / 2) / scale));
      const x0 = Math.floor(sx);
      const q = y0 * width + x0;
      const right = x0 + 1 < width ? 1 : 0;
      const down = y0 + 1 < height ? width : 0;
      const top = data[q] + (sx - x0) * (data[q + right] - data[q]);
      const low = data[q + down] + (sx - x0) * (data[q + down + right] - data[q + down]);
      out.data[y * width + x] = top + (sy - y0) * (low - top);
    }
  }
  return out;
}

/** Shot noise of every channel, before balance; blotches are the part that neighbours share after demosaicing. */
function addNoise(planes: Plane[], { signalToNoise, blotches }: Camera, gain: number[], random: Random): void {
  const shot = 0.18 / signalToNoise ** 2;
  const normal = Float32Array.from({ length: 32768 }, () => gaussian(random));
  planes.forEach((plane, c) => {
    const { width, height, data } = plane;
    const white = createPlane(width, height);
    for (let p = 0; p < data.length; p++) white.data[p] = normal[(random() * normal.length) | 0];
    const coarse = blotches > 0 ? boxBlur(boxBlur(white, 1), 1) : white;
    // Twice averaged over nine pixels, noise is about a quarter of what it was.
    const fine = 1 - blotches;
    const blotchy = 2.6 * blotches;
    const strength = shot * gain[c];
    const dark = 0.006;
    for (let p = 0; p < data.length; p++)
      data[p] +=
        Math.sqrt(strength * ((data[p] > 0 ? data[p] : 0) + dark)) * (fine * white.data[p] + blotchy * coarse.data[p]);
  });
}

/** Averages each pixel with those around it that differ by little in brightness. */
function smearNoise(planes: Plane[], radius: number): void {
  const { width, height } = planes[0];
  const source = planes.map(({ data }) => data.slice());
  const luma = source[1];
  for (let y = radius; y < height - radius; y++) {
    for (let x = radius; x < width - radius; x++) {
      const p = y * width + x;
      const bound = 0.12 * luma[p] + 0.01;
      let n = 0;
      let r = 0;
      let g = 0;
      let b = 0;
      for (let dy = -radius; dy <= radius; dy++) {
        for (let q = p + dy * width - radius; q <= p + dy * width + radius; q++) {
          if (Math.abs(luma[q] - luma[p]) > bound) continue;
          n++;
          r += source[0][q];
          g += source[1][q];
          b += source[2][q];
        }
      }
      planes[0].data[p] = r / n;
      planes[1].data[p] = g / n;
      planes[2].data[p] = b / n;
    }
  }
}
