import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { takeFrame } from '../core/studio/index.ts';
import { decodePicture } from '../server/pictures/decode.ts';
import { encodePicture, fromRaster } from '../server/pictures/encode.ts';
import { writeWhole } from '../server/store/writeWhole.ts';
import type { BenchCase } from './cases.ts';
import type { Truth } from './measure.ts';

/** Renders a case, photographs it as its file is written and read, with all its truth; and its plate. */
export async function renderTruth({ plan, shot, jpegQuality }: BenchCase): Promise<Truth & { plate: Truth['frame'] }> {
  const taken = takeFrame(plan, shot);
  const clean = takeFrame(plan, { ...shot, withoutBounce: true, noiseless: true }).foreground;
  const plate = takeFrame(plan, { ...shot, kind: 'plate', subjects: [] }).frame;
  const screen = taken.screen.data;
  const channel = plan.screen.colour === 'blue' ? 2 : 1;
  // The middle of the frame shows the screen in every case.
  const middle = (Math.floor(shot.height * 0.35) * shot.width + Math.floor(shot.width / 2)) * 3;
  const folder = await mkdtemp(join(tmpdir(), 'silent-lawn-bench-'));
  const written = async (frame: Truth['frame'], name: string): Promise<Truth['frame']> => {
    const file = join(folder, name);
    await writeWhole(
      file,
      jpegQuality === undefined
        ? await encodePicture(frame, 'tiff16')
        : await fromRaster(frame)
            .toColourspace('srgb')
            .jpeg({ quality: jpegQuality, chromaSubsampling: '4:2:0' })
            .toBuffer(),
    );
    return decodePicture(file, 'frame');
  };
  try {
    return {
      frame: await written(taken.frame, 'frame'),
      plate: await written(plate, 'plate'),
      matte: taken.matte,
      foreground: taken.foreground,
      clean,
      screen: [screen[middle], screen[middle + 1], screen[middle + 2]],
      channel,
    };
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
