import { Box, styled } from '@mui/material';
import { useEffect, useRef, useState, type KeyboardEvent, type MouseEvent, type PointerEvent } from 'react';
import { viewSchema, type RibbonSheet, type View } from '../../../contract/index.ts';
import type { Place } from '../../../core/cut/places.ts';
import { NoteOver } from '../../shared/layout.tsx';
import { api } from '../../state/api.ts';
import { attempt } from '../../state/store.ts';
import { tones } from '../../theme.ts';
import { placeOnFrame, rowAt } from './ribbonPlaces.ts';
import type { Point } from './sight.ts';
import type { FrameBench } from './useFrameBench.ts';

const Sheet = styled('div')`
  position: relative;
  overflow: auto;
  min-height: 0;
  & > div {
    position: relative;
    cursor: crosshair;
  }
  & img {
    display: block;
  }
  & svg {
    position: absolute;
    inset: 0;
    pointer-events: none;
  }
`;

/** Room beside a row, for margins and a scroll bar, pixels. */
const BESIDE = 34;

/** What full-size pixels can be shown as the outline can too; the others as on mid-grey. */
function viewOf(shown: FrameBench['shown']): View {
  return viewSchema.safeParse(shown).data ?? 'grey';
}

/**
 * The outline of the stored cut, unrolled and wrapped into rows, and along it the cut as it is wanted now; a click leads
 * to the place on the frame, a brush in the hand paints there.
 */
export function Ribbon({ bench }: { bench: FrameBench }) {
  const { frame, shown, quality } = bench;
  const box = useRef<HTMLDivElement>(null);
  /** Where the keys are, in columns. */
  const [at, setAt] = useState<number>();
  const [sheet, setSheet] = useState<RibbonSheet>();
  const view = viewOf(shown);
  const version = frame.cut?.version;
  const on = view === 'background' ? frame.placement : undefined;
  /** Fingerprint of the cut that is wanted now; while a change is on its way, what was made before stays. */
  const { wanted, asShown } = bench;
  const changed = asShown ? undefined : wanted;
  useEffect(() => setSheet(undefined), [frame.id, version, view, on]);
  useEffect(() => {
    if (!asShown && !wanted) return;
    let current = true;
    const across = Math.max(100, Math.min(4000, (box.current?.clientWidth ?? 700) - BESIDE));
    void attempt(api.ribbon(frame, view, across, changed)).then((made) => {
      if (!current) return;
      // Why it cannot be had is said; the picture comes back.
      if (made) setSheet(made);
      else bench.unroll(false);
    });
    return () => void (current = false);
    // The version names all that the ribbon is made of.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [frame.id, version, view, on, asShown, changed]);
  const lookAt = (column: number): void => {
    if (!sheet) return;
    const n = Math.min(sheet.places.length / 2 - 1, Math.max(0, Math.round(column / sheet.step)));
    const [x, y] = [sheet.places[2 * n], sheet.places[2 * n + 1]];
    bench.unroll(false);
    bench.setSight({ x: x * frame.width, y: y * frame.height, scale: 1 });
  };
  const press = ({ clientX, clientY, currentTarget }: MouseEvent<HTMLElement>): void => {
    if (!sheet) return;
    const { left, top } = currentTarget.getBoundingClientRect();
    lookAt(Math.floor((clientY - top) / sheet.row) * sheet.width + (clientX - left));
  };
  const steer = (event: KeyboardEvent<HTMLElement>): void => {
    if (!sheet) return;
    const steps: Record<string, number> = {
      ArrowLeft: -sheet.step,
      ArrowRight: sheet.step,
      ArrowUp: -sheet.width,
      ArrowDown: sheet.width,
    };
    if (event.key === 'Enter') lookAt(at ?? 0);
    else if (event.key in steps) setAt((now = 0) => Math.min(shownOf(sheet) - 1, Math.max(0, now + steps[event.key])));
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const painting = usePainting(bench, sheet);
  const doubtful = (quality?.doubts ?? []).flatMap(({ places }) => places);
  return (
    <Sheet ref={box}>
      {sheet ? (
        <Box
          role="img"
          aria-label={`${frame.name}, outline of ${sheet.length} pixels, outside above; arrows and Enter lead to a place`}
          sx={{ width: sheet.width, height: sheet.height, m: 1, touchAction: bench.stroking ? 'none' : undefined }}
          tabIndex={0}
          onClick={bench.stroking ? undefined : press}
          {...painting.hand}
          onKeyDown={steer}
          onFocus={() => setAt((now) => now ?? 0)}
        >
          <img src={sheet.picture} alt="" draggable={false} width={sheet.width} height={sheet.height} />
          <svg width={sheet.width} height={sheet.height} aria-hidden>
            {stretches(sheet, doubtful).map(([from, to]) => (
              <line
                key={from}
                x1={from % sheet.width}
                x2={(from % sheet.width) + to - from}
                y1={Math.floor(from / sheet.width) * sheet.row + sheet.row - 2}
                y2={Math.floor(from / sheet.width) * sheet.row + sheet.row - 2}
                stroke={tones.accent}
                strokeWidth={3}
              />
            ))}
            {painting.strokes.map((points, n) => (
              <polyline
                key={n}
                points={points.map(({ x, y }) => `${x},${y}`).join(' ')}
                fill="none"
                stroke={tones.accent}
                strokeWidth={painting.width}
                strokeOpacity={0.4}
                strokeLinecap="round"
                strokeLinejoin="round"
              />
            ))}
            {at !== undefined && (
              <rect
                x={(at % sheet.width) - 4}
                y={Math.floor(at / sheet.width) * sheet.row}
                width={9}
                height={sheet.row - 4}
                fill="none"
                stroke={tones.accent}
                strokeWidth={2}
              />
            )}
          </svg>
        </Box>
      ) : (
        <NoteOver>Unrolling the outline …</NoteOver>
      )}
      {sheet && painting.strokes.length > 0 && <NoteOver>Painted; what it does is being computed …</NoteOver>}
      {sheet && painting.strokes.length === 0 && shownOf(sheet) < sheet.length && (
        <NoteOver>
          The longest lines, <span className="figure">{Math.round((100 * shownOf(sheet)) / sheet.length)} %</span> of
          the outline.
        </NoteOver>
      )}
    </Sheet>
  );
}

/** Pixels of the outline that a sheet has room for. */
function shownOf({ width, height, row }: RibbonSheet): number {
  return width * Math.round(height / row);
}

/** From where to where, in columns and within one row each, the outline runs through doubtful places. */
export function stretches(
  { places, step, width }: Pick<RibbonSheet, 'places' | 'step' | 'width'>,
  doubtful: readonly Place[],
): [number, number][] {
  const found: [number, number][] = [];
  for (let n = 0; n < places.length / 2; n++) {
    const [x, y] = [places[2 * n], places[2 * n + 1]];
    if (!doubtful.some((p) => x >= p.x && x <= p.x + p.width && y >= p.y && y <= p.y + p.height)) continue;
    const from = n * step;
    const to = Math.min(from + step, (Math.floor(from / width) + 1) * width);
    const last = found.at(-1);
    if (last && last[1] === from && from % width !== 0) last[1] = to;
    else found.push([from, to]);
  }
  return found;
}

/** What a brush does on the sheet; strokes stay in sight until another sheet shows what became of them. */
function usePainting({ frame, brush, stroking }: FrameBench, sheet: RibbonSheet | undefined) {
  const [strokes, setStrokes] = useState<Point[][]>([]);
  /** The stroke under way: the pointer that draws it, and the row that it stays in. */
  const under = useRef<{ pointer: number; row: number; points: Point[] }>(undefined);
  useEffect(() => setStrokes([]), [sheet]);
  const pointOf = ({ clientX, clientY, currentTarget }: PointerEvent<HTMLElement>): Point => {
    const { left, top } = currentTarget.getBoundingClientRect();
    return { x: clientX - left, y: clientY - top };
  };
  const draw = (points: Point[]): void => setStrokes((now) => [...now.slice(0, -1), points]);
  return {
    strokes,
    width: Math.max(1, (brush?.zone ? 0 : (brush?.size ?? 0)) * frame.height),
    hand: sheet &&
      stroking && {
        onPointerDown: (event: PointerEvent<HTMLElement>): void => {
          if (event.button !== 0 || under.current) return;
          event.currentTarget.setPointerCapture(event.pointerId);
          const first = pointOf(event);
          under.current = { pointer: event.pointerId, row: rowAt(sheet, first.y), points: [first] };
          setStrokes((now) => [...now, [first, first]]);
        },
        onPointerMove: (event: PointerEvent<HTMLElement>): void => {
          const now = under.current;
          if (now?.pointer !== event.pointerId) return;
          now.points = [...now.points, pointOf(event)];
          draw(now.points);
        },
        onPointerCancel: (): void => {
          under.current = undefined;
          setStrokes((now) => now.slice(0, -1));
        },
        onPointerUp: (event: PointerEvent<HTMLElement>): void => {
          const now = under.current;
          if (now?.pointer !== event.pointerId) return;
          under.current = undefined;
          const pressure = event.pointerType === 'pen' && event.pressure > 0 ? event.pressure : 1;
          stroking.onEnd(now.points.map((point) => ({ ...placeOnFrame(sheet, point, now.row, frame), pressure })));
        },
      },
  };
}
