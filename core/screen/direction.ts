/** A unit vector as the camera sees it: x right, y up, z towards it. */
export interface Direction {
  x: number;
  y: number;
  z: number;
}

/** Degrees: azimuth to the right of the camera, elevation above the level. */
export interface Angles {
  azimuth: number;
  elevation: number;
}

export function directionOf(azimuth: number, elevation: number): Direction {
  const a = (azimuth * Math.PI) / 180;
  const e = (elevation * Math.PI) / 180;
  return { x: Math.sin(a) * Math.cos(e), y: Math.sin(e), z: Math.cos(a) * Math.cos(e) };
}

export function anglesOf({ x, y, z }: Direction): Angles {
  return {
    azimuth: (Math.atan2(x, z) * 180) / Math.PI,
    elevation: (Math.asin(Math.max(-1, Math.min(1, y))) * 180) / Math.PI,
  };
}

/** Angle between two directions, degrees. */
export function angleBetween(a: Angles, b: Angles): number {
  const p = directionOf(a.azimuth, a.elevation);
  const q = directionOf(b.azimuth, b.elevation);
  return (Math.acos(Math.max(-1, Math.min(1, p.x * q.x + p.y * q.y + p.z * q.z))) * 180) / Math.PI;
}
