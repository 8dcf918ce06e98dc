import { styled } from '@mui/material';
import {
  useEffect,
  useRef,
  useState,
  type CSSProperties,
  type MouseEvent,
  type PointerEvent,
  type ReactNode,
  type RefObject,
} from 'react';
import {
  closerSight,
  heldSight,
  pixelAt,
  projectionOf,
  wholeSight,
  type Point,
  type Projection,
  type Sight,
  type Size,
} from './sight.ts';
import type { PathPoint } from '../../../core/touch/touch.ts';
import { useDetail, type Detail } from './useDetail.ts';
import { usePinch } from './usePinch.ts';

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

interface Props {
  /** What to draw; any size, it stands for the whole frame. */
  picture: ImageBitmap | undefined;
  /** Size of the frame in full-size pixels. */
  size: Size;
  /** Fetches full-size pixels of an area, if there are finer ones than in `picture`. */
  detail?: (area: Point & Size) => string;
  label: string;
  /** Where it lies over another one. */
  over?: CSSProperties;
  /** undefined shows the whole picture. */
  sight: Sight | undefined;
  onSight: (sight: Sight | undefined) => void;
  /** Drawn over the picture. */
  overlay?: (projection: Projection) => ReactNode;
  /** A click that was no drag; where, in shares of the frame. */
  onPick?: (point: Point) => void;
  /** Where the pointer is, in shares of the frame; undefined once it has left. */
  onHover?: (point: Point | undefined) => void;
  /** While the hand holds a brush, what it does with it; the right button, or a second finger, then moves the picture. */
  stroking?: Stroking;
  children?: ReactNode;
}

/** A hand with a brush; points in shares of the frame. */
export interface Stroking {
  /** The stroke so far. */
  onStroke: (points: PathPoint[]) => void;
  onEnd: (points: PathPoint[]) => void;
  /** Notches of the wheel with Shift, or with Alt (soft). */
  onWheel: (steps: number, soft: boolean) => void;
  /** Where a straight stroke begins. */
  from: PathPoint | undefined;
}

/** A pointer that moves less than this, pixels, clicks. */
const CLICK = 4;
/** How much closer one step of the wheel leads. */
const WHEEL = 0.0016;

/** A picture on neutral grey: drag to move, wheel to come closer, and full-size pixels where there are some. */
export function Viewer(props: Props) {
  const { picture, size, detail: addressOf, label, sight, overlay, children } = props;
  const canvas = useRef<HTMLCanvasElement>(null);
  const box = useBox(canvas);
  const shown = sight ?? wholeSight(size, box);
  const { pieces, sharp } = useDetail(shown, box, size, picture?.width, addressOf);
  usePainting(canvas, { picture, pieces, shown, box, size });
  const { stage, ...hand } = useHand(props, shown, box);
  return (
    <Stage
      ref={stage}
      className="viewer"
      style={{ ...props.over, ...(props.stroking && { cursor: 'crosshair' }) }}
      {...hand}
    >
      <canvas ref={canvas} role="img" aria-label={label} data-shown={picture !== undefined} data-sharp={sharp} />
      {overlay && box.width > 0 && <div className="over">{overlay(projectionOf(shown, box, size))}</div>}
      {children}
    </Stage>
  );
}

/** How large an element is. */
function useBox(element: RefObject<HTMLElement | null>): Size {
  const [box, setBox] = useState({ width: 0, height: 0 });
  useEffect(() => {
    if (!element.current) return;
    const observer = new ResizeObserver(([{ contentRect }]) =>
      setBox({ width: contentRect.width, height: contentRect.height }),
    );
    observer.observe(element.current);
    return () => observer.disconnect();
  }, [element]);
  return box;
}

interface Painted {
  picture: ImageBitmap | undefined;
  pieces: readonly Detail[];
  shown: Sight;
  box: Size;
  size: Size;
}

/** Draws what is in sight, the finer pixels over the others. */
function usePainting(
  canvas: RefObject<HTMLCanvasElement | null>,
  { picture, pieces, shown, box, size }: Painted,
): void {
  const { x, y, scale } = shown;
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
    const whole = Number.isInteger(scale) ? Math.round : (v: number): number => v;
    const left = whole(box.width / 2 - x * scale);
    const top = whole(box.height / 2 - y * scale);
    context.imageSmoothingEnabled = scale < 2;
    context.imageSmoothingQuality = 'medium';
    const draw = (bitmap: ImageBitmap, at: Point & Size): void =>
      context.drawImage(bitmap, left + at.x * scale, top + at.y * scale, at.width * scale, at.height * scale);
    draw(picture, { x: 0, y: 0, ...size });
    for (const piece of pieces) draw(piece.bitmap, piece);
  }, [canvas, picture, pieces, x, y, scale, box, size]);
}

/** Pixels that a pointer has moved. */
function movedFrom({ x, y }: Point, { clientX, clientY }: { clientX: number; clientY: number }): number {
  return Math.hypot(clientX - x, clientY - y);
}

/** What mouse, pen and finger do. */
function useHand({ size, sight, onSight, onPick, onHover, stroking }: Props, shown: Sight, box: Size) {
  const stage = useRef<HTMLDivElement>(null);
  const drag = useRef<{ x: number; y: number; sight: Sight } | undefined>(undefined);
  const pinch = usePinch(shown, box, size, onSight);
  /** The pointer that draws, and its stroke. */
  const stroke = useRef<{ pointer: number; points: PathPoint[]; begun: Point } | undefined>(undefined);
  const pointOf = (event: { clientX: number; clientY: number }, element: Element): Point => {
    const { left, top } = element.getBoundingClientRect();
    return { x: event.clientX - left, y: event.clientY - top };
  };
  const strokePoint = (
    event: { clientX: number; clientY: number; pressure: number; pointerType: string },
    element: Element | null = stage.current,
  ): PathPoint => ({
    ...(element ? projectionOf(shown, box, size).unproject(pointOf(event, element)) : { x: 0, y: 0 }),
    // A mouse has no pressure; a finger's says nothing.
    pressure: event.pointerType === 'pen' && event.pressure > 0 ? event.pressure : 1,
  });
  const wheel = useRef<(event: WheelEvent) => void>(undefined);
  wheel.current = (event) => {
    event.preventDefault();
    // With Shift some systems turn the wheel sideways.
    const delta = event.deltaY || event.deltaX;
    if (stroking && (event.shiftKey || event.altKey)) return stroking.onWheel(delta < 0 ? 1 : -1, event.altKey);
    const pointer = pointOf(event, event.currentTarget as Element);
    onSight(closerSight(shown, Math.exp(-event.deltaY * WHEEL), pointer, box, size));
  };
  useEffect(() => {
    const element = stage.current;
    // React listens passively to wheels; a page that scrolls along would not do.
    const listen = (event: WheelEvent): void => wheel.current?.(event);
    element?.addEventListener('wheel', listen, { passive: false });
    return () => element?.removeEventListener('wheel', listen);
  }, []);
  const pick = (event: PointerEvent<HTMLDivElement>): void =>
    onPick?.(projectionOf(shown, box, size).unproject(pointOf(event, event.currentTarget)));
  return {
    stage,
    onContextMenu: (event: MouseEvent<HTMLDivElement>) => stroking && event.preventDefault(),
    onPointerDown: (event: PointerEvent<HTMLDivElement>) => {
      event.currentTarget.setPointerCapture(event.pointerId);
      if (event.pointerType === 'touch' && pinch.down(event.pointerId, pointOf(event, event.currentTarget))) {
        // A second finger: the picture is meant, and no stroke.
        if (stroke.current) stroking?.onStroke([]);
        stroke.current = undefined;
        drag.current = undefined;
        return;
      }
      if (stroking && event.button === 0 && !drag.current) {
        const first = strokePoint(event);
        const points = event.shiftKey && stroking.from ? [stroking.from, first] : [first];
        stroke.current = { pointer: event.pointerId, points, begun: { x: event.clientX, y: event.clientY } };
        return stroking.onStroke(points);
      }
      drag.current = { x: event.clientX, y: event.clientY, sight: shown };
    },
    onPointerLeave: () => onHover?.(undefined),
    onPointerMove: (event: PointerEvent<HTMLDivElement>) => {
      if (pinch.move(event.pointerId, pointOf(event, event.currentTarget))) return;
      onHover?.(projectionOf(shown, box, size).unproject(pointOf(event, event.currentTarget)));
      if (stroke.current) {
        if (!stroking || event.pointerId !== stroke.current.pointer) return;
        const now = event.nativeEvent.getCoalescedEvents?.() ?? [];
        const fresh = (now.length ? now : [event.nativeEvent]).map((one) => strokePoint(one, event.currentTarget));
        stroke.current.points = [...stroke.current.points, ...fresh];
        return stroking.onStroke(stroke.current.points);
      }
      if (!drag.current || !sight) return;
      const { x, y, sight: from } = drag.current;
      const moved = { x: from.x - (event.clientX - x) / from.scale, y: from.y - (event.clientY - y) / from.scale };
      onSight(heldSight({ ...moved, scale: from.scale }, size));
    },
    onPointerCancel: (event: PointerEvent<HTMLDivElement>) => {
      pinch.up(event.pointerId);
      drag.current = undefined;
      if (stroke.current?.pointer !== event.pointerId) return;
      stroke.current = undefined;
      stroking?.onStroke([]);
    },
    onPointerUp: (event: PointerEvent<HTMLDivElement>) => {
      if (pinch.up(event.pointerId)) return;
      if (stroke.current?.pointer === event.pointerId) {
        const { points, begun } = stroke.current;
        stroke.current = undefined;
        if (!onPick || movedFrom(begun, event) > CLICK) return stroking?.onEnd(points);
        stroking?.onStroke([]);
        return pick(event);
      }
      const from = drag.current;
      drag.current = undefined;
      if (from && movedFrom(from, event) <= CLICK) pick(event);
    },
    onDoubleClick: (event: MouseEvent<HTMLDivElement>) => {
      if (onPick || stroking) return;
      if (sight) return onSight(undefined);
      const { x, y } = pixelAt(pointOf(event, event.currentTarget), shown, box);
      onSight(heldSight({ x, y, scale: 1 }, size));
    },
  };
}
