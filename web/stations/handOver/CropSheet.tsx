import { Box, Button, ButtonBase, Slider, styled } from '@mui/material';
import { useMemo, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import type { Frame } from '../../../contract/index.ts';
import {
  clampCrop,
  cropCuts,
  cropHeight,
  enlargement,
  LEAST_CROP,
  proposeCrop,
  shapeKey,
  shapesOf,
  widestCrop,
  type People,
  type Preset,
  type PrintCrop,
} from '../../../core/handOver/index.ts';
import type { Size } from '../../../core/place/index.ts';
import { Choice } from '../../shared/Choice.tsx';
import { counted } from '../../shared/format.ts';
import { useKeys } from '../../shared/keys.ts';
import { Actions, EmptyPlace, Key } from '../../shared/layout.tsx';
import { trimNumber } from '../../shared/takeNumber.ts';
import { cropFrame } from '../../state/changes.ts';
import { useStore } from '../../state/store.ts';
import { useFinishedAddress } from '../place/useFinishedAddress.ts';
import { peopleOf } from './candidates.ts';

const Pictures = styled('ul')`
  list-style: none;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(220px, 1fr));
  gap: 18px;
`;
const Mat = styled(ButtonBase)`
  display: block;
  position: relative;
  background: var(--surround);
  overflow: hidden;
  touch-action: none;
  cursor: move;
  width: 100%;
  & img {
    display: block;
    width: 100%;
  }
  & .crop {
    position: absolute;
    outline: 2px solid #fff;
    box-shadow: 0 0 0 2000px rgb(40 40 40 / 0.62);
  }
  & .line {
    position: absolute;
    border: 1px dashed rgb(255 255 255 / 0.85);
  }
`;

/** A shape that a preset crops to, with what lies inside it. */
interface Shape extends Size {
  key: string;
  title: string;
  resolution: number;
  bleed: number;
  safe: number;
}

function shapesOfAll(presets: readonly Preset[]): Shape[] {
  return presets.flatMap((preset) =>
    shapesOf(preset).map((shape) => ({
      ...shape,
      key: shapeKey(shape),
      title: `${preset.name}${preset.kind === 'sheet' ? `, ${trimNumber(shape.width / 10, 1)} × ${trimNumber(shape.height / 10, 1)} cm` : ''}`,
      bleed: preset.kind === 'print' ? preset.bleed : 0,
      safe: preset.kind === 'print' ? preset.safe : 0,
    })),
  );
}

interface Cropped {
  frame: Frame;
  picture: Size;
  people: People | null;
  crop: PrintCrop;
  byHand: boolean;
  warnings: string[];
}

/** The crops of all finished pictures for one shape, those with something to look at first; moved by hand. */
export function CropSheet({
  frames,
  presets,
  onEnd,
}: {
  frames: readonly Frame[];
  presets: readonly Preset[];
  onEnd: () => void;
}) {
  const shapes = useMemo(() => shapesOfAll(presets), [presets]);
  const [wanted, setWanted] = useState('0');
  const shape = shapes[Number(wanted)] ?? shapes[0];
  const all = useStore((state) => state.frames);
  const { backgroundOf, lookOf, addressOf } = useFinishedAddress();
  useKeys('crops', { leave: onEnd });
  const byId = useMemo(() => new Map(all.map((frame) => [frame.id, frame])), [all]);
  // Put in order once for a shape, so that nothing jumps while it is worked on.
  const order = useRef<{ of: string; ids: number[] }>(undefined);
  if (!shape)
    return (
      <EmptyPlace title="Nothing is cropped.">
        None of the chosen presets has a shape of its own. <Button onClick={onEnd}>Back to Hand over</Button>
      </EmptyPlace>
    );
  const cropped = frames.flatMap((frame): Cropped[] => {
    const background = backgroundOf(frame);
    if (!frame.cut || !frame.placement || !background) return [];
    const people = peopleOf(frame, byId, background, lookOf(frame).mirrorPerson);
    const own = frame.crops[shape.key];
    const crop = clampCrop(own ?? proposeCrop(people, shape, background), shape, background);
    const { times, goodWidth } = enlargement(crop, shape, background);
    const good = `${trimNumber(goodWidth / 10, 1)} × ${trimNumber((goodWidth * shape.height) / shape.width / 10, 1)} cm`;
    const warnings = [
      ...cropCuts(people, crop, shape, background).map((side) => `cuts ${side}`),
      ...(times > 1.02 ? [`good up to ${good} at ${shape.resolution} px/in`] : []),
    ];
    return [{ frame, picture: background, people, crop, byHand: own !== undefined, warnings }];
  });
  if (order.current?.of !== shape.key || order.current.ids.length !== cropped.length)
    order.current = {
      of: shape.key,
      ids: cropped.toSorted((a, b) => b.warnings.length - a.warnings.length).map(({ frame }) => frame.id),
    };
  const place = new Map(order.current.ids.map((id, n) => [id, n]));
  const sorted = cropped.toSorted((a, b) => (place.get(a.frame.id) ?? 0) - (place.get(b.frame.id) ?? 0));
  const warned = cropped.filter(({ warnings }) => warnings.length).length;
  return (
    <Box component="section" aria-label="Crops" sx={{ px: 2.5, py: 1.5, display: 'grid', gap: 1.5 }}>
      <Actions>
        <h1 style={{ fontSize: 17 }}>Crops of {counted(cropped.length, 'picture')}</h1>
        <Choice
          aria="Shape"
          value={String(shapes.indexOf(shape))}
          options={shapes.map(({ title }, n) => ({ value: String(n), title }))}
          onChange={setWanted}
        />
        <span className="quiet" role="status">
          {warned ? `${warned} to look at come first` : 'nobody is cut, all have pixels enough'}
        </span>
        <Button variant="text" sx={{ ml: 'auto' }} onClick={onEnd}>
          <Key>Esc</Key> Back to Hand over
        </Button>
      </Actions>
      <p className="quiet">
        The lines: what is cut off after printing, and the margin that nothing of weight should enter. Drag a crop, or
        move it with the arrow keys; + and − make it larger and smaller, Backspace takes it back to the proposal.
      </p>
      {!cropped.length && <EmptyPlace title="No finished pictures yet.">Place people on backgrounds first.</EmptyPlace>}
      <Pictures>
        {sorted.map((one) => (
          <li key={one.frame.id}>
            <OneCrop one={one} shape={shape} address={addressOf(one.frame, false)} />
          </li>
        ))}
      </Pictures>
    </Box>
  );
}

const percent = (share: number): string => `${share * 100}%`;
const STEP = 0.01;

function OneCrop({ one, shape, address }: { one: Cropped; shape: Shape; address: string }) {
  const { frame, picture, people, crop, byHand, warnings } = one;
  const [held, setHeld] = useState<PrintCrop>();
  const from = useRef<{ x: number; y: number; crop: PrintCrop }>(undefined);
  const now = held ?? crop;
  const height = cropHeight(now, shape, picture);
  const keep = (to: PrintCrop | null, label: string): void => void cropFrame(frame, shape.key, to, label);
  const fit = (to: PrintCrop): PrintCrop => clampCrop(to, shape, picture);
  const move = (dx: number, dy: number): void => keep(fit({ ...now, x: now.x + dx, y: now.y + dy }), 'moving a crop');
  const size = (width: number): PrintCrop => {
    const tall = cropHeight({ width }, shape, picture);
    return fit({ x: now.x + (now.width - width) / 2, y: now.y + (height - tall) / 2, width });
  };
  const onKeyDown = (event: KeyboardEvent): void => {
    const by = event.shiftKey ? STEP / 5 : STEP;
    const steps: Record<string, () => void> = {
      ArrowLeft: () => move(-by, 0),
      ArrowRight: () => move(by, 0),
      ArrowUp: () => move(0, -by),
      ArrowDown: () => move(0, by),
      '+': () => keep(size(now.width * 1.03), 'a larger crop'),
      '-': () => keep(size(now.width / 1.03), 'a smaller crop'),
      Backspace: () => byHand && keep(null, 'taking a crop back'),
    };
    if (!steps[event.key]) return;
    event.preventDefault();
    steps[event.key]();
  };
  const onPointerDown = (event: PointerEvent<HTMLElement>): void => {
    event.currentTarget.setPointerCapture(event.pointerId);
    from.current = { x: event.clientX, y: event.clientY, crop: now };
  };
  const onPointerMove = (event: PointerEvent<HTMLElement>): void => {
    if (!from.current) return;
    const box = event.currentTarget.getBoundingClientRect();
    const { x, y, crop: before } = from.current;
    setHeld(
      fit({
        ...before,
        x: before.x + (event.clientX - x) / box.width,
        y: before.y + (event.clientY - y) / box.height,
      }),
    );
  };
  const onPointerUp = (): void => {
    from.current = undefined;
    if (held) keep(held, 'moving a crop');
    setHeld(undefined);
  };
  const line = (mm: number) => ({
    left: percent(mm / shape.width),
    right: percent(mm / shape.width),
    top: percent(mm / shape.height),
    bottom: percent(mm / shape.height),
  });
  const widest = widestCrop(shape, picture);
  return (
    <figure>
      <Mat
        disableRipple
        aria-label={`Crop of ${frame.name}`}
        aria-description={warnings.join(', ')}
        style={{ aspectRatio: `${picture.width} / ${picture.height}` }}
        {...{ onKeyDown, onPointerDown, onPointerMove, onPointerUp }}
      >
        <img src={address} alt="" loading="lazy" draggable={false} />
        <span
          className="crop"
          style={{
            left: percent(now.x),
            top: percent(now.y),
            width: percent(now.width),
            height: percent(height),
          }}
        >
          {shape.bleed > 0 && <span className="line" style={line(shape.bleed)} />}
          {shape.safe > 0 && <span className="line" style={line(shape.bleed + shape.safe)} />}
        </span>
      </Mat>
      <Slider
        size="small"
        aria-label={`Size of the crop of ${frame.name}`}
        min={LEAST_CROP}
        max={1}
        step={0.01}
        value={now.width / widest}
        onChange={(_, share) => setHeld(size(share * widest))}
        onChangeCommitted={(_, share) => {
          keep(size(share * widest), 'the size of a crop');
          setHeld(undefined);
        }}
      />
      <figcaption>
        {frame.subject || frame.name}
        {people ? '' : ', nobody found'}
        {warnings.length > 0 && <strong>: {warnings.join(', ')}</strong>}
        {byHand && (
          <Button variant="text" size="small" onClick={() => keep(null, 'taking a crop back')}>
            As proposed
          </Button>
        )}
      </figcaption>
    </figure>
  );
}
