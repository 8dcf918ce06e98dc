import { lazy, Suspense, useMemo } from 'react';
import { NoteOver, Plate, Strip } from '../../shared/layout.tsx';
import { part } from '../../shared/part.ts';
import { ViewStrip } from '../../shared/ViewStrip.tsx';
import { pictures } from '../../state/api.ts';
import { FrameCaption } from './FrameCaption.tsx';
import type { Projection } from './sight.ts';
import type { FrameBench } from './useFrameBench.ts';
import { Ribbon } from './Ribbon.tsx';
import { Viewer } from './Viewer.tsx';
import { views } from './views.ts';

// Drawing on pictures is loaded when something is drawn.
const Marks = lazy(async () => ({ default: (await part(() => import('./Marks.tsx'))).Marks }));

/** The frame in the chosen view, with what is marked on it. */
export function FramePicture({ bench }: { bench: FrameBench }) {
  const { frame, shown, preview, sight, panel, drawing, draw, asShown } = bench;
  const { width, height } = frame;
  const size = useMemo(() => ({ width, height }), [width, height]);
  const onBackground = shown === 'background';
  const detail = !onBackground && (shown === 'photograph' || asShown);
  const marked =
    drawing || bench.line.length > 0 || bench.looking || bench.sizing || panel === 'ledger' || panel === 'masks';
  return (
    <Plate aria-label="Picture">
      <Strip>
        <ViewStrip
          label="View"
          views={views.map((one) =>
            one.value === 'background' && !frame.placement
              ? { ...one, why: 'Choose a background at Place first.' }
              : one,
          )}
          value={shown}
          onChange={bench.setView}
        />
      </Strip>
      {bench.unrolled ? (
        <Ribbon bench={bench} />
      ) : (
        <Viewer
          picture={preview.bitmap}
          size={onBackground && preview.bitmap ? preview.bitmap : size}
          detail={detail ? (area) => pictures.region(frame, shown, area) : undefined}
          label={`${frame.name}, ${shown}`}
          sight={onBackground ? undefined : sight}
          onSight={bench.setSight}
          onPick={
            drawing
              ? (point) => draw({ ...drawing, corners: [...drawing.corners, point] })
              : panel === 'ledger'
                ? bench.pick
                : undefined
          }
          stroking={onBackground ? undefined : bench.stroking}
          overlay={
            marked && !onBackground ? (projection) => <Marked bench={bench} projection={projection} /> : undefined
          }
        >
          {preview.working && <NoteOver>Cutting a preview …</NoteOver>}
          {preview.problem && (
            <NoteOver>
              <strong>It cannot be cut:</strong> {preview.problem.reason}. {preview.problem.remedy}
            </NoteOver>
          )}
        </Viewer>
      )}
      <FrameCaption
        frame={frame}
        asShown={asShown}
        before={bench.before}
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
        onDraw={bench.draw}
        onClose={bench.finish}
        looking={bench.looking}
        stroke={bench.brush && bench.line.length ? { brush: bench.brush, points: bench.line } : undefined}
        sizing={panel === 'settings' ? bench.sizing : undefined}
      />
    </Suspense>
  );
}
