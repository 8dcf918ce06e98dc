import { Box, Button, FormControlLabel, Switch } from '@mui/material';
import type { Background, Frame, OwnPlace } from '../../../contract/index.ts';
import {
  pixelsLost,
  sidesShown,
  withSidesHidden,
  type Extent,
  type Placement,
  type Standing,
} from '../../../core/place/placement.ts';
import { eyesAbove, type AlikeWay } from '../../../core/place/scene.ts';
import { counted } from '../../shared/format.ts';
import { Fields } from '../../shared/layout.tsx';
import { NumberField } from '../../shared/NumberField.tsx';
import { Problem } from '../../shared/Problem.tsx';
import type { Distance, Ground } from './ground.ts';
import type { PlaceBench } from './usePlaceBench.ts';

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
  turn,
  onSave,
}: {
  frame: Frame;
  /** Degrees by which it is turned. */
  turn: number;
  /** Of the person, as the frame is placed. */
  extent: Extent | null;
  background: Background;
  placement: Placement;
  onSave: (placement: Placement) => void;
}) {
  const sides = extent ? sidesShown(frame, extent, background, placement, turn) : [];
  if (!sides.length) return null;
  return (
    <Problem role="status" lead="The frame’s own side shows:">
      the person was photographed cut off at the {sides.join(' and the ')}, and that lies within the picture.{' '}
      <Button variant="text" onClick={() => onSave(withSidesHidden(frame, sides, background, placement, turn))}>
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

/** Metres by which the horizon may meet somebody too high or too low before it is said. */
const OFF = 0.25;
const metres = (value: number): string => `${value.toFixed(2)} m`.replace('-', '−');

/** The horizon meets the person where it would meet nobody who stands there; a way out. */
export function OffGround({
  ground,
  placement,
  onSave,
}: {
  ground: Ground;
  placement: Placement;
  onSave: (placement: Placement) => void;
}) {
  const meets = ground.meets(placement);
  if (Math.abs(meets - ground.cameraHeight) <= OFF) return null;
  return (
    <Problem role="status" lead="Nobody stands there like this:">
      the horizon meets the person <span className="figure">{metres(meets)}</span> above the ground, and everybody else
      at <span className="figure">{metres(ground.cameraHeight)}</span>, the camera’s height.{' '}
      <Button variant="text" onClick={() => onSave(ground.standing(placement))}>
        Stand on that ground
      </Button>
    </Problem>
  );
}

/** Times as near or far as they were photographed, from which on faces look otherwise than in that room. */
const OTHER_DISTANCE = 1.6;

/** From how far somebody is seen there, beside how far away they were photographed; a way out where the two differ much. */
export function SeenFrom({
  distance: { there, photographed, alike },
  placement,
  onSave,
}: {
  distance: Distance;
  placement: Placement;
  onSave: (placement: Placement) => void;
}) {
  const far = <span className="figure">{there.toFixed(1)} m</span>;
  const near = photographed !== null && <span className="figure">{photographed.toFixed(1)} m</span>;
  const times = photographed === null ? 1 : there / photographed;
  if (times < OTHER_DISTANCE && times > 1 / OTHER_DISTANCE)
    return (
      <p className="quiet">
        By its size the person stands {far} from that camera{near && <>, and was photographed from {near}</>}.
      </p>
    );
  return (
    <Problem role="status" lead="Seen from another distance:">
      by their size they stand {far} from that camera, and were photographed from {near}, as the plan of their setup has
      it; a face looks {times > 1 ? 'nearer' : 'flatter'} than it would there.{' '}
      <Button variant="text" onClick={() => onSave(alike(placement))}>
        Stand as far away
      </Button>
    </Problem>
  );
}

/** Whether moving and scaling keep the person on the ground of the scene, and how high their eyes are. */
export function KeepGrounded({
  bench,
  ground,
  placement,
  onSave,
}: {
  bench: PlaceBench;
  ground: Ground;
  placement: Placement;
  onSave: (placement: Placement) => void;
}) {
  const { label, unit, min, max } = eyesAbove;
  return (
    <Box sx={{ pt: 1 }}>
      <FormControlLabel
        control={
          <Switch
            checked={bench.grounded}
            onChange={(_, on) => {
              bench.setGrounded(on);
              if (on) onSave(ground.standing(placement));
            }}
          />
        }
        label="Keep on the scene’s ground"
      />
      {bench.grounded && (
        <Fields as="div">
          <NumberField
            label={label}
            unit={unit}
            value={bench.eyesHigh}
            min={min}
            max={max}
            step={0.05}
            digits={2}
            onChange={bench.setEyesHigh}
          />
        </Fields>
      )}
      <p className="quiet">
        {ground.feet
          ? 'Up and down is away and nearer, and changes the size.'
          : 'At each size the horizon meets the person at the height of the camera.'}
      </p>
    </Box>
  );
}

/** In whose frames no face was found, so that they stand by scale. */
export function Faceless({ alike, frame, cut }: { alike: AlikeWay; frame: Frame; cut: readonly Frame[] }) {
  if (alike === 'scale') return null;
  const none = ({ cut: made }: Frame): boolean => !made?.faces.length;
  const without = cut.filter(none);
  if (!without.length) return null;
  if (none(frame))
    return (
      <Problem role="status" lead="No face was found here:">
        all stand by scale. Choose a frame with a face, or extract this one again.
      </Problem>
    );
  const names = without.map(({ name }) => name);
  return (
    <Problem role="status" lead={`No face was found in ${counted(names.length, 'frame')}:`}>
      {names.slice(0, 4).join(', ')}
      {names.length > 4 && ` and ${names.length - 4} more`} stand by scale.
    </Problem>
  );
}
