import { Box, Button } from '@mui/material';
import type { Background, Frame, Style } from '../../../contract/index.ts';
import { isCutOff, mirroredExtent, noExtras, plainLook, sidesShown, type Look } from '../../../core/place/index.ts';
import { ContactSheet } from '../../shared/ContactSheet.tsx';
import { counted } from '../../shared/format.ts';
import { useKeys } from '../../shared/keys.ts';
import { Actions, Key } from '../../shared/layout.tsx';
import { pictures } from '../../state/api.ts';

/** Times the person's pixels are enlarged, from which on it is said. */
const ENLARGED = 1.25;

interface Props {
  /** Those that are extracted. */
  frames: readonly Frame[];
  backgrounds: readonly Background[];
  styles: readonly Style[];
  /** Back to the bench; with a frame, to that one. */
  onEnd: (frame?: number) => void;
}

/** All finished pictures at once, those with something to look at first. */
export function PlacedSheet({ frames, backgrounds, styles, onEnd }: Props) {
  useKeys('sheet', { leave: () => onEnd() });
  const backgroundOf = (frame: Frame): Background | undefined =>
    backgrounds.find(({ id }) => id === frame.placement?.backgroundId);
  const styleOf = (frame: Frame): Style | undefined =>
    styles.find(({ backgroundId }) => backgroundId === frame.placement?.backgroundId);
  const lookOf = (frame: Frame): Look => ({ ...plainLook, ...styleOf(frame)?.look, ...frame.placement?.look });
  const flaws = new Map(frames.map((frame) => [frame.id, flawOf(frame, backgroundOf(frame), lookOf(frame))]));
  const sorted = [...frames].sort((a, b) => rank(flaws.get(b.id)) - rank(flaws.get(a.id)));
  const flawed = frames.filter(({ id }) => flaws.get(id)).length;
  return (
    <Box component="section" aria-label="All finished pictures" sx={{ px: 2.5, py: 1.5 }}>
      <Actions sx={{ mb: 1.5 }}>
        <h1 style={{ fontSize: 17 }}>{counted(frames.length, 'finished picture')}</h1>
        <span className="quiet" role="status">
          {flawed ? `${flawed} to look at come first` : 'nobody is cut off, enlarged or without a background'}
        </span>
        <Button variant="text" sx={{ ml: 'auto' }} onClick={() => onEnd()}>
          <Key>Esc</Key> To the bench
        </Button>
      </Actions>
      <ContactSheet
        frames={sorted}
        picture={(frame) =>
          frame.placement
            ? pictures.finished(frame, lookOf(frame), styleOf(frame)?.extras ?? noExtras)
            : pictures.latestThumbnail(frame)
        }
        note={(frame) => flaws.get(frame.id) ?? backgroundOf(frame)?.name ?? ''}
        onChoose={(frame) => onEnd(frame.id)}
      />
    </Box>
  );
}

const rank = (flaw: string | undefined): number => (flaw ? 1 : 0);

/** What is to be looked at on a finished picture. */
function flawOf(frame: Frame, background: Background | undefined, look: Look): string | undefined {
  const { placement, cut } = frame;
  if (!placement || !background) return 'no background';
  const extent = cut && mirroredExtent(cut.quality.extent, look.mirrorPerson);
  if (extent && isCutOff(frame, extent, background, placement)) return 'cut off at the side';
  if (extent && sidesShown(frame, extent, background, placement, look.turn).length) return 'the frame’s side shows';
  const enlarged = (placement.height * background.height) / frame.height;
  return enlarged > ENLARGED ? `enlarged ${enlarged.toFixed(1)} times` : undefined;
}
