import { Box, Button, Checkbox, Dialog, DialogActions, DialogContent, DialogTitle } from '@mui/material';
import { useState } from 'react';
import { SURE } from '../../../core/touch/carry.ts';
import { touchKinds, touchSettings, type Touch } from '../../../core/touch/touch.ts';
import { counted, timeLeft } from '../../shared/format.ts';
import { useSecondsLeft } from '../../shared/useSecondsLeft.ts';
import { TouchPicture } from './TouchPicture.tsx';
import { carryOver } from './touches.ts';
import { useCarried, type Proposal, type ToCarry } from './useCarried.ts';

/** Height of a frame with the touch on it. */
const PICTURE = 150;

/** Where the touches of a frame belong on the subject's other frames; what is left chosen is laid on there. */
export function CarryDialog({ asked, onClose }: { asked: ToCarry; onClose: () => void }) {
  const { proposals, left, unread } = useCarried(asked);
  const secondsLeft = useSecondsLeft(left);
  /** What a hand has said against what is sure or unsure by itself. */
  const [said, say] = useState<Record<string, boolean>>({});
  const isChosen = (one: Proposal): boolean => said[keyOf(one)] ?? one.sure >= SURE;
  const chosen = proposals.filter(isChosen);
  const sorted = [...proposals].sort((a, b) => b.sure - a.sure);
  const unplaced = left > 0 ? 0 : (asked.others.length - unread.length) * asked.touches.length - proposals.length;
  const lay = (): void => {
    void carryOver(chosen.map(({ frame, touch, line, scale }) => ({ frame, line, touch: sized(touch, scale) })));
    onClose();
  };
  return (
    <Dialog open onClose={onClose} aria-labelledby="carry" fullWidth maxWidth="md">
      <DialogTitle id="carry">To the other frames of {asked.frame.subject}</DialogTitle>
      <DialogContent>
        <p className="quiet" role="status">
          {left > 0
            ? `Looking for the same places: ${counted(left, 'frame')} to go, ${timeLeft(secondsLeft)}`
            : proposals.length
              ? 'Found by the picture around each touch, the surest first. Those that are sure are chosen.'
              : 'Nowhere is the same place found: around these touches too little is seen to know it by.'}
        </p>
        {unplaced > 0 && proposals.length > 0 && (
          <p className="quiet">
            {counted(unplaced, 'touch', 'touches')} found no place: too little is seen around to know it by.
          </p>
        )}
        {unread.length > 0 && <p>Could not be looked through: {unread.join(', ')}. Extract them anew, or try again.</p>}
        <Box
          component="ul"
          aria-label="Touches to be carried"
          sx={{ listStyle: 'none', display: 'flex', flexWrap: 'wrap', gap: 1.5, mt: 1 }}
        >
          {sorted.map((one) => {
            const title = `${touchKinds[one.touch.kind].title}, ${one.frame.name}`;
            return (
              <Box component="li" key={keyOf(one)} sx={{ opacity: isChosen(one) ? 1 : 0.6 }}>
                <TouchPicture frame={one.frame} touch={sized(one.touch, one.scale)} line={one.line} side={PICTURE} />
                <Box sx={{ display: 'flex', alignItems: 'center' }}>
                  <Checkbox
                    checked={isChosen(one)}
                    onChange={(_, on) => say((now) => ({ ...now, [keyOf(one)]: on }))}
                    slotProps={{ input: { 'aria-label': title } }}
                  />
                  <span>
                    {touchKinds[one.touch.kind].title}
                    <div className="quiet figure">
                      {wordOf(one.sure)}, {Math.round(100 * one.sure)} %
                    </div>
                  </span>
                </Box>
              </Box>
            );
          })}
        </Box>
      </DialogContent>
      <DialogActions>
        <Button variant="contained" color="primary" disabled={!chosen.length} onClick={lay}>
          Lay on {counted(chosen.length, 'touch', 'touches')}
        </Button>
        <Button variant="text" onClick={onClose}>
          Leave it
        </Button>
      </DialogActions>
    </Dialog>
  );
}

function keyOf({ frame, touch }: Proposal): string {
  return `${frame.id} ${touch.id}`;
}

/** A touch as wide as the person is large there. */
function sized(touch: Touch, scale: number): Touch {
  const { min, max } = touchSettings.size;
  return { ...touch, size: Math.min(max, Math.max(min, touch.size * scale)) };
}

function wordOf(sure: number): string {
  return sure >= SURE ? 'sure' : sure >= SURE / 2 ? 'unsure' : 'hardly';
}
