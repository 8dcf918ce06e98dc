import { useEffect, useRef, useState } from 'react';
import type { Frame } from '../../../contract/index.ts';
import { touchSettings, type PathPoint } from '../../../core/touch/touch.ts';
import { useKeys } from '../../shared/keys.ts';
import { layOn, type Brush } from './touches.ts';

/** One press of a key, or one notch of the wheel, makes a stroke so much wider. */
const WIDER = 1.2;
const SOFTER = 0.1;
/** A zone needs so many points. */
const LEAST_ZONE = 3;

/** The brush that the hand holds over a frame, and the stroke under way. */
export function useBrush(frame: Frame) {
  const [brush, hold] = useState<Brush>();
  const [line, setLine] = useState<PathPoint[]>([]);
  /** Where the last stroke ended, for straight ones. */
  const last = useRef<PathPoint>(undefined);
  useEffect(() => {
    setLine([]);
    last.current = undefined;
  }, [frame.id]);
  const within = (value: number, { min, max }: { min: number; max: number }): number =>
    Math.min(max, Math.max(min, value));
  const resize = (steps: number): void =>
    hold((now) => now && { ...now, size: within(now.size * WIDER ** steps, touchSettings.size) });
  const soften = (steps: number): void =>
    hold((now) => now && { ...now, softness: within(now.softness + SOFTER * steps, touchSettings.softness) });
  useKeys(
    'brush',
    {
      wider: () => resize(1),
      finer: () => resize(-1),
      softer: () => soften(1),
      harder: () => soften(-1),
      leave: () => hold(undefined),
    },
    { enabled: brush !== undefined },
  );
  const lay = async (points: PathPoint[]): Promise<void> => {
    if (!brush || points.length < (brush.zone ? LEAST_ZONE : 1)) return setLine([]);
    last.current = points.at(-1);
    // The stroke stays in sight until it is kept.
    await layOn(frame, brush, points);
    setLine((now) => (now === points ? [] : now));
  };
  return {
    brush,
    hold,
    line,
    resize,
    soften,
    /** What the picture tells of the hand; undefined while it holds no brush. */
    stroking: brush && {
      onStroke: setLine,
      onEnd: (points: PathPoint[]) => void lay(points),
      onWheel: (steps: number, soft: boolean) => (soft ? soften(steps) : resize(steps)),
      from: brush.zone ? undefined : last.current,
    },
  };
}
