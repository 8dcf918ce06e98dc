/** Linear light, premultiplied RGBA, 0–1: what has been painted so far, back to front. */
export interface Painted {
  width: number;
  height: number;
  data: Float32Array;
}

/** Linear red, green, blue. */
export type Colour = readonly [number, number, number];

/** Colour of a place in pixels, written into `out`. @param light brightness by the form, about 0–1.3. */
export type Shader = (x: number, y: number, light: number, out: Float32Array) => void;

export function blank(width: number, height: number): Painted {
  return { width, height, data: new Float32Array(width * height * 4) };
}

/** Lays a colour over one pixel (Porter–Duff over). */
export function dab({ data }: Painted, pixel: number, coverage: number, r: number, g: number, b: number): void {
  const i = pixel * 4;
  const left = 1 - coverage;
  data[i] = data[i] * left + r * coverage;
  data[i + 1] = data[i + 1] * left + g * coverage;
  data[i + 2] = data[i + 2] * left + b * coverage;
  data[i + 3] = data[i + 3] * left + coverage;
}

/**
 * What a form is at a place: signed distance to its outline in pixels, negative inside; brightness by its roundness.
 */
export interface Hit {
  distance: number;
  light: number;
}

/** A form with the box, in pixels, outside of which it is not. */
export interface Form {
  left: number;
  top: number;
  right: number;
  bottom: number;
  at(x: number, y: number, hit: Hit): void;
}

const colour = new Float32Array(3);
const hit: Hit = { distance: 0, light: 1 };

/** Paints a form; its edge is smooth over a pixel. @param opacity of the form, or of each place. */
export function paint(
  picture: Painted,
  form: Form,
  shader: Shader,
  opacity: number | ((x: number, y: number) => number) = 1,
): void {
  const { width, height } = picture;
  const x1 = Math.min(width, Math.ceil(form.right) + 1);
  const y1 = Math.min(height, Math.ceil(form.bottom) + 1);
  for (let y = Math.max(0, Math.floor(form.top) - 1); y < y1; y++) {
    for (let x = Math.max(0, Math.floor(form.left) - 1); x < x1; x++) {
      form.at(x + 0.5, y + 0.5, hit);
      if (hit.distance >= 0.5) continue;
      const cover =
        (hit.distance <= -0.5 ? 1 : 0.5 - hit.distance) * (typeof opacity === 'number' ? opacity : opacity(x, y));
      if (cover <= 0) continue;
      shader(x, y, hit.light, colour);
      dab(picture, y * width + x, cover, colour[0], colour[1], colour[2]);
    }
  }
}
