import type { CameraNote } from '../../../contract/index.ts';
import { trimNumber } from '../../shared/takeNumber.ts';

/** A camera note in one line; what is not known is left out. */
export function cameraWords(note: CameraNote): string {
  const { camera, lens, focal, aperture, shutter, iso, height, tilt, distance } = note;
  const time = shutter && (shutter < 0.4 ? `1/${Math.round(1 / shutter)} s` : `${trimNumber(shutter, 1)} s`);
  return [
    camera,
    lens,
    focal && `${trimNumber(focal, 1)} mm`,
    aperture && `f/${trimNumber(aperture, 1)}`,
    time,
    iso && `ISO ${iso}`,
    height !== null && `${trimNumber(height, 2)} m high`,
    tilt !== null && `tilted ${trimNumber(tilt, 1)}°`,
    distance !== null && `${trimNumber(distance, 2)} m away`,
  ]
    .filter(Boolean)
    .join(', ');
}
