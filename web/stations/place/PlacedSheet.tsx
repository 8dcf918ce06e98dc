import { Box, Button } from '@mui/material';
import type { Background, Frame } from '../../../contract/index.ts';
import { isCutOff, mirroredExtent, sidesShown, type Look } from '../../../core/place/index.ts';
import { ContactSheet } from '../../shared/ContactSheet.tsx';
import { counted } from '../../shared/format.ts';
import { useKeys } from '../../shared/keys.ts';
import { Actions, Key } from '../../shared/layout.tsx';
import { useFinishedAddress } from './useFinishedAddress.ts';

/** Times the person's pixels are enlarged, from which on it is said. */
const ENLARGED = 1.25;

/** Part of the picture's height by which a face may reach out of it above. */
const HEAD_OUT = 0.01;
/** Times as large or small as the others' faces, from which on it is said; and of how many others. */
const OTHER_SIZE = 1.35;
const FEWEST = 4;

interface Props {
  /** Those that are extracted. */
  frames: readonly Frame[];
  /** Back to the bench; with a frame, to that one. */
  onEnd: (frame?: number) => void;
}

/** All finished pictures at once, those with something to look at first. */
export function PlacedSheet({ frames, onEnd }: Props) {
  useKeys('sheet', { leave: () => onEnd() });
  const { backgroundOf, lookOf, addressOf } = useFinishedAddress();
  const usual = usualFaces(frames, backgroundOf);
  const flaws = new Map(
    frames.map((frame) => {
      const background = backgroundOf(frame);
      return [frame.id, flawOf(frame, background, lookOf(frame), background && usual.get(background.id))];
    }),
  );
  const sorted = [...frames].sort((a, b) => rank(flaws.get(b.id)) - rank(flaws.get(a.id)));
  const flawed = frames.filter(({ id }) => flaws.get(id)).length;
  return (
    <Box component="section" aria-label="All finished pictures" sx={{ px: 2.5, py: 1.5 }}>
      <Actions sx={{ mb: 1.5 }}>
        <h1 style={{ fontSize: 17 }}>{counted(frames.length, 'finished picture')}</h1>
        <span className="quiet" role="status">
          {flawed
            ? `${flawed} to look at come first`
            : 'nobody is cut off, enlarged, of another size than the others or without a background'}
        </span>
        <Button variant="text" sx={{ ml: 'auto' }} onClick={() => onEnd()}>
          <Key>Esc</Key> To the bench
        </Button>
      </Actions>
      <ContactSheet
        frames={sorted}
        picture={addressOf}
        note={(frame) => flaws.get(frame.id) ?? backgroundOf(frame)?.name ?? ''}
        onChoose={(frame) => onEnd(frame.id)}
      />
    </Box>
  );
}

const rank = (flaw: string | undefined): number => (flaw ? 1 : 0);

/** What is to be looked at on a finished picture. */
function flawOf(
  frame: Frame,
  background: Background | undefined,
  look: Look,
  usual: number | undefined,
): string | undefined {
  const { placement, cut } = frame;
  if (!placement || !background) return 'no background';
  const extent = cut && mirroredExtent(cut.quality.extent, look.mirrorPerson);
  if (extent && isCutOff(frame, extent, background, placement)) return 'cut off at the side';
  if (extent && sidesShown(frame, extent, background, placement, look.turn).length) return 'the frame’s side shows';
  const above = cut && Math.min(...cut.faces.map(({ y }) => placement.y - (1 - y) * placement.height));
  if (above !== null && above < -HEAD_OUT) return 'the head is cut off';
  const enlarged = (placement.height * background.height) / frame.height;
  if (enlarged > ENLARGED) return `enlarged ${enlarged.toFixed(1)} times`;
  const size = faceSize(frame);
  if (size === undefined || usual === undefined) return undefined;
  if (size > usual * OTHER_SIZE) return `larger than the others, ${(size / usual).toFixed(1)} times`;
  return size < usual / OTHER_SIZE ? `smaller than the others, ${(size / usual).toFixed(1)} times` : undefined;
}

/** How large the face of whoever is alone on a frame is on the background, as a share of its height. */
function faceSize({ cut, placement }: Frame): number | undefined {
  return cut?.faces.length === 1 && placement ? cut.faces[0].height * placement.height : undefined;
}

/** The middle size of faces on each background, where there are enough to tell. */
function usualFaces(
  frames: readonly Frame[],
  backgroundOf: (frame: Frame) => Background | undefined,
): Map<number, number> {
  const sizes = new Map<number, number[]>();
  for (const frame of frames) {
    const [id, size] = [backgroundOf(frame)?.id, faceSize(frame)];
    if (id !== undefined && size !== undefined) sizes.set(id, [...(sizes.get(id) ?? []), size]);
  }
  return new Map(
    [...sizes].flatMap(([id, list]): [number, number][] =>
      list.length < FEWEST ? [] : [[id, list.sort((a, b) => a - b)[list.length >> 1]]],
    ),
  );
}
