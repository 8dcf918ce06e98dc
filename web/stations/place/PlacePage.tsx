import { Button } from '@mui/material';
import { useCallback, useEffect, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { useDropzone } from 'react-dropzone';
import { Link, useSearchParams } from 'react-router';
import type { Background, Frame } from '../../../contract/index.ts';
import {
  clampPlacement,
  defaultPlacement,
  fitted,
  isCutOff,
  pixelsLost,
  placedRectangle,
  placementFacts,
  type Placement,
} from '../../../core/place/placement.ts';
import { FrameRows, useFrameKeys } from '../../shared/FrameRows.tsx';
import { api, pictures, RequestError } from '../../state/api.ts';
import { attempt, placeFrames, useStore } from '../../state/store.ts';
import { usePlacedPicture } from './usePlacedPicture.ts';

/** Times fewer pixels of the person than were photographed, from which on the photographer is told. */
const MUCH_LOST = 1.6;

/** Putting people on backgrounds: one frame or all, by drag, keys and numbers. */
export function PlacePage() {
  const shoot = useStore((state) => state.shoot);
  const frames = useStore((state) => state.frames);
  const backgrounds = useStore((state) => state.backgrounds);
  const [search, setSearch] = useSearchParams();
  const cut = frames.filter((frame) => frame.cut);
  const frame = cut.find((f) => f.id === Number(search.get('frame'))) ?? cut[0];
  const choose = useCallback((id: number) => setSearch({ frame: String(id) }, { replace: true }), [setSearch]);
  useFrameKeys(cut, frame?.id, choose);
  const [draft, setDraft] = useState<Placement>();

  if (!shoot || !frame) {
    return (
      <p className="empty">
        <strong>Nobody to place yet.</strong>
        People can be placed once they are <Link to="../cut">cut out</Link>.
      </p>
    );
  }
  const background = backgrounds.find((b) => b.id === frame.placement?.backgroundId);
  const saved = frame.placement;
  const placement = draft ?? saved ?? defaultPlacement;
  const save = (next: Placement): void => {
    if (!background) return;
    const { x, y, height } = clampPlacement(next);
    setDraft(undefined);
    void placeFrames(shoot.id, [frame], { backgroundId: background.id, x, y, height }, 'placement');
  };
  const put = (chosen: Background, on: Frame[]): void => {
    const { x, y, height } = saved ?? defaultPlacement;
    setDraft(undefined);
    void placeFrames(
      shoot.id,
      on,
      { backgroundId: chosen.id, x, y, height },
      on.length === 1 ? 'background' : `background of ${on.length} frames`,
    );
  };
  // Where each would come to stand if all were put here like this.
  const here = { x: placement.x, y: placement.y, height: placement.height };
  const cutOff = background ? cut.filter((f) => f.cut && isCutOff(f, f.cut.quality.extent, background, here)) : [];
  const lost = background ? pixelsLost(frame, background, placement) : 1;
  const putFitted = (chosen: Background): void => {
    const small = new Set(cutOff);
    setDraft(undefined);
    void placeFrames(
      shoot.id,
      cut.filter((f) => !small.has(f)),
      { backgroundId: chosen.id, ...here },
      `background of ${cut.length - small.size} frames`,
    );
    for (const f of cutOff)
      if (f.cut)
        void placeFrames(
          shoot.id,
          [f],
          { backgroundId: chosen.id, ...fitted(f, f.cut.quality.extent, chosen, here) },
          'placement',
        );
  };
  return (
    <div className="bench">
      <aside className="margin left" aria-label="Frames to place">
        <div style={{ paddingBottom: 12 }}>
          <h2>People cut out</h2>
          <span className="quiet">
            <span className="figure">{cut.filter((f) => f.placement).length}</span> of{' '}
            <span className="figure">{cut.length}</span> have a background.
          </span>
        </div>
        <FrameRows
          frames={cut}
          current={frame.id}
          onChoose={choose}
          note={(f) => backgrounds.find((b) => b.id === f.placement?.backgroundId)?.name ?? 'no background yet'}
          figure={() => ''}
        />
      </aside>
      <section className="plate" aria-label="Picture">
        <div className="views">
          <span style={{ padding: '7px 9px' }} className="keys quiet">
            Drag the person, or with the frame in focus: arrows move, <kbd>+</kbd>
            <kbd>−</kbd> scale, <kbd>Shift</kbd> in larger steps
          </span>
        </div>
        {background ? (
          <Stage
            key={`${frame.id} ${background.id}`}
            frame={frame}
            background={background}
            placement={placement}
            onDraft={setDraft}
            onSave={save}
          />
        ) : (
          <p className="empty" style={{ color: '#fff' }}>
            <strong style={{ color: '#fff' }}>{frame.name} has no background yet.</strong>
            Choose one on the right.
          </p>
        )}
        <div className="caption">
          <span>{frame.name}</span>
          <span className="quiet">{background ? `on ${background.name}` : ''}</span>
          {background && (
            <span className="quiet figure" style={{ marginLeft: 'auto' }}>
              finished picture {background.width} × {background.height}
            </span>
          )}
        </div>
      </section>
      <aside className="margin right" aria-label="Background and placement">
        <Backgrounds backgrounds={backgrounds} chosen={background?.id} onChoose={(chosen) => put(chosen, [frame])} />
        {background && (
          <>
            <div className="actions" style={{ padding: '10px 0 14px' }}>
              <Button onClick={() => put(background, frames)}>Put all {frames.length} frames here, like this</Button>
            </div>
            {cutOff.length > 0 && (
              <div className="problem">
                <strong>
                  {cutOff.length === 1
                    ? 'One of them would be cut off at the sides:'
                    : `${cutOff.length} of them would be cut off at the sides:`}
                </strong>{' '}
                {cutOff
                  .slice(0, 4)
                  .map(({ name }) => name)
                  .join(', ')}
                {cutOff.length > 4 && ` and ${cutOff.length - 4} more`}. A wider background or a smaller height keeps
                them whole.{' '}
                <Button variant="text" onClick={() => putFitted(background)}>
                  Put all, and these as large as fits
                </Button>
              </div>
            )}
            {lost > MUCH_LOST && (
              <p className="problem">
                <strong>The background is small:</strong> the finished picture has{' '}
                <span className="figure">
                  {background.width} × {background.height}
                </span>{' '}
                pixels, and of the person’s own pixels {Math.round(100 * (1 - 1 / lost))} % are thrown away. At 300 dots
                an inch it prints{' '}
                <span className="figure">
                  {Math.round((background.width / 300) * 25.4)} × {Math.round((background.height / 300) * 25.4)} mm
                </span>
                ; a background <span className="figure">{Math.ceil(frame.height / placement.height)}</span> pixels high
                keeps all.
              </p>
            )}
            <h2 style={{ borderTop: '1px solid var(--hairline)', paddingTop: 10 }}>Placement</h2>
            <div className="fields">
              {(Object.keys(placementFacts) as (keyof Placement)[]).map((name) => (
                <NumberRow
                  key={name}
                  name={name}
                  value={placement[name]}
                  onSave={(value) => save({ ...placement, [name]: value })}
                />
              ))}
            </div>
            <div className="actions" style={{ paddingTop: 10 }}>
              <Button variant="text" onClick={() => save(defaultPlacement)}>
                Back to the middle
              </Button>
            </div>
            <p className="quiet" style={{ paddingTop: 6 }}>
              Person and background are mixed in linear light, as a lens would.
              {frame.height * 1.0 < background.height * placement.height * 0.8 && (
                <>
                  {' '}
                  <strong style={{ color: 'var(--ink)' }}>
                    The person is enlarged {((background.height * placement.height) / frame.height).toFixed(1)} times
                  </strong>{' '}
                  and will look softer than the background.
                </>
              )}
            </p>
          </>
        )}
      </aside>
    </div>
  );
}

function NumberRow({ name, value, onSave }: { name: keyof Placement; value: number; onSave: (value: number) => void }) {
  const { label, unit, min, max } = placementFacts[name];
  const shown = (value * 100).toFixed(1);
  return (
    <>
      <label htmlFor={`place-${name}`}>
        {label}
        <span className="quiet"> {unit}</span>
      </label>
      <input
        id={`place-${name}`}
        key={shown}
        type="number"
        step={0.5}
        min={min * 100}
        max={max * 100}
        defaultValue={shown}
        onBlur={(event) =>
          event.target.value !== '' && event.target.value !== shown && onSave(Number(event.target.value) / 100)
        }
        onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
      />
    </>
  );
}

function Backgrounds({
  backgrounds,
  chosen,
  onChoose,
}: {
  backgrounds: Background[];
  chosen: number | undefined;
  onChoose: (background: Background) => void;
}) {
  const [refused, setRefused] = useState<string[]>([]);
  const onDrop = useCallback((files: File[]) => {
    setRefused([]);
    for (const file of files) {
      void attempt(
        api
          .uploadBackground(file, () => undefined)
          .then((result) => {
            if (result.outcome === 'refused')
              setRefused((list) => [...list, `${result.name}: ${result.reason}. ${result.remedy}`]);
            if (result.outcome === 'duplicate')
              setRefused((list) => [...list, `${result.name} is already here as ${result.of}.`]);
          })
          .catch((error) => Promise.reject(error instanceof RequestError ? error : new Error(String(error)))),
      );
    }
  }, []);
  const { getRootProps, getInputProps, open } = useDropzone({ onDrop, noClick: true, noKeyboard: true });
  return (
    <section {...getRootProps()} aria-label="Backgrounds">
      <h2 style={{ paddingBottom: 8 }}>Background</h2>
      <input {...getInputProps({ 'aria-label': 'Background files' } as object)} />
      <div className="swatches">
        {backgrounds.map((background) => (
          <button
            key={background.id}
            type="button"
            aria-pressed={background.id === chosen}
            onClick={() => onChoose(background)}
          >
            <img src={pictures.background(background, 'thumbnail')} alt="" />
            {background.name}
          </button>
        ))}
      </div>
      <div className="actions" style={{ paddingTop: 8 }}>
        <Button variant="text" onClick={open}>
          Add backgrounds
        </Button>
      </div>
      {refused.map((text) => (
        <p className="problem" key={text}>
          {text}
        </p>
      ))}
    </section>
  );
}

/** The background as large as it fits, the person on it, and the frame's outline to take hold of. */
function Stage({
  frame,
  background,
  placement,
  onDraft,
  onSave,
}: {
  frame: Frame;
  background: Background;
  placement: Placement;
  onDraft: (placement: Placement) => void;
  onSave: (placement: Placement) => void;
}) {
  const stage = useRef<HTMLDivElement>(null);
  const [box, setBox] = useState<{ width: number; height: number }>();
  const drag = useRef<{ x: number; y: number; from: Placement; grip: boolean; to: Placement } | undefined>(undefined);
  useEffect(() => {
    const element = stage.current;
    if (!element) return;
    const observer = new ResizeObserver(() =>
      setBox({ width: element.clientWidth - 36, height: element.clientHeight - 36 }),
    );
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  const scale = box ? Math.min(box.width / background.width, box.height / background.height) : 0;
  const size = {
    width: Math.max(1, Math.round(background.width * scale)),
    height: Math.max(1, Math.round(background.height * scale)),
  };
  const { canvas, ready } = usePlacedPicture(frame, background, box ? size.width : 0, placement);
  const rectangle = placedRectangle(frame, size, placement);

  const start = (grip: boolean) => (event: PointerEvent<HTMLElement>) => {
    event.stopPropagation();
    event.currentTarget.setPointerCapture(event.pointerId);
    drag.current = { x: event.clientX, y: event.clientY, from: placement, grip, to: placement };
  };
  const move = (event: PointerEvent<HTMLElement>): void => {
    const held = drag.current;
    if (!held) return;
    const dx = event.clientX - held.x;
    const dy = event.clientY - held.y;
    held.to = clampPlacement(
      held.grip
        ? { ...held.from, height: held.from.height - dy / size.height }
        : { ...held.from, x: held.from.x + dx / size.width, y: held.from.y + dy / size.height },
    );
    onDraft(held.to);
  };
  const end = (): void => {
    const held = drag.current;
    drag.current = undefined;
    if (held && held.to !== held.from) onSave(held.to);
  };
  const onKey = (event: KeyboardEvent): void => {
    const step = event.shiftKey ? 0.05 : 0.005;
    const moves: Record<string, Partial<Placement>> = {
      ArrowLeft: { x: placement.x - step },
      ArrowRight: { x: placement.x + step },
      ArrowUp: { y: placement.y - step },
      ArrowDown: { y: placement.y + step },
      '+': { height: placement.height + step },
      '=': { height: placement.height + step },
      '-': { height: placement.height - step },
      _: { height: placement.height - step },
    };
    const change = moves[event.key];
    if (!change || event.ctrlKey || event.metaKey) return;
    event.preventDefault();
    event.nativeEvent.stopImmediatePropagation();
    onSave({ ...placement, ...change });
  };
  return (
    <div className="stage" ref={stage}>
      <div className="picture" style={size}>
        <canvas
          ref={canvas}
          role="img"
          aria-label={`${frame.name} on ${background.name}`}
          data-ready={ready}
          width={size.width}
          height={size.height}
        />
        <div style={{ position: 'absolute', inset: 0, overflow: 'hidden' }}>
          <div
            className="outline"
            role="application"
            aria-label="Position of the person; arrow keys move, plus and minus scale"
            tabIndex={0}
            style={rectangle}
            onPointerDown={start(false)}
            onPointerMove={move}
            onPointerUp={end}
            onKeyDown={onKey}
          >
            <span
              className="grip"
              title="Drag to scale"
              style={{ left: -1, top: Math.max(-1, -rectangle.top), cursor: 'ns-resize' }}
              onPointerDown={start(true)}
              onPointerMove={move}
              onPointerUp={end}
            />
            <span
              className="grip"
              title="Drag to scale"
              style={{ right: -1, top: Math.max(-1, -rectangle.top), cursor: 'ns-resize' }}
              onPointerDown={start(true)}
              onPointerMove={move}
              onPointerUp={end}
            />
          </div>
        </div>
      </div>
    </div>
  );
}
