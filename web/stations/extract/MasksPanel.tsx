import { Autocomplete, Button, TextField } from '@mui/material';
import { useState } from 'react';
import type { Frame, Setup } from '../../../contract/index.ts';
import type { HandMask } from '../../../core/cut/guidance.ts';
import { StepWedge } from '../../shared/StepWedge.tsx';
import { timeLeft } from '../../shared/format.ts';
import { changeFrame, changeSetup, gatherPlate, useStore } from '../../state/store.ts';

export type Scope = 'setup' | 'subject' | 'frame';

/** A mask that is being drawn. */
export interface Drawing {
  effect: HandMask['effect'];
  scope: Scope;
  corners: { x: number; y: number }[];
}

const effects: Record<HandMask['effect'], { title: string; words: string }> = {
  clear: { title: 'Clear', words: 'what lies in it goes: walls, stands, lamps' },
  solid: { title: 'Solid', words: 'what lies in it stays whole' },
  crop: { title: 'Crop', words: 'what lies outside it goes' },
  sheer: {
    title: 'See-through',
    words: 'the screen shines through what lies in it: sheer cloth, drawn within its edges',
  },
  spillLeft: { title: 'Keep colour', words: 'no spill is taken from what lies in it' },
  spillGone: { title: 'No spill', words: 'all spill is taken from what lies in it, even from green that stays' },
};

const scopes: Record<Scope, string> = {
  setup: 'all frames of the setup',
  subject: 'all frames of this subject',
  frame: 'this frame',
};

/** Adds a drawn mask to its setup or frame. */
export function keepMask({ effect, scope, corners }: Drawing, setup: Setup, frame: Frame): void {
  const mask: HandMask = { effect, polygon: corners, ...(scope === 'subject' ? { wholeSubject: true } : {}) };
  if (scope === 'setup') void changeSetup(setup, { masks: [...setup.masks, mask] }, 'mask');
  else
    void changeFrame(
      frame,
      ({ guidance }) => ({ guidance: { ...guidance, masks: [...guidance.masks, mask] } }),
      'mask',
    );
}

/** Names offered at once. */
const MOST_NAMES = 50;

interface Props {
  setup: Setup;
  frame: Frame;
  /** Frames of the setup. */
  frames: Frame[];
  drawing: Drawing | undefined;
  onDraw: (drawing: Drawing | undefined) => void;
}

/** Masks by hand, who is on the frame, and the setup's plate. */
export function MasksPanel({ setup, frame, frames, drawing, onDraw }: Props) {
  const start = (effect: HandMask['effect']): void => onDraw({ effect, scope: 'setup', corners: [] });
  const gathering = useStore((state) => state.gathering[setup.id]);
  const [shows, setShows] = useState<number>();
  const gather = async (): Promise<void> => {
    setShows(undefined);
    setShows(await gatherPlate(setup));
  };
  const alike = frame.subject ? frames.filter(({ id, subject }) => id !== frame.id && subject === frame.subject) : [];
  const subjects = [...new Set(frames.map(({ subject }) => subject).filter(Boolean))].sort();
  return (
    <section aria-label="Masks and plate">
      <h2>Masks</h2>
      <p className="quiet">They win over everything that is found.</p>
      {drawing ? (
        <div className="drawing">
          <div className="fields">
            <label htmlFor="mask-effect">Effect</label>
            <select
              id="mask-effect"
              value={drawing.effect}
              onChange={(event) => onDraw({ ...drawing, effect: event.target.value as HandMask['effect'] })}
            >
              {Object.entries(effects).map(([value, { title }]) => (
                <option key={value} value={value}>
                  {title}
                </option>
              ))}
            </select>
            <label htmlFor="mask-scope">Holds for</label>
            <select
              id="mask-scope"
              value={drawing.scope}
              onChange={(event) => onDraw({ ...drawing, scope: event.target.value as Scope })}
            >
              {(Object.keys(scopes) as Scope[]).map((scope) => (
                <option key={scope} value={scope} disabled={scope === 'subject' && !frame.subject}>
                  {scopes[scope]}
                </option>
              ))}
            </select>
          </div>
          <p className="quiet">
            {effects[drawing.effect].title}: {effects[drawing.effect].words}. Click its corners on the picture, three or
            more. <span className="figure">{drawing.corners.length}</span> so far.
          </p>
          <p className="keys quiet">
            <kbd>Enter</kbd>done <kbd>Backspace</kbd>last corner away <kbd>Esc</kbd>give up
          </p>
          <div className="actions">
            <Button
              variant="contained"
              color="primary"
              disabled={drawing.corners.length < 3}
              onClick={() => {
                keepMask(drawing, setup, frame);
                onDraw(undefined);
              }}
            >
              Keep the mask
            </Button>
            <Button onClick={() => onDraw(undefined)}>Give up</Button>
          </div>
        </div>
      ) : (
        <div className="actions">
          {(Object.keys(effects) as HandMask['effect'][]).map((effect) => (
            <Button key={effect} onClick={() => start(effect)} title={effects[effect].words}>
              {effects[effect].title}
            </Button>
          ))}
        </div>
      )}
      <ul className="masks" aria-label="Masks">
        {setup.masks.map((mask, n) => (
          <MaskRow
            key={`s${n}`}
            mask={mask}
            holds={scopes.setup}
            onRemove={() => void changeSetup(setup, { masks: setup.masks.filter((_, k) => k !== n) }, 'mask')}
          />
        ))}
        {[frame, ...alike].flatMap((from) =>
          from.guidance.masks.map(
            (mask, n) =>
              (from === frame || mask.wholeSubject) && (
                <MaskRow
                  key={`${from.id} ${n}`}
                  mask={mask}
                  holds={`${mask.wholeSubject ? scopes.subject : scopes.frame}${from === frame ? '' : `, drawn on ${from.name}`}`}
                  onRemove={() =>
                    void changeFrame(
                      from,
                      ({ guidance }) => ({
                        guidance: { ...guidance, masks: guidance.masks.filter((_, k) => k !== n) },
                      }),
                      'mask',
                    )
                  }
                />
              ),
          ),
        )}
      </ul>
      <h2>Subject</h2>
      <input
        key={`${frame.id} ${frame.subject}`}
        className="subject-field"
        aria-label="Subject"
        list="subjects"
        maxLength={80}
        placeholder="who is on this frame"
        defaultValue={frame.subject}
        onBlur={(event) => {
          const subject = event.target.value.trim();
          if (subject !== frame.subject) void changeFrame(frame, () => ({ subject }), 'subject');
        }}
        onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
      />
      <datalist id="subjects">
        {subjects.map((subject) => (
          <option key={subject} value={subject} />
        ))}
      </datalist>
      <p className="quiet">Verdicts go with the subject through the setup.</p>
      <h2>Plate</h2>
      <Autocomplete
        size="small"
        options={frames}
        clearText="No plate"
        openText="All frames"
        // Hundreds of names are found by typing and not by scrolling.
        filterOptions={(options, { inputValue }) =>
          options.filter(({ name }) => name.toLowerCase().includes(inputValue.toLowerCase())).slice(0, MOST_NAMES)
        }
        getOptionLabel={({ name }) => name}
        getOptionKey={({ id }) => id}
        isOptionEqualToValue={(a, b) => a.id === b.id}
        value={frames.find(({ id }) => id === setup.plateFrameId) ?? null}
        onChange={(_, plate) => void changeSetup(setup, { plateFrameId: plate?.id ?? null }, 'plate')}
        renderInput={(params) => (
          <TextField
            {...params}
            variant="standard"
            placeholder="none: fitted from each frame"
            slotProps={{ ...params.slotProps, htmlInput: { ...params.slotProps.htmlInput, 'aria-label': 'Plate' } }}
          />
        )}
      />
      <p className="quiet">
        A frame of the empty screen, camera and lamps untouched, or put together from the setup’s frames. It is laid
        under each frame of the same size; a knocked camera and a drifted lamp are put right.
      </p>
      <div className="actions">
        {setup.plateFrameId !== frame.id && (
          <Button onClick={() => void changeSetup(setup, { plateFrameId: frame.id }, 'plate')}>
            This frame is the plate
          </Button>
        )}
        <Button
          disabled={!!gathering || frames.filter(({ id }) => id !== setup.plateFrameId).length < 2}
          onClick={() => void gather()}
          title="Each frame shows what another covers."
        >
          {gathering ? 'Putting it together …' : 'Put one together'}
        </Button>
      </div>
      {gathering && (
        <>
          <StepWedge share={gathering.done / gathering.total} label="Plate" />
          <p className="quiet figure">
            {gathering.done} of {gathering.total} frames read, {timeLeft(gathering.secondsLeft)}
          </p>
        </>
      )}
      {shows !== undefined && (
        <p className="quiet" role="status">
          Some frame shows the screen over <span className="figure">{Math.round(100 * shows)} %</span> of the picture;
          the rest goes on smoothly.
        </p>
      )}
    </section>
  );
}

function MaskRow({ mask, holds, onRemove }: { mask: HandMask; holds: string; onRemove: () => void }) {
  return (
    <li>
      <span>
        {effects[mask.effect].title}, <span className="figure">{mask.polygon.length}</span> corners
        <small className="quiet"> {holds}</small>
      </span>
      <Button variant="text" onClick={onRemove}>
        Remove
      </Button>
    </li>
  );
}
