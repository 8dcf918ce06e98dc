import { useEffect, useState } from 'react';
import type { Frame } from '../../../contract/index.ts';
import type { Path, Touch } from '../../../core/touch/touch.ts';
import { keptPath, pictures } from '../../state/api.ts';
import { tones } from '../../theme.ts';

/** Room around a touch's path, share of the frame's height. */
const AROUND = 0.06;
/** Larger pictures are made from more than a thumbnail. */
const THUMBNAIL = 80;

/** Where a touch lies on a frame. @param side of the picture. */
export function TouchPicture({
  frame,
  touch,
  line,
  side,
}: {
  frame: Frame;
  touch: Touch;
  /** Another line than its own. */
  line?: Path;
  side: number;
}) {
  const own = usePath(line ? undefined : touch.path);
  const shown = line ?? own;
  const { width, height } = frame;
  if (!shown) return <svg width={side} height={side} aria-hidden />;
  const xs = shown.points.map(({ x }) => x * width);
  const ys = shown.points.map(({ y }) => y * height);
  const [left, top] = [Math.min(...xs), Math.min(...ys)];
  const seen = Math.max(Math.max(...xs) - left, Math.max(...ys) - top) + 2 * AROUND * height;
  const [x, y] = [(left + Math.max(...xs) - seen) / 2, (top + Math.max(...ys) - seen) / 2];
  const href = side > THUMBNAIL ? pictures.view(frame) : pictures.latestThumbnail(frame);
  const Shape = shown.closed ? 'polygon' : 'polyline';
  return (
    <svg width={side} height={side} viewBox={`${x} ${y} ${seen} ${seen}`} aria-hidden style={{ background: '#767676' }}>
      <image href={href} width={width} height={height} preserveAspectRatio="none" />
      <Shape
        points={xs.map((px, n) => `${px},${ys[n]}`).join(' ')}
        fill={shown.closed ? tones.accent : 'none'}
        fillOpacity={0.4}
        stroke={tones.accent}
        strokeOpacity={0.8}
        strokeLinecap="round"
        strokeWidth={shown.closed ? seen / 30 : Math.max(seen / 30, touch.size * height)}
      />
    </svg>
  );
}

function usePath(name: string | undefined): Path | undefined {
  const [path, setPath] = useState<Path>();
  useEffect(() => {
    let current = true;
    if (name)
      keptPath(name).then(
        (kept) => current && setPath(kept),
        () => undefined,
      );
    return () => void (current = false);
  }, [name]);
  return path;
}
