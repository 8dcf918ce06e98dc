import { Autocomplete, Box, Button, TextField } from '@mui/material';
import { useCallback, useMemo, useRef, useState } from 'react';
import { picks, type Frame, type Pick, type Shoot } from '../../../contract/index.ts';
import { warningFacts, warningsOf, type Warning, type WarningKind } from '../../../core/gather/warnings.ts';
import { Choice } from '../../shared/Choice.tsx';
import { ContactSheet } from '../../shared/ContactSheet.tsx';
import { counted } from '../../shared/format.ts';
import { useKeys } from '../../shared/keys.ts';
import { Actions, EmptyPlace } from '../../shared/layout.tsx';
import { NumberField } from '../../shared/NumberField.tsx';
import { api, pictures } from '../../state/api.ts';
import { sortFrames } from '../../state/changes.ts';
import { attempt, takeItems, useStore } from '../../state/store.ts';
import { Carried, CarryFrames } from './CarryFrames.tsx';
import { GuestChoices } from './GuestChoices.tsx';
import { FastLook } from './FastLook.tsx';
import { pickWords } from './pickWords.ts';
import { judgedOf, referencesOf } from '../../../contract/sign.ts';

const sorts = {
  time: 'by time',
  subject: 'by person',
  warning: 'gravest warning first',
  sharp: 'sharpest first',
} as const;
type SortId = keyof typeof sorts;

const noWarnings: Warning[] = [];

/** Every frame as a sheet: found by who, setup, pick and warning; picked one by one or many at once. */
export function PicksPanel({ shoot }: { shoot: Shoot }) {
  const setups = useStore((state) => state.setups);
  const checks = useStore((state) => state.checks);
  const subjects = useStore((state) => state.subjects);
  const all = useStore((state) => state.frames);
  const [search, setSearch] = useState('');
  const [setup, setSetup] = useState('');
  const [pick, setPick] = useState('');
  const [warning, setWarning] = useState('');
  const [sort, setSort] = useState<SortId>('time');
  const [most, setMost] = useState(2);
  const [chosen, setChosen] = useState<ReadonlySet<number>>(new Set());
  const [current, setCurrent] = useState<number>();
  const [looking, setLooking] = useState(false);
  const anchor = useRef<number>(undefined);
  const columns = useRef(1);
  const who = useRef<HTMLInputElement>(null);
  const where = useRef<HTMLDivElement>(null);
  const onColumns = useCallback((n: number) => (columns.current = n), []);
  const frames = useMemo(() => all.filter(({ plate }) => !plate), [all]);
  const warnings = useMemo(() => warningsOf(frames.map(judgedOf), referencesOf(checks)), [frames, checks]);
  const of = (frame: Frame): Warning[] => warnings.get(frame.id) ?? noWarnings;
  const groupOf = new Map(subjects.map(({ name, group, number }) => [name, `${group} ${number}`]));
  const shown = frames
    .filter(
      (frame) =>
        (!setup || frame.setupId === Number(setup)) &&
        (!pick || (pick === 'none' ? frame.pick === null : frame.pick === pick)) &&
        (!warning || of(frame).some(({ kind }) => kind === warning || warning === 'any')) &&
        `${frame.subject} ${groupOf.get(frame.subject) ?? ''} ${frame.name}`
          .toLowerCase()
          .includes(search.trim().toLowerCase()),
    )
    .sort(compareBy[sort](of));
  const at = shown.findIndex(({ id }) => id === current);
  const over = subjects.filter(
    ({ name }) => frames.filter((frame) => frame.subject === name && frame.pick === 'keep').length > most,
  );

  const choose = (to: number, extend: boolean, toggle = false): void => {
    const frame = shown.at(Math.max(0, Math.min(shown.length - 1, to)));
    if (!frame) return;
    setCurrent(frame.id);
    if (extend && anchor.current !== undefined) {
      const from = shown.findIndex(({ id }) => id === anchor.current);
      const [low, high] = [Math.min(from, to), Math.max(from, to)];
      setChosen(new Set(shown.slice(Math.max(0, low), high + 1).map(({ id }) => id)));
    } else {
      anchor.current = frame.id;
      setChosen((old) => {
        if (!toggle) return new Set([frame.id]);
        const next = new Set(old);
        if (!next.delete(frame.id)) next.add(frame.id);
        return next;
      });
    }
  };
  const step = (key: string): number =>
    key === 'ArrowLeft' ? -1 : key === 'ArrowRight' ? 1 : key === 'ArrowUp' ? -columns.current : columns.current;
  const ids = shown.filter(({ id }) => chosen.has(id)).map(({ id }) => id);
  const put = (to: { pick?: Pick | null; subject?: string; setupId?: number }, label: string): void => {
    if (ids.length) void sortFrames(shoot.id, [{ frameIds: ids, ...to }], `${label}, ${counted(ids.length, 'frame')}`);
  };
  const carry = async (to: number | null): Promise<void> => {
    const made = to === null ? await attempt(api.createSetup(shoot.id, `Setup ${setups.length + 1}`)) : undefined;
    if (made) takeItems(shoot.id, { setups: [made] });
    const setupId = to ?? made?.id;
    if (setupId !== undefined) put({ setupId }, 'setup');
  };
  const putPick = (next: Pick | null): void => put({ pick: next }, next ? pickWords[next] : 'no pick');
  useKeys(
    'gather',
    {
      move: (key) => choose(at < 0 ? 0 : at + step(key), false),
      extend: (key) => choose(at < 0 ? 0 : at + step(key), true),
      all: () => setChosen(new Set(shown.map(({ id }) => id))),
      keep: () => putPick('keep'),
      reserve: () => putPick('reserve'),
      drop: () => putPick('drop'),
      none: () => putPick(null),
      open: () => shown.length > 0 && setLooking(true),
      who: () => who.current?.focus(),
      setup: () => where.current?.querySelector('select')?.focus(),
    },
    { enabled: !looking },
  );

  if (!frames.length)
    return (
      <EmptyPlace title="Nothing to pick from yet.">
        Bring frames in; then look at them here, full size and side by side, and pick by single keys.
      </EmptyPlace>
    );
  return (
    <Box sx={{ display: 'grid', gap: 1.5 }}>
      <Actions>
        <TextField
          variant="standard"
          placeholder="Name, group, number or file"
          value={search}
          onChange={(event) => setSearch(event.target.value)}
          slotProps={{ htmlInput: { 'aria-label': 'Search', size: 24 } }}
        />
        <Choice
          aria="Setup"
          value={setup}
          options={[
            { value: '', title: 'every setup' },
            ...setups.map(({ id, name }) => ({ value: `${id}`, title: name })),
          ]}
          onChange={setSetup}
        />
        <Choice
          aria="Pick"
          value={pick}
          options={[
            { value: '', title: 'picked or not' },
            { value: 'none', title: 'not picked yet' },
            ...picks.map((value) => ({ value, title: pickWords[value] })),
          ]}
          onChange={setPick}
        />
        <Choice
          aria="Warning"
          value={warning}
          options={[
            { value: '', title: 'with or without a warning' },
            { value: 'any', title: 'any warning' },
            ...(Object.keys(warningFacts) as WarningKind[]).map((value) => ({
              value,
              title: warningFacts[value].label,
            })),
          ]}
          onChange={setWarning}
        />
        <Choice
          aria="Order"
          value={sort}
          options={(Object.keys(sorts) as SortId[]).map((value) => ({ value, title: sorts[value] }))}
          onChange={(value) => setSort(value as SortId)}
        />
        <Box sx={{ display: 'grid', gridTemplateColumns: 'auto 60px', gap: 1, alignItems: 'baseline' }}>
          <NumberField
            label="Kept of each, at most"
            value={most}
            min={1}
            max={50}
            step={1}
            digits={0}
            onChange={setMost}
          />
        </Box>
        <Button
          variant="contained"
          color="primary"
          sx={{ ml: 'auto' }}
          onClick={() => setLooking(true)}
          disabled={!shown.length}
        >
          Fast look
        </Button>
      </Actions>
      <Actions>
        <span role="status">
          {counted(shown.length, 'frame')}
          {ids.length > 0 && `, ${ids.length} chosen`}
        </span>
        {picks.map((value) => (
          <Button key={value} disabled={!ids.length} onClick={() => putPick(value)}>
            {value === 'keep' ? 'Keep' : value === 'reserve' ? 'Reserve' : 'Drop'}
          </Button>
        ))}
        <Autocomplete
          freeSolo
          autoHighlight
          size="small"
          sx={{ width: 190 }}
          options={subjects.map(({ name }) => name)}
          disabled={!ids.length}
          value={null}
          blurOnSelect
          clearOnBlur
          onChange={(_, name) => name !== null && put({ subject: name.trim().slice(0, 80) }, 'who is on it')}
          renderInput={(params) => (
            <TextField {...params} variant="standard" placeholder="Who is on it" inputRef={who} />
          )}
        />
        <div ref={where}>
          <Choice
            aria="Move to setup"
            value=""
            options={[
              { value: '', title: 'Move to setup …' },
              ...setups.map(({ id, name }) => ({ value: `${id}`, title: name })),
            ]}
            onChange={(value) => {
              // The keys are for the frames again.
              where.current?.querySelector('select')?.blur();
              if (value) put({ setupId: Number(value) }, 'setup');
            }}
          />
        </div>
        <GuestChoices shootId={shoot.id} frames={frames} subjects={subjects} />
        {over.length > 0 && (
          <span className="quiet">
            More than {most} kept of{' '}
            {over
              .slice(0, 3)
              .map(({ name }) => name)
              .join(', ')}
            {over.length > 3 && ` and ${over.length - 3} more`}.
          </span>
        )}
      </Actions>
      <CarryFrames count={ids.length} setups={setups} onMove={(to) => void carry(to)}>
        <ContactSheet
          carried={Carried}
          frames={shown}
          picture={pictures.thumbnail}
          chosen={chosen}
          inSight={current}
          onColumns={onColumns}
          onBox={(boxed) => {
            setChosen(new Set(boxed.map(({ id }) => id)));
            setCurrent(boxed.at(-1)?.id);
            anchor.current = boxed[0]?.id;
          }}
          onChoose={(frame, keys) =>
            choose(
              shown.findIndex(({ id }) => id === frame.id),
              keys.shiftKey,
              keys.ctrlKey || keys.metaKey,
            )
          }
          onOpen={(frame) => {
            setCurrent(frame.id);
            setLooking(true);
          }}
          note={(frame) => <Note frame={frame} warnings={of(frame)} />}
        />
      </CarryFrames>
      {looking && (
        <FastLook
          frames={shown}
          all={frames}
          warnings={warnings}
          start={current ?? shown[0]?.id}
          onPick={(frame, next) =>
            void sortFrames(
              shoot.id,
              [{ frameIds: [frame.id], pick: next }],
              next ? `${pickWords[next]}, ${frame.name}` : 'no pick',
            )
          }
          onEnd={(last) => {
            setLooking(false);
            setCurrent(last);
            setChosen(new Set([last]));
            anchor.current = last;
          }}
        />
      )}
    </Box>
  );
}

function Note({ frame, warnings }: { frame: Frame; warnings: readonly Warning[] }) {
  const { subject, pick, takenAt } = frame;
  return (
    <>
      {pick && <strong style={{ color: pick === 'keep' ? 'var(--accent)' : undefined }}>{pickWords[pick]}, </strong>}
      {subject || 'nobody yet'},{' '}
      {warnings.length ? (
        <span
          title={warnings
            .map(({ kind, words }) => `${warningFacts[kind].label}: ${words}. ${warningFacts[kind].remedy}`)
            .join('\n')}
        >
          {warningFacts[warnings[0].kind].label}
          {warnings.length > 1 && ` +${warnings.length - 1}`}
        </span>
      ) : (
        (takenAt?.slice(11, 16) ?? 'no time')
      )}
    </>
  );
}

type Comparer = (of: (frame: Frame) => Warning[]) => (a: Frame, b: Frame) => number;
/** Frames come by time, so that what is equal stays so. */
const compareBy: Record<SortId, Comparer> = {
  time: () => () => 0,
  subject: () => (a, b) => a.subject.localeCompare(b.subject, undefined, { numeric: true }),
  warning: (of) => (a, b) => (of(b)[0]?.weight ?? 0) - (of(a)[0]?.weight ?? 0),
  sharp: () => (a, b) => (b.facts?.sharp ?? 0) - (a.facts?.sharp ?? 0),
};
