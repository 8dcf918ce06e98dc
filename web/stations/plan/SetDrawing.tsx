import { styled } from '@mui/material';
import { useRef } from 'react';
import { lengthWords, type Plan, type Units, type Vec } from '../../../core/plan/index.ts';
import { CameraMark, CameraSight, LampMark, PersonMark, ScreenLine, Sweep } from './SetThings.tsx';
import { projectionOf, type Axis, type SetProjection } from './setProjection.ts';
import type { ThingId } from './things.ts';
import { useGrips } from './useGrips.ts';

interface Props {
  plan: Plan;
  units: Units;
  chosen: ThingId;
  onChoose: (id: ThingId) => void;
  /** While something is dragged; undefined when it is dropped where it was. */
  onDraft: (plan: Plan | undefined) => void;
  onChange: (plan: Plan, label: string) => void;
}

/** Around the room, for the marks of length, m. */
const MARGIN = 0.28;

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

function View({ axis, title, ...hand }: Props & { axis: Axis; title: string }) {
  const svg = useRef<SVGSVGElement>(null);
  const { plan, units, chosen, onChoose } = hand;
  const grip = useGrips(svg, axis, title, hand);
  const projection = projectionOf(plan, axis);
  const { width, height, stroke, font } = projection;
  const { outdoors } = plan.room;
  const lamps = plan.lamps
    .filter(({ kind }) => kind !== 'sun' && kind !== 'overcast')
    .map((lamp) => ({ lamp, at: lamp.kind === 'ring' ? plan.camera.position : lamp.position }));
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
        viewBox={`${-MARGIN} ${-MARGIN} ${width + 2 * MARGIN} ${height + 2 * MARGIN}`}
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
          stroke={outdoors ? 'var(--hairline)' : 'var(--ink)'}
          strokeWidth={stroke}
          strokeDasharray={outdoors ? `${stroke * 6}` : undefined}
        />
        <CameraSight plan={plan} projection={projection} />
        <Sweep plan={plan} projection={projection} />
        <g
          role="button"
          tabIndex={0}
          aria-label={`Screen, ${title.toLowerCase()}`}
          className={`thing${chosen === 'screen' ? ' chosen' : ''}`}
          onPointerDown={() => onChoose('screen')}
          onFocus={() => onChoose('screen')}
        >
          <ScreenLine plan={plan} projection={projection} />
        </g>
        {lamps.map(({ lamp, at }, n) => (
          <LampMark
            key={lamp.id}
            lamp={lamp}
            at={at}
            active={chosen === `lamp:${lamp.id}` || chosen === `aim:${lamp.id}`}
            behind={lamps.slice(0, n).filter((other) => apart(projection, other.at, at) < 0.3).length}
            projection={projection}
            grip={grip}
          />
        ))}
        {plan.people.map((person) => (
          <PersonMark key={person.id} person={person} projection={projection} grip={grip} />
        ))}
        <CameraMark plan={plan} projection={projection} grip={grip} />
      </svg>
    </figure>
  );
}

/** Metres between two places as they are drawn. */
function apart({ across, down }: SetProjection, a: Vec, b: Vec): number {
  return Math.hypot(across(a) - across(b), down(a) - down(b));
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
