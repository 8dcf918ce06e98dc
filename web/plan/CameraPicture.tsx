import { useEffect, useRef } from 'react';
import { demoPeople, type Shot, type SubjectName } from '../../core/studio/index.ts';
import type { Plan } from '../../core/plan/index.ts';
import { useComputed, usePlanWorker } from './usePlanWorker.ts';

/** Height of the preview in pixels; small enough to follow a drag. */
const HEIGHT = 330;

export interface PreviewShot {
  kind: Shot['kind'];
  people: SubjectName[];
  seed: number;
}

/** What the stand-in camera would take, following the plan. */
export function CameraPicture({ plan, shot }: { plan: Plan; shot: PreviewShot }) {
  const worker = usePlanWorker();
  const canvas = useRef<HTMLCanvasElement>(null);
  const { pixelsAcross, pixelsDown } = plan.camera;
  const width = Math.max(1, Math.round((HEIGHT * pixelsAcross) / pixelsDown));
  const { value, behind } = useComputed(
    worker,
    plan,
    (remote, current) => remote.picture(current, { kind: shot.kind, subjects: shot.people.map((name) => ({ ...demoPeople[name], moment: shot.seed })), seed: shot.seed, width: Math.max(1, Math.round((HEIGHT * current.camera.pixelsAcross) / current.camera.pixelsDown)), height: HEIGHT }),
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
    <div className="camera-picture" style={{ aspectRatio: `${width} / ${HEIGHT}` }}>
      <canvas ref={canvas} role="img" aria-label="Frame of the stand-in camera" data-ready={Boolean(value) && !behind} />
      {!value && <span className="note-over">Taking the first picture …</span>}
    </div>
  );
}
