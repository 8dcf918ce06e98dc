import { Box, styled } from '@mui/material';
import { useEffect, useRef, useState, type MouseEvent } from 'react';
import type { RibbonSheet } from '../../../contract/index.ts';
import type { Place } from '../../../core/cut/places.ts';
import { cutViews, type CutView } from '../../../core/place/index.ts';
import { NoteOver } from '../../shared/layout.tsx';
import { api } from '../../state/api.ts';
import { attempt } from '../../state/store.ts';
import { tones } from '../../theme.ts';
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

/** What a cut alone can be shown as it is shown as here too; the photograph and a background are not unrolled. */
function viewOf(shown: FrameBench['shown']): CutView {
  return cutViews.find((view) => view === shown) ?? 'grey';
}

/** The outline of the stored cut, unrolled and wrapped into rows; a click leads to the place on the frame. */
export function Ribbon({ bench }: { bench: FrameBench }) {
  const { frame, shown, quality } = bench;
  const box = useRef<HTMLDivElement>(null);
  const [sheet, setSheet] = useState<RibbonSheet>();
  const view = viewOf(shown);
  const version = frame.cut?.version;
  useEffect(() => {
    let current = true;
    setSheet(undefined);
    const across = Math.max(100, Math.min(4000, (box.current?.clientWidth ?? 700) - BESIDE));
    void attempt(api.ribbon(frame, view, across)).then((made) => {
      if (!current) return;
      // Why it cannot be had is said; the picture comes back.
      if (made) setSheet(made);
      else bench.unroll(false);
    });
    return () => void (current = false);
    // The version names all that the ribbon is made of.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [frame.id, version, view]);
  const lookAt = (event: MouseEvent<HTMLElement>): void => {
    if (!sheet) return;
    const { left, top } = event.currentTarget.getBoundingClientRect();
    const column = Math.floor((event.clientY - top) / sheet.row) * sheet.width + (event.clientX - left);
    const n = Math.min(sheet.places.length / 2 - 1, Math.max(0, Math.round(column / sheet.step)));
    const [x, y] = [sheet.places[2 * n], sheet.places[2 * n + 1]];
    bench.unroll(false);
    bench.setSight({ x: x * frame.width, y: y * frame.height, scale: 1 });
  };
  const doubtful = (quality?.doubts ?? []).flatMap(({ places }) => places);
  return (
    <Sheet ref={box}>
      {sheet ? (
        <Box
          role="img"
          aria-label={`${frame.name}, outline of ${sheet.length} pixels, outside above`}
          sx={{ width: sheet.width, height: sheet.height, m: 1 }}
          onClick={lookAt}
        >
          <img src={sheet.picture} alt="" width={sheet.width} height={sheet.height} />
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
          </svg>
        </Box>
      ) : (
        <NoteOver>Unrolling the outline …</NoteOver>
      )}
      {sheet && shownOf(sheet) < sheet.length && (
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
