import { styled } from '@mui/material';
import { useEffect, useRef } from 'react';

/** Ends of the grey scale, stops around the mean. */
const REACH = 1.2;

const Map = styled('div')`
  position: relative;
  background: repeating-linear-gradient(135deg, #5a5a5a 0 6px, #666 6px 12px);
  & canvas {
    width: 100%;
    height: 100%;
    display: block;
    image-rendering: pixelated;
  }
  & i {
    position: absolute;
    transform: translate(-50%, -50%);
    background: var(--sheet);
    color: var(--ink);
    font-style: normal;
    font-size: 11px;
    padding: 0 3px;
  }
`;

export interface MarkedPlace {
  /** Shares of the map. */
  x: number;
  y: number;
  stops: number;
}

/**
 * Levels over the frame in grey steps of a sixth of a stop, middle grey for the mean. The steps are the evidence: two
 * borders apart is a third of a stop. Hatched where no screen is seen.
 * @param stops by place from the top left; NaN or null where there is nothing.
 */
export function StopsMap({
  columns,
  rows,
  stops,
  places,
  aspect,
  label,
}: {
  columns: number;
  rows: number;
  stops: ArrayLike<number | null>;
  places: MarkedPlace[];
  aspect: number;
  label: string;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const context = canvas.current?.getContext('2d');
    if (!context) return;
    const image = context.createImageData(columns, rows);
    for (let p = 0; p < columns * rows; p++) {
      const value = stops[p];
      if (value === null || !Number.isFinite(value)) continue;
      const step = Math.max(-REACH, Math.min(REACH, Math.round(value * 6) / 6));
      const tone = 128 + (step / REACH) * 104;
      image.data.set([tone, tone, tone, 255], p * 4);
    }
    context.putImageData(image, 0, 0);
  }, [columns, rows, stops]);
  return (
    <Map className="lawn" style={{ aspectRatio: `${aspect}` }} role="img" aria-label={label}>
      <canvas ref={canvas} width={columns} height={rows} />
      {places.map(({ x, y, stops: value }, n) => (
        <i
          key={n}
          className="figure"
          style={{ left: `${Math.max(12, Math.min(88, x * 100))}%`, top: `${Math.max(4, Math.min(96, y * 100))}%` }}
        >
          {value < 0 ? '−' : '+'}
          {Math.abs(value).toFixed(1)}
        </i>
      ))}
    </Map>
  );
}
