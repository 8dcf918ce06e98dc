import { Box, Button } from '@mui/material';
import type { Background, Frame } from '../../../contract/index.ts';
import { chosenBackgrounds } from '../../../core/gather/chosenBackground.ts';
import { defaultPlacement } from '../../../core/place/placement.ts';
import { counted } from '../../shared/format.ts';
import { Problem } from '../../shared/Problem.tsx';
import { placeAll } from '../../state/placing.ts';
import { useStore } from '../../state/store.ts';
import { placesBy } from './styleStanding.ts';

/** Puts everybody on the background that they chose, by the roster; nothing where all stand so. */
export function AsChosen({
  shootId,
  cut,
  backgrounds,
}: {
  shootId: number;
  cut: readonly Frame[];
  backgrounds: readonly Background[];
}) {
  const subjects = useStore((state) => state.subjects);
  const styles = useStore((state) => state.styles);
  const { moves, unknown } = chosenBackgrounds(
    subjects,
    cut,
    backgrounds.filter(({ removed }) => !removed),
  );
  const count = moves.reduce((sum, { frames }) => sum + frames.length, 0);
  // Before the library has been read nothing is called so.
  if (!backgrounds.length || (!count && !unknown.length)) return null;
  const place = (): void => {
    const all = moves.map(({ background, frames }) => {
      const style = styles.find(({ backgroundId }) => backgroundId === background.id);
      // As the style says; before it says anything each keeps the place that was found for it.
      const places = style?.standing
        ? placesBy(style.standing, frames, style, background)
        : frames.flatMap(({ id, placement }) =>
            placement ? [{ id, x: placement.x, y: placement.y, height: placement.height }] : [],
          );
      return { frames, placement: { backgroundId: background.id, ...defaultPlacement, look: {} }, places };
    });
    void placeAll(shootId, all, 'backgrounds as chosen');
  };
  const lost = unknown.map(({ chosen, people }) => `“${chosen}” (${people.slice(0, 3).join(', ')})`).join(', ');
  return (
    <Problem
      role="note"
      lead={count ? `${counted(count, 'frame')} not on the background that was chosen.` : 'Chosen, and not there:'}
    >
      {lost && `No background, or several, are called ${lost}.`}
      {count > 0 && (
        <Box sx={{ pt: 0.5 }}>
          <Button onClick={place}>Place as chosen</Button>
        </Box>
      )}
    </Problem>
  );
}
