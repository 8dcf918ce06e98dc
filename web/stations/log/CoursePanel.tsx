import DeleteIcon from '@mui/icons-material/DeleteOutlined';
import EditIcon from '@mui/icons-material/EditOutlined';
import { Box, Button, IconButton, styled } from '@mui/material';
import dayjs from 'dayjs';
import { lazy, Suspense, useState } from 'react';
import type { Note, ShootLog } from '../../../contract/index.ts';
import { workPlaces, type LogEvent } from '../../../core/log/index.ts';
import { longDate } from '../../shared/format.ts';
import { Actions, EmptyPlace } from '../../shared/layout.tsx';
import { api, pictures } from '../../state/api.ts';
import { attempt } from '../../state/store.ts';
import { ask } from '../../shared/ask.tsx';
import { part } from '../../shared/part.ts';
import { cameraWords } from './cameraWords.ts';
import type { OpenLog } from './useLog.ts';

/** Forms and the picker of dates are fetched when somebody writes. */
const NoteDialog = lazy(() => part(async () => ({ default: (await import('./NoteDialog.tsx')).NoteDialog })));

const Line = styled('li')`
  display: grid;
  grid-template-columns: 52px 92px 150px minmax(0, 1fr) auto;
  gap: 12px;
  border-top: 1px solid var(--hairline);
  padding: 4px 0;
  align-items: baseline;
  & img {
    max-height: 150px;
    max-width: 100%;
    display: block;
    padding-top: 4px;
  }
`;

type Entry = { at: string; note: Note | null; event: LogEvent | null };

/** All that happened and all that was written down, day by day. */
export function CoursePanel({ open, log }: { open: OpenLog; log: ShootLog }) {
  const [writing, setWriting] = useState<Note | 'note' | 'camera' | 'background'>();
  const entries: Entry[] = [
    ...log.events.map((event) => ({ at: dayjs(event.at).format('YYYY-MM-DDTHH:mm:ss'), note: null, event })),
    ...log.notes.map((note) => ({ at: note.at, note, event: null })),
  ].sort((a, b) => (a.at < b.at ? -1 : 1));
  const days = [...new Set(entries.map(({ at }) => at.slice(0, 10)))];
  const setupOf = (id: number | null): string => log.setups.find((setup) => setup.id === id)?.name ?? '';
  const remove = async (note: Note): Promise<void> => {
    const yes = await ask({
      title: 'Remove this note?',
      text: note.words.slice(0, 120) || 'It has no words.',
      action: 'Remove',
    });
    if (!yes) return;
    await attempt(api.removeNote(note.id));
    await open.load();
  };
  return (
    <Box sx={{ display: 'grid', gap: 2 }}>
      <Actions>
        <Button variant="contained" onClick={() => setWriting('note')}>
          Write a note
        </Button>
        <Button onClick={() => setWriting('camera')}>Note the camera</Button>
        <Button onClick={() => setWriting('background')}>Note a background’s camera</Button>
      </Actions>
      {!entries.length && (
        <EmptyPlace title="Nothing has happened yet.">
          Plans, rounds of test frames, frames, batches and hand-overs come here by themselves, with the notes that you
          write.
        </EmptyPlace>
      )}
      {days.map((day) => (
        <section key={day} aria-label={longDate(day)}>
          <h2>{longDate(day)}</h2>
          <Box component="ol" sx={{ listStyle: 'none' }}>
            {entries
              .filter(({ at }) => at.startsWith(day))
              .map(({ at, note, event }, n) => (
                <Line key={note ? `n${note.id}` : `e${n}`}>
                  <span className="figure">{at.slice(11, 16)}</span>
                  <span>{workPlaces[(note ?? event)?.place ?? 'log']}</span>
                  <span className="quiet">{event ? event.setup : setupOf(note?.setupId ?? null)}</span>
                  <span>
                    {event && (
                      <>
                        {event.words}
                        {event.details.length > 0 && <span className="quiet">. {event.details.join('; ')}</span>}
                      </>
                    )}
                    {note && <Words note={note} />}
                  </span>
                  <span>
                    {note && note.kind !== 'erased' && (
                      <>
                        <IconButton
                          aria-label={`Change the note of ${at.slice(11, 16)}`}
                          onClick={() => setWriting(note)}
                        >
                          <EditIcon />
                        </IconButton>
                        <IconButton
                          aria-label={`Remove the note of ${at.slice(11, 16)}`}
                          onClick={() => void remove(note)}
                        >
                          <DeleteIcon />
                        </IconButton>
                      </>
                    )}
                  </span>
                </Line>
              ))}
          </Box>
        </section>
      ))}
      <Suspense>
        {writing && (
          <NoteDialog
            note={typeof writing === 'string' ? undefined : writing}
            kind={typeof writing === 'string' ? writing : writing.kind}
            log={log}
            onEnd={(kept) => {
              setWriting(undefined);
              if (kept) void open.load();
            }}
          />
        )}
      </Suspense>
    </Box>
  );
}

function Words({ note }: { note: Note }) {
  return (
    <>
      {note.camera && (
        <span>
          {note.kind === 'background' ? 'Background: ' : ''}
          {cameraWords(note.camera)}
          {note.words && '. '}
        </span>
      )}
      <span style={{ whiteSpace: 'pre-wrap' }}>{note.words}</span>
      {note.picture && <img src={pictures.notePicture(note.id, note.picture)} alt="" loading="lazy" />}
    </>
  );
}
