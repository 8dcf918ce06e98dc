import { useEffect, useRef, useState } from 'react';
import { areaInSight, missingOf, type Point, type Sight, type Size } from './sight.ts';

/** The server hands out areas up to this size; more pixels than a screen has are never asked for. */
const MOST_DETAIL = 2400;
/** What is missing so long is asked for, ms. */
const REST = 120;
/** So much around it is asked for as well, full-size pixels: a hand that moves the picture finds it there. */
const AROUND = 256;
/** So many full-size pixels are kept at hand, four bytes each. */
const MOST_KEPT = 16e6;

/** Full-size pixels of an area. */
export interface Detail extends Point, Size {
  bitmap: ImageBitmap;
}

interface Kept {
  /** Of which cut and view they are. */
  of: string;
  pieces: Detail[];
}

/**
 * Full-size pixels where there are finer ones than in the picture, the oldest first: what has been in sight stays at
 * hand, and only what is missing is asked for, one piece at a time.
 * @param pictureWidth of what is drawn already, pixels.
 * @param addressOf where to fetch an area from; undefined if there is nothing finer.
 * @returns the pieces, and whether they cover all that is in sight.
 */
export function useDetail(
  sight: Sight,
  box: Size,
  size: Size,
  pictureWidth: number | undefined,
  addressOf: ((area: Point & Size) => string) | undefined,
): { pieces: readonly Detail[]; sharp: boolean } {
  const [kept, setKept] = useState<Kept>();
  /** What is asked for now; what cannot be had is not asked for again. */
  const [asking, setAsking] = useState<{ of: string; address: string; area: Point & Size }>();
  const refused = useRef<string>(undefined);
  // The address of no area tells one cut and view from the others.
  const of = addressOf?.({ x: 0, y: 0, width: 0, height: 0 });
  const pieces = kept && kept.of === of ? kept.pieces : none;
  const area = areaInSight(sight, box, size);
  const finer =
    of !== undefined &&
    pictureWidth !== undefined &&
    sight.scale > pictureWidth / size.width &&
    area.width > 0 &&
    handedOut(area);
  const missing = finer && missingOf(area, pieces) !== undefined;
  const wide = areaInSight(sight, box, size, AROUND);
  const wanted = missing ? missingOf(handedOut(wide) ? wide : area, pieces) : undefined;
  const address = wanted && addressOf?.(wanted);
  const busy = asking !== undefined && asking.of === of;
  const next = useRef<typeof asking>(undefined);
  next.current = of !== undefined && wanted && address ? { of, address, area: wanted } : undefined;
  const waits = next.current !== undefined && !busy && address !== refused.current;
  useEffect(() => {
    if (!waits) return;
    // What is missing by then, wherever the hand has moved to.
    const timer = setTimeout(() => setAsking(next.current), REST);
    return () => clearTimeout(timer);
  }, [waits, of]);
  useEffect(() => {
    if (!asking) return;
    const stop = new AbortController();
    fetch(asking.address, { signal: stop.signal })
      .then((response) => (response.ok ? response.blob() : Promise.reject(new Error(response.statusText))))
      .then((blob) => createImageBitmap(blob))
      .then((bitmap) => setKept((before) => withPiece(before, asking.of, { bitmap, ...asking.area })))
      .catch(() => {
        if (!stop.signal.aborted) refused.current = asking.address;
      })
      .finally(() => stop.signal.aborted || setAsking(undefined));
    return () => stop.abort();
  }, [asking]);
  return { pieces: finer ? pieces : none, sharp: finer && !missing };
}

const none: readonly Detail[] = [];

const handedOut = ({ width, height }: Size): boolean => Math.max(width, height) <= MOST_DETAIL;

/** With one more piece; the oldest go where there are too many. */
function withPiece(kept: Kept | undefined, of: string, piece: Detail): Kept {
  const pieces = [...(kept && kept.of === of ? kept.pieces : none), piece];
  const pixels = (): number => pieces.reduce((sum, { width, height }) => sum + width * height, 0);
  while (pieces.length > 1 && pixels() > MOST_KEPT) pieces.shift();
  return { of, pieces };
}
