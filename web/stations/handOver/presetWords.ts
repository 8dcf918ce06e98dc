import { pixelsOf, presetKinds, printedSize, showsWords, type Preset } from '../../../core/handOver/index.ts';
import { trimNumber } from '../../shared/takeNumber.ts';

const formats = {
  jpeg: 'JPEG',
  webp: 'WebP',
  avif: 'AVIF',
  png: 'PNG',
  png16: 'PNG, 16 bit',
  tiff16: 'TIFF, 16 bit',
} as const;

const cm = (mm: number): string => trimNumber(mm / 10, 1);

/** A preset in one line. */
export function presetWords(preset: Preset): string {
  return `${ofKind(preset)}${presetKinds[preset.kind].placed && !showsWords(preset) ? ', without words' : ''}`;
}

function ofKind(preset: Preset): string {
  switch (preset.kind) {
    case 'print': {
      const whole = printedSize(preset);
      const pixels = `${pixelsOf(whole.width, preset.resolution)} × ${pixelsOf(whole.height, preset.resolution)} px`;
      const profile =
        typeof preset.profile === 'string' ? { srgb: 'sRGB', p3: 'P3' }[preset.profile] : preset.profile.name;
      return `${cm(preset.width)} × ${cm(preset.height)} cm and ${preset.bleed} mm bleed, ${pixels}, ${formats[preset.format]}, ${profile}`;
    }
    case 'screen':
      return `at most ${preset.longest} px${preset.most ? ` and ${preset.most} kB` : ''}, ${formats[preset.format]}`;
    case 'cutout':
      return `${formats[preset.format]}, ${preset.trimmed ? 'trimmed to the person' : 'the whole frame'}`;
    case 'matte':
      return formats[preset.format];
    case 'sheet': {
      const pictures = preset.pictures.map(({ count, width, height }) => `${count} of ${cm(width)} × ${cm(height)}`);
      return `${pictures.join(', ')} on ${cm(preset.width)} × ${cm(preset.height)} cm, PDF`;
    }
    case 'layered':
      return presetKinds.layered.note;
  }
}
