import { Box, Button } from '@mui/material';
import { useMemo, type ReactNode } from 'react';
import type { Background, Frame, OwnPlace } from '../../../contract/index.ts';
import {
  defaultPlacement,
  mirroredExtent,
  placementFacts,
  scaleOn,
  type Placement,
} from '../../../core/place/placement.ts';
import { alikeWays, type AlikeWay } from '../../../core/place/scene.ts';
import { standsAs } from '../../../core/place/standing.ts';
import { Choice } from '../../shared/Choice.tsx';
import { Actions, Fields } from '../../shared/layout.tsx';
import { NumberField } from '../../shared/NumberField.tsx';
import { placeFrames } from '../../state/placing.ts';
import { useStore } from '../../state/store.ts';
import { Backgrounds } from './Backgrounds.tsx';
import type { Distance, Ground } from './ground.ts';
import { StyleStanding } from './StyleStanding.tsx';
import { modelOf, placesBy, shownOf } from './styleStanding.ts';
import type { PlaceBench } from './usePlaceBench.ts';
import { Faceless, KeepGrounded, OffGround, PixelsLost, SeenFrom, SideShown, Smaller } from './standingWarnings.tsx';

interface Props {
  shootId: number;
  frame: Frame;
  /** Those that are extracted, and all. */
  cut: Frame[];
  frames: Frame[];
  backgrounds: Background[];
  background: Background | undefined;
  placement: Placement;
  /** Whether the person is mirrored, and by how many degrees turned. */
  mirrored: boolean;
  turn: number;
  bench: PlaceBench;
  ground: Ground | undefined;
  distance: Distance | undefined;
  /** Who else is in the picture. */
  others: ReactNode;
  /** What is said of the light. */
  light: ReactNode;
  onSave: (placement: Placement) => void;
  /** Where whoever is moved stands, be it another in the picture, and how that is kept. */
  standing: Placement;
  onStand: (placement: Placement) => void;
  /** Somebody is put on a background. */
  onPut: () => void;
}

/** On which background somebody stands, where, and what that does to them. */
export function StandingPanel(props: Props) {
  const { shootId, frame, cut, frames, backgrounds, background, placement, mirrored, light, onSave, onPut } = props;
  const { bench, ground } = props;
  const { alike } = bench;
  const styles = useStore((state) => state.styles);
  const saved = frame.placement;
  const extent = frame.cut && mirroredExtent(frame.cut.quality.extent, mirrored);
  const standing = extent && { cut: frame, extent, placement };
  const places = useMemo(
    () => (background && frame.cut ? placesLike(frame, placement, cut, background, mirrored, alike) : []),
    [frame, placement, cut, background, mirrored, alike],
  );
  const enlarged = background ? scaleOn(frame, background, placement) : 1;
  const put = (chosen: Background, on: Frame[], own: OwnPlace[] = []): void => {
    onPut();
    const style = styles.find(({ backgroundId }) => backgroundId === chosen.id);
    // Whoever comes to a background stands as its style says; before it says anything, as before.
    const said =
      on.length === 1 && style?.standing && chosen.id !== saved?.backgroundId
        ? placesBy(style.standing, on, style, chosen)[0]
        : undefined;
    const { x, y, height } = said ?? saved ?? defaultPlacement;
    const label = on.length === 1 ? 'background' : `background of ${on.length} frames`;
    // In which points a frame differs belongs to the background it differs on.
    const look = chosen.id === saved?.backgroundId ? saved.look : {};
    // Several keep whom each has beside them.
    const others = saved?.others;
    void placeFrames(shootId, on, { backgroundId: chosen.id, x, y, height, look, others }, label, own);
  };
  return (
    <>
      <Backgrounds backgrounds={backgrounds} chosen={background?.id} onChoose={(chosen) => put(chosen, [frame])} />
      {background && (
        <>
          <Button sx={{ mt: 1, mb: 0.75 }} onClick={() => put(background, frames, places)}>
            Put all {frames.length} frames here, like this
          </Button>
          <Choice
            label="All alike in"
            value={alike}
            options={(Object.keys(alikeWays) as AlikeWay[]).map((value) => ({ value, title: alikeWays[value] }))}
            onChange={(value) => bench.setAlike(value as AlikeWay)}
          />
          <Faceless alike={alike} frame={frame} cut={cut} />
          <StyleStanding
            shootId={shootId}
            frame={frame}
            cut={cut}
            background={background}
            placement={placement}
            alike={alike}
          />
          {standing && alike !== 'heads' && <Smaller places={places} cut={cut} placement={standing} />}
          <SideShown
            frame={frame}
            turn={props.turn}
            extent={extent}
            background={background}
            placement={placement}
            onSave={onSave}
          />
          <PixelsLost frame={frame} background={background} placement={placement} />
          {light}
          {ground && <OffGround ground={ground} placement={placement} onSave={onSave} />}
          {props.distance && <SeenFrom distance={props.distance} placement={placement} onSave={onSave} />}
          <Box component="h2" sx={{ borderTop: 1, borderColor: 'divider', pt: 1.25, pb: 0.5 }}>
            Placement
          </Box>
          <Fields as="div">
            {(Object.keys(placementFacts) as (keyof Placement)[]).map((name) => {
              const { label, unit, min, max } = placementFacts[name];
              return (
                <NumberField
                  key={name}
                  label={label}
                  unit={unit}
                  value={props.standing[name]}
                  min={min}
                  max={max}
                  step={0.005}
                  factor={100}
                  digits={1}
                  fixed
                  onChange={(value) => props.onStand({ ...props.standing, [name]: value })}
                />
              );
            })}
          </Fields>
          {ground && <KeepGrounded bench={bench} ground={ground} placement={placement} onSave={onSave} />}
          <Actions sx={{ pt: 1.25 }}>
            <Button variant="text" onClick={() => props.onStand(defaultPlacement)}>
              Back to the middle
            </Button>
          </Actions>
          {props.others}
          <Box component="p" className="quiet" sx={{ pt: 0.75 }}>
            Person and background are mixed in linear light, as a lens would.
            {enlarged > 1.25 && (
              <Box component="strong" sx={{ color: 'text.primary' }}>
                {' '}
                The person is enlarged {enlarged.toFixed(1)} times and will look softer than the background.
              </Box>
            )}
          </Box>
        </>
      )}
    </>
  );
}

/** Where each of the others stands if they stand as this one does; whoever is put like a mirrored one is mirrored too. */
function placesLike(
  frame: Frame,
  placement: Placement,
  cut: readonly Frame[],
  background: Background,
  mirrored: boolean,
  alike: AlikeWay,
): OwnPlace[] {
  const model = modelOf(frame, mirrored, placement, alike);
  if (!model) return [];
  return cut.flatMap((other) => {
    const shown = other.id === frame.id ? undefined : shownOf(other, mirrored);
    return shown ? [{ id: other.id, ...standsAs(model, shown, background) }] : [];
  });
}
