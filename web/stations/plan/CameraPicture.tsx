import { styled } from '@mui/material';
import { useEffect, useRef } from 'react';
import { demoPeople, type Shot, type SubjectName } from '../../../core/studio/index.ts';
import type { Coverage, Plan } from '../../../core/plan/index.ts';
import { NoteOver } from '../../shared/layout.tsx';
import { useComputed, usePlanWorker } from './usePlanWorker.ts';

/** Height of the preview in pixels; small enough to follow a drag. */
const HEIGHT = 264;

const Picture = styled('div')`
  position: relative;
  max-width: 100%;
  & svg {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
  }
  & canvas {
    width: 100%;
    height: 100%;
    display: block;
  }
`;

export interface PreviewShot {
  kind: Shot['kind'];
  people: SubjectName[];
  seed: number;
}

/** What the stand-in camera would take, following the plan. */
export function CameraPicture({ plan, shot, coverage }: { plan: Plan; shot: PreviewShot; coverage?: Coverage }) {
  const worker = usePlanWorker();
  const canvas = useRef<HTMLCanvasElement>(null);
  const { pixelsAcross, pixelsDown } = plan.camera;
  const width = Math.max(1, Math.round((HEIGHT * pixelsAcross) / pixelsDown));
  const { value, behind } = useComputed(
    worker,
    plan,
    (remote, current) =>
      remote.picture(current, {
        kind: shot.kind,
        subjects: shot.people.map((name) => ({ ...demoPeople[name], moment: shot.seed })),
        seed: shot.seed,
        width: Math.max(1, Math.round((HEIGHT * current.camera.pixelsAcross) / current.camera.pixelsDown)),
        height: HEIGHT,
      }),
    JSON.stringify(shot),
  );
  useEffect(() => {
    const element = canvas.current;
    if (!element || !value) return;
    element.width = value.width;
    element.height = value.height;
    element.getContext('2d')?.putImageData(value, 0, 0);
  }, [value]);
  return (
    <Picture className="camera-picture" style={{ aspectRatio: `${width} / ${HEIGHT}` }}>
      <canvas
        ref={canvas}
        role="img"
        aria-label="Frame of the stand-in camera"
        data-ready={Boolean(value) && !behind}
      />
      {coverage && coverage.share < 0.999 && coverage.mask.length > 2 && (
        <svg
          viewBox={`0 0 ${pixelsAcross} ${pixelsDown}`}
          aria-label="Edge of the screen: what lies outside must be masked"
        >
          <polygon
            points={coverage.mask.map(({ x, y }) => `${x},${y}`).join(' ')}
            fill="none"
            stroke="#fff"
            strokeWidth={pixelsAcross / 90}
            strokeDasharray={pixelsAcross / 30}
          />
        </svg>
      )}
      {!value && <NoteOver>Taking the first picture …</NoteOver>}
    </Picture>
  );
}
