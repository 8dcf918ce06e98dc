import { Box, Button, styled } from '@mui/material';
import { useEffect, useRef, useState } from 'react';
import type { PixelValues } from '../../../core/cut/stagedCut.ts';
import { useKeys } from '../../shared/keys.ts';
import { Key } from '../../shared/layout.tsx';
import type { FrameBench } from './useFrameBench.ts';
import type { Point } from './sight.ts';

const Card = styled('div')`
  position: absolute;
  right: 12px;
  top: 12px;
  width: 216px;
  z-index: 2;
  background: var(--sheet);
  border-left: 3px solid var(--ink);
  padding: 6px 8px;
  display: grid;
  gap: 4px;
  & canvas {
    display: block;
    width: 100%;
    image-rendering: pixelated;
    background: var(--surround);
  }
`;

/** Pixels of the picture in the loupe. */
const ACROSS = 24;
const DOWN = 14;
/** Values that are held beside each other, at most. */
const HELD = 2;

/** What lies under the pointer, enlarged and in numbers; up to two places are held beside it. */
export function Values({
  bench,
  at,
}: {
  bench: Pick<FrameBench, 'frame' | 'preview'>;
  /** Shares of the frame. */
  at: Point | undefined;
}) {
  const { frame, preview } = bench;
  const { valuesAt, bitmaps } = preview;
  const [now, setNow] = useState<PixelValues>();
  const [held, hold] = useState<PixelValues[]>([]);
  useEffect(() => hold([]), [frame.id]);
  const { x, y } = at ?? {};
  useEffect(() => {
    if (x === undefined || y === undefined) return;
    let current = true;
    void valuesAt(x, y).then((values) => current && setNow(values));
    return () => void (current = false);
  }, [valuesAt, bitmaps, x, y]);
  useKeys('values', {
    hold: () => now && hold((before) => [...before, now].slice(-HELD)),
  });
  return (
    <Card role="status" aria-live="off" aria-label="Under the pointer">
      <Loupe picture={bitmaps?.[0]} at={at} />
      {now ? <Row values={now} /> : <span className="quiet">Point at the picture.</span>}
      {held.map((values, n) => (
        <Box key={n} sx={{ borderTop: 1, borderColor: 'divider', pt: 0.5 }}>
          <Row values={values} />
        </Box>
      ))}
      <span className="quiet">
        <Key>M</Key>holds them here
        {held.length > 0 && (
          <Button variant="text" sx={{ py: 0, minWidth: 0 }} onClick={() => hold([])}>
            Let go
          </Button>
        )}
      </span>
    </Card>
  );
}

function Row({ values: { photograph, colour, coverage, stops, fromScreen } }: { values: PixelValues }) {
  const patch = (tone: readonly number[]) => (
    <i
      style={{
        display: 'inline-block',
        width: 12,
        height: 12,
        marginRight: 5,
        border: '1px solid var(--ink)',
        background: `rgb(${tone.join(',')})`,
      }}
    />
  );
  return (
    <Box
      component="dl"
      sx={{
        display: 'grid',
        gridTemplateColumns: 'auto 1fr',
        columnGap: 1,
        m: 0,
        '& dd': { m: 0, textAlign: 'right' },
      }}
    >
      <dt>Photograph</dt>
      <dd className="figure">
        {patch(photograph)}
        {photograph.join(' ')}
      </dd>
      <dt>Person</dt>
      <dd className="figure">
        {colour ? (
          <>
            {patch(colour)}
            {colour.join(' ')}
          </>
        ) : (
          '–'
        )}
      </dd>
      <dt>Coverage</dt>
      <dd className="figure">{(100 * coverage).toFixed(1)} %</dd>
      <dt>Level</dt>
      <dd className="figure">
        {stops < 0 ? '−' : '+'}
        {Math.abs(stops).toFixed(1)} stops
      </dd>
      <dt>From the screen, ΔE</dt>
      <dd className="figure">{fromScreen === undefined ? '–' : fromScreen.toFixed(1)}</dd>
    </Box>
  );
}

function Loupe({ picture, at }: { picture: ImageBitmap | undefined; at: Point | undefined }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const context = canvas.current?.getContext('2d');
    if (!context) return;
    context.clearRect(0, 0, ACROSS, DOWN);
    if (!picture || !at) return;
    const [x, y] = [Math.floor(at.x * picture.width), Math.floor(at.y * picture.height)];
    context.drawImage(picture, (ACROSS >> 1) - x, (DOWN >> 1) - y);
  }, [picture, at]);
  return <canvas ref={canvas} width={ACROSS} height={DOWN} aria-hidden />;
}
