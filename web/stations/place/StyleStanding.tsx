import { Box, Button } from '@mui/material';
import { useMemo } from 'react';
import type { Background, Frame } from '../../../contract/index.ts';
import type { AlikeWay, Placement } from '../../../core/place/index.ts';
import { counted } from '../../shared/format.ts';
import { Actions } from '../../shared/layout.tsx';
import { keepStanding } from '../../state/placing.ts';
import { useStore } from '../../state/store.ts';
import { followersOf, isMirrored, modelOf, placesBy } from './styleStanding.ts';

/** How everybody on a background stands, now and whoever comes later; who differs. */
export function StyleStanding({
  shootId,
  frame,
  cut,
  background,
  placement,
  alike,
}: {
  shootId: number;
  frame: Frame;
  cut: readonly Frame[];
  background: Background;
  placement: Placement;
  alike: AlikeWay;
}) {
  const style = useStore((state) => state.styles.find(({ backgroundId }) => backgroundId === background.id));
  const { follow, differ } = useMemo(() => followersOf(cut, style, background), [cut, style, background]);
  const own = modelOf(frame, isMirrored(frame, style, background.id), placement, alike);
  if (!own) return null;
  const like = (frames: readonly Frame[], model = own): void =>
    void keepStanding(shootId, background.id, model, placesBy(model, frames, style, background));
  const others = follow.filter(({ id }) => id !== frame.id);
  const { standing } = style ?? {};
  if (!standing)
    return (
      <Box sx={{ py: 0.75 }}>
        <Button onClick={() => like(follow)}>
          {others.length ? `All ${follow.length} here stand like this` : 'Whoever comes here stands like this'}
        </Button>
        <p className="quiet">It is kept with the style: whoever is put here later stands so too.</p>
      </Box>
    );
  const differs = differ.some(({ id }) => id === frame.id);
  const rest = differ.filter(({ id }) => id !== frame.id);
  return (
    <Box sx={{ py: 0.75 }} role="group" aria-label="Standing of the style">
      <p>
        {differs
          ? `Stands otherwise than the ${counted(follow.length, 'other', 'others')} here.`
          : `Stands as everybody is to stand here${rest.length ? `; ${counted(rest.length, 'frame')} ${rest.length === 1 ? 'does' : 'do'} not` : ''}.`}
      </p>
      <Actions sx={{ pt: 0.5 }}>
        {(differs || standing.way !== alike) && (
          <Button onClick={() => like([...others, frame])}>
            {others.length ? `The ${others.length} like this one` : 'All like this one'}
          </Button>
        )}
        {differs && <Button onClick={() => like([frame], standing)}>This one like them</Button>}
        {!differs && rest.length > 0 && (
          <Button onClick={() => like(rest, standing)}>
            {rest.length === 1 ? 'That one' : `Those ${rest.length}`} too
          </Button>
        )}
      </Actions>
    </Box>
  );
}
