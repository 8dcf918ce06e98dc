import type { Camera, Lamp, LampKind, Material, Screen } from './plan.ts';

/** Invented, plausible entries. Prices are in the photographer's own currency, masses in kg, times in minutes. */
export const materials: Material[] = [
  {
    name: 'Taped card',
    note: 'cheap, for a day; seams and bends',
    gloss: 0.01,
    wrinklePeriod: 0.7,
    wrinkleDepth: 0.004,
    price: 2,
    uses: 1,
    mass: 0.35,
    setUp: 35,
    widest: 1.4,
    outdoors: false,
  },
  {
    name: 'Plastic sheet, doubled',
    note: 'cheap, waterproof, shiny; creases stay',
    gloss: 0.1,
    wrinklePeriod: 0.3,
    wrinkleDepth: 0.008,
    price: 1,
    uses: 3,
    mass: 0.15,
    setUp: 15,
    widest: 4,
    outdoors: true,
  },
  {
    name: 'Cloth on a stand',
    note: 'usual; steam it, weight the hem, clamp the sides',
    gloss: 0.003,
    wrinklePeriod: 0.18,
    wrinkleDepth: 0.006,
    price: 9,
    uses: 60,
    mass: 0.2,
    setUp: 20,
    widest: 3,
    outdoors: false,
  },
  {
    name: 'Stretch cloth, clamped taut',
    note: 'few creases; needs a firm frame',
    gloss: 0.008,
    wrinklePeriod: 0.4,
    wrinkleDepth: 0.0015,
    price: 16,
    uses: 80,
    mass: 0.22,
    setUp: 25,
    widest: 3,
    outdoors: false,
  },
  {
    name: 'Spring frame',
    note: 'taut, small, up in a minute',
    gloss: 0.01,
    wrinklePeriod: 0.5,
    wrinkleDepth: 0.001,
    price: 40,
    uses: 100,
    mass: 0.6,
    setUp: 3,
    widest: 2.1,
    outdoors: false,
  },
  {
    name: 'Painted wall',
    note: 'smoothest; stays where it is; the owner must agree',
    gloss: 0.004,
    wrinklePeriod: 1,
    wrinkleDepth: 0.0002,
    price: 6,
    uses: 200,
    mass: 0,
    setUp: 0,
    widest: 20,
    outdoors: true,
  },
  {
    name: 'Large tensioned frame',
    note: 'outdoors; ropes, ballast, helpers',
    gloss: 0.01,
    wrinklePeriod: 0.6,
    wrinkleDepth: 0.003,
    price: 30,
    uses: 60,
    mass: 1.4,
    setUp: 75,
    widest: 12,
    outdoors: true,
  },
];

/** Linear reflectances of dull screens of each colour; a white one takes its colour from its lamps. */
export const screenReflectance: Record<Screen['colour'], { red: number; green: number; blue: number }> = {
  green: { red: 0.075, green: 0.4, blue: 0.105 },
  blue: { red: 0.05, green: 0.095, blue: 0.42 },
  white: { red: 0.78, green: 0.79, blue: 0.77 },
};

/** How much of the source's light each kind of lamp lets out, and what it is like to have. */
export const lampFactsByKind: Record<
  LampKind,
  { efficiency: number; mass: number; price: number; hire: number; setUp: number; hot: boolean; standing: boolean }
> = {
  bare: { efficiency: 1, mass: 4, price: 90, hire: 9, setUp: 5, hot: true, standing: true },
  umbrella: { efficiency: 0.65, mass: 4.5, price: 120, hire: 11, setUp: 6, hot: true, standing: true },
  softbox: { efficiency: 0.5, mass: 6, price: 180, hire: 15, setUp: 9, hot: true, standing: true },
  panel: { efficiency: 1, mass: 4, price: 260, hire: 18, setUp: 5, hot: false, standing: true },
  tubes: { efficiency: 0.75, mass: 7, price: 220, hire: 16, setUp: 7, hot: false, standing: true },
  ring: { efficiency: 1, mass: 0.7, price: 110, hire: 8, setUp: 2, hot: false, standing: false },
  window: { efficiency: 1, mass: 0, price: 0, hire: 0, setUp: 2, hot: false, standing: false },
  sun: { efficiency: 1, mass: 0, price: 0, hire: 0, setUp: 0, hot: false, standing: false },
  overcast: { efficiency: 1, mass: 0, price: 0, hire: 0, setUp: 0, hot: false, standing: false },
};

export interface Gel {
  name: string;
  /** Shift of the reciprocal colour temperature, 10⁻⁶/K: below 0 bluer. */
  mired: number;
  /** Share of the light that passes. */
  transmission: number;
  /** Colour of a party gel on top of the shift, relative, per channel. */
  filter: readonly [number, number, number];
}

export const gels: Gel[] = [
  { name: 'none', mired: 0, transmission: 1, filter: [1, 1, 1] },
  { name: 'full blue correction', mired: -131, transmission: 0.48, filter: [1, 1, 1] },
  { name: 'half blue correction', mired: -68, transmission: 0.66, filter: [1, 1, 1] },
  { name: 'full orange correction', mired: 159, transmission: 0.57, filter: [1, 1, 1] },
  { name: 'half orange correction', mired: 81, transmission: 0.73, filter: [1, 1, 1] },
  { name: 'minus green', mired: 0, transmission: 0.7, filter: [1, 0.74, 1] },
  { name: 'screen green', mired: 0, transmission: 0.45, filter: [0.08, 1, 0.12] },
  { name: 'weak magenta', mired: 0, transmission: 0.72, filter: [1, 0.7, 0.95] },
];

export interface Diffusion {
  name: string;
  transmission: number;
  /** Beam angle becomes √(beam² + spread²), degrees. */
  spread: number;
}

export const diffusions: Diffusion[] = [
  { name: 'none', transmission: 1, spread: 0 },
  { name: 'light frost', transmission: 0.85, spread: 25 },
  { name: 'full frost', transmission: 0.6, spread: 70 },
  { name: 'grid cloth', transmission: 0.35, spread: 110 },
];

/** @throws TypeError naming what was asked for and what there is. */
export function entry<T extends { name: string }>(list: readonly T[], name: string, field: string): T {
  const found = list.find((item) => item.name === name);
  if (!found)
    throw new TypeError(`${field}: expected one of ${list.map((item) => item.name).join(', ')}; received ${name}`);
  return found;
}

/** Everything of a lamp but where it stands and what it is called. */
export type LampModel = { name: string } & Pick<
  Lamp,
  'kind' | 'output' | 'unit' | 'beam' | 'width' | 'height' | 'temperature' | 'tint' | 'watts' | 'flashDuration'
>;

const model = (
  name: string,
  kind: LampKind,
  output: number,
  unit: Lamp['unit'],
  beam: number,
  width: number,
  height: number,
  temperature: number,
  watts: number,
  tint = 0,
  flashDuration = 0.001,
): LampModel => ({ name, kind, output, unit, beam, width, height, temperature, tint, watts, flashDuration });

export const lampModels: LampModel[] = [
  model('Softbox 60×90, LED', 'softbox', 14000, 'lumen', 100, 0.6, 0.9, 5500, 150),
  model('Softbox 90×120, flash', 'softbox', 250, 'joule', 100, 0.9, 1.2, 5500, 300, 0, 0.0011),
  model('Strip softbox 30×120, LED', 'softbox', 9000, 'lumen', 90, 0.3, 1.2, 5500, 100),
  model('Umbrella, flash', 'umbrella', 200, 'joule', 110, 0.9, 0.9, 5600, 250, 0, 0.0014),
  model('Panel 40×40, LED', 'panel', 7500, 'lumen', 110, 0.4, 0.4, 5600, 80),
  model('Tube bank, four tubes', 'tubes', 18000, 'lumen', 120, 0.4, 1.1, 5400, 220, -9),
  model('Bare reflector, tungsten', 'bare', 20000, 'lumen', 70, 0.18, 0.18, 3200, 800),
  model('Bare reflector, LED', 'bare', 16000, 'lumen', 55, 0.16, 0.16, 5600, 160),
  model('Ring on the lens, green', 'ring', 350, 'lumen', 60, 0.1, 0.1, 6500, 6),
  model('Window, north light', 'window', 12000, 'lumen', 120, 1.2, 1.6, 6500, 0),
  model('Direct sun', 'sun', 85000, 'lux', 5, 0.01, 0.01, 5400, 0),
  model('Overcast sky', 'overcast', 15000, 'lux', 170, 10, 10, 6700, 0),
];

export type CameraModel = { name: string } & Pick<
  Camera,
  'sensorWidth' | 'sensorHeight' | 'pixelsAcross' | 'pixelsDown' | 'focal'
>;

/** Held upright. */
export const cameraModels: CameraModel[] = [
  {
    name: 'Full format 24 MP, 85 mm',
    sensorWidth: 0.024,
    sensorHeight: 0.036,
    pixelsAcross: 4000,
    pixelsDown: 6000,
    focal: 0.085,
  },
  {
    name: 'Full format 24 MP, 50 mm',
    sensorWidth: 0.024,
    sensorHeight: 0.036,
    pixelsAcross: 4000,
    pixelsDown: 6000,
    focal: 0.05,
  },
  {
    name: 'Half format 24 MP, 50 mm',
    sensorWidth: 0.0156,
    sensorHeight: 0.0235,
    pixelsAcross: 4000,
    pixelsDown: 6000,
    focal: 0.05,
  },
  {
    name: 'Half format 6 MP, 35 mm',
    sensorWidth: 0.0156,
    sensorHeight: 0.0234,
    pixelsAcross: 2000,
    pixelsDown: 3000,
    focal: 0.035,
  },
  {
    name: 'Four-thirds 20 MP, 42 mm',
    sensorWidth: 0.013,
    sensorHeight: 0.0173,
    pixelsAcross: 3888,
    pixelsDown: 5184,
    focal: 0.042,
  },
];
