import { Box, Button, ToggleButton, ToggleButtonGroup, Tooltip } from '@mui/material';
import { useMemo } from 'react';
import type { Frame } from '../../../contract/index.ts';
import { minutesToAll, stateNow, triageOf, type Experience, type Triage } from '../../../core/touch/review.ts';
import { questionsOf } from '../../../core/touch/walk.ts';
import { counted, span } from '../../shared/format.ts';
import { Actions, Key } from '../../shared/layout.tsx';

/** Which frames are listed. */
export type Shown = 'all' | Triage | 'accepted';

const groups: Record<Exclude<Shown, 'all'>, { title: string; words: string }> = {
  hand: { title: 'Hand', words: 'several places, or more than a minute by hand' },
  look: { title: 'Look', words: 'one or two places that a look settles' },
  clean: { title: 'Clean', words: 'no reading beyond its bound: nothing thin, apart, green or uncertain was found' },
  accepted: { title: 'Accepted', words: 'accepted as they stand' },
};

/** The group that a frame is listed in; none without a cut. */
export function groupOf(frame: Frame, experience: Experience): Exclude<Shown, 'all'> | undefined {
  if (!frame.cut) return undefined;
  return stateNow(frame) === 'accepted' ? 'accepted' : triageOf(frame, experience);
}

function summed(
  frames: readonly Frame[],
  experience: Experience,
): { counts: Map<string, number>; left: number; places: number } {
  const counts = new Map<string, number>();
  let places = 0;
  for (const frame of frames) {
    const group = groupOf(frame, experience);
    if (group) counts.set(group, (counts.get(group) ?? 0) + 1);
    if (frame.cut && stateNow(frame) !== 'accepted') places += questionsOf(frame.cut.quality, frame.review).length;
  }
  return { counts, left: minutesToAll(frames, experience), places };
}

/** How much the frames ask for, the minutes until all are looked at, and which of them are listed. */
export function TriageBar({
  frames,
  experience,
  shown,
  onShow,
  onWalk,
  onSheet,
}: {
  frames: readonly Frame[];
  experience: Experience;
  shown: Shown;
  onShow: (shown: Shown) => void;
  onWalk: () => void;
  onSheet: () => void;
}) {
  const { counts, left, places } = useMemo(() => summed(frames, experience), [frames, experience]);
  if (!counts.size) return null;
  return (
    <Box sx={{ pb: 1 }}>
      <p>
        {left < 0.05 ? (
          <strong>All looked at.</strong>
        ) : (
          <>
            All looked at in <strong className="figure">{span(left)}</strong>
            {experience.pace !== 1 && <span className="quiet"> at your pace</span>}
          </>
        )}
      </p>
      <Actions sx={{ my: 0.5 }}>
        {places > 0 && <Button onClick={onWalk}>Walk through {counted(places, 'doubtful place')}</Button>}
        <Button variant="text" onClick={onSheet}>
          <Key>E</Key> Sheet
        </Button>
      </Actions>
      <ToggleButtonGroup
        exclusive
        aria-label="Frames listed"
        value={shown}
        onChange={(_, next: Shown | null) => onShow(next ?? 'all')}
        sx={{ ml: -0.75, flexWrap: 'wrap', '& .MuiToggleButton-root': { px: 0.75, py: 0.25 } }}
      >
        {(Object.keys(groups) as (keyof typeof groups)[]).map((group) => (
          <Tooltip key={group} title={groups[group].words} describeChild>
            <ToggleButton value={group}>
              {groups[group].title}&nbsp;<span className="figure quiet">{counts.get(group) ?? 0}</span>
            </ToggleButton>
          </Tooltip>
        ))}
      </ToggleButtonGroup>
    </Box>
  );
}
