import DownIcon from '@mui/icons-material/ArrowDownwardOutlined';
import UpIcon from '@mui/icons-material/ArrowUpwardOutlined';
import DeleteIcon from '@mui/icons-material/DeleteOutlined';
import {
  Box,
  Button,
  Checkbox,
  IconButton,
  Link,
  List,
  ListItem,
  ToggleButton,
  ToggleButtonGroup,
  Tooltip,
} from '@mui/material';
import { useState, type ReactNode } from 'react';
import type { Frame } from '../../../contract/index.ts';
import { inOrder, touchKinds, touchSettings, type Touch, type TouchKind } from '../../../core/touch/touch.ts';
import { counted } from '../../shared/format.ts';
import { Actions, Key } from '../../shared/layout.tsx';
import { NumberField } from '../../shared/NumberField.tsx';
import { pictures } from '../../state/api.ts';
import { isPicture, useStore } from '../../state/store.ts';
import { CarryDialog } from './CarryDialog.tsx';
import { TouchPicture } from './TouchPicture.tsx';
import type { ToCarry } from './useCarried.ts';
import { changeTouch, kindGroups, moveTouch, removeTouch, usualBrush, type Brush } from './touches.ts';

interface Props {
  frame: Frame;
  brush: Brush | undefined;
  onHold: (brush: Brush | undefined) => void;
  /** Touches without which the cut would look the same, once that is known. */
  idle?: readonly string[];
}

/** The brushes, and all that the hand has touched on the frame, the latest above. */
export function TouchesPanel({ frame, brush, onHold, idle = [] }: Props) {
  const hold = (kind: TouchKind | null): void => {
    if (!kind) return onHold(undefined);
    const pixels = pixelsOf(kind);
    // A strength in pixels and one in parts of the whole are not the same thing: each begins with its own.
    const before =
      brush && pixelsOf(brush.kind) === pixels
        ? brush.strength
        : pixels
          ? usualPixels(kind) / pixels
          : usualBrush.strength;
    const zone = kind !== 'strand' && (brush?.zone ?? usualBrush.zone);
    onHold({ ...usualBrush, ...brush, kind, strength: before, zone });
  };
  return (
    <section aria-label="Touches">
      {kindGroups.map(({ title, kinds }) => (
        <Box key={title} sx={{ mb: 0.5, '& .MuiToggleButton-root': { px: 0.75, py: 0.25 } }}>
          <h2>{title}</h2>
          <ToggleButtonGroup
            exclusive
            value={brush?.kind ?? null}
            onChange={(_, kind: TouchKind | null) => hold(kind)}
            aria-label={title}
            sx={{ flexWrap: 'wrap', ml: -0.75 }}
          >
            {kinds.map((kind) => (
              <ToggleButton key={kind} value={kind}>
                {touchKinds[kind].title}
              </ToggleButton>
            ))}
          </ToggleButtonGroup>
        </Box>
      ))}
      {brush ? (
        <BrushForm frame={frame} brush={brush} onHold={onHold} />
      ) : (
        <p className="quiet">Take one and paint on the picture. Touches never change the photograph.</p>
      )}
      <TouchList frame={frame} idle={idle} />
      <p className="quiet">
        <Link href={pictures.guidance(frame.id)} download>
          All that is said of this frame, as a file
        </Link>
        {frame.guidance.matte ? ', but for its own matte,' : ''} for the command line.
      </p>
    </section>
  );
}

function BrushForm({ frame, brush, onHold }: Omit<Props, 'idle'> & { brush: Brush }) {
  const set = (part: Partial<Brush>): void => onHold({ ...brush, ...part });
  const { size, softness, strength } = touchSettings;
  const pixels = pixelsOf(brush.kind);
  return (
    <Box sx={{ borderLeft: '5px solid', borderColor: 'primary.main', pl: 1.25, mb: 1, display: 'grid', gap: 0.5 }}>
      <p>
        {touchKinds[brush.kind].title}: {touchKinds[brush.kind].words}.
      </p>
      {brush.kind !== 'strand' && (
        <ToggleButtonGroup
          exclusive
          value={brush.zone ? 'zone' : 'stroke'}
          onChange={(_, how: string | null) => how && set({ zone: how === 'zone' })}
          aria-label="Drawn as"
        >
          <ToggleButton value="stroke">Stroke</ToggleButton>
          <ToggleButton value="zone">Outline of a zone</ToggleButton>
        </ToggleButtonGroup>
      )}
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr auto', alignItems: 'baseline' }}>
        <NumberField
          label={brush.zone ? 'Border' : 'Width'}
          unit="pixels"
          value={brush.size}
          factor={frame.height}
          digits={0}
          step={2 / frame.height}
          {...size}
          onChange={(value) => set({ size: value })}
        />
        {brush.kind !== 'strand' && (
          <NumberField
            label="Soft over"
            unit="% of it"
            value={brush.softness}
            factor={100}
            digits={0}
            step={0.1}
            {...softness}
            onChange={(value) => set({ softness: value })}
          />
        )}
        <NumberField
          label={pixels ? 'By' : 'Strength'}
          unit={pixels ? 'pixels of the file' : '%'}
          value={brush.strength}
          factor={pixels ?? 100}
          digits={pixels ? 1 : 0}
          step={pixels ? 0.1 / pixels : 0.1}
          {...strength}
          onChange={(value) => set({ strength: value })}
        />
      </Box>
      <p className="quiet">
        <Key>W</Key>wider <Key>F</Key>finer <Key>S</Key>softer <Key>H</Key>harder <Key>Esc</Key>puts it down
      </p>
    </Box>
  );
}

function TouchList({ frame, idle }: { frame: Frame; idle: readonly string[] }) {
  const touches = inOrder(frame.guidance.touches).reverse();
  if (!touches.length) return null;
  const needless = touches.filter(({ id, on }) => on && idle.includes(id));
  return (
    <>
      <h2>Laid on, the latest above</h2>
      {needless.length > 0 && (
        <p className="quiet" role="status">
          {needless.length === 1 ? 'One changes' : `${needless.length} change`} nothing any more: the cut is the same
          without. Remove {needless.length === 1 ? 'it' : 'them one by one'}, if you like.
        </p>
      )}
      <List aria-label="Touches" sx={{ borderTop: 1, borderColor: 'divider' }}>
        {touches.map((touch, n) => (
          <TouchRow
            key={touch.id}
            frame={frame}
            touch={touch}
            first={n === touches.length - 1}
            last={n === 0}
            idle={touch.on && idle.includes(touch.id)}
          />
        ))}
      </List>
      <CarryButton frame={frame} touches={touches.filter(({ on }) => on)} />
    </>
  );
}

/** Carries the touches to the subject's other frames, after a look at where they would lie. */
function CarryButton({ frame, touches }: { frame: Frame; touches: Touch[] }) {
  const frames = useStore((state) => state.frames);
  const [asked, ask] = useState<ToCarry>();
  const others = frames.filter(
    (one) => isPicture(one) && one.id !== frame.id && frame.subject !== '' && one.subject === frame.subject,
  );
  if (!others.length) return null;
  return (
    <Actions sx={{ my: 0.75 }}>
      <Button disabled={!touches.length} onClick={() => ask({ frame, touches, others })}>
        Carry to {counted(others.length, 'other frame')} of {frame.subject}
      </Button>
      {asked && <CarryDialog asked={asked} onClose={() => ask(undefined)} />}
    </Actions>
  );
}

function TouchRow({
  frame,
  touch,
  first,
  last,
  idle,
}: {
  frame: Frame;
  touch: Touch;
  first: boolean;
  last: boolean;
  idle: boolean;
}) {
  const { title } = touchKinds[touch.kind];
  const pixels = pixelsOf(touch.kind);
  return (
    <ListItem disableGutters divider sx={{ gap: 0.5, py: 0.25 }}>
      <Checkbox
        checked={touch.on}
        onChange={(_, on) => changeTouch(frame, touch, { on })}
        slotProps={{ input: { 'aria-label': `${title} holds` } }}
      />
      <TouchPicture frame={frame} touch={touch} side={SIDE} />
      <span style={{ flex: 1 }}>
        {title}
        <div className="quiet figure">
          {Math.round(touch.size * frame.height)} px,{' '}
          {pixels ? `by ${(touch.strength * pixels).toFixed(1)} px` : `${Math.round(touch.strength * 100)} %`}
        </div>
        {idle && <div className="quiet">changes nothing any more</div>}
      </span>
      <RowButton title="Lay on later" disabled={last} onClick={() => moveTouch(frame, touch, 1)}>
        <UpIcon fontSize="small" />
      </RowButton>
      <RowButton title="Lay on earlier" disabled={first} onClick={() => moveTouch(frame, touch, -1)}>
        <DownIcon fontSize="small" />
      </RowButton>
      <RowButton title="Remove" onClick={() => removeTouch(frame, touch)}>
        <DeleteIcon fontSize="small" />
      </RowButton>
    </ListItem>
  );
}

function RowButton({
  title,
  disabled = false,
  onClick,
  children,
}: {
  title: string;
  disabled?: boolean;
  onClick: () => void;
  children: ReactNode;
}) {
  return (
    <Tooltip title={title}>
      <span>
        <IconButton aria-label={title} disabled={disabled} onClick={onClick} sx={{ p: 0.25 }}>
          {children}
        </IconButton>
      </span>
    </Tooltip>
  );
}

/** Side of a touch's picture in the list. */
const SIDE = 38;

/** Pixels of the file that a full touch moves by, if it moves anything. */
function pixelsOf(kind: TouchKind): number | undefined {
  const facts = touchKinds[kind];
  return 'pixels' in facts ? facts.pixels : undefined;
}

/** By so many of them it moves if nothing else is said. */
function usualPixels(kind: TouchKind): number {
  const facts = touchKinds[kind];
  return 'usual' in facts ? facts.usual : 1;
}
