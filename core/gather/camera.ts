/** What cameras write of a frame, and what follows from it. */

export interface Camera {
  /** Maker, model and, where it is written, serial number: tells one body from another. Empty if none is named. */
  body: string;
  lens: string;
  /** Millimetres. */
  focal: number | null;
  /** The number of the aperture. */
  aperture: number | null;
  /** Seconds. */
  shutter: number | null;
  iso: number | null;
  /** The colour profile of the file; empty for none. */
  profile: string;
}

export const noCamera: Camera = {
  body: '',
  lens: '',
  focal: null,
  aperture: null,
  shutter: null,
  iso: null,
  profile: '',
};

/** Exposure by the settings: binary logarithm of seconds × sensitivity ÷ 100 ÷ aperture²; null where one is not written. */
export function exposureOf({ aperture, shutter, iso }: Camera): number | null {
  return aperture && shutter && iso ? Math.log2((shutter * iso) / 100 / aperture ** 2) : null;
}

/** As photographers write it: “85 mm, f/5.6, 1/160 s, ISO 200”. Empty where nothing is known. */
export function settingsInWords({ focal, aperture, shutter, iso }: Camera): string {
  return [
    focal && `${Math.round(focal)} mm`,
    aperture && `f/${Number(aperture.toFixed(1))}`,
    shutter && (shutter >= 0.4 ? `${Number(shutter.toFixed(1))} s` : `1/${Math.round(1 / shutter)} s`),
    iso && `ISO ${Math.round(iso)}`,
  ]
    .filter(Boolean)
    .join(', ');
}
