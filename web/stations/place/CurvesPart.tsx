import { Box, Button, styled, ToggleButton, ToggleButtonGroup } from '@mui/material';
import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import {
  areStraight,
  curveChannels,
  curvePoints,
  curveThrough,
  straightCurves,
  type CurveChannel,
  type CurvePoint,
  type Curves,
} from '../../../core/place/curves.ts';
import { Actions, Fields } from '../../shared/layout.tsx';
import { NumberField } from '../../shared/NumberField.tsx';

const Sheet = styled('svg')`
  display: block;
  width: 100%;
  aspect-ratio: 1.4;
  background: var(--paper);
  touch-action: none;
  cursor: crosshair;
  & .grip {
    cursor: move;
  }
  & .grip:focus-visible {
    outline: none;
  }
  & .grip:focus-visible > rect {
    stroke: var(--accent);
    stroke-width: 3;
  }
`;

const WIDTH = 280;
const HEIGHT = 200;
const EDGE = 8;
const xOf = (tone: number): number => EDGE + (WIDTH - 2 * EDGE) * tone;
const yOf = (tone: number): number => HEIGHT - EDGE - (HEIGHT - 2 * EDGE) * tone;
const STEP = 0.01;
const channels = Object.keys(curveChannels) as CurveChannel[];
const percent = (tone: number): string => `${Math.round(100 * tone)} %`;

/** Which tone becomes which over the whole picture: points on a curve that are set, dragged, nudged or typed. */
export function CurvesPart({
  curves: kept,
  onChange,
}: {
  curves: Curves | null;
  onChange: (next: Curves | null) => void;
}) {
  const [channel, setChannel] = useState<CurveChannel>('all');
  const [draft, setDraft] = useState<CurvePoint[]>();
  const [held, hold] = useState(0);
  const moving = useRef<{ n: number; points: CurvePoint[] }>(undefined);
  const drawing = useRef<SVGSVGElement>(null);
  const curves = kept ?? straightCurves;
  const points = draft ?? curves[channel];
  const chosen = Math.min(held, points.length - 1);
  const keep = (next: CurvePoint[]): void => {
    setDraft(undefined);
    const all = { ...curves, [channel]: next };
    onChange(areStraight(all) ? null : all);
  };
  const toneAt = ({ clientX, clientY }: PointerEvent): CurvePoint => {
    const box = drawing.current?.getBoundingClientRect() ?? new DOMRect(0, 0, 1, 1);
    const inside = (value: number): number => Math.max(0, Math.min(1, value));
    return {
      from: inside((((clientX - box.left) / box.width) * WIDTH - EDGE) / (WIDTH - 2 * EDGE)),
      to: inside(1 - (((clientY - box.top) / box.height) * HEIGHT - EDGE) / (HEIGHT - 2 * EDGE)),
    };
  };
  const remove = (n: number): void => {
    if (points.length > curvePoints.fewest) keep(points.toSpliced(n, 1));
  };
  const grip = (n: number) => ({
    className: 'grip',
    role: 'slider',
    tabIndex: 0,
    'aria-label': `Point ${n + 1} of ${points.length}`,
    'aria-valuemin': 0,
    'aria-valuemax': 100,
    'aria-valuenow': Math.round(100 * points[n].to),
    'aria-valuetext': `${percent(points[n].from)} becomes ${percent(points[n].to)}`,
    onFocus: () => hold(n),
    onPointerDown: (event: PointerEvent<SVGGElement>) => {
      event.stopPropagation();
      hold(n);
      drawing.current?.setPointerCapture(event.pointerId);
      moving.current = { n, points };
    },
    onDoubleClick: () => remove(n),
    onKeyDown: (event: KeyboardEvent) => {
      const across = { ArrowRight: 1, ArrowLeft: -1 }[event.key] ?? 0;
      const up = { ArrowUp: 1, ArrowDown: -1 }[event.key] ?? 0;
      if (event.key === 'Delete' || event.key === 'Backspace') remove(n);
      else if (across || up) keep(moved(points, n, stepped(points[n], across, up)));
      else return;
      event.preventDefault();
      event.stopPropagation();
    },
  });
  const curve = curveThrough(points);
  const line = Array.from({ length: 101 }, (_, n) => `${xOf(n / 100)},${yOf(clamped(curve(n / 100)))}`).join(' ');
  const named = chosen === 0 ? 'darkest' : chosen === points.length - 1 ? 'lightest' : `${chosen + 1}`;
  return (
    <Box role="group" aria-label="Curves" sx={{ display: 'grid', gap: 1 }}>
      <ToggleButtonGroup
        exclusive
        size="small"
        value={channel}
        onChange={(_, next: CurveChannel | null) => {
          if (!next) return;
          setChannel(next);
          hold(0);
        }}
        aria-label="Channel"
      >
        {channels.map((name) => (
          <ToggleButton key={name} value={name} sx={{ px: 1, py: 0.25 }}>
            {curveChannels[name]}
            {areStraight({ ...straightCurves, [name]: curves[name] }) ? '' : ' ·'}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      <Sheet
        ref={drawing}
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        preserveAspectRatio="none"
        role="group"
        aria-label={`Curve of ${curveChannels[channel].toLowerCase()}`}
        onPointerDown={(event) => {
          const at = toneAt(event);
          const next = withPoint(points, at);
          if (!next) return;
          event.currentTarget.setPointerCapture(event.pointerId);
          const n = next.findIndex(({ from }) => from === at.from);
          hold(n);
          moving.current = { n, points: next };
          setDraft(next);
        }}
        onPointerMove={(event) => {
          if (!moving.current) return;
          const { n, points: before } = moving.current;
          setDraft(moved(before, n, toneAt(event)));
        }}
        onPointerUp={() => {
          if (moving.current && draft) keep(draft);
          moving.current = undefined;
        }}
        onPointerCancel={() => {
          moving.current = undefined;
          setDraft(undefined);
        }}
      >
        {[0.25, 0.5, 0.75].map((tone) => (
          <g key={tone} stroke="var(--hairline)">
            <line x1={xOf(tone)} x2={xOf(tone)} y1={yOf(0)} y2={yOf(1)} />
            <line x1={xOf(0)} x2={xOf(1)} y1={yOf(tone)} y2={yOf(tone)} />
          </g>
        ))}
        <line x1={xOf(0)} y1={yOf(0)} x2={xOf(1)} y2={yOf(1)} stroke="var(--rule)" strokeDasharray="2 2" />
        <polyline points={line} fill="none" stroke="var(--ink)" strokeWidth={1.5} />
        {points.map(({ from, to }, n) => (
          <g key={n} {...grip(n)}>
            <rect
              x={xOf(from) - 5}
              y={yOf(to) - 5}
              width={10}
              height={10}
              fill={n === chosen ? 'var(--accent)' : 'var(--ink)'}
              stroke="#fff"
            />
          </g>
        ))}
      </Sheet>
      <Fields as="div">
        {(['from', 'to'] as const).map((side) => (
          <NumberField
            key={side}
            label={side === 'from' ? `Point ${named}: tone` : 'becomes'}
            unit="%"
            value={points[chosen][side]}
            min={0}
            max={1}
            step={STEP}
            factor={100}
            digits={0}
            onChange={(value) => keep(moved(points, chosen, { ...points[chosen], [side]: value }))}
          />
        ))}
      </Fields>
      <Actions>
        <Button variant="text" disabled={points.length <= curvePoints.fewest} onClick={() => remove(chosen)}>
          Remove this point
        </Button>
        <Button variant="text" disabled={!kept} onClick={() => onChange(null)}>
          All straight
        </Button>
      </Actions>
      <p className="quiet">
        A click sets a point, dragging moves it, arrows nudge it, Delete removes it. Tones from black, left, to white.
      </p>
    </Box>
  );
}

const clamped = (tone: number): number => Math.max(0, Math.min(1, tone));

function stepped({ from, to }: CurvePoint, across: number, up: number): CurvePoint {
  const rounded = (tone: number): number => Math.round(tone / STEP) * STEP;
  return { from: across ? rounded(from + across * STEP) : from, to: up ? clamped(rounded(to + up * STEP)) : to };
}

/** A point moved as far as its neighbours let it. */
function moved(points: readonly CurvePoint[], n: number, { from, to }: CurvePoint): CurvePoint[] {
  const least = n > 0 ? points[n - 1].from + curvePoints.apart : 0;
  const most = n < points.length - 1 ? points[n + 1].from - curvePoints.apart : 1;
  return points.with(n, { from: Math.max(least, Math.min(most, from)), to });
}

/** The points with one more; undefined where there is no room for it. */
function withPoint(points: readonly CurvePoint[], at: CurvePoint): CurvePoint[] | undefined {
  if (points.length >= curvePoints.most) return undefined;
  if (points.some(({ from }) => Math.abs(from - at.from) < curvePoints.apart)) return undefined;
  return [...points, at].sort((a, b) => a.from - b.from);
}
