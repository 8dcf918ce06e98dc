import type { Size } from '../place/placement.ts';

/** What is made of each person’s picture for a hand-over: one form, with its name. */
export type Preset = { name: string } & (Print | Screen | Cutout | Matte | Layered | PaperSheet);
export type PresetKind = Preset['kind'];

/** What shows the words and the border of its style, unless it is said that it does not. */
interface Worded {
  plain?: boolean;
}

/** A picture on paper of a set size; its words stand on the paper, wherever the crop lies. */
export interface Print extends Worded {
  kind: 'print';
  /** Trimmed size, mm. */
  width: number;
  height: number;
  /** Pixels for each inch. */
  resolution: number;
  /** Picture beyond each trimmed side, and how far from it nothing of weight should be, mm. */
  bleed: number;
  safe: number;
  profile: Profile;
  intent: Intent;
  paper: Paper;
  format: 'jpeg' | 'tiff16';
  /** Of a JPEG. */
  quality: number;
}

/** A picture to be looked at on screens. */
export interface Screen extends Worded {
  kind: 'screen';
  /** Longest side, pixels. */
  longest: number;
  /** At most so large, kB; 0 for no bound. */
  most: number;
  format: 'jpeg' | 'webp' | 'avif' | 'png';
  quality: number;
}

/** The person alone, with straight alpha. */
export interface Cutout {
  kind: 'cutout';
  format: 'png' | 'png16' | 'tiff16';
  /** To what is not wholly clear. */
  trimmed: boolean;
}

/** Coverage as a grey picture, as large as the frame. */
export interface Matte {
  kind: 'matte';
  format: 'png' | 'png16';
}

/** A file with background, shadow, person and more as layers. */
export interface Layered {
  kind: 'layered';
}

/** Several prints of one picture on one paper, as PDF. */
export interface PaperSheet extends Worded {
  kind: 'sheet';
  /** Of the paper, mm. */
  width: number;
  height: number;
  resolution: number;
  /** At the paper’s edges, and between pictures, mm. */
  margin: number;
  gap: number;
  marks: boolean;
  paper: Paper;
  pictures: SheetPicture[];
}
export interface SheetPicture {
  /** mm */
  width: number;
  height: number;
  count: number;
}

/** Colours of a print: sRGB, a wide-gamut space (P3), or a profile of the library by its file; some are for inks (CMYK). */
export type Profile = 'srgb' | 'p3' | { file: string; name: string; inks?: boolean };

/** Whether a print is written as inks, which only a TIFF holds here. */
export function forInks({ profile }: Pick<Print, 'profile'>): boolean {
  return typeof profile !== 'string' && profile.inks === true;
}

export const intents = {
  perceptual: 'Perceptual',
  relative: 'Relative, black point kept',
  saturation: 'Saturation',
  absolute: 'Absolute',
} as const;
export type Intent = keyof typeof intents;

/** What is printed on, and how strongly its print is sharpened: half-width in mm on paper, and strength. */
export const papers = {
  none: { title: 'Not sharpened', radius: 0, strength: 0 },
  gloss: { title: 'Gloss', radius: 0.085, strength: 0.55 },
  matt: { title: 'Matt', radius: 0.12, strength: 0.9 },
} as const;
export type Paper = keyof typeof papers;

/** Inclusive ranges and units. */
export const presetRanges = {
  side: { label: 'Side', min: 10, max: 2000, unit: 'mm' },
  resolution: { label: 'Resolution', min: 72, max: 1200, unit: 'px/in' },
  bleed: { label: 'Bleed', min: 0, max: 20, unit: 'mm' },
  safe: { label: 'Safe margin', min: 0, max: 50, unit: 'mm' },
  gap: { label: 'Gap', min: 0, max: 50, unit: 'mm' },
  longest: { label: 'Longest side', min: 200, max: 12000, unit: 'px' },
  most: { label: 'At most', min: 0, max: 20000, unit: 'kB' },
  quality: { label: 'Quality', min: 40, max: 100, unit: '' },
  count: { label: 'Times', min: 1, max: 40, unit: '' },
} as const;
/** The tightest bound of bytes, kB: a small picture is within it in every format. */
export const LEAST_BOUND = 20;
export const MOST_PRESETS = 8;
export const MOST_ON_SHEET = 6;

/** The kinds; `placed` needs a background, `paper` is print and nothing else. */
export const presetKinds: Record<PresetKind, { title: string; note: string; placed: boolean; paper: boolean }> = {
  print: { title: 'Print', note: 'cropped to a paper’s size, sharpened for it', placed: true, paper: true },
  screen: { title: 'Screen', note: 'the whole picture, for phones and pages', placed: true, paper: false },
  cutout: { title: 'Cutout', note: 'the person alone, transparent around', placed: false, paper: false },
  matte: { title: 'Matte', note: 'coverage as a grey picture', placed: false, paper: false },
  layered: { title: 'Layers', note: 'OpenRaster, to go on working in', placed: false, paper: false },
  sheet: { title: 'Sheet', note: 'several prints of one picture on one paper', placed: true, paper: true },
};

export const endings = {
  jpeg: 'jpg',
  webp: 'webp',
  avif: 'avif',
  png: 'png',
  png16: 'png',
  tiff16: 'tif',
} as const;

/** Ending of a preset’s files. */
export function endingOf(preset: Preset): string {
  if (preset.kind === 'layered') return 'ora';
  if (preset.kind === 'sheet') return 'pdf';
  return endings[preset.format];
}

export const MM_PER_INCH = 25.4;

/** Pixels across so many mm. */
export function pixelsOf(mm: number, resolution: number): number {
  return Math.round((mm / MM_PER_INCH) * resolution);
}

/** A print with its bleed, mm: the part of the picture that a crop takes. */
export function printedSize({ width, height, bleed }: Pick<Print, 'width' | 'height' | 'bleed'>): Size {
  return { width: width + 2 * bleed, height: height + 2 * bleed };
}

/** The shapes, width to height in mm, in which a preset takes a picture; none where it takes the whole. */
export function shapesOf(preset: Preset): (Size & { resolution: number })[] {
  if (preset.kind === 'print') return [{ ...printedSize(preset), resolution: preset.resolution }];
  if (preset.kind === 'sheet')
    return preset.pictures.map(({ width, height }) => ({ width, height, resolution: preset.resolution }));
  return [];
}

/** Whether a preset shows the words and the border of its style. */
export function showsWords(preset: Preset): boolean {
  return (preset.kind === 'print' || preset.kind === 'screen' || preset.kind === 'sheet') && !preset.plain;
}

const print = { kind: 'print', resolution: 300, bleed: 3, safe: 4, intent: 'relative', format: 'jpeg' } as const;

/** What the library begins with. */
export const shippedPresets: readonly Preset[] = [
  { name: 'Print 13 × 18 cm', ...print, width: 130, height: 180, profile: 'srgb', paper: 'gloss', quality: 94 },
  { name: 'Card 10 × 15 cm', ...print, width: 100, height: 150, profile: 'srgb', paper: 'matt', quality: 94 },
  { name: 'Print 20 × 30 cm', ...print, width: 200, height: 300, profile: 'srgb', paper: 'matt', quality: 95 },
  { name: 'Screen', kind: 'screen', longest: 2048, most: 0, format: 'jpeg', quality: 88 },
  { name: 'Whole picture', kind: 'screen', longest: 12000, most: 0, format: 'jpeg', quality: 94 },
  { name: 'Cutout', kind: 'cutout', format: 'png', trimmed: false },
  { name: 'Cutout 16 bit', kind: 'cutout', format: 'tiff16', trimmed: false },
  { name: 'Matte', kind: 'matte', format: 'png' },
  { name: 'Layers', kind: 'layered' },
  {
    name: 'Sheet of four',
    kind: 'sheet',
    width: 210,
    height: 297,
    resolution: 300,
    margin: 5,
    gap: 4,
    marks: true,
    paper: 'gloss',
    pictures: [
      { width: 90, height: 130, count: 2 },
      { width: 45, height: 65, count: 2 },
    ],
  },
];
