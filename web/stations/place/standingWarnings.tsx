import { Button } from '@mui/material';
import type { Background, Frame, OwnPlace } from '../../../contract/index.ts';
import {
  pixelsLost,
  sidesShown,
  withSidesHidden,
  type Extent,
  type Placement,
  type Standing,
} from '../../../core/place/placement.ts';
import { Problem } from '../../shared/Problem.tsx';

/** Times fewer pixels of the person than were photographed, from which on the photographer is told. */
const MUCH_LOST = 1.6;

/** Who of all would stand smaller than the others, so that they are whole, if all were put here like this. */
export function Smaller({
  places,
  cut,
  placement,
}: {
  places: readonly OwnPlace[];
  cut: Frame[];
  placement: Standing;
}) {
  const smaller = places.filter(({ id, height }) => {
    const frame = cut.find((one) => one.id === id);
    return frame && height < ((placement.placement.height * frame.height) / placement.cut.height) * 0.99;
  });
  if (!smaller.length) return null;
  const names = smaller.map(({ id }) => cut.find((one) => one.id === id)?.name ?? '');
  return (
    <Problem role="status" lead={`${smaller.length} of them would stand smaller than the others:`}>
      {names.slice(0, 4).join(', ')}
      {names.length > 4 && ` and ${names.length - 4} more`} would be cut off at the sides. A wider background keeps them
      as large as the others.
    </Problem>
  );
}

/** The frame's own side cuts somebody off in the middle of the picture; a way out. */
export function SideShown({
  frame,
  extent,
  background,
  placement,
  onSave,
}: {
  frame: Frame;
  /** Of the person, as the frame is placed. */
  extent: Extent | null;
  background: Background;
  placement: Placement;
  onSave: (placement: Placement) => void;
}) {
  const sides = extent ? sidesShown(frame, extent, background, placement) : [];
  if (!sides.length) return null;
  return (
    <Problem role="status" lead="The frame’s own side shows:">
      the person was photographed cut off at the {sides.join(' and the ')}, and that lies within the picture.{' '}
      <Button variant="text" onClick={() => onSave(withSidesHidden(frame, sides, background, placement))}>
        Move it out of sight
      </Button>
    </Problem>
  );
}

/** How much of the person a small background throws away. */
export function PixelsLost({
  frame,
  background,
  placement,
}: {
  frame: Frame;
  background: Background;
  placement: Placement;
}) {
  const lost = pixelsLost(frame, background, placement);
  if (lost <= MUCH_LOST) return null;
  const millimetres = (pixels: number): number => Math.round((pixels / 300) * 25.4);
  return (
    <Problem role="status" lead="The background is small:">
      the finished picture has{' '}
      <span className="figure">
        {background.width} × {background.height}
      </span>{' '}
      pixels, and of the person’s own pixels {Math.round(100 * (1 - 1 / lost))} % are thrown away. At 300 dots an inch
      it prints{' '}
      <span className="figure">
        {millimetres(background.width)} × {millimetres(background.height)} mm
      </span>
      ; a background <span className="figure">{Math.ceil(frame.height / placement.height)}</span> pixels high keeps all.
    </Problem>
  );
}
