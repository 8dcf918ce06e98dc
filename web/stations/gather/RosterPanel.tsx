import AddIcon from '@mui/icons-material/Add';
import DeleteIcon from '@mui/icons-material/DeleteOutlined';
import DeleteForeverIcon from '@mui/icons-material/DeleteForeverOutlined';
import { Box, Button } from '@mui/material';
import { DataGrid, GridActionsCellItem, type GridColDef } from '@mui/x-data-grid';
import { useMemo, useState } from 'react';
import type { PlanRow, Shoot, Subject, SubjectChange } from '../../../contract/index.ts';
import {
  consents,
  consentWords,
  noSubject,
  subjectFields,
  type Subject as Fields,
} from '../../../core/gather/subject.ts';
import { ask } from '../../shared/ask.tsx';
import { counted } from '../../shared/format.ts';
import { Actions, EmptyPlace } from '../../shared/layout.tsx';
import { api, pictures } from '../../state/api.ts';
import { saveText } from '../../shared/saveText.ts';
import { addSubjects, changeSubject } from '../../state/changes.ts';
import { attempt, useStore } from '../../state/store.ts';
import { RosterImport } from './RosterImport.tsx';

interface Row extends Subject {
  frames: number;
}

/** Shares of the width. */
const wide: Partial<Record<keyof Fields, number>> = { number: 75, consent: 90, name: 150, note: 170 };

/** Who is photographed: a table that is edited in place, lists in and out, slates to print. */
export function RosterPanel({ shoot }: { shoot: Shoot }) {
  const subjects = useStore((state) => state.subjects);
  const frames = useStore((state) => state.frames);
  const plans = useStore((state) => state.plans);
  const [importing, setImporting] = useState(false);
  const rows = useMemo((): Row[] => {
    const count = new Map<string, number>();
    for (const { subject } of frames) count.set(subject, (count.get(subject) ?? 0) + 1);
    return subjects.map((subject) => ({ ...subject, frames: count.get(subject.name) ?? 0 }));
  }, [subjects, frames]);
  const add = (added: Fields[]): Promise<void> => addSubjects(shoot.id, added);
  const columns: GridColDef<Row>[] = [
    ...(Object.keys(subjectFields) as (keyof Fields)[]).map((field): GridColDef<Row> => ({
      field,
      headerName: subjectFields[field].label,
      width: wide[field] ?? 120,
      editable: true,
      ...(field === 'consent'
        ? {
            type: 'singleSelect',
            valueOptions: consents.map((value) => ({ value, label: consentWords[value] })),
          }
        : {}),
    })),
    { field: 'frames', headerName: 'Frames', width: 70, align: 'right', headerAlign: 'right', type: 'number' },
    {
      field: 'actions',
      type: 'actions',
      headerName: 'Remove',
      width: 80,
      getActions: ({ row }) => [
        <GridActionsCellItem
          key="remove"
          icon={<DeleteIcon />}
          label={`Take ${row.name} off the roster`}
          onClick={() => void confirmRemoval(row)}
        />,
        <GridActionsCellItem
          key="erase"
          icon={<DeleteForeverIcon />}
          label={`Delete ${row.name} with all pictures`}
          onClick={() => void confirmErasure(row)}
        />,
      ],
    },
  ];
  const planned = plannedGuests(plans, subjects);
  const without = rows.filter((row) => !row.frames).length;
  const refusing = rows.filter(({ consent }) => consent === 'no').length;
  return (
    <Box sx={{ display: 'grid', gap: 1.5, gridTemplateColumns: 'minmax(0, 1fr)' }}>
      <Actions>
        <Button variant="contained" color="primary" onClick={() => setImporting(true)}>
          Bring in a list
        </Button>
        <Button
          startIcon={<AddIcon />}
          onClick={() => void add([{ ...noSubject, name: `Guest ${subjects.length + 1}` }])}
        >
          Add somebody
        </Button>
        {planned.length > 0 && (
          <Button onClick={() => void add(planned)}>Take {counted(planned.length, 'guest')} from the plan</Button>
        )}
        {subjects.length > 0 && (
          <>
            <Button href={pictures.slates(shoot.id)} download>
              Slates to print
            </Button>
            <Button href={pictures.roster(shoot.id)} download>
              Save as a list
            </Button>
          </>
        )}
        <span className="quiet" role="status">
          {subjects.length > 0 &&
            [
              counted(subjects.length, 'person', 'people'),
              without && `${without} without a frame`,
              refusing && `${refusing} said no and are in no hand-over`,
            ]
              .filter(Boolean)
              .join(', ')}
        </span>
      </Actions>
      {subjects.length === 0 ? (
        <EmptyPlace title="Nobody is listed yet.">
          Bring in the list of names: frames are then given to people by the slates they hold up, by the times of their
          slots or by the order of the list, at Sort. Who says no is kept out of every hand-over.
        </EmptyPlace>
      ) : (
        <Box sx={{ height: 'calc(100vh - 240px)', minHeight: 320 }}>
          <DataGrid
            rows={rows}
            columns={columns}
            density="compact"
            hideFooter
            disableRowSelectionOnClick
            processRowUpdate={(now, before) => {
              const to = Object.fromEntries(
                (Object.keys(subjectFields) as (keyof Fields)[])
                  .filter((field) => now[field] !== before[field])
                  .map((field) => [field, fitted(field, now[field])]),
              ) as SubjectChange;
              if (to.name === '') return before;
              if (Object.keys(to).length) void changeSubject(before, to, `roster, ${before.name}`);
              return { ...before, ...to };
            }}
          />
        </Box>
      )}
      <RosterImport
        open={importing}
        taken={subjects.map(({ name }) => name)}
        onAdd={(added) => void add(added)}
        onClose={() => setImporting(false)}
      />
    </Box>
  );
}

function fitted(field: keyof Fields, value: string): string {
  return value.trim().slice(0, subjectFields[field].most);
}

/** Guests of the plans who are not on the roster yet, with the colours that they wear. */
function plannedGuests(plans: readonly PlanRow[], subjects: readonly Fields[]): Fields[] {
  const known = new Set(subjects.map(({ name }) => name.toLowerCase()));
  return plans.flatMap(({ plan }) =>
    plan.event.roster.flatMap(({ name, colours }): Fields[] => {
      const key = name.trim().toLowerCase();
      if (!key || known.has(key)) return [];
      known.add(key);
      const clothing = colours.map((colour) => `#${colour.replace('#', '')}`).join(' ');
      return [{ ...noSubject, name: name.trim().slice(0, 80), clothing: clothing.slice(0, 120) }];
    }),
  );
}

async function confirmRemoval({ id, name, frames }: Row): Promise<void> {
  const sure = await ask({
    title: `Take ${name} off the roster?`,
    text: frames ? `${counted(frames, 'frame')} of theirs stay in the shoot and are nobody’s.` : 'No frame shows them.',
    action: 'Take off',
  });
  if (sure) await attempt(api.removeSubject(id));
}

async function confirmErasure({ id, name, frames }: Row): Promise<void> {
  const sure = await ask({
    title: `Delete ${name} with all pictures?`,
    text: `${counted(frames, 'frame')}, their cuts, and everything in hand-overs that shows them are deleted here for good. What was already carried away from here is not reached, nor the files on your card or disk.`,
    action: 'Delete for good',
  });
  const erased = sure && (await attempt(api.eraseSubject(id)));
  if (erased) saveText(`${name}, deletion.txt`, erased.proof);
}
