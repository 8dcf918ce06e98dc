import { Box, Button } from '@mui/material';
import type { Background, Frame } from '../../../contract/index.ts';
import { fringeStep, fringeWords } from '../../../core/place/fringeWords.ts';
import {
  isCutOff,
  litApart,
  mirroredExtent,
  scaleOn,
  sidesOf,
  sidesShown,
  type Look,
  type Measured,
} from '../../../core/place/index.ts';
import { ContactSheet } from '../../shared/ContactSheet.tsx';
import { counted, timeLeft } from '../../shared/format.ts';
import { useKeys } from '../../shared/keys.ts';
import { Actions, Key } from '../../shared/layout.tsx';
import { useFinishedAddress } from './useFinishedAddress.ts';
import { useFringes } from './useFringes.ts';
import { useTones } from './useTones.ts';

/** Times the person's pixels are enlarged, from which on it is said. */
const ENLARGED = 1.25;

/** Part of the picture's height by which a face may reach out of it above. */
const HEAD_OUT = 0.01;
/** Times as large or small as the others' faces, from which on it is said; and of how many others. */
const OTHER_SIZE = 1.35;
const FEWEST = 4;
/** Times as much fringe as is usual in these pictures, from which on it is said. */
const MORE_FRINGE = 1.6;

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
  const placed = frames.flatMap((frame) => {
    const background = backgroundOf(frame);
    return background ? [[frame, background] as const] : [];
  });
  const tonesFor = useTones(placed);
  const { seen, open, secondsLeft } = useFringes(placed.map(([frame, background]) => ({ frame, on: [background] })));
  const fringes = [...seen.values()].flatMap(([amount]) => amount ?? []).sort((a, b) => a - b);
  const usualFringe = fringes[fringes.length >> 1] ?? Infinity;
  const flaws = new Map(
    frames.map((frame) => {
      const background = backgroundOf(frame);
      const look = lookOf(frame);
      const size = background && usual.get(background.id);
      return [
        frame.id,
        flawOf(frame, background, look, size) ??
          lightFlaw(background && tonesFor(frame, background), look) ??
          fringeFlaw(seen.get(frame.id)?.[0], usualFringe),
      ];
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
            : 'nobody is cut off, enlarged, of another size than the others, lit from the other side, with much fringe or without a background'}
          {open > 0 && ` · outlines still to be looked at: ${open}, ${timeLeft(secondsLeft)}`}
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
  const enlarged = scaleOn(frame, background, placement);
  if (enlarged > ENLARGED) return `enlarged ${enlarged.toFixed(1)} times`;
  const size = faceSize(frame);
  if (size === undefined || usual === undefined) return undefined;
  if (size > usual * OTHER_SIZE) return `larger than the others, ${(size / usual).toFixed(1)} times`;
  return size < usual / OTHER_SIZE ? `smaller than the others, ${(size / usual).toFixed(1)} times` : undefined;
}

/** The light from the other side than the scene’s, where no match turns it. */
function lightFlaw(measured: Measured | undefined, look: Look): string | undefined {
  if (!measured) return undefined;
  const { person, scene } = sidesOf(measured, look);
  const turned = look.toSide > 0 && (measured.lightFrom !== null || measured.balls);
  return !turned && litApart(person, scene)
    ? `lit from the ${person > 0 ? 'right' : 'left'}, the scene not`
    : undefined;
}

/** @param usual of all pictures. */
function fringeFlaw(amount: number | null | undefined, usual: number): string | undefined {
  const step = fringeStep(amount ?? 0);
  const plainly = step === fringeWords.length - 1;
  return plainly && (amount ?? 0) > MORE_FRINGE * usual ? `fringe ${fringeWords[step].words}` : undefined;
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
