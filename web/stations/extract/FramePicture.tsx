import { Slider, styled } from '@mui/material';
import { lazy, Suspense, useMemo, useState, type CSSProperties, type ReactNode } from 'react';
import { viewSchema } from '../../../contract/index.ts';
import { NoteOver, Plate } from '../../shared/layout.tsx';
import { part } from '../../shared/part.ts';
import { pictures } from '../../state/api.ts';
import type { PreviewView } from '../../worker/picture.worker.ts';
import { FrameCaption } from './FrameCaption.tsx';
import { Ribbon } from './Ribbon.tsx';
import type { Point, Projection } from './sight.ts';
import type { FrameBench } from './useFrameBench.ts';
import { Values } from './Values.tsx';
import { ViewBar } from './ViewBar.tsx';
import { Viewer } from './Viewer.tsx';

// Drawing on pictures is loaded when something is drawn.
const Marks = lazy(async () => ({ default: (await part(() => import('./Marks.tsx'))).Marks }));

/** One picture, or two: the second over a part of the first, or under it. */
const Pictures = styled('div')`
  position: relative;
  overflow: hidden;
  min-height: 0;
  display: grid;
  grid-auto-rows: minmax(0, 1fr);
  grid-template-columns: minmax(0, 1fr);
  gap: 1px;
  & > .MuiSlider-root {
    position: absolute;
    left: 0;
    bottom: 6px;
    z-index: 1;
    color: #fff;
  }
`;

/** A line over the picture's whole height, drawn at its foot. */
const DIVIDER = {
  '& .MuiSlider-rail': { opacity: 0 },
  '& .MuiSlider-thumb::before': {
    height: '200vh',
    width: '1px',
    top: 'auto',
    bottom: 0,
    background: '#fff',
    borderRadius: 0,
    boxShadow: 'none',
  },
};

/** The frame in the chosen views, with what is marked on it. */
export function FramePicture({ bench }: { bench: FrameBench }) {
  const { frame, shown, before, beside, sight } = bench;
  const second = before ? undefined : beside;
  const [pointed, point] = useState<Point>();
  return (
    <Plate aria-label="Picture">
      <ViewBar bench={bench} />
      {bench.unrolled ? (
        <Ribbon bench={bench} />
      ) : (
        <Pictures>
          <Pane bench={bench} view={shown} n={0} onHover={bench.values ? point : undefined}>
            <Notes bench={bench} />
          </Pane>
          {second && (
            <Pane
              bench={bench}
              view={second.view}
              n={1}
              over={
                second.how === 'divided'
                  ? {
                      position: 'absolute',
                      inset: 0,
                      background: 'var(--surround)',
                      pointerEvents: 'none',
                      clipPath: `inset(0 0 0 ${100 * second.at}%)`,
                    }
                  : undefined
              }
            />
          )}
          {bench.values && <Values bench={bench} at={pointed} />}
          {second?.how === 'divided' && (
            <Slider
              aria-label="Divider"
              track={false}
              min={0}
              max={1}
              step={0.01}
              value={second.at}
              onChange={(_, at) => bench.setBeside({ ...second, at })}
              sx={DIVIDER}
            />
          )}
        </Pictures>
      )}
      <FrameCaption
        frame={frame}
        asShown={bench.asShown}
        before={before}
        onBefore={bench.setBefore}
        closeUp={sight !== undefined}
        onSize={bench.toggleSize}
        onAccept={bench.accept}
        unrolled={bench.unrolled}
        onUnroll={() => bench.unroll(!bench.unrolled)}
      />
    </Plate>
  );
}

/** One of the views. */
function Pane({
  bench,
  view,
  n,
  over,
  onHover,
  children,
}: {
  bench: FrameBench;
  view: PreviewView;
  /** Which of the views it is. */
  n: number;
  /** Where it lies over another. */
  over?: CSSProperties;
  onHover?: (point: Point | undefined) => void;
  children?: ReactNode;
}) {
  const { frame, preview, panel, drawing, draw } = bench;
  const { width, height } = frame;
  const size = useMemo(() => ({ width, height }), [width, height]);
  const known = viewSchema.safeParse(view).data;
  const detail = known !== undefined && (known === 'photograph' || bench.wanted !== undefined);
  const marked =
    drawing || bench.line.length > 0 || bench.looking || bench.sizing || panel === 'ledger' || panel === 'masks';
  return (
    <Viewer
      picture={preview.bitmaps?.[n]}
      size={size}
      detail={
        detail
          ? (area) => pictures.region(bench.judged, known, area, bench.asShown ? undefined : bench.wanted)
          : undefined
      }
      label={`${frame.name}, ${view}`}
      sight={bench.sight}
      onSight={bench.setSight}
      onHover={onHover}
      over={over}
      onPick={
        drawing
          ? (point) => draw({ ...drawing, corners: [...drawing.corners, point] })
          : panel === 'ledger'
            ? bench.pick
            : undefined
      }
      stroking={bench.drawingHand ?? bench.stroking}
      overlay={marked ? (projection) => <Marked bench={bench} projection={projection} /> : undefined}
    >
      {children}
    </Viewer>
  );
}

function Notes({ bench: { preview } }: { bench: FrameBench }) {
  return (
    <>
      {preview.working && <NoteOver>Cutting a preview …</NoteOver>}
      {preview.problem && (
        <NoteOver>
          <strong>It cannot be cut:</strong> {preview.problem.reason}. {preview.problem.remedy}
        </NoteOver>
      )}
    </>
  );
}

function Marked({ bench, projection }: { bench: FrameBench; projection: Projection }) {
  const { panel, drawing } = bench;
  return (
    <Suspense>
      <Marks
        projection={projection}
        ledger={panel === 'ledger' && !drawing ? bench.ledger : []}
        chosen={bench.patch}
        masks={panel === 'masks' ? bench.guidance.masks : []}
        drawing={drawing}
        gestures={bench.gestures?.all}
        onDraw={bench.draw}
        onClose={bench.finish}
        looking={bench.looking}
        stroke={strokeOf(bench)}
        sizing={panel === 'settings' ? bench.sizing : undefined}
      />
    </Suspense>
  );
}

/** The line under way: of a mask’s outline, or of a brush. */
function strokeOf({ outlining, brush, line }: FrameBench) {
  if (outlining.length) return { brush: { kind: 'add' as const, zone: true, size: 0 }, points: outlining };
  return brush && line.length ? { brush, points: line } : undefined;
}
