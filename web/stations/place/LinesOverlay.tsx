import { styled } from '@mui/material';
import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import type { LinePair, Point } from '../../../core/place/lens.ts';

const Sheet = styled('svg')`
  position: absolute;
  inset: 0;
  z-index: 2;
  touch-action: none;
  & .end {
    cursor: move;
  }
  & .end:focus-visible {
    outline: none;
  }
  & .end:focus-visible > circle {
    stroke: var(--accent);
    stroke-width: 3;
  }
`;

/** Share of the picture by which an arrow key moves an end. */
const STEP = 0.002;

/** Two lines over the picture whose ends are dragged, or moved by arrow keys, to lie along lines of the scene. */
export function LinesOverlay({
  lines: given,
  width,
  height,
  onChange,
}: {
  lines: LinePair;
  width: number;
  height: number;
  onChange: (lines: LinePair) => void;
}) {
  const [draft, setDraft] = useState<LinePair>();
  const held = useRef<{ line: number; end: number }>(undefined);
  const lines = draft ?? given;
  const put = (line: number, end: number, { x, y }: Point): LinePair => {
    const inside = (value: number): number => Math.max(0, Math.min(1, value));
    const next = lines.map((ends, n) =>
      n === line ? ends.map((at, m) => (m === end ? { x: inside(x), y: inside(y) } : at)) : ends,
    );
    return next as unknown as LinePair;
  };
  const end = (line: number, which: number) => ({
    className: 'end',
    role: 'button',
    tabIndex: 0,
    'aria-label': `Line ${line + 1}, ${which ? 'other end' : 'one end'}; arrow keys move it`,
    onPointerDown: (event: PointerEvent<SVGGElement>) => {
      event.preventDefault();
      event.stopPropagation();
      event.currentTarget.focus();
      event.currentTarget.setPointerCapture(event.pointerId);
      held.current = { line, end: which };
    },
    onPointerMove: (event: PointerEvent<SVGGElement>) => {
      const box = event.currentTarget.ownerSVGElement?.getBoundingClientRect();
      if (!held.current || !box) return;
      setDraft(
        put(line, which, { x: (event.clientX - box.left) / box.width, y: (event.clientY - box.top) / box.height }),
      );
    },
    onPointerUp: () => {
      held.current = undefined;
      if (draft) onChange(draft);
      setDraft(undefined);
    },
    onKeyDown: (event: KeyboardEvent) => {
      const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key];
      if (!by) return;
      event.preventDefault();
      event.nativeEvent.stopImmediatePropagation();
      const step = STEP * (event.shiftKey ? 10 : 1);
      const { x, y } = lines[line][which];
      onChange(put(line, which, { x: x + by[0] * step, y: y + by[1] * step }));
    },
  });
  return (
    <Sheet
      viewBox={`0 0 ${width} ${height}`}
      width={width}
      height={height}
      role="group"
      aria-label="Lines of the scene"
    >
      {lines.map(([from, to], n) => (
        <g key={n} strokeLinecap="round">
          {['#000', '#fff'].map((stroke, m) => (
            <line
              key={stroke}
              {...{ x1: from.x * width, y1: from.y * height, x2: to.x * width, y2: to.y * height }}
              stroke={stroke}
              strokeWidth={m ? 1.5 : 3.5}
            />
          ))}
          {[from, to].map((at, which) => (
            <g key={which} {...end(n, which)}>
              <circle cx={at.x * width} cy={at.y * height} r={8} fill="#fff" fillOpacity={0.35} stroke="#000" />
              <circle cx={at.x * width} cy={at.y * height} r={2} fill="#000" />
            </g>
          ))}
        </g>
      ))}
    </Sheet>
  );
}
