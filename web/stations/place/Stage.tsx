import { styled } from '@mui/material';
import { useEffect, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import type { Background, Frame } from '../../../contract/index.ts';
import { srgbToLinear } from '../../../core/colour/transfer.ts';
import type { Rgb } from '../../../core/plan/exposure.ts';
import type { LinePair } from '../../../core/place/lens.ts';
import { clampPlacement, placedRectangle, type Placement, type Size } from '../../../core/place/placement.ts';
import { sceneRanges } from '../../../core/place/scene.ts';
import { snapped, type Guide, type Snapping } from '../../../core/place/snapped.ts';
import { LinesOverlay } from './LinesOverlay.tsx';
import { usePlacedPicture, type Drawn } from './usePlacedPicture.ts';

const Stand = styled('div')`
  position: relative;
  display: grid;
  place-items: center;
  min-height: 0;
  overflow: hidden;
  padding: 18px;
  & .picture {
    position: relative;
  }
  & canvas {
    display: block;
  }
  & .outline {
    position: absolute;
    border: 1px solid #fff;
    outline: 1px solid #000;
    cursor: move;
    touch-action: none;
  }
  & .outline:focus-visible {
    outline: 3px solid var(--accent);
    outline-offset: 0;
  }
  & .guide {
    position: absolute;
    border-left: 1px solid var(--accent);
    border-top: 1px solid var(--accent);
    outline: 1px solid rgb(255 255 255 / 0.6);
    pointer-events: none;
    z-index: 1;
  }
  & .pointing {
    position: absolute;
    inset: 0;
    cursor: crosshair;
    touch-action: none;
    z-index: 2;
  }
  & .horizon {
    position: absolute;
    left: 0;
    right: 0;
    height: 13px;
    margin-top: -6px;
    cursor: ns-resize;
    touch-action: none;
    background:
      linear-gradient(#000, #000) 0 5px / 100% 1px no-repeat,
      linear-gradient(#fff, #fff) 0 6px / 100% 1px no-repeat;
  }
  & .horizon:focus-visible {
    outline: 3px solid var(--accent);
  }
  & .grip {
    position: absolute;
    width: 16px;
    height: 16px;
    background: #fff;
    border: 1px solid #000;
    touch-action: none;
  }
`;

/** The background as large as it fits, the person on it, and the frame's outline to take hold of. */
export function Stage({
  frame,
  background,
  drawn,
  held: moved,
  snapping,
  horizon,
  onDraft,
  onSave,
  pointing,
  onPoint,
  onHorizon,
  lines,
  onLines,
}: {
  frame: Frame;
  background: Background;
  drawn: Drawn;
  /** Whose outline is taken hold of, and where they stand. */
  held: { frame: Size; placement: Placement };
  /** Where the person is in the frame; drags are brought to guides, unless Alt is held. */
  snapping: Snapping | undefined;
  /** Where the horizon's line is drawn, as a share from the top; null for none. */
  horizon: number | null;
  onDraft: (placement: Placement) => void;
  onSave: (placement: Placement) => void;
  /** Where a place is to be pointed at, if anywhere. */
  pointing: 'person' | 'there' | undefined;
  /** Is given the linear colour there. */
  onPoint: (rgb: Rgb) => void;
  onHorizon: (horizon: number) => void;
  /** Two lines to be laid along lines of the scene, if they are asked for. */
  lines: LinePair | undefined;
  onLines: (lines: LinePair) => void;
}) {
  const { placement } = moved;
  const stage = useRef<HTMLDivElement>(null);
  const [guides, setGuides] = useState<Guide[]>([]);
  const [box, setBox] = useState<{ width: number; height: number }>();
  const drag = useRef<{ x: number; y: number; from: Placement; grip: boolean; to: Placement } | undefined>(undefined);
  useEffect(() => {
    const element = stage.current;
    if (!element) return;
    const observer = new ResizeObserver(() =>
      setBox({ width: element.clientWidth - 36, height: element.clientHeight - 36 }),
    );
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  const scale = box ? Math.min(box.width / background.width, box.height / background.height) : 0;
  const size = {
    width: Math.max(1, Math.round(background.width * scale)),
    height: Math.max(1, Math.round(background.height * scale)),
  };
  const { canvas, ready } = usePlacedPicture(frame, background, box ? size.width : 0, drawn);
  const rectangle = placedRectangle(moved.frame, size, placement);

  const start = (grip: boolean) => (event: PointerEvent<HTMLElement>) => {
    event.stopPropagation();
    event.currentTarget.setPointerCapture(event.pointerId);
    drag.current = { x: event.clientX, y: event.clientY, from: placement, grip, to: placement };
  };
  const move = (event: PointerEvent<HTMLElement>): void => {
    const held = drag.current;
    if (!held) return;
    const dx = event.clientX - held.x;
    const dy = event.clientY - held.y;
    const dragged = clampPlacement(
      held.grip
        ? { ...held.from, height: held.from.height - dy / size.height }
        : { ...held.from, x: held.from.x + dx / size.width, y: held.from.y + dy / size.height },
    );
    const brought =
      snapping && !held.grip && !event.altKey ? snapped(moved.frame, background, snapping, dragged) : undefined;
    setGuides(brought?.guides ?? []);
    held.to = brought?.placement ?? dragged;
    onDraft(held.to);
  };
  const end = (): void => {
    const held = drag.current;
    drag.current = undefined;
    setGuides([]);
    if (held && held.to !== held.from) onSave(held.to);
  };
  const onKey = (event: KeyboardEvent): void => {
    const step = event.shiftKey ? 0.05 : 0.005;
    const moves: Record<string, Partial<Placement>> = {
      ArrowLeft: { x: placement.x - step },
      ArrowRight: { x: placement.x + step },
      ArrowUp: { y: placement.y - step },
      ArrowDown: { y: placement.y + step },
      '+': { height: placement.height + step },
      '=': { height: placement.height + step },
      '-': { height: placement.height - step },
      _: { height: placement.height - step },
    };
    const change = moves[event.key];
    if (!change || event.ctrlKey || event.metaKey) return;
    event.preventDefault();
    event.nativeEvent.stopImmediatePropagation();
    onSave({ ...placement, ...change });
  };
  return (
    <Stand ref={stage}>
      <div className="picture" style={size}>
        <canvas
          ref={canvas}
          role="img"
          aria-label={`${frame.name} on ${background.name}`}
          data-ready={ready}
          width={size.width}
          height={size.height}
        />
        {guides.map(({ way, at }) => (
          <div
            key={`${way} ${at}`}
            className="guide"
            style={
              way === 'x' ? { left: `${100 * at}%`, top: 0, bottom: 0 } : { top: `${100 * at}%`, left: 0, right: 0 }
            }
          />
        ))}
        <div style={{ position: 'absolute', inset: 0, overflow: 'hidden' }}>
          {!lines && (
            <div
              className="outline"
              role="application"
              aria-label="Position of the person; arrow keys move, plus and minus scale"
              tabIndex={0}
              style={rectangle}
              onPointerDown={start(false)}
              onPointerMove={move}
              onPointerUp={end}
              onKeyDown={onKey}
            >
              <span
                className="grip"
                title="Drag to scale"
                style={{ left: -1, top: Math.max(-1, -rectangle.top), cursor: 'ns-resize' }}
                onPointerDown={start(true)}
                onPointerMove={move}
                onPointerUp={end}
              />
              <span
                className="grip"
                title="Drag to scale"
                style={{ right: -1, top: Math.max(-1, -rectangle.top), cursor: 'ns-resize' }}
                onPointerDown={start(true)}
                onPointerMove={move}
                onPointerUp={end}
              />
            </div>
          )}
          {pointing && (
            <div
              className="pointing"
              role="button"
              tabIndex={0}
              aria-label={pointing === 'person' ? 'A place on the person' : 'A place of the background'}
              onPointerDown={(event) => {
                event.preventDefault();
                const box = event.currentTarget.getBoundingClientRect();
                const rgb =
                  canvas.current && colourAt(canvas.current, event.clientX - box.left, event.clientY - box.top);
                if (rgb) onPoint(rgb);
              }}
            />
          )}
          {lines && <LinesOverlay lines={lines} {...size} onChange={onLines} />}
          {horizon !== null && !lines && (
            <HorizonLine key={horizon} horizon={horizon} height={size.height} onHorizon={onHorizon} />
          )}
        </div>
      </div>
    </Stand>
  );
}

/** Pixels to each side of a place whose mean is its colour. */
const AROUND = 2;

/** The linear colour of a place of the shown picture. */
function colourAt(canvas: HTMLCanvasElement, x: number, y: number): Rgb | undefined {
  const side = 2 * AROUND + 1;
  const shown = canvas.getContext('2d')?.getImageData(Math.round(x) - AROUND, Math.round(y) - AROUND, side, side);
  if (!shown) return undefined;
  const sum: Rgb = [0, 0, 0];
  let count = 0;
  for (let i = 0; i < shown.data.length; i += 4) {
    // Beyond the picture.
    if (shown.data[i + 3] === 0) continue;
    for (let c = 0; c < 3; c++) sum[c] += srgbToLinear(shown.data[i + c] / 255);
    count++;
  }
  return count ? (sum.map((v) => v / count) as Rgb) : undefined;
}

/** The horizon of the scene, to take hold of. */
function HorizonLine({
  horizon,
  height,
  onHorizon,
}: {
  horizon: number;
  /** Of the picture, pixels. */
  height: number;
  onHorizon: (horizon: number) => void;
}) {
  const [at, setAt] = useState(horizon);
  const from = useRef<number>(undefined);
  const { label, min, max, step } = sceneRanges.horizon;
  const within = (value: number): number => Math.min(max, Math.max(min, Math.round(value / step) * step));
  return (
    <div
      className="horizon"
      role="slider"
      aria-label={label}
      aria-orientation="vertical"
      aria-valuenow={Math.round(1000 * at) / 10}
      aria-valuemin={100 * min}
      aria-valuemax={100 * max}
      tabIndex={0}
      style={{ top: at * height }}
      onPointerDown={(event) => {
        event.stopPropagation();
        event.currentTarget.setPointerCapture(event.pointerId);
        from.current = event.clientY - at * height;
      }}
      onPointerMove={(event) => from.current !== undefined && setAt(within((event.clientY - from.current) / height))}
      onPointerUp={() => {
        from.current = undefined;
        if (at !== horizon) onHorizon(at);
      }}
      onKeyDown={(event) => {
        const by = { ArrowUp: -1, ArrowDown: 1 }[event.key];
        if (by === undefined) return;
        event.preventDefault();
        event.nativeEvent.stopImmediatePropagation();
        onHorizon(within(at + by * step * (event.shiftKey ? 5 : 1)));
      }}
    />
  );
}
