import { styled } from '@mui/material';
import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { cameraView, fingertips, lengthWords, type Plan, type Units, type Vec } from '../../../core/plan/index.ts';
import { placeOf, withPlace, type ThingId } from './things.ts';

interface Props {
  plan: Plan;
  units: Units;
  chosen: ThingId;
  onChoose: (id: ThingId) => void;
  /** While something is dragged; undefined when it is dropped where it was. */
  onDraft: (plan: Plan | undefined) => void;
  onChange: (plan: Plan, label: string) => void;
}

/** Snap distance of dragging and nudging, m; finer with Shift. */
const SNAP = 0.05;
const FINE = 0.01;

type Axis = 'above' | 'side';

const Drawing = styled('div')`
  display: grid;
  grid-template-rows: 1.25fr 1fr;
  min-height: 0;
  min-width: 0;
  background: var(--paper);
  & figure {
    min-height: 0;
    display: grid;
    grid-template-rows: auto minmax(0, 1fr);
    border-bottom: 1px solid var(--hairline);
    padding: 5px 8px 2px;
  }
  & svg {
    width: 100%;
    height: 100%;
    touch-action: none;
    font-family: 'Archivo Variable', sans-serif;
  }
  & text {
    user-select: none;
    paint-order: stroke;
    stroke: var(--sheet);
    stroke-width: 0.05px;
  }
  & g[aria-hidden] text {
    stroke: none;
  }
  & .thing {
    color: var(--ink);
    cursor: grab;
    outline: none;
  }
  & .thing.chosen,
  & .thing:focus-visible {
    color: var(--accent);
  }
  & .thing.held {
    cursor: grabbing;
  }
  & .thing:focus-visible circle,
  & .thing:focus-visible rect[fill='transparent'] {
    stroke: var(--accent);
    stroke-width: 0.02;
  }
`;

/** The set to scale, from above and from the side. Things are dragged, or moved by arrow keys when in focus. */
export function SetDrawing(props: Props) {
  return (
    <Drawing className="set-drawing">
      <View axis="above" title="From above" {...props} />
      <View axis="side" title="From the side" {...props} />
    </Drawing>
  );
}

function View({
  axis,
  title,
  plan,
  units,
  chosen,
  onChoose,
  onDraft,
  onChange,
}: Props & { axis: Axis; title: string }) {
  const svg = useRef<SVGSVGElement>(null);
  const drag = useRef<{ id: ThingId; from: Vec; at: DOMPoint; plan: Plan; to: Plan } | undefined>(undefined);
  const [held, setHeld] = useState<ThingId>();
  const { room } = plan;
  // Everything that stands in the set is inside the drawing, even where a room outdoors has no end.
  const places = [
    plan.camera.position,
    ...plan.lamps.filter((l) => l.kind !== 'sun' && l.kind !== 'overcast').map((l) => l.position),
  ];
  const back = -Math.max(0.3, room.outdoors ? 0.6 : room.behind);
  const front = room.outdoors ? Math.max(...places.map((p) => p.z)) + 1 : room.front;
  const low =
    axis === 'above'
      ? -(room.outdoors ? Math.max(plan.screen.width, ...places.map((p) => Math.abs(p.x))) + 0.8 : room.left)
      : 0;
  const high =
    axis === 'above'
      ? room.outdoors
        ? Math.max(plan.screen.width, ...places.map((p) => Math.abs(p.x))) + 0.8
        : room.right
      : room.outdoors
        ? Math.max(plan.screen.bottom + plan.screen.height, ...places.map((p) => p.y)) + 0.5
        : room.height;
  const margin = 0.28;
  const width = front - back;
  const height = high - low;
  // Drawn with the screen on the left and the camera on the right; from above, the camera's left is at the bottom, as seen by a bird that looks along with it turned.
  const across = (p: Vec): number => p.z - back;
  const down = (p: Vec): number => (axis === 'above' ? high - p.x : high - p.y);
  const stroke = width / 500;

  const toPlan = (event: { clientX: number; clientY: number }): DOMPoint => {
    const matrix = svg.current?.getScreenCTM();
    return matrix ? new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix.inverse()) : new DOMPoint();
  };
  const moved = (id: ThingId, from: Vec, dz: number, dv: number, fine: boolean, base: Plan): Plan => {
    const snap = fine ? FINE : SNAP;
    const to = (value: number): number => Math.round(value / snap) * snap;
    const z = to(from.z + dz);
    const moving = axis === 'above' ? { ...from, z, x: to(from.x - dv) } : { ...from, z, y: to(from.y - dv) };
    return withPlace(base, id, moving);
  };
  const start = (id: ThingId) => (event: PointerEvent<SVGElement>) => {
    event.stopPropagation();
    event.currentTarget.setPointerCapture(event.pointerId);
    onChoose(id.startsWith('aim:') ? (id.replace('aim:', 'lamp:') as ThingId) : id);
    const from = placeOf(plan, id);
    if (!from) return;
    drag.current = { id, from, at: toPlan(event), plan, to: plan };
    setHeld(id);
  };
  const move = (event: PointerEvent<SVGElement>): void => {
    const now = drag.current;
    if (!now) return;
    const p = toPlan(event);
    now.to = moved(now.id, now.from, p.x - now.at.x, p.y - now.at.y, event.shiftKey, now.plan);
    onDraft(now.to);
  };
  const end = (): void => {
    const now = drag.current;
    drag.current = undefined;
    setHeld(undefined);
    if (!now) return;
    onDraft(undefined);
    if (now.to !== now.plan) onChange(now.to, `move ${nameOf(plan, now.id)}`);
  };
  const onKey = (id: ThingId) => (event: KeyboardEvent<SVGElement>) => {
    const step = event.shiftKey ? FINE : SNAP;
    const moves: Record<string, [number, number]> = {
      ArrowLeft: [-step, 0],
      ArrowRight: [step, 0],
      ArrowUp: [0, -step],
      ArrowDown: [0, step],
    };
    const change = moves[event.key];
    const from = placeOf(plan, id);
    if (event.key === 'Enter') onChoose(id);
    if (!change || !from) return;
    event.preventDefault();
    onChange(moved(id, from, change[0], change[1], true, plan), `move ${nameOf(plan, id)}`);
  };
  const grip = (id: ThingId) => ({
    role: 'button',
    tabIndex: 0,
    'aria-label': `${nameOf(plan, id)}, ${title.toLowerCase()}`,
    'aria-pressed': chosen === id,
    className: `thing${chosen === id ? ' chosen' : ''}${held === id ? ' held' : ''}`,
    onPointerDown: start(id),
    onPointerMove: move,
    onPointerUp: end,
    onPointerCancel: end,
    onKeyDown: onKey(id),
    onFocus: () => onChoose(id.startsWith('aim:') ? (id.replace('aim:', 'lamp:') as ThingId) : id),
  });
  const { screen } = plan;
  const screenTop: Vec =
    axis === 'above' ? { x: screen.width / 2, y: 0, z: 0 } : { x: 0, y: screen.bottom + screen.height, z: 0 };
  const screenLow: Vec = axis === 'above' ? { x: -screen.width / 2, y: 0, z: 0 } : { x: 0, y: screen.bottom, z: 0 };
  const font = Math.max(0.13, width / 46, height / 30);
  return (
    <figure>
      <figcaption>
        {title}
        <span className="quiet figure">
          {' '}
          {lengthWords(width, units)} × {lengthWords(height, units)}
        </span>
      </figcaption>
      <svg
        ref={svg}
        viewBox={`${-margin} ${-margin} ${width + 2 * margin} ${height + 2 * margin}`}
        role="group"
        aria-label={`The set ${title.toLowerCase()}`}
        style={{ fontSize: font }}
      >
        <Scale width={width} height={height} units={units} font={font} />
        <rect
          x={0}
          y={0}
          width={width}
          height={height}
          fill="var(--sheet)"
          stroke={room.outdoors ? 'var(--hairline)' : 'var(--ink)'}
          strokeWidth={stroke}
          strokeDasharray={room.outdoors ? `${stroke * 6}` : undefined}
        />
        <Sight plan={plan} axis={axis} across={across} down={down} stroke={stroke} />
        {screen.sweep > 0 && axis === 'above' && (
          <rect
            x={across({ x: 0, y: 0, z: 0 })}
            y={down(screenTop)}
            width={screen.sweep}
            height={screen.width}
            fill="var(--hairline)"
          />
        )}
        {screen.sweep > 0 && axis === 'side' && (
          <line
            x1={across({ x: 0, y: 0, z: 0 })}
            x2={across({ x: 0, y: 0, z: screen.sweep })}
            y1={height}
            y2={height}
            stroke="var(--ink)"
            strokeWidth={stroke * 4}
          />
        )}
        <g
          role="button"
          tabIndex={0}
          aria-label={`Screen, ${title.toLowerCase()}`}
          className={`thing${chosen === 'screen' ? ' chosen' : ''}`}
          onPointerDown={() => onChoose('screen')}
          onFocus={() => onChoose('screen')}
        >
          <line
            x1={across(screenTop)}
            x2={across(screenLow)}
            y1={down(screenTop)}
            y2={down(screenLow)}
            stroke="currentColor"
            strokeWidth={stroke * 5}
          />
          <line
            x1={across(screenTop)}
            x2={across(screenLow)}
            y1={down(screenTop)}
            y2={down(screenLow)}
            stroke="transparent"
            strokeWidth={0.22}
          />
        </g>
        {plan.lamps.map((lamp, n) => {
          // Lamps that stand behind each other share a place in the drawing; their names do not.
          const behind = plan.lamps
            .slice(0, n)
            .filter(
              (other) =>
                Math.hypot(across(other.position) - across(lamp.position), down(other.position) - down(lamp.position)) <
                0.3,
            ).length;
          if (lamp.kind === 'sun' || lamp.kind === 'overcast') return null;
          const at = lamp.kind === 'ring' ? plan.camera.position : lamp.position;
          const id: ThingId = `lamp:${lamp.id}`;
          const active = chosen === id || chosen === `aim:${lamp.id}`;
          const angle = (Math.atan2(down(lamp.aim) - down(at), across(lamp.aim) - across(at)) * 180) / Math.PI;
          const length = Math.max(0.12, axis === 'above' ? lamp.width : lamp.height);
          return (
            <g key={lamp.id}>
              <line
                x1={across(at)}
                y1={down(at)}
                x2={across(lamp.aim)}
                y2={down(lamp.aim)}
                stroke={active ? 'var(--accent)' : 'var(--rule)'}
                strokeWidth={stroke}
                strokeDasharray={`${stroke * 4} ${stroke * 4}`}
              />
              {axis === 'side' && (
                <line
                  x1={across(at)}
                  y1={down(at)}
                  x2={across(at)}
                  y2={height}
                  stroke="var(--hairline)"
                  strokeWidth={stroke}
                />
              )}
              <g {...grip(id)}>
                <g transform={`translate(${across(at)} ${down(at)}) rotate(${angle})`}>
                  <rect
                    x={-0.13}
                    y={-length / 2}
                    width={0.13}
                    height={length}
                    fill={active ? 'var(--accent)' : 'var(--ink)'}
                  />
                  <circle r={0.26} fill="transparent" />
                </g>
                <text x={across(at) + 0.2} y={down(at) - 0.16 + behind * font * 1.1} fill="currentColor">
                  {lamp.name}
                </text>
              </g>
              {active && (
                <g {...grip(`aim:${lamp.id}`)}>
                  <path
                    d="M -0.1 0 H 0.1 M 0 -0.1 V 0.1"
                    transform={`translate(${across(lamp.aim)} ${down(lamp.aim)})`}
                    stroke="var(--accent)"
                    strokeWidth={stroke * 2.4}
                  />
                  <circle cx={across(lamp.aim)} cy={down(lamp.aim)} r={0.2} fill="transparent" />
                </g>
              )}
            </g>
          );
        })}
        {plan.people.map((person) => {
          const [left, right] = fingertips(person);
          const at = { x: person.x, y: person.height * 0.93, z: person.z };
          return (
            <g key={person.id} {...grip(`person:${person.id}`)}>
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
                    cx={across(at)}
                    cy={down(at)}
                    rx={0.13}
                    ry={0.22 + (person.count - 1) * 0.25}
                    fill="var(--sheet)"
                    stroke="currentColor"
                    strokeWidth={stroke * 2}
                  />
                  <circle cx={across(at)} cy={down(at)} r={0.1} fill="currentColor" />
                  <circle cx={across(at)} cy={down(at)} r={0.28} fill="transparent" />
                </>
              ) : (
                <>
                  <line
                    x1={across(at)}
                    x2={across(at)}
                    y1={down(at)}
                    y2={height}
                    stroke="currentColor"
                    strokeWidth={stroke * 3}
                  />
                  <circle cx={across(at)} cy={down(at)} r={0.11} fill="currentColor" />
                  <rect
                    x={across(at) - 0.2}
                    y={down(at) - 0.15}
                    width={0.4}
                    height={height - down(at) + 0.15}
                    fill="transparent"
                  />
                </>
              )}
              <text x={across(at) + 0.18} y={down(at) - 0.26} fill="currentColor">
                {person.name}
              </text>
            </g>
          );
        })}
        <g {...grip('camera')}>
          <rect
            x={across(plan.camera.position)}
            y={down(plan.camera.position) - 0.09}
            width={0.2}
            height={0.18}
            fill="var(--sheet)"
            stroke="currentColor"
            strokeWidth={stroke * 2}
          />
          <rect
            x={across(plan.camera.position) - 0.09}
            y={down(plan.camera.position) - 0.05}
            width={0.09}
            height={0.1}
            fill="currentColor"
          />
          <circle
            cx={across(plan.camera.position) + 0.05}
            cy={down(plan.camera.position)}
            r={0.24}
            fill="transparent"
          />
          <text x={across(plan.camera.position) - 0.1} y={down(plan.camera.position) + 0.32} fill="currentColor">
            Camera
          </text>
        </g>
      </svg>
    </figure>
  );
}

/** What the camera sees of the set, as a wedge up to the screen's plane. */
function Sight({
  plan,
  axis,
  across,
  down,
  stroke,
}: {
  plan: Plan;
  axis: Axis;
  across: (p: Vec) => number;
  down: (p: Vec) => number;
  stroke: number;
}) {
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

/** Tick marks every half metre or foot along the edges. */
function Scale({ width, height, units, font }: { width: number; height: number; units: Units; font: number }) {
  const step = units === 'metric' ? 0.5 : 0.3048;
  const ticks = (length: number): number[] => Array.from({ length: Math.floor(length / step) + 1 }, (_, n) => n * step);
  const long = (n: number): boolean => (units === 'metric' ? n % 2 === 0 : n % 5 === 0);
  return (
    <g stroke="var(--rule)" strokeWidth={width / 700} aria-hidden="true">
      {ticks(width).map((x, n) => (
        <g key={`x${n}`}>
          <line x1={x} x2={x} y1={height} y2={height + (long(n) ? 0.1 : 0.05)} />
          {long(n) && n > 0 && (
            <text x={x} y={height + 0.25} textAnchor="middle" stroke="none" fill="var(--pencil)" fontSize={font * 0.8}>
              {units === 'metric' ? x : n}
            </text>
          )}
        </g>
      ))}
      {ticks(height).map((y, n) => (
        <line key={`y${n}`} x1={-(long(n) ? 0.1 : 0.05)} x2={0} y1={height - y} y2={height - y} />
      ))}
    </g>
  );
}

function nameOf(plan: Plan, id: ThingId): string {
  if (id === 'camera') return 'Camera';
  const [kind, key] = id.split(':');
  const lamp = plan.lamps.find((l) => l.id === key);
  if (kind === 'aim') return `Aim of ${lamp?.name ?? ''}`;
  return lamp?.name ?? plan.people.find((p) => p.id === key)?.name ?? id;
}
