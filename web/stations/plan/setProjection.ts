import type { Plan, Vec } from '../../../core/plan/index.ts';

/** From which side the set is drawn. */
export type Axis = 'above' | 'side';

/** Where things of the plan lie in a drawing to scale, metres; the screen on the left, the camera on the right. */
export interface SetProjection {
  axis: Axis;
  width: number;
  height: number;
  across: (p: Vec) => number;
  /** From above the camera's left is at the bottom. */
  down: (p: Vec) => number;
  /** Widths of a hairline and of letters. */
  stroke: number;
  font: number;
}

/** Everything that stands in the set is inside the drawing, even where a room outdoors has no end. */
export function projectionOf(plan: Plan, axis: Axis): SetProjection {
  const { room, screen } = plan;
  const places = [
    plan.camera.position,
    ...plan.lamps.filter((l) => l.kind !== 'sun' && l.kind !== 'overcast').map((l) => l.position),
  ];
  const back = -Math.max(0.3, room.outdoors ? 0.6 : room.behind);
  const front = room.outdoors ? Math.max(...places.map((p) => p.z)) + 1 : room.front;
  const aside = Math.max(screen.width, ...places.map((p) => Math.abs(p.x))) + 0.8;
  const above = Math.max(screen.bottom + screen.height, ...places.map((p) => p.y)) + 0.5;
  const [low, high] =
    axis === 'above'
      ? room.outdoors
        ? [-aside, aside]
        : [-room.left, room.right]
      : [0, room.outdoors ? above : room.height];
  const width = front - back;
  const height = high - low;
  return {
    axis,
    width,
    height,
    across: (p) => p.z - back,
    down: (p) => high - (axis === 'above' ? p.x : p.y),
    stroke: width / 500,
    font: Math.max(0.13, width / 46, height / 30),
  };
}
