import { styled } from '@mui/material';
import { useRef, useState, type CSSProperties, type PointerEvent, cloneElement, type ReactElement } from 'react';

const Evidence = styled('div')`
  height: 100%;
  width: 100%;
  min-height: 0;
  display: grid;
  place-items: center;
  container-type: size;
  & .frame {
    --captions: 210px;
    position: relative;
    width: min(100cqw - var(--captions), 100cqh * var(--aspect));
    aspect-ratio: var(--aspect);
  }
  & .frame.marking {
    cursor: crosshair;
    touch-action: none;
  }
  & img {
    width: 100%;
    height: 100%;
    display: block;
    user-select: none;
  }
  & svg {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
    overflow: visible;
    pointer-events: none;
  }
  & .mark {
    fill: none;
    stroke: #fff;
    stroke-width: 1px;
    vector-effect: non-scaling-stroke;
  }
  & .mark.under {
    stroke: #000;
    stroke-width: 3px;
    opacity: 0.55;
  }
  & .mark.dashed {
    stroke-dasharray: 6 4;
  }
  & .words {
    position: absolute;
    width: 98px;
    font-size: 12px;
    line-height: 1.2;
    color: #fff;
    transform: translateY(-50%);
  }
  & .words.left {
    right: 100%;
    padding-right: 6px;
    text-align: right;
  }
  & .words.right {
    left: 100%;
    padding-left: 6px;
  }
  @media (max-width: 1150px) {
    & .frame {
      --captions: 124px;
    }
    & .words {
      width: 56px;
      font-size: 11px;
    }
  }
`;

interface Place {
  x: number;
  y: number;
  width: number;
  height: number;
}
export interface Shown extends Place {
  words: string;
}

/** Height that a caption needs, share of the picture's height. */
const CAPTION = 0.075;

/**
 * A photograph with what was found on it: thin outlines, and leaders to captions in the margins, so that nothing of the
 * picture is covered. With `onMark` a drag draws a circle or a box instead.
 * @param outline polygon of the screen, shares of the frame; drawn when it does not fill the frame.
 */
export function EvidencePicture({
  src,
  label,
  aspect,
  evidence,
  outline = [],
  circle,
  onMark,
}: {
  src: string;
  label: string;
  aspect: number;
  evidence: Shown[];
  outline?: { x: number; y: number }[];
  circle?: { x: number; y: number; radius: number };
  onMark?: { shape: 'circle' | 'box'; done: (place: Place) => void };
}) {
  const frame = useRef<HTMLDivElement>(null);
  const [drag, setDrag] = useState<{ x0: number; y0: number; x1: number; y1: number }>();
  const placed = placeCaptions(evidence);
  const at = (event: PointerEvent): { x: number; y: number } => {
    const box = (frame.current as HTMLDivElement).getBoundingClientRect();
    return { x: (event.clientX - box.left) / box.width, y: (event.clientY - box.top) / box.height };
  };
  const marked = drag && onMark && placeOf(drag, onMark.shape, aspect);
  return (
    <Evidence>
      <div
        ref={frame}
        className={`frame${onMark ? ' marking' : ''}`}
        style={{ '--aspect': aspect } as CSSProperties}
        onPointerDown={(event) => {
          if (!onMark) return;
          event.currentTarget.setPointerCapture(event.pointerId);
          const { x, y } = at(event);
          setDrag({ x0: x, y0: y, x1: x, y1: y });
        }}
        onPointerMove={(event) => {
          if (!drag) return;
          const { x, y } = at(event);
          setDrag({ ...drag, x1: x, y1: y });
        }}
        onPointerUp={() => {
          if (marked && onMark && marked.width > 0.01) onMark.done(marked);
          setDrag(undefined);
        }}
      >
        <img src={src} alt={label} draggable={false} />
        <svg viewBox={`0 0 ${aspect} 1`} aria-hidden="true">
          {outline.length > 2 && (
            <Twice dashed>
              <polygon points={outline.map(({ x, y }) => `${x * aspect},${y}`).join(' ')} />
            </Twice>
          )}
          {placed.map(({ shown, side, y }, n) => (
            <g key={n}>
              <Twice>
                <rect x={shown.x * aspect} y={shown.y} width={shown.width * aspect} height={shown.height} />
              </Twice>
              <Twice>
                <line
                  x1={side === 'left' ? shown.x * aspect : (shown.x + shown.width) * aspect}
                  y1={shown.y + shown.height / 2}
                  x2={side === 'left' ? 0 : aspect}
                  y2={y}
                />
              </Twice>
            </g>
          ))}
          {circle && (
            <Twice>
              <circle cx={circle.x * aspect} cy={circle.y * aspect} r={circle.radius * aspect} />
            </Twice>
          )}
          {marked && onMark?.shape === 'box' && (
            <rect
              x={marked.x * aspect}
              y={marked.y}
              width={marked.width * aspect}
              height={marked.height}
              className="mark"
            />
          )}
          {marked && onMark?.shape === 'circle' && (
            <circle
              cx={(marked.x + marked.width / 2) * aspect}
              cy={marked.y + marked.height / 2}
              r={(marked.width * aspect) / 2}
              className="mark"
            />
          )}
        </svg>
        {placed.map(({ shown, side, y }, n) => (
          <span key={n} className={`words ${side}`} style={{ top: `${y * 100}%` }}>
            {shown.words}
          </span>
        ))}
      </div>
    </Evidence>
  );
}

/** A shape drawn dark and over that light, so that it shows on any picture. */
function Twice({ children, dashed = false }: { children: ReactElement<{ className: string }>; dashed?: boolean }) {
  return (
    <>
      {cloneElement(children, { className: 'mark under' })}
      {cloneElement(children, { className: dashed ? 'mark dashed' : 'mark' })}
    </>
  );
}

/** Each caption beside its place, pushed down where two would meet. */
function placeCaptions(evidence: Shown[]): { shown: Shown; side: 'left' | 'right'; y: number }[] {
  const sided = evidence.map((shown) => ({
    shown,
    side: shown.x + shown.width / 2 < 0.5 ? ('left' as const) : ('right' as const),
    y: Math.min(0.95, Math.max(0.04, shown.y + shown.height / 2)),
  }));
  for (const side of ['left', 'right'] as const) {
    const list = sided.filter((one) => one.side === side).sort((a, b) => a.y - b.y);
    list.forEach((one, n) => {
      if (n > 0) one.y = Math.max(one.y, list[n - 1].y + CAPTION);
    });
  }
  return sided;
}

/** What a drag covers: a box, or a circle around its first point's opposite corner as the diameter. */
function placeOf(
  { x0, y0, x1, y1 }: { x0: number; y0: number; x1: number; y1: number },
  shape: 'circle' | 'box',
  aspect: number,
): Place {
  if (shape === 'box')
    return { x: Math.min(x0, x1), y: Math.min(y0, y1), width: Math.abs(x1 - x0), height: Math.abs(y1 - y0) };
  const diameter = Math.hypot((x1 - x0) * aspect, y1 - y0);
  const cx = ((x0 + x1) / 2) * aspect;
  const cy = (y0 + y1) / 2;
  return { x: (cx - diameter / 2) / aspect, y: cy - diameter / 2, width: diameter / aspect, height: diameter };
}
