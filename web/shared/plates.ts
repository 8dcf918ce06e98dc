import { secondsOf } from '../../contract/clock.ts';
import type { Frame } from '../../contract/index.ts';
import { plateFor, type Shot } from '../../core/cut/order.ts';

/** Which plate is laid under which frame. */

/** Plates among frames of a setup, as the server goes through them. */
export function platesOf(all: readonly Frame[]): Frame[] {
  return all.filter(({ plate }) => plate).toSorted((a, b) => a.id - b.id);
}

export function shotOf({ id, width, height, camera, takenAt }: Frame): Shot {
  return { id, width, height, body: camera.body, at: secondsOf(takenAt) };
}

/** The plate that is laid under a frame. @param all frames of its setup. */
export function plateOf(frame: Frame, all: readonly Frame[]): Frame | undefined {
  const id = plateFor(shotOf(frame), platesOf(all).map(shotOf))?.id;
  return all.find((one) => one.id === id);
}
