import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { noCamera, type Camera } from '../../core/gather/camera.ts';
import { developed, type Developing } from '../../core/gather/develop.ts';
import type { EncodedRaster } from '../../core/image/raster.ts';
import { MAX_PIXELS, PictureError } from './decode.ts';

/** What the raw reader gives of a file. */
interface RawReader {
  open(content: Uint8Array, settings: object): void;
  metadata(full: boolean): {
    width: number;
    height: number;
    camera_make: string;
    camera_model: string;
    iso_speed: number;
    shutter: number;
    aperture: number;
    focal_len: number;
    timestamp: number;
    shootinginfo?: { BodySerial?: string };
  };
  imageData():
    { width: number; height: number; colors: number; bits: number; data: Uint8Array | Uint16Array } | undefined;
  delete(): void;
}

/** Linear light in the primaries of sRGB by the camera's own white balance, nothing brightened, highlights clipped. */
const linear = {
  useCameraWb: true,
  outputColor: 1,
  outputBps: 16,
  noAutoBright: true,
  // The reader takes the curve by all of its six numbers only.
  gamm: [1, 1, 0, 0, 0, 0],
  highlight: 0,
  userQual: 3,
};

export interface Developed {
  picture: EncodedRaster & { channels: 3; data: Uint16Array };
  camera: Camera;
  takenAt?: string;
}

/** Develops a camera's raw file. About half a second for each megapixel. @throws PictureError if it cannot be read. */
export async function developRaw(path: string, settings: Developing): Promise<Developed> {
  const require = createRequire(import.meta.url);
  const folder = require.resolve('libraw-wasm').replace(/index\.js$/, '');
  const { default: make } = (await import(`${folder}libraw.js`)) as {
    default: (options: {
      wasmBinary: Buffer;
      print: () => void;
      printErr: () => void;
    }) => Promise<{ LibRaw: new () => RawReader }>;
  };
  // A reader of its own for each file: its memory grows to that of the largest and would stay.
  const quiet = (): void => undefined;
  const { LibRaw } = await make({ wasmBinary: await readFile(`${folder}libraw.wasm`), print: quiet, printErr: quiet });
  const reader = new LibRaw();
  try {
    reader.open(new Uint8Array(await readFile(path)), linear);
    const written = reader.metadata(true);
    if (written.width * written.height > MAX_PIXELS)
      throw new PictureError(
        `it has ${Math.round((written.width * written.height) / 1e6)} megapixels, more than ${MAX_PIXELS / 1e6}`,
        'Develop it at a smaller size.',
      );
    const image = reader.imageData();
    if (!image || image.colors !== 3 || image.bits !== 16) throw new Error('no picture of three colours');
    const { width, height } = image;
    const words =
      image.data instanceof Uint16Array
        ? image.data
        : new Uint16Array(image.data.buffer, image.data.byteOffset, width * height * 3);
    return { picture: developed(words, width, height, settings), ...writtenIn(written) };
  } catch (error) {
    if (error instanceof PictureError) throw error;
    throw new PictureError(
      'it is a camera’s raw file that cannot be read: damaged, cut short, or of a camera that is not known here',
      'Copy it from the card again, or develop it to 16-bit TIFF with the camera’s white balance and bring that in.',
    );
  } finally {
    reader.delete();
  }
}

function writtenIn(written: ReturnType<RawReader['metadata']>): Pick<Developed, 'camera' | 'takenAt'> {
  const { camera_make, camera_model, iso_speed, shutter, aperture, focal_len, timestamp, shootinginfo } = written;
  const positive = (v: number): number | null => (Number.isFinite(v) && v > 0 ? Number(v.toPrecision(6)) : null);
  const named = camera_model.toLowerCase().startsWith(camera_make.toLowerCase())
    ? camera_model
    : `${camera_make} ${camera_model}`;
  return {
    camera: {
      ...noCamera,
      body: [named.trim(), shootinginfo?.BodySerial?.trim()].filter(Boolean).join(', ').slice(0, 80),
      focal: positive(focal_len),
      aperture: positive(aperture),
      shutter: positive(shutter),
      iso: positive(iso_speed),
    },
    takenAt: timestamp > 0 ? new Date(timestamp * 1000).toISOString().slice(0, 19) : undefined,
  };
}
