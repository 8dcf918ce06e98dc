import { Box, ToggleButton } from '@mui/material';
import { useEffect, useState } from 'react';
import { pictures } from '../../../state/api.ts';
import type { Stop, useWalk } from './useWalk.ts';

/** Places that have one cause with the one that is asked about, and are answered with it. */
interface Together {
  on: boolean;
  toggle: () => void;
  /** Those that an answer is for; undefined while it is for one alone. */
  meant: Stop[] | undefined;
  leftOut: ReadonlySet<string>;
  leave: (key: string) => void;
}

export function useTogether({ now, alike }: Pick<ReturnType<typeof useWalk>, 'now' | 'alike'>): Together {
  const [on, setOn] = useState(false);
  const [leftOut, setLeftOut] = useState<ReadonlySet<string>>(new Set());
  const key = now?.key;
  useEffect(() => {
    setOn(false);
    setLeftOut(new Set());
  }, [key]);
  return {
    on: on && alike.length > 1,
    toggle: () => setOn((before) => !before),
    meant: on && alike.length > 1 ? alike.filter((stop) => !leftOut.has(stop.key)) : undefined,
    leftOut,
    leave: (one) =>
      setLeftOut(
        (before) => new Set(before.has(one) ? [...before].filter((other) => other !== one) : [...before, one]),
      ),
  };
}

/** Side of a picture, and pixels of a frame that are fetched for it at most. */
const SIDE = 84;
const MOST_PIXELS = 1200;
/** How much wider than its place a picture is. */
const AROUND = 1.4;

/** Each place as its frame shows it now; one that is pressed is left out. */
export function AlikeStrip({ stops, together }: { stops: readonly Stop[]; together: Together }) {
  return (
    <Box role="group" aria-label="All like this" sx={{ display: 'flex', gap: 1, px: 2.5, py: 0.75, overflowX: 'auto' }}>
      {stops.map((stop) => (
        <ToggleButton
          key={stop.key}
          value={stop.key}
          selected={!together.leftOut.has(stop.key)}
          onChange={() => together.leave(stop.key)}
          aria-label={stop.frame.name}
          sx={{ p: 0.25, flex: 'none', display: 'block', opacity: together.leftOut.has(stop.key) ? 0.35 : 1 }}
        >
          <img
            src={pictures.region(stop.frame, 'grey', areaOf(stop))}
            alt=""
            loading="lazy"
            style={{ width: SIDE, height: SIDE, objectFit: 'cover', display: 'block', background: 'var(--surround)' }}
          />
          <span style={{ fontSize: 11 }}>{stop.frame.name}</span>
        </ToggleButton>
      ))}
    </Box>
  );
}

/** A square of the frame around a place. */
function areaOf({ frame, question: { place } }: Stop) {
  const wanted = AROUND * Math.max(place.width * frame.width, place.height * frame.height);
  const side = Math.round(Math.min(MOST_PIXELS, frame.width, frame.height, Math.max(SIDE, wanted)));
  const start = (middle: number, most: number): number =>
    Math.round(Math.min(most - side, Math.max(0, middle - side / 2)));
  return {
    x: start((place.x + place.width / 2) * frame.width, frame.width),
    y: start((place.y + place.height / 2) * frame.height, frame.height),
    width: side,
    height: side,
  };
}
