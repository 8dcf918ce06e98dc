import { where } from './masks.ts';
import type { Mask } from './raster.ts';

export interface Component {
  /** Pixel indices of the component. */
  pixels: Int32Array;
  /** True if it touches the border of the picture. */
  touchesBorder: boolean;
}

/** The 4-connected components of the set pixels of a mask, in scan order. */
export function components(mask: Mask): Component[] {
  const { width, height, data } = mask;
  const seen = new Uint8Array(data.length);
  const stack = new Int32Array(data.length);
  const found: Component[] = [];
  for (let start = 0; start < data.length; start++) {
    if (!data[start] || seen[start]) continue;
    let read = 0;
    let write = 0;
    let touchesBorder = false;
    stack[write++] = start;
    seen[start] = 1;
    while (read < write) {
      const i = stack[read++];
      const x = i % width;
      const y = (i / width) | 0;
      if (x === 0 || y === 0 || x === width - 1 || y === height - 1) touchesBorder = true;
      if (x > 0 && data[i - 1] && !seen[i - 1]) {
        seen[i - 1] = 1;
        stack[write++] = i - 1;
      }
      if (x < width - 1 && data[i + 1] && !seen[i + 1]) {
        seen[i + 1] = 1;
        stack[write++] = i + 1;
      }
      if (y > 0 && data[i - width] && !seen[i - width]) {
        seen[i - width] = 1;
        stack[write++] = i - width;
      }
      if (y < height - 1 && data[i + width] && !seen[i + width]) {
        seen[i + width] = 1;
        stack[write++] = i + width;
      }
    }
    found.push({ pixels: stack.slice(0, write), touchesBorder });
  }
  return found;
}

/** Sets to `value` every component of pixels equal to `of` that has fewer than `minPixels` pixels. Changes `mask`. */
export function replaceSmall(mask: Mask, of: number, value: number, minPixels: number): void {
  for (const { pixels } of components(where(mask, of))) {
    if (pixels.length >= minPixels) continue;
    for (const i of pixels) mask.data[i] = value;
  }
}
