import { readFile } from 'node:fs/promises';
import * as lcms from 'lcms-wasm';
import sharp from 'sharp';
import type { Intent, Profile } from '../../core/handOver/index.ts';
import type { EncodedRaster } from '../../core/image/raster.ts';
import type { Store } from '../store/store.ts';
import { PictureError } from './decode.ts';

/** Colour profiles of prints, by LittleCMS as WebAssembly. */

let loaded: Promise<lcms.Lcms> | undefined;
const engine = (): Promise<lcms.Lcms> => (loaded ??= lcms.instantiate());

const codes: Record<Intent, number> = {
  perceptual: lcms.INTENT_PERCEPTUAL,
  relative: lcms.INTENT_RELATIVE_COLORIMETRIC,
  saturation: lcms.INTENT_SATURATION,
  absolute: lcms.INTENT_ABSOLUTE_COLORIMETRIC,
};
/** Largest profile that is taken, bytes. */
export const LARGEST_PROFILE = 8 << 20;

/** Name of a profile, as it says itself, and whether it is for inks (CMYK). @throws PictureError if it is none. */
export async function readProfile(content: Uint8Array): Promise<{ name: string; inks: boolean }> {
  const engineOf = await engine();
  const remedy = 'Give an ICC profile for RGB or CMYK, as print services hand them out (.icc or .icm).';
  // The signature at byte 36 (ICC.1, 7.2) is looked at first: the library prints on what is no profile.
  const signed = content.length > 128 && Buffer.from(content.subarray(36, 40)).toString('latin1') === 'acsp';
  const profile = signed ? engineOf.cmsOpenProfileFromMem(content, content.length) : 0;
  if (!profile) throw new PictureError('it is no colour profile', remedy);
  try {
    const space = engineOf.cmsGetColorSpaceASCII(profile);
    if (space !== 'RGB' && space !== 'CMYK')
      throw new PictureError(`it is a profile for ${space ?? 'other'} colours, not for RGB or CMYK`, remedy);
    const said = engineOf.cmsGetProfileInfoASCII(profile, lcms.cmsInfoDescription, 'en', 'US');
    return { name: said.replaceAll('\0', '').trim(), inks: space === 'CMYK' };
  } finally {
    engineOf.cmsCloseProfile(profile);
  }
}

let wide: Promise<Buffer> | undefined;
/** The content of a print’s profile; undefined for sRGB, which pictures are in. @throws PictureError if it is gone. */
export async function profileContent(profile: Profile, store: Store): Promise<Buffer | undefined> {
  if (profile === 'srgb') return undefined;
  if (profile !== 'p3') return readFile(await store.need(profile.file, 'the profile'));
  // The codec library ships one.
  return (wide ??= sharp({ create: { width: 1, height: 1, channels: 3, background: '#fff' } })
    .withIccProfile('p3')
    .png()
    .toBuffer()
    .then((png) => sharp(png).metadata())
    .then(({ icc }) => icc as Buffer));
}

/** Pixels to a call: the library copies all that it is given. */
const AT_ONCE = 1 << 20;

/**
 * An sRGB picture with the values that a profile has for its colours.
 * @returns the same depth; four channels, cyan to black with 0 for none, if the profile is for inks.
 */
export async function inProfile(
  picture: EncodedRaster & { channels: 3 },
  content: Uint8Array,
  intent: Intent,
): Promise<EncodedRaster> {
  const engineOf = await engine();
  const { width, height } = picture;
  const deep = picture.data instanceof Uint16Array;
  const format = deep ? lcms.TYPE_RGB_16 : lcms.TYPE_RGB_8;
  const from = engineOf.cmsCreate_sRGBProfile();
  const to = engineOf.cmsOpenProfileFromMem(content, content.length);
  const flags = intent === 'relative' ? lcms.cmsFLAGS_BLACKPOINTCOMPENSATION : 0;
  const inks = to !== 0 && engineOf.cmsGetColorSpaceASCII(to) === 'CMYK';
  const channels = inks ? 4 : 3;
  const wanted = !inks ? format : deep ? lcms.TYPE_CMYK_16 : lcms.TYPE_CMYK_8;
  const transform = to && engineOf.cmsCreateTransform(from, format, to, wanted, codes[intent], flags);
  try {
    if (!transform)
      throw new PictureError('its colour profile cannot be used', 'Choose another profile, or sRGB, in the preset.');
    const count = width * height;
    const data = deep ? new Uint16Array(count * channels) : new Uint8Array(count * channels);
    for (let at = 0; at < count; at += AT_ONCE) {
      const part = picture.data.subarray(at * 3, (at + AT_ONCE) * 3);
      data.set(engineOf.cmsDoTransform(transform, part, part.length / 3), at * channels);
    }
    return { width, height, channels, data };
  } finally {
    if (transform) engineOf.cmsDeleteTransform(transform);
    if (to) engineOf.cmsCloseProfile(to);
    engineOf.cmsCloseProfile(from);
  }
}
