import { cameraView, fingertips, type Lamp, type Person, type Plan, type Vec } from '../../../core/plan/index.ts';
import type { SetProjection } from './setProjection.ts';
import type { ThingId } from './things.ts';

/** The things of a set as they are drawn, from above or from the side. `grip` makes them movable. */

interface Drawn {
  projection: SetProjection;
}
interface Movable extends Drawn {
  grip: (id: ThingId) => object;
}

const origin: Vec = { x: 0, y: 0, z: 0 };

/** The cloth on the floor in front of the screen. */
export function Sweep({
  plan: { screen },
  projection: { axis, across, down, height, stroke },
}: Drawn & { plan: Plan }) {
  if (!screen.sweep) return null;
  return axis === 'above' ? (
    <rect
      x={across(origin)}
      y={down({ ...origin, x: screen.width / 2 })}
      width={screen.sweep}
      height={screen.width}
      fill="var(--hairline)"
    />
  ) : (
    <line
      x1={across(origin)}
      x2={across({ ...origin, z: screen.sweep })}
      y1={height}
      y2={height}
      stroke="var(--ink)"
      strokeWidth={stroke * 4}
    />
  );
}

/** The screen as a line, with a broader one that is easier to hit. */
export function ScreenLine({ plan: { screen }, projection: { axis, across, down, stroke } }: Drawn & { plan: Plan }) {
  const ends =
    axis === 'above'
      ? [screen.width / 2, -screen.width / 2].map((x) => ({ ...origin, x }))
      : [screen.bottom + screen.height, screen.bottom].map((y) => ({ ...origin, y }));
  const [y1, y2] = ends.map(down);
  const line = { x1: across(origin), x2: across(origin), y1, y2 };
  return (
    <>
      <line {...line} stroke="currentColor" strokeWidth={stroke * 5} />
      <line {...line} stroke="transparent" strokeWidth={0.22} />
    </>
  );
}

/**
 * A lamp with the way its light goes; its aim can be moved while it is chosen.
 * @param behind how many stand at the same place of the drawing before it: names do not share one.
 */
export function LampMark({
  lamp,
  at,
  active,
  behind,
  projection: { axis, across, down, height, stroke, font },
  grip,
}: Movable & { lamp: Lamp; at: Vec; active: boolean; behind: number }) {
  const [x, y, aimX, aimY] = [across(at), down(at), across(lamp.aim), down(lamp.aim)];
  const angle = (Math.atan2(aimY - y, aimX - x) * 180) / Math.PI;
  const length = Math.max(0.12, axis === 'above' ? lamp.width : lamp.height);
  return (
    <g>
      <line
        x1={x}
        y1={y}
        x2={aimX}
        y2={aimY}
        stroke={active ? 'var(--accent)' : 'var(--rule)'}
        strokeWidth={stroke}
        strokeDasharray={`${stroke * 4} ${stroke * 4}`}
      />
      {axis === 'side' && <line x1={x} y1={y} x2={x} y2={height} stroke="var(--hairline)" strokeWidth={stroke} />}
      <g {...grip(`lamp:${lamp.id}`)}>
        <g transform={`translate(${x} ${y}) rotate(${angle})`}>
          <rect x={-0.13} y={-length / 2} width={0.13} height={length} fill={active ? 'var(--accent)' : 'var(--ink)'} />
          <circle r={0.26} fill="transparent" />
        </g>
        <text x={x + 0.2} y={y - 0.16 + behind * font * 1.1} fill="currentColor">
          {lamp.name}
        </text>
      </g>
      {active && (
        <g {...grip(`aim:${lamp.id}`)}>
          <path
            d="M -0.1 0 H 0.1 M 0 -0.1 V 0.1"
            transform={`translate(${aimX} ${aimY})`}
            stroke="var(--accent)"
            strokeWidth={stroke * 2.4}
          />
          <circle cx={aimX} cy={aimY} r={0.2} fill="transparent" />
        </g>
      )}
    </g>
  );
}

/** A person, or a group: head and arms from above, a figure from the side. */
export function PersonMark({
  person,
  projection: { axis, across, down, height, stroke },
  grip,
}: Movable & { person: Person }) {
  const [left, right] = fingertips(person);
  const at = { x: person.x, y: person.height * 0.93, z: person.z };
  const [x, y] = [across(at), down(at)];
  return (
    <g {...grip(`person:${person.id}`)}>
      {axis === 'above' ? (
        <>
          <line
            x1={across(left.point)}
            y1={down(left.point)}
            x2={across(right.point)}
            y2={down(right.point)}
            stroke="currentColor"
            strokeWidth={stroke * 2}
          />
          <ellipse
            cx={x}
            cy={y}
            rx={0.13}
            ry={0.22 + (person.count - 1) * 0.25}
            fill="var(--sheet)"
            stroke="currentColor"
            strokeWidth={stroke * 2}
          />
          <circle cx={x} cy={y} r={0.1} fill="currentColor" />
          <circle cx={x} cy={y} r={0.28} fill="transparent" />
        </>
      ) : (
        <>
          <line x1={x} x2={x} y1={y} y2={height} stroke="currentColor" strokeWidth={stroke * 3} />
          <circle cx={x} cy={y} r={0.11} fill="currentColor" />
          <rect x={x - 0.2} y={y - 0.15} width={0.4} height={height - y + 0.15} fill="transparent" />
        </>
      )}
      <text x={x + 0.18} y={y - 0.26} fill="currentColor">
        {person.name}
      </text>
    </g>
  );
}

export function CameraMark({ plan, projection: { across, down, stroke }, grip }: Movable & { plan: Plan }) {
  const { position } = plan.camera;
  const [x, y] = [across(position), down(position)];
  return (
    <g {...grip('camera')}>
      <rect
        x={x}
        y={y - 0.09}
        width={0.2}
        height={0.18}
        fill="var(--sheet)"
        stroke="currentColor"
        strokeWidth={stroke * 2}
      />
      <rect x={x - 0.09} y={y - 0.05} width={0.09} height={0.1} fill="currentColor" />
      <circle cx={x + 0.05} cy={y} r={0.24} fill="transparent" />
      <text x={x - 0.1} y={y + 0.32} fill="currentColor">
        Camera
      </text>
    </g>
  );
}

/** What the camera sees of the set, as a wedge up to the screen's plane. */
export function CameraSight({ plan, projection: { axis, across, down, stroke } }: Drawn & { plan: Plan }) {
  const { camera } = plan;
  const view = cameraView(plan);
  const half = axis === 'above' ? camera.sensorWidth / 2 / view.image : camera.sensorHeight / 2 / view.image;
  const middle = Math.tan(((axis === 'above' ? camera.pan : camera.tilt) * Math.PI) / 180);
  const at = camera.position;
  const end = (side: 1 | -1): Vec => {
    const slope = (middle + side * half) / Math.max(0.2, 1 - side * half * middle);
    return axis === 'above' ? { x: at.x + slope * at.z, y: 0, z: 0 } : { x: 0, y: at.y + slope * at.z, z: 0 };
  };
  return (
    <path
      d={`M ${across(at)} ${down(at)} L ${across(end(1))} ${down(end(1))} L ${across(end(-1))} ${down(end(-1))} Z`}
      fill="var(--accent)"
      fillOpacity={0.07}
      stroke="var(--accent)"
      strokeOpacity={0.5}
      strokeWidth={stroke}
    />
  );
}
