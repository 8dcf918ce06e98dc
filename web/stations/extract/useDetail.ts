import { useEffect, useState } from 'react';
import { areaInSight, type Point, type Sight, type Size } from './sight.ts';

/** The server hands out areas up to this size; more pixels than a screen has are never asked for. */
const MOST_DETAIL = 2400;
/** A sight that rests so long is asked for, ms. */
const REST = 120;

/** Full-size pixels of an area. */
export interface Detail extends Point, Size {
  bitmap: ImageBitmap;
}

/**
 * Full-size pixels of what is in sight, where there are finer ones than in the picture.
 * @param pictureWidth of what is drawn already, pixels.
 * @param addressOf where to fetch an area from; undefined if there is nothing finer.
 */
export function useDetail(
  sight: Sight,
  box: Size,
  size: Size,
  pictureWidth: number | undefined,
  addressOf: ((area: Point & Size) => string) | undefined,
): Detail | undefined {
  const [detail, setDetail] = useState<Detail & { address: string }>();
  const area = areaInSight(sight, box, size);
  const finer =
    pictureWidth !== undefined &&
    sight.scale > pictureWidth / size.width &&
    [area.width, area.height].every((side) => side > 0 && side <= MOST_DETAIL);
  const address = finer ? addressOf?.(area) : undefined;
  useEffect(() => {
    if (!address) return;
    const stop = new AbortController();
    const timer = setTimeout(() => {
      fetch(address, { signal: stop.signal })
        .then((response) => (response.ok ? response.blob() : Promise.reject(new Error(response.statusText))))
        .then((blob) => createImageBitmap(blob))
        .then((bitmap) => setDetail({ address, bitmap, ...area }))
        .catch(() => undefined);
    }, REST);
    return () => (clearTimeout(timer), stop.abort());
    // The address says everything that matters about the area.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [address]);
  return detail?.address === address ? detail : undefined;
}
