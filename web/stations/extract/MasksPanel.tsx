import { Autocomplete, Box, Button, Checkbox, FormControlLabel, TextField, Tooltip } from '@mui/material';
import type { Frame, Setup, SortingChange } from '../../../contract/index.ts';
import { maskSoftness, type HandMask } from '../../../core/cut/guidance.ts';
import { Choice } from '../../shared/Choice.tsx';
import { JobFailed, JobLine } from '../../shared/JobLine.tsx';
import { Actions, Key } from '../../shared/layout.tsx';
import { NumberField } from '../../shared/NumberField.tsx';
import { plateOf } from '../../shared/plates.ts';
import { api } from '../../state/api.ts';
import { useStore } from '../../state/store.ts';
import { changeFrame, sortFrames } from '../../state/changes.ts';
import { startJob, useEndedJob, useFailedJob, useOpenJob } from '../../state/jobs.ts';
import { CropGestures } from './CropGestures.tsx';
import { OwnMatteField } from './OwnMatteField.tsx';
import { areaOf, effects, keepMask, LEAST_CORNERS, outlineOf, scopes, type Drawing, type Scope } from './maskFacts.ts';
import { MaskList } from './MaskList.tsx';
import type { Gestures } from './useGestures.ts';

/** Names offered at once. */
const MOST_NAMES = 50;

interface Props {
  setup: Setup;
  frame: Frame;
  /** Frames of the setup. */
  frames: Frame[];
  drawing: Drawing | undefined;
  onDraw: (drawing: Drawing | undefined) => void;
  /** While a crop for the whole setup is drawn. */
  gestures: Gestures | undefined;
  /** Goes to another frame. */
  onGo: (frameId: number) => void;
}

/** Masks by hand, who is on the frame, and the setup's plates. */
export function MasksPanel({ setup, frame, frames, drawing, onDraw, gestures, onGo }: Props) {
  return (
    <section aria-label="Masks and plate">
      <h2>Masks</h2>
      <p className="quiet">They win over everything that is found.</p>
      {drawing ? (
        <DrawingForm setup={setup} frame={frame} drawing={drawing} onDraw={onDraw} gestures={gestures} onGo={onGo} />
      ) : (
        <Actions sx={{ mt: 0.75, mb: 1 }}>
          {(Object.keys(effects) as HandMask['effect'][]).map((effect) => (
            <Tooltip key={effect} title={effects[effect].words} describeChild>
              <Button onClick={() => onDraw({ effect, scope: 'setup', corners: [] })}>{effects[effect].title}</Button>
            </Tooltip>
          ))}
        </Actions>
      )}
      <MaskList setup={setup} frame={frame} frames={frames} />
      <SubjectField frame={frame} frames={frames} />
      <PlateField setup={setup} frame={frame} frames={frames} />
      <OwnMatteField frame={frame} />
    </section>
  );
}

function DrawingForm({
  setup,
  frame,
  drawing,
  onDraw,
  gestures,
  onGo,
}: Pick<Props, 'setup' | 'frame' | 'onDraw' | 'gestures' | 'onGo'> & { drawing: Drawing }) {
  const { title, words } = effects[drawing.effect];
  return (
    <Box sx={{ borderLeft: '5px solid', borderColor: 'primary.main', pl: 1.25, pb: 0.5, display: 'grid', gap: 0.75 }}>
      <Choice
        label="Effect"
        value={drawing.effect}
        options={Object.entries(effects).map(([value, facts]) => ({ value, title: facts.title }))}
        onChange={(effect) => onDraw({ ...drawing, effect: effect as HandMask['effect'] })}
      />
      <Choice
        label="Holds for"
        value={drawing.scope}
        options={(Object.keys(scopes) as Scope[])
          .filter((scope) => scope !== 'subject' || frame.subject)
          .map((value) => ({ value, title: scopes[value] }))}
        onChange={(scope) => onDraw({ ...drawing, scope: scope as Scope })}
      />
      {drawing.effect !== 'sheer' && (
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr auto', alignItems: 'baseline' }}>
          <NumberField
            label="Border soft over"
            unit="pixels"
            value={drawing.soft ?? 0}
            factor={frame.height}
            digits={0}
            step={2 / frame.height}
            {...maskSoftness}
            onChange={(soft) => onDraw({ ...drawing, soft })}
          />
        </Box>
      )}
      <FormControlLabel
        control={
          <Checkbox checked={drawing.rounded ?? false} onChange={(_, rounded) => onDraw({ ...drawing, rounded })} />
        }
        label="Rounded through its corners"
      />
      <p className="quiet">
        {title}: {words}. Click its corners on the picture, {LEAST_CORNERS} or more, and press the first one to close
        it; corners can be dragged. Or draw its outline in one go; the right button then moves the picture.{' '}
        <span className="figure">{drawing.corners.length}</span> so far
        {drawing.corners.length >= LEAST_CORNERS && (
          <>
            , <span className="figure">{(100 * areaOf(outlineOf(drawing))).toFixed(1)} %</span> of the frame
          </>
        )}
        .
      </p>
      {drawing.effect === 'crop' && drawing.scope === 'setup' && (
        <CropGestures gestures={gestures} drawing={drawing} onDraw={onDraw} onGo={onGo} />
      )}
      <p className="quiet">
        <Key>Enter</Key>closes <Key>Backspace</Key>last corner away <Key>Esc</Key>gives up
      </p>
      <Actions>
        <Button
          variant="contained"
          color="primary"
          disabled={drawing.corners.length < LEAST_CORNERS}
          onClick={() => {
            keepMask(drawing, setup, frame);
            onDraw(undefined);
          }}
        >
          Keep the mask
        </Button>
        <Button onClick={() => onDraw(undefined)}>Give up</Button>
      </Actions>
    </Box>
  );
}

function SubjectField({ frame, frames }: Pick<Props, 'frame' | 'frames'>) {
  const roster = useStore((state) => state.subjects);
  const subjects = [
    ...new Set([...roster.map(({ name }) => name), ...frames.map(({ subject }) => subject)].filter(Boolean)),
  ].sort();
  const save = (text: string): void => {
    const subject = text.trim();
    if (subject !== frame.subject) void changeFrame(frame, () => ({ subject }), 'subject');
  };
  return (
    <>
      <Box component="h2" sx={{ pt: 1.5 }}>
        Subject
      </Box>
      <Autocomplete
        key={`${frame.id} ${frame.subject}`}
        freeSolo
        disableClearable
        options={subjects}
        defaultValue={frame.subject}
        onChange={(_, subject) => save(subject)}
        renderInput={(params) => (
          <TextField
            {...params}
            placeholder="who is on this frame"
            onBlur={(event) => save(event.target.value)}
            slotProps={{
              ...params.slotProps,
              htmlInput: { ...params.slotProps.htmlInput, 'aria-label': 'Subject', maxLength: 80 },
            }}
          />
        )}
      />
      <p className="quiet">Verdicts go with the subject through the setup.</p>
    </>
  );
}

function PlateField({ setup, frame, frames }: Pick<Props, 'setup' | 'frame' | 'frames'>) {
  const about = { setupId: setup.id };
  const gathering = useOpenJob(['plate'], about);
  const failed = useFailedJob(['plate'], about);
  const seen = useEndedJob(['plate'], about)?.made?.seen;
  const plates = frames.filter(({ plate }) => plate);
  const under = plateOf(frame, frames);
  const change = (chosen: readonly Frame[]): void => {
    const changed = (plate: boolean, list: readonly Frame[], than: readonly Frame[]): SortingChange[] => {
      const frameIds = list.filter((one) => !than.includes(one)).map(({ id }) => id);
      return frameIds.length ? [{ frameIds, plate }] : [];
    };
    void sortFrames(setup.shootId, [...changed(true, chosen, plates), ...changed(false, plates, chosen)], 'plates');
  };
  return (
    <>
      <Box component="h2" sx={{ pt: 1.5 }}>
        Plates
      </Box>
      <Autocomplete
        multiple
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
        value={plates}
        onChange={(_, chosen) => change(chosen)}
        renderInput={(params) => (
          <TextField
            {...params}
            placeholder={plates.length ? '' : 'none: fitted from each frame'}
            slotProps={{ ...params.slotProps, htmlInput: { ...params.slotProps.htmlInput, 'aria-label': 'Plates' } }}
          />
        )}
      />
      <p className="quiet">
        A frame of the empty screen, camera and lamps untouched, or put together from the setup’s frames. It is laid
        under each frame of the same size, of several the one nearest in time; a knocked camera and a drifted lamp are
        put right.
      </p>
      {plates.length > 0 && !frame.plate && (
        <p className="quiet" role="status">
          {under ? (
            <>
              Under this frame: <strong>{under.name}</strong>
            </>
          ) : (
            'None of this frame’s size: its screen is fitted.'
          )}
        </p>
      )}
      <Actions sx={{ my: 0.75 }}>
        {!frame.plate && <Button onClick={() => change([...plates, frame])}>This frame is a plate</Button>}
        <Button
          disabled={!!gathering || frames.length - plates.length < 2}
          onClick={() => void startJob(api.gatherPlate(setup.id))}
        >
          Put one together
        </Button>
      </Actions>
      {gathering && <JobLine job={gathering} label="Plate" words="Putting the screen together" />}
      <JobFailed job={failed} />
      {seen !== undefined && !gathering && (
        <p className="quiet" role="status">
          Some frame shows the screen over <span className="figure">{Math.round(100 * seen)} %</span> of the picture;
          the rest goes on smoothly.
        </p>
      )}
    </>
  );
}
