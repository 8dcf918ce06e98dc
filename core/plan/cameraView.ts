import { cameraAxis } from './light.ts';
import type { Camera, Plan, Screen } from './plan.ts';
import { add, dot, frameOf, scale, subtract, unit, vec, type Vec } from './vector.ts';

/** A pinhole camera focused at a distance. */
export interface CameraView {
  camera: Camera;
  axis: Vec;
  right: Vec;
  up: Vec;
  /** Distance of the image plane in metres, f·s / (s − f). */
  image: number;
  /** Focus distance along the axis, m. */
  focus: number;
  /** Size of a pixel on the sensor, m. */
  pitch: number;
}

/** Looks through the plan's camera, focused on the nearest person's eyes (3 m if nobody is there). */
export function cameraView(plan: Plan): CameraView {
  const { camera } = plan;
  const axis = cameraAxis(camera);
  const { right, up } = frameOf(axis);
  const depths = plan.people
    .map((person) => dot(subtract(vec(person.x, person.height * 0.93, person.z), camera.position), axis))
    .filter((d) => d > 0.1);
  const focus = Math.max(camera.focal * 1.5, depths.length ? Math.min(...depths) : 3);
  const image = (camera.focal * focus) / (focus - camera.focal);
  return { camera, axis, right, up, image, focus, pitch: camera.sensorWidth / camera.pixelsAcross };
}

/**
 * @returns position in pixels from the top left corner and depth along the axis in m; depth ≤ 0 lies behind the camera.
 */
export function project(view: CameraView, point: Vec): { x: number; y: number; depth: number } {
  const d = subtract(point, view.camera.position);
  const depth = dot(d, view.axis);
  const k = view.image / (Math.abs(depth) < 1e-6 ? 1e-6 : depth);
  const { pixelsAcross, pixelsDown, sensorHeight } = view.camera;
  return {
    x: pixelsAcross / 2 + (k * dot(d, view.right)) / view.pitch,
    y: pixelsDown / 2 - (k * dot(d, view.up) * pixelsDown) / sensorHeight,
    depth,
  };
}

/** Direction (length 1) in which a pixel looks. */
export function rayOf(view: CameraView, x: number, y: number): Vec {
  const { pixelsAcross, pixelsDown, sensorHeight } = view.camera;
  const sx = (x - pixelsAcross / 2) * view.pitch;
  const sy = ((pixelsDown / 2 - y) * sensorHeight) / pixelsDown;
  return unit(add(add(scale(view.axis, view.image), scale(view.right, sx)), scale(view.up, sy)));
}

/** What of the screen a ray meets. */
export interface ScreenHit {
  point: Vec;
  normal: Vec;
}

/** @returns where a ray from the camera meets the screen or its sweep; undefined if it misses them. */
export function meetScreen(view: CameraView, ray: Vec, screen: Screen): ScreenHit | undefined {
  const from = view.camera.position;
  if (screen.sweep > 0 && ray.y < 0) {
    const t = -from.y / ray.y;
    const p = add(from, scale(ray, t));
    if (p.z > 0 && p.z <= screen.sweep && Math.abs(p.x) <= screen.width / 2)
      return { point: vec(p.x, 0, p.z), normal: vec(0, 1, 0) };
  }
  if (ray.z >= 0 || from.z <= 0) return undefined;
  const p = add(from, scale(ray, -from.z / ray.z));
  const low = screen.sweep > 0 ? 0 : screen.bottom;
  if (Math.abs(p.x) > screen.width / 2 || p.y < low || p.y > screen.bottom + screen.height) return undefined;
  return { point: vec(p.x, p.y, 0), normal: vec(0, 0, 1) };
}

/** Where a ray meets the screen's plane, however large the screen is; undefined if it looks away from it. */
export function meetPlane(view: CameraView, ray: Vec): Vec | undefined {
  const from = view.camera.position;
  if (ray.z >= -1e-6 || from.z <= 0) return undefined;
  return add(from, scale(ray, -from.z / ray.z));
}
