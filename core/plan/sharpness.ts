import { project, type CameraView } from './cameraView.ts';
import { faceOf } from './exposure.ts';
import { illuminance, type Source } from './light.ts';
import { blurDiameter, contrastThroughDisc, depthOfField } from './optics.ts';
import type { Plan } from './plan.ts';
import { subtract, unit, vec } from './vector.ts';

export interface Focus {
  distance: number;
  /** Blur of the screen, px. */
  screenBlur: number;
  /** Share of the creases' contrast that the lens leaves. */
  creaseContrast: number;
  near: number;
  far: number;
  ear: number;
  group: number;
  /** The same at a wide and a moderate aperture, to choose a school by. */
  schools: { aperture: number; screenBlur: number; creaseContrast: number; ear: number }[];
}

export interface Motion {
  /** Time that freezes the picture, s: shutter, or flash where it rules. */
  time: number;
  ruledByFlash: boolean;
  standing: number;
  gesturing: number;
  jumping: number;
}

/** Speeds in m/s. */
const SPEEDS = { standing: 0.03, gesturing: 1.2, jumping: 3 };
/** From eyes to ear along the line of sight, m. */
const EAR = 0.1;
/** Largest blur that passes for sharp, px. */
const SHARP = 2;

/** What the lens leaves of screen, ear and group. */
export function focusReport(plan: Plan, view: CameraView): Focus {
  const { camera, screen } = plan;
  const screenDistance = Math.max(camera.focal * 2, camera.position.z / Math.max(0.2, -view.axis.z));
  const at = (aperture: number): { screenBlur: number; creaseContrast: number; ear: number } => {
    const disc = blurDiameter(camera.focal, aperture, view.focus, screenDistance);
    return {
      screenBlur: disc / view.pitch,
      creaseContrast: contrastThroughDisc(disc / ((screen.wrinklePeriod * view.image) / screenDistance)),
      ear: blurDiameter(camera.focal, aperture, view.focus, view.focus + EAR) / view.pitch,
    };
  };
  const depths = plan.people.flatMap((person) => {
    const middle = project(view, vec(person.x, person.height * 0.93, person.z)).depth;
    return [middle, middle + person.depth];
  });
  const group = Math.max(
    0,
    ...depths
      .filter((d) => d > 0.1)
      .map((d) => blurDiameter(camera.focal, camera.aperture, view.focus, d) / view.pitch),
  );
  const { near, far } = depthOfField(camera.focal, camera.aperture, view.focus, SHARP * view.pitch);
  return {
    distance: view.focus,
    ...at(camera.aperture),
    near,
    far,
    group,
    schools: [2, 2.8, 4, 5.6, 8, 11].map((aperture) => ({ aperture, ...at(aperture) })),
  };
}

/** How far people move while they are exposed. */
export function motionReport(plan: Plan, view: CameraView, sources: readonly Source[]): Motion {
  const { camera } = plan;
  const person = plan.people[0];
  let flash = 0;
  let whole = 1e-9;
  let duration = 0;
  if (person) {
    const face = faceOf(person);
    const toCamera = unit(subtract(camera.position, face));
    for (const source of sources) {
      const e = illuminance(source, face, toCamera);
      whole += e;
      if (source.lamp.unit !== 'joule') continue;
      flash += e;
      duration = Math.max(duration, source.lamp.flashDuration);
    }
  }
  const ruledByFlash = flash / whole > 0.85;
  const time = ruledByFlash ? Math.min(camera.shutter, duration) : camera.shutter;
  const pixels = (speed: number): number => (speed * time * view.image) / view.focus / view.pitch;
  return {
    time,
    ruledByFlash,
    standing: pixels(SPEEDS.standing),
    gesturing: pixels(SPEEDS.gesturing),
    jumping: pixels(SPEEDS.jumping),
  };
}
