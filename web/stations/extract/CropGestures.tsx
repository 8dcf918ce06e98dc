import { Button, Link, List, ListItem } from '@mui/material';
import { useMemo } from 'react';
import { aroundAll, lostTo } from '../../../core/cut/gestures.ts';
import { counted, timeLeft } from '../../shared/format.ts';
import { useSecondsLeft } from '../../shared/useSecondsLeft.ts';
import { Actions } from '../../shared/layout.tsx';
import { LEAST_CORNERS, outlineOf, type Drawing } from './maskFacts.ts';
import type { Gestures } from './useGestures.ts';

/** Room left around all gestures, share of the frame. */
const MARGIN = 0.02;
/** A crop that takes less of a figure than this takes nothing: a loose hair, a pixel of the border. */
const TAKEN = 0.002;
/** So many of those who would be cut are named. */
const NAMED = 8;

/** Everybody of the setup while a crop is drawn, and whom it would cut. */
export function CropGestures({
  gestures,
  drawing,
  onDraw,
  onGo,
}: {
  gestures: Gestures | undefined;
  drawing: Drawing;
  onDraw: (drawing: Drawing) => void;
  /** Shows a frame with the same crop over it. */
  onGo: (frameId: number) => void;
}) {
  const { corners, rounded, soft } = drawing;
  const whole = corners.length >= LEAST_CORNERS;
  const secondsLeft = useSecondsLeft(gestures?.left ?? 0);
  const cut = useMemo(() => {
    if (!whole || !gestures) return [];
    const crop = { polygon: outlineOf({ corners, rounded }), soft };
    return gestures.shown
      .map(({ frame, figure }) => ({ frame, lost: lostTo(crop, figure) }))
      .filter(({ lost }) => lost >= TAKEN)
      .sort((a, b) => b.lost - a.lost);
  }, [gestures, corners, rounded, soft, whole]);
  if (!gestures || gestures.left > 0)
    return (
      <p className="quiet">
        Reading all gestures of the setup: {counted(gestures?.left ?? 0, 'frame')} to go, {timeLeft(secondsLeft)}
      </p>
    );
  const extents = gestures.shown.flatMap(({ frame }) => frame.cut?.quality.extent ?? []);
  return (
    <>
      <p className="quiet">
        All <span className="figure">{gestures.shown.length}</span> gestures lie over the picture
        {gestures.missing > 0 && <>; {counted(gestures.missing, 'frame is', 'frames are')} not extracted yet</>}.
      </p>
      <Actions>
        <Button
          disabled={!extents.length}
          onClick={() => onDraw({ ...drawing, rounded: false, corners: aroundAll(extents, MARGIN) })}
        >
          Around all of them
        </Button>
      </Actions>
      {whole && (
        <p role="status">
          {cut.length ? (
            <>
              It would cut <span className="figure">{cut.length}</span> of them:
            </>
          ) : (
            'It cuts nobody.'
          )}
        </p>
      )}
      <List aria-label="Whom the crop would cut">
        {cut.slice(0, NAMED).map(({ frame, lost }) => (
          <ListItem key={frame.id} disableGutters sx={{ justifyContent: 'space-between', py: 0 }}>
            <Link component="button" onClick={() => onGo(frame.id)}>
              {frame.subject || frame.name}
            </Link>
            <span className="figure">{(100 * lost).toFixed(1)} % of the figure</span>
          </ListItem>
        ))}
      </List>
    </>
  );
}
