import { styled } from '@mui/material';
import { useCallback, useEffect, useRef, useState, type PointerEvent, type ReactNode } from 'react';

const Stage = styled('div')`
  position: relative;
  min-height: 0;
  min-width: 0;
  overflow: hidden;
  touch-action: none;
  cursor: grab;
  &:active {
    cursor: grabbing;
  }
  & > canvas {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
  }
  & > .over {
    position: absolute;
    inset: 0;
    pointer-events: none;
  }
`;

/** From a point of the frame, in shares, to the viewer's pixels, and back. */
export interface Projection {
  width: number;
  height: number;
  /** Viewer's pixels to one of the file. */
  scale: number;
  project: (point: { x: number; y: number }) => { x: number; y: number };
  unproject: (point: { x: number; y: number }) => { x: number; y: number };
}

/** Which part of the picture the viewer shows: full-size pixel in its middle, and screen pixels per full-size pixel. */
export interface Sight {
  x: number;
  y: number;
  scale: number;
}

interface Props {
  /** What to draw; any size, it stands for the whole frame. */
  picture: ImageBitmap | undefined;
  /** Size of the frame in full-size pixels. */
  size: { width: number; height: number };
  /** Fetches full-size pixels of an area, if there are finer ones than in `picture`. */
  detail?: (area: { x: number; y: number; width: number; height: number }) => string;
  label: string;
  /** undefined shows the whole picture. */
  sight: Sight | undefined;
  onSight: (sight: Sight | undefined) => void;
  /** Drawn over the picture. */
  overlay?: (projection: Projection) => ReactNode;
  /** A click that was no drag; where, in shares of the frame. */
  onPick?: (point: { x: number; y: number }) => void;
  children?: ReactNode;
}

const MOST_SCALE = 8;
/** A pointer that moves less than this, pixels, clicks. */
const CLICK = 4;
/** The server hands out areas up to this size; more pixels than a screen has are never asked for. */
const MOST_DETAIL = 2400;

/** A picture on neutral grey: drag to move, wheel to come closer, and full-size pixels where there are some. */
export function Viewer({ picture, size, detail, label, sight, onSight, overlay, onPick, children }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const stage = useRef<HTMLDivElement>(null);
  const [box, setBox] = useState({ width: 0, height: 0 });
  const drag = useRef<{ x: number; y: number; sight: Sight } | undefined>(undefined);
  const fitted = useCallback(
    (): Sight => ({
      x: size.width / 2,
      y: size.height / 2,
      scale: Math.min((box.width - 32) / size.width, (box.height - 32) / size.height),
    }),
    [size, box],
  );
  const shown = sight ?? fitted();
  const [sharp, setSharp] = useState<{
    address: string;
    bitmap: ImageBitmap;
    x: number;
    y: number;
    width: number;
    height: number;
  }>();

  useEffect(() => {
    const element = canvas.current;
    if (!element) return;
    const observer = new ResizeObserver(([entry]) =>
      setBox({ width: entry.contentRect.width, height: entry.contentRect.height }),
    );
    observer.observe(element);
    return () => observer.disconnect();
  }, []);

  const area = visibleArea(shown, box, size);
  const finer =
    picture &&
    detail &&
    shown.scale > picture.width / size.width &&
    area.width <= MOST_DETAIL &&
    area.height <= MOST_DETAIL &&
    area.width > 0 &&
    area.height > 0;
  const address = finer ? detail(area) : undefined;
  useEffect(() => {
    if (!address) return;
    const stop = new AbortController();
    const timer = setTimeout(() => {
      fetch(address, { signal: stop.signal })
        .then((response) => (response.ok ? response.blob() : Promise.reject(new Error(response.statusText))))
        .then((blob) => createImageBitmap(blob))
        .then((bitmap) => setSharp({ address, bitmap, ...area }))
        .catch(() => undefined);
    }, 120);
    return () => (clearTimeout(timer), stop.abort());
    // The address says everything that matters about the area.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [address]);

  useEffect(() => {
    const element = canvas.current;
    const context = element?.getContext('2d');
    if (!element || !context || !box.width) return;
    const ratio = window.devicePixelRatio || 1;
    element.width = Math.round(box.width * ratio);
    element.height = Math.round(box.height * ratio);
    context.setTransform(ratio, 0, 0, ratio, 0, 0);
    context.clearRect(0, 0, box.width, box.height);
    if (!picture) return;
    // At whole scales pixels fall on pixels, so nothing is blurred.
    const whole = Number.isInteger(shown.scale) ? Math.round : (v: number): number => v;
    const left = whole(box.width / 2 - shown.x * shown.scale);
    const top = whole(box.height / 2 - shown.y * shown.scale);
    context.imageSmoothingEnabled = shown.scale < 2;
    context.imageSmoothingQuality = 'high';
    context.drawImage(picture, left, top, size.width * shown.scale, size.height * shown.scale);
    if (sharp && sharp.address === address)
      context.drawImage(
        sharp.bitmap,
        left + sharp.x * shown.scale,
        top + sharp.y * shown.scale,
        sharp.width * shown.scale,
        sharp.height * shown.scale,
      );
  }, [picture, box, shown.x, shown.y, shown.scale, sharp, address, size]);

  useEffect(() => {
    const element = stage.current;
    if (!element) return;
    const onWheel = (event: WheelEvent): void => {
      event.preventDefault();
      const rectangle = element.getBoundingClientRect();
      const px = event.clientX - rectangle.left - rectangle.width / 2;
      const py = event.clientY - rectangle.top - rectangle.height / 2;
      const least = fitted().scale;
      const scale = Math.min(MOST_SCALE, shown.scale * Math.exp(-event.deltaY * 0.0016));
      if (scale <= least) return onSight(undefined);
      onSight(
        keepInside(
          { x: shown.x + px / shown.scale - px / scale, y: shown.y + py / shown.scale - py / scale, scale },
          size,
        ),
      );
    };
    element.addEventListener('wheel', onWheel, { passive: false });
    return () => element.removeEventListener('wheel', onWheel);
  }, [shown.x, shown.y, shown.scale, fitted, onSight, size]);

  const onDown = (event: PointerEvent<HTMLDivElement>): void => {
    event.currentTarget.setPointerCapture(event.pointerId);
    drag.current = { x: event.clientX, y: event.clientY, sight: shown };
  };
  const onMove = (event: PointerEvent<HTMLDivElement>): void => {
    if (!drag.current || !sight) return;
    const { x, y, sight: from } = drag.current;
    onSight(
      keepInside(
        { ...from, x: from.x - (event.clientX - x) / from.scale, y: from.y - (event.clientY - y) / from.scale },
        size,
      ),
    );
  };
  const onUp = (event: PointerEvent<HTMLDivElement>): void => {
    const from = drag.current;
    drag.current = undefined;
    if (!onPick || !from || Math.hypot(event.clientX - from.x, event.clientY - from.y) > CLICK) return;
    const rectangle = event.currentTarget.getBoundingClientRect();
    const x = (shown.x + (event.clientX - rectangle.left - rectangle.width / 2) / shown.scale) / size.width;
    const y = (shown.y + (event.clientY - rectangle.top - rectangle.height / 2) / shown.scale) / size.height;
    onPick({ x: Math.max(0, Math.min(1, x)), y: Math.max(0, Math.min(1, y)) });
  };
  const onDouble = (event: PointerEvent<HTMLDivElement> | React.MouseEvent<HTMLDivElement>): void => {
    if (onPick) return;
    if (sight) return onSight(undefined);
    const rectangle = event.currentTarget.getBoundingClientRect();
    const x = shown.x + (event.clientX - rectangle.left - rectangle.width / 2) / shown.scale;
    const y = shown.y + (event.clientY - rectangle.top - rectangle.height / 2) / shown.scale;
    onSight(keepInside({ x, y, scale: 1 }, size));
  };
  const left = box.width / 2 - shown.x * shown.scale;
  const top = box.height / 2 - shown.y * shown.scale;
  const projection: Projection = {
    ...box,
    scale: shown.scale,
    project: ({ x, y }) => ({ x: left + x * size.width * shown.scale, y: top + y * size.height * shown.scale }),
    unproject: ({ x, y }) => ({
      x: Math.max(0, Math.min(1, (x - left) / shown.scale / size.width)),
      y: Math.max(0, Math.min(1, (y - top) / shown.scale / size.height)),
    }),
  };
  return (
    <Stage
      ref={stage}
      className="viewer"
      onPointerDown={onDown}
      onPointerMove={onMove}
      onPointerUp={onUp}
      onDoubleClick={onDouble}
    >
      <canvas
        ref={canvas}
        role="img"
        aria-label={label}
        data-sharp={sharp !== undefined && sharp.address === address}
      />
      {overlay && box.width > 0 && <div className="over">{overlay(projection)}</div>}
      {children}
    </Stage>
  );
}

function visibleArea(sight: Sight, box: { width: number; height: number }, size: { width: number; height: number }) {
  // Rounded outwards to steps of 64 pixels, so that a small move asks for nothing new.
  const left = Math.max(0, Math.floor((sight.x - box.width / 2 / sight.scale) / 64) * 64);
  const top = Math.max(0, Math.floor((sight.y - box.height / 2 / sight.scale) / 64) * 64);
  const right = Math.min(size.width, Math.ceil((sight.x + box.width / 2 / sight.scale) / 64) * 64);
  const bottom = Math.min(size.height, Math.ceil((sight.y + box.height / 2 / sight.scale) / 64) * 64);
  return { x: left, y: top, width: right - left, height: bottom - top };
}

function keepInside(sight: Sight, size: { width: number; height: number }): Sight {
  return {
    scale: sight.scale,
    x: Math.max(0, Math.min(size.width, sight.x)),
    y: Math.max(0, Math.min(size.height, sight.y)),
  };
}
