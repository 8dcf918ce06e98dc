declare module 'lcms-wasm' {
  export const INTENT_PERCEPTUAL: number;
  export const INTENT_RELATIVE_COLORIMETRIC: number;
  export const INTENT_SATURATION: number;
  export const INTENT_ABSOLUTE_COLORIMETRIC: number;
  export const TYPE_RGB_8: number;
  export const TYPE_RGB_16: number;
  export const TYPE_CMYK_8: number;
  export const TYPE_CMYK_16: number;
  export const cmsFLAGS_BLACKPOINTCOMPENSATION: number;
  export const cmsInfoDescription: number;

  /** The compiled library; handles are numbers, 0 for failure. */
  export interface Lcms {
    cmsOpenProfileFromMem(content: Uint8Array, length: number): number;
    cmsCloseProfile(profile: number): void;
    cmsCreate_sRGBProfile(): number;
    cmsGetProfileInfoASCII(profile: number, info: number, language: string, country: string): string;
    cmsGetColorSpaceASCII(profile: number): string | null;
    cmsCreateTransform(
      from: number,
      fromFormat: number,
      to: number,
      toFormat: number,
      intent: number,
      flags: number,
    ): number;
    cmsDeleteTransform(transform: number): void;
    cmsDoTransform<T extends Uint8Array | Uint16Array>(transform: number, values: T, pixels: number): T;
  }
  export function instantiate(): Promise<Lcms>;
}
