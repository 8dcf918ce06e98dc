import type { Exif } from 'sharp';
import type { WrittenFacts } from '../../core/handOver/index.ts';

/** The facts as EXIF tags. Its text is ASCII by the standard: the codec writes the nearest letters. */
export function exifOf({ title, photographer, rights, taken }: WrittenFacts): Exif {
  const filled = (tags: Record<string, string>) => Object.fromEntries(Object.entries(tags).filter(([, text]) => text));
  const [day, time] = taken.split('T');
  const at = day && time ? `${day.replaceAll('-', ':')} ${time.slice(0, 8)}` : '';
  return {
    IFD0: filled({ ImageDescription: title, Artist: photographer, Copyright: rights, Software: 'Silent Lawn' }),
    IFD2: filled({ DateTimeOriginal: at }),
  };
}
