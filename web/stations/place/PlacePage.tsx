import { Box, Button, Link } from '@mui/material';
import { useMemo, useState } from 'react';
import { Link as RouterLink } from 'react-router';
import type { Background, Frame, OwnPlace, Shoot } from '../../../contract/index.ts';
import {
  clampPlacement,
  defaultPlacement,
  pixelsLost,
  placementFacts,
  sidesShown,
  standingLike,
  withSidesHidden,
  type Placement,
  type Standing,
} from '../../../core/place/placement.ts';
import { placedViews, type PlacedView } from '../../../core/place/index.ts';
import { Example } from '../../shared/Example.tsx';
import { FrameRows } from '../../shared/FrameRows.tsx';
import { useKeys } from '../../shared/keys.ts';
import { Panel, PanelTabs } from '../../shared/Panels.tsx';
import { useFrame } from '../../shared/useFrame.ts';
import { ViewStrip } from '../../shared/ViewStrip.tsx';
import {
  Actions,
  Bench,
  Caption,
  EmptyPlace,
  Fields,
  Key,
  ListMargin,
  Plate,
  ReadingMargin,
  Strip,
} from '../../shared/layout.tsx';
import { NumberField } from '../../shared/NumberField.tsx';
import { Problem } from '../../shared/Problem.tsx';
import { placeFrames } from '../../state/changes.ts';
import { useStore } from '../../state/store.ts';
import { Backgrounds } from './Backgrounds.tsx';
import { LookPanel, OtherSide } from './LookPanel.tsx';
import { PlacedSheet } from './PlacedSheet.tsx';
import { Stage } from './Stage.tsx';
import { useLook } from './useLook.ts';
import { useMeasured } from './useMeasured.ts';

const panels = { background: 'Background', match: 'Match', joining: 'Joining', all: 'Over all' };

/** Times fewer pixels of the person than were photographed, from which on the photographer is told. */
const MUCH_LOST = 1.6;

/** Putting people on backgrounds: one frame or all, by drag, keys and numbers. */
export function PlacePage() {
  const shoot = useStore((state) => state.shoot);
  const frames = useStore((state) => state.frames);
  const backgrounds = useStore((state) => state.backgrounds);
  const cut = frames.filter((frame) => frame.cut);
  const styles = useStore((state) => state.styles);
  const [frame, choose] = useFrame('place', cut);
  const bench = usePlaceBench();
  const [all, showAll] = useState(false);
  useKeys('place', { sheet: () => showAll(true) });
  if (!shoot || !frame)
    return (
      <EmptyPlace title="Nobody to place yet.">
        People can be placed on backgrounds once they are{' '}
        <Link component={RouterLink} to="../extract">
          extracted
        </Link>
        ; each guest on one of their own choice.
        <Example show={['cut']} words="a person who can be placed" />
      </EmptyPlace>
    );
  if (all)
    return (
      <PlacedSheet
        frames={cut}
        backgrounds={backgrounds}
        styles={styles}
        onEnd={(id) => {
          showAll(false);
          if (id !== undefined) choose(id);
        }}
      />
    );
  return (
    <Bench>
      <ListMargin aria-label="Frames to place">
        <Box sx={{ pb: 1.5 }}>
          <h2>People extracted</h2>
          <span className="quiet">
            <span className="figure">{cut.filter((f) => f.placement).length}</span> of{' '}
            <span className="figure">{cut.length}</span> have a background.
          </span>
          <div>
            <Button variant="text" sx={{ ml: -0.75 }} onClick={() => showAll(true)}>
              <Key>E</Key> All finished pictures
            </Button>
          </div>
        </Box>
        <FrameRows
          frames={cut}
          current={frame.id}
          onChoose={choose}
          note={(f) => backgrounds.find((b) => b.id === f.placement?.backgroundId)?.name ?? 'no background yet'}
          figure={() => ''}
        />
      </ListMargin>
      <OneFrame
        key={frame.id}
        bench={bench}
        shoot={shoot}
        frame={frame}
        cut={cut}
        frames={frames}
        backgrounds={backgrounds}
      />
    </Bench>
  );
}

/** What stays open from frame to frame. */
function usePlaceBench() {
  const [view, setView] = useState<PlacedView>('finished');
  const [panel, setPanel] = useState<keyof typeof panels>('background');
  return { view, setView, panel, setPanel };
}

function OneFrame({
  bench,
  shoot,
  frame,
  cut,
  frames,
  backgrounds,
}: {
  bench: ReturnType<typeof usePlaceBench>;
  shoot: Shoot;
  frame: Frame;
  cut: Frame[];
  frames: Frame[];
  backgrounds: Background[];
}) {
  const [draft, setDraft] = useState<Placement>();
  const { view, setView, panel, setPanel } = bench;
  const background = backgrounds.find((b) => b.id === frame.placement?.backgroundId);
  const saved = frame.placement;
  const placement = draft ?? saved ?? defaultPlacement;
  const look = useLook(shoot, frame, background);
  const measured = useMeasured(frame, background);
  const views = Object.keys(placedViews) as PlacedView[];
  useKeys('place', { view: (key) => setView(views[Number(key) - 1]) });
  const save = (next: Placement): void => {
    if (!background) return;
    const { x, y, height } = clampPlacement(next);
    setDraft(undefined);
    void placeFrames(
      shoot.id,
      [frame],
      { backgroundId: background.id, x, y, height, look: saved?.look ?? {} },
      'placement',
    );
  };
  const standing = frame.cut && { cut: frame, extent: frame.cut.quality.extent, placement };
  const places = useMemo(
    () => (background && frame.cut ? placesLike(frame, placement, cut, background) : []),
    [frame, placement, cut, background],
  );
  const put = (chosen: Background, on: Frame[], own: OwnPlace[] = []): void => {
    const { x, y, height } = saved ?? defaultPlacement;
    setDraft(undefined);
    const label = on.length === 1 ? 'background' : `background of ${on.length} frames`;
    // In which points a frame differs belongs to the background it differs on.
    const look = chosen.id === saved?.backgroundId ? saved.look : {};
    void placeFrames(shoot.id, on, { backgroundId: chosen.id, x, y, height, look }, label, own);
  };
  return (
    <>
      <Plate aria-label="Picture">
        <Strip>
          <ViewStrip
            label="View"
            views={views.map((value, n) => ({ value, title: placedViews[value], keyName: `${n + 1}` }))}
            value={view}
            onChange={setView}
          />
        </Strip>
        {background ? (
          <Stage
            key={background.id}
            frame={frame}
            background={background}
            drawn={{ placement, look: look.look, measured, view }}
            onDraft={setDraft}
            onSave={save}
          />
        ) : (
          <Box sx={{ color: '#fff', p: 3 }}>
            <strong>{frame.name} has no background yet.</strong> Choose one on the right.
          </Box>
        )}
        <Caption>
          <span>{frame.name}</span>
          <span className="quiet">
            {background ? `on ${background.name}` : ''} · drag the person, or arrows, <Key>+</Key>
            <Key>−</Key>
          </span>
          {background && (
            <span className="quiet figure" style={{ marginLeft: 'auto' }}>
              {background.width} × {background.height}
            </span>
          )}
        </Caption>
      </Plate>
      <ReadingMargin aria-label="Background and placement" sx={{ pt: 0 }}>
        <PanelTabs
          label="Panels"
          panels={panels}
          value={background ? panel : 'background'}
          figures={{ match: Object.keys(look.own).length || undefined }}
          onChange={setPanel}
        />
        <Panel id={background ? panel : 'background'}>
          {background && panel !== 'background' ? (
            <LookPanel
              panel={panel}
              look={look}
              background={background}
              measured={measured}
              placement={placement}
              feet={standing !== null && standing.extent.y + standing.extent.height < 0.996}
            />
          ) : (
            <>
              <Backgrounds
                backgrounds={backgrounds}
                chosen={background?.id}
                onChoose={(chosen) => put(chosen, [frame])}
              />
              {background && (
                <>
                  <Button sx={{ mt: 1, mb: 1.75 }} onClick={() => put(background, frames, places)}>
                    Put all {frames.length} frames here, like this
                  </Button>
                  {standing && <Smaller places={places} cut={cut} placement={standing} />}
                  <SideShown frame={frame} background={background} placement={placement} onSave={save} />
                  <PixelsLost frame={frame} background={background} placement={placement} />
                  {measured && <OtherSide look={look} measured={measured} />}
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
                          value={placement[name]}
                          min={min}
                          max={max}
                          step={0.005}
                          factor={100}
                          digits={1}
                          fixed
                          onChange={(value) => save({ ...placement, [name]: value })}
                        />
                      );
                    })}
                  </Fields>
                  <Actions sx={{ pt: 1.25 }}>
                    <Button variant="text" onClick={() => save(defaultPlacement)}>
                      Back to the middle
                    </Button>
                  </Actions>
                  <Box component="p" className="quiet" sx={{ pt: 0.75 }}>
                    Person and background are mixed in linear light, as a lens would.
                    {frame.height < background.height * placement.height * 0.8 && (
                      <Box component="strong" sx={{ color: 'text.primary' }}>
                        {' '}
                        The person is enlarged {((background.height * placement.height) / frame.height).toFixed(1)}{' '}
                        times and will look softer than the background.
                      </Box>
                    )}
                  </Box>
                </>
              )}
            </>
          )}
        </Panel>
      </ReadingMargin>
    </>
  );
}

/** Who of all would stand smaller than the others, so that they are whole, if all were put here like this. */
function Smaller({ places, cut, placement }: { places: readonly OwnPlace[]; cut: Frame[]; placement: Standing }) {
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
function SideShown({
  frame,
  background,
  placement,
  onSave,
}: {
  frame: Frame;
  background: Background;
  placement: Placement;
  onSave: (placement: Placement) => void;
}) {
  const sides = frame.cut ? sidesShown(frame, frame.cut.quality.extent, background, placement) : [];
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

/** Where each of the others stands if they stand as this one does. */
function placesLike(frame: Frame, placement: Placement, cut: readonly Frame[], background: Background): OwnPlace[] {
  const extent = frame.cut?.quality.extent;
  if (!extent) return [];
  const like = { cut: frame, extent, placement };
  return cut.flatMap((other) =>
    other.cut && other.id !== frame.id
      ? [{ id: other.id, ...standingLike(like, other, other.cut.quality.extent, background) }]
      : [],
  );
}

function PixelsLost({ frame, background, placement }: { frame: Frame; background: Background; placement: Placement }) {
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
