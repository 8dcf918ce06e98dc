import { meetPlane, meetScreen, project, rayOf, type CameraView } from './cameraView.ts';
import type { Person, Plan } from './plan.ts';
import { vec, type Vec } from './vector.ts';

export type Side = 'left' | 'right' | 'top' | 'bottom';

export interface Coverage {
  /** Share of the frame that the screen fills, 0–1. */
  share: number;
  /**
   * How far the frame reaches beyond the screen on each side: metres on the screen's plane, pixels at the worst
   * corner; 0 where it does not.
   */
  missing: Record<Side, { metres: number; pixels: number }>;
  /** Corners of the part of the frame that shows the screen, pixels; everything outside must be masked. */
  mask: { x: number; y: number }[];
  /**
   * The tightest place beside outstretched arms: metres of screen left over beside the fingertips as the camera sees
   * them, or beside the frame's edge if the hand is beyond it (below 0: the arm leaves the screen).
   */
  arms: { side: 'left' | 'right'; person: string; metres: number; pixels: number; outOfFrame: boolean } | null;
}

/** How many places across and down a frame its coverage is counted at. */
const GRID = 60;

export function coverageOf(plan: Plan, view: CameraView): Coverage {
  const { camera, screen } = plan;
  let hits = 0;
  for (let j = 0; j < GRID; j++) {
    for (let i = 0; i < GRID; i++)
      if (
        meetScreen(
          view,
          rayOf(view, ((i + 0.5) / GRID) * camera.pixelsAcross, ((j + 0.5) / GRID) * camera.pixelsDown),
          screen,
        )
      )
        hits++;
  }
  return {
    share: hits / (GRID * GRID),
    missing: missingSides(plan, view),
    mask: maskPolygon(plan, view),
    arms: armRoom(plan, view),
  };
}

function missingSides(plan: Plan, view: CameraView): Coverage['missing'] {
  const { screen, camera } = plan;
  const out: Coverage['missing'] = { left: none(), right: none(), top: none(), bottom: none() };
  const note = (side: Side, metres: number, pixels: number): void => {
    if (metres > out[side].metres) out[side] = { metres, pixels: Math.round(pixels) };
  };
  for (const x of [0, camera.pixelsAcross]) {
    for (const y of [0, camera.pixelsDown]) {
      const ray = rayOf(view, x, y);
      const p = meetPlane(view, ray);
      if (!p) continue;
      const edgeX = Math.sign(p.x || 1) * (screen.width / 2);
      const acrossPixels = Math.abs(project(view, vec(edgeX, p.y, 0)).x - x);
      if (Math.abs(p.x) > screen.width / 2)
        note(p.x < 0 ? 'left' : 'right', Math.abs(p.x) - screen.width / 2, acrossPixels);
      const top = screen.bottom + screen.height;
      if (p.y > top) note('top', p.y - top, Math.abs(project(view, vec(p.x, top, 0)).y - y));
      if (p.y < screen.bottom && !meetScreen(view, rayOf(view, camera.pixelsAcross / 2, y), screen))
        note('bottom', screen.bottom - p.y, Math.abs(project(view, vec(p.x, screen.bottom, 0)).y - y));
    }
  }
  return out;
}

const none = (): { metres: number; pixels: number } => ({ metres: 0, pixels: 0 });

/** The screen's outline as the camera sees it, cut to the frame (Sutherland & Hodgman 1974). */
function maskPolygon(plan: Plan, view: CameraView): { x: number; y: number }[] {
  const { screen, camera } = plan;
  const half = screen.width / 2;
  const top = screen.bottom + screen.height;
  // The sweep is followed only as far as it lies in front of the camera.
  const front = Math.min(screen.sweep, camera.position.z - 0.3);
  const corners: Vec[] = [vec(-half, top, 0), vec(half, top, 0)];
  if (front > 0.01) corners.push(vec(half, 0, 0), vec(half, 0, front), vec(-half, 0, front), vec(-half, 0, 0));
  else corners.push(vec(half, screen.bottom, 0), vec(-half, screen.bottom, 0));
  const seen = corners.map((corner) => project(view, corner));
  if (seen.some(({ depth }) => depth <= 0.05)) return [];
  let polygon: { x: number; y: number }[] = seen.map(({ x, y }) => ({ x, y }));
  const sides: [(p: { x: number; y: number }) => number][] = [
    [(p) => p.x],
    [(p) => camera.pixelsAcross - p.x],
    [(p) => p.y],
    [(p) => camera.pixelsDown - p.y],
  ];
  for (const [inside] of sides) {
    const cut: typeof polygon = [];
    polygon.forEach((b, n) => {
      const a = polygon[(n + polygon.length - 1) % polygon.length];
      const da = inside(a);
      const db = inside(b);
      if (da < 0 !== db < 0)
        cut.push({ x: a.x + (da / (da - db)) * (b.x - a.x), y: a.y + (da / (da - db)) * (b.y - a.y) });
      if (db >= 0) cut.push(b);
    });
    polygon = cut;
  }
  return polygon.map(({ x, y }) => ({ x: Math.round(x), y: Math.round(y) }));
}

/** Fingertips of arms held out sideways, at shoulder height. */
export function fingertips(person: Person): { side: 'left' | 'right'; point: Vec }[] {
  const spread = ((person.count - 1) / 2) * 0.5 + person.reach;
  const y = person.height * 0.82;
  return [
    { side: 'left', point: vec(person.x - spread, y, person.z) },
    { side: 'right', point: vec(person.x + spread, y, person.z) },
  ];
}

function armRoom(plan: Plan, view: CameraView): Coverage['arms'] {
  const { screen, camera } = plan;
  let tightest: Coverage['arms'] = null;
  for (const person of plan.people) {
    for (const { side, point } of fingertips(person)) {
      const pixel = project(view, point);
      if (pixel.depth <= 0) continue;
      const sign = side === 'left' ? -1 : 1;
      // A hand beyond the frame's edge needs screen only up to that edge.
      const outOfFrame = pixel.x < 0 || pixel.x > camera.pixelsAcross;
      pixel.x = Math.max(0, Math.min(camera.pixelsAcross, pixel.x));
      const on = meetPlane(view, rayOf(view, pixel.x, pixel.y));
      if (!on) continue;
      const metres = screen.width / 2 - sign * on.x;
      const pixels = Math.round(sign * (project(view, vec((sign * screen.width) / 2, on.y, 0)).x - pixel.x));
      if (!tightest || metres < tightest.metres) tightest = { side, person: person.name, metres, pixels, outOfFrame };
    }
  }
  return tightest;
}
