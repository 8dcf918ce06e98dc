import { createMask, type Mask, type Plane } from './raster.ts';

/** 1 where a mask has the value. */
export function where({ width, height, data }: Mask, value: number): Mask {
  const out = createMask(width, height);
  for (let p = 0; p < data.length; p++) if (data[p] === value) out.data[p] = 1;
  return out;
}

/** 1 where both masks are set. */
export function both({ width, height, data: a }: Mask, { data: b }: Mask): Mask {
  const out = createMask(width, height);
  for (let p = 0; p < a.length; p++) if (a[p] !== 0 && b[p] !== 0) out.data[p] = 1;
  return out;
}

/** 1 where one of the masks is set, or both. */
export function either({ width, height, data: a }: Mask, { data: b }: Mask): Mask {
  const out = createMask(width, height);
  for (let p = 0; p < a.length; p++) if (a[p] !== 0 || b[p] !== 0) out.data[p] = 1;
  return out;
}

/** 1 where the first mask is set and the second is not. */
export function without({ width, height, data: a }: Mask, { data: b }: Mask): Mask {
  const out = createMask(width, height);
  for (let p = 0; p < a.length; p++) if (a[p] !== 0 && b[p] === 0) out.data[p] = 1;
  return out;
}

/** Sets a mask to a value wherever another is set. Changes `mask`. */
export function setWhere({ data }: Mask, { data: set }: Mask, value: number): void {
  for (let p = 0; p < data.length; p++) if (set[p] !== 0) data[p] = value;
}

/** 1 where a plane has at least the value. */
export function likely({ width, height, data }: Plane, least: number): Mask {
  const out = createMask(width, height);
  for (let p = 0; p < data.length; p++) if (data[p] >= least) out.data[p] = 1;
  return out;
}
