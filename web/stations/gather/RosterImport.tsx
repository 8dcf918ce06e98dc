import {
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  FormControlLabel,
  Checkbox,
  Table,
  TableBody,
  TableCell,
  TableHead,
  TableRow,
  TextField,
} from '@mui/material';
import { useMemo, useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { columnsOf, columnUses, subjectsFrom, type ColumnUse } from '../../../core/gather/roster.ts';
import type { Subject } from '../../../core/gather/subject.ts';
import { Choice } from '../../shared/Choice.tsx';
import { FileInput } from '../../shared/FileInput.tsx';
import { counted } from '../../shared/format.ts';
import { Actions } from '../../shared/layout.tsx';
import { readText, tableOf } from './rosterFile.ts';

/** Rows of the list that are shown to see which column is what. */
const SHOWN = 4;

/** A list of names from a file or pasted: which column is what, what is wrong in which line, then onto the roster. */
export function RosterImport({
  open,
  taken,
  onAdd,
  onClose,
}: {
  open: boolean;
  /** Names that are on the roster already. */
  taken: readonly string[];
  onAdd: (subjects: Subject[]) => void;
  onClose: () => void;
}) {
  const [text, setText] = useState('');
  const [chosen, setChosen] = useState<{ uses: ColumnUse[]; head: boolean }>();
  const table = useMemo(() => tableOf(text), [text]);
  const guessed = useMemo(() => columnsOf(table.rows), [table]);
  const { uses, head } = chosen ?? guessed;
  const from = head ? 1 : 0;
  const { subjects, problems } = subjectsFrom(
    table.rows.slice(from),
    uses,
    head ? (table.rows[0] ?? []) : [],
    table.lines.slice(from),
    taken,
  );
  const take = (next: string): void => {
    setText(next);
    setChosen(undefined);
  };
  const { getInputProps, open: choose } = useDropzone({
    noClick: true,
    noKeyboard: true,
    multiple: false,
    onDrop: ([file]) => void file?.arrayBuffer().then((content) => take(readText(new Uint8Array(content)))),
  });
  const close = (): void => {
    take('');
    onClose();
  };
  return (
    <Dialog open={open} onClose={close} fullWidth maxWidth="md" aria-labelledby="roster-import">
      <DialogTitle id="roster-import">A list of names</DialogTitle>
      <DialogContent sx={{ display: 'grid', gap: 1.5 }}>
        <Actions>
          <FileInput label="List of names" props={getInputProps} />
          <Button onClick={choose}>Choose a file</Button>
          <span className="quiet">
            or paste it here: one line for each person, columns apart by comma, semicolon or tab.
          </span>
        </Actions>
        <TextField
          multiline
          minRows={3}
          maxRows={6}
          label="The list"
          value={text}
          onChange={(event) => take(event.target.value)}
          slotProps={{ htmlInput: { spellCheck: false } }}
        />
        {table.rows.length > 0 && (
          <>
            <FormControlLabel
              control={<Checkbox checked={head} onChange={(_, next) => setChosen({ uses, head: next })} />}
              label="The first line names the columns"
            />
            <Table size="small" aria-label="Columns of the list">
              <TableHead>
                <TableRow>
                  {uses.map((use, column) => (
                    <TableCell key={column}>
                      <Choice
                        aria={`Column ${column + 1}`}
                        value={use}
                        options={Object.entries(columnUses).map(([value, title]) => ({ value, title }))}
                        onChange={(value) =>
                          setChosen({ head, uses: uses.map((one, n) => (n === column ? (value as ColumnUse) : one)) })
                        }
                      />
                    </TableCell>
                  ))}
                </TableRow>
              </TableHead>
              <TableBody>
                {table.rows.slice(0, SHOWN).map((row, n) => (
                  <TableRow key={n}>
                    {uses.map((_, column) => (
                      <TableCell key={column} sx={head && n === 0 ? { fontWeight: 640 } : undefined}>
                        {row[column]}
                      </TableCell>
                    ))}
                  </TableRow>
                ))}
              </TableBody>
            </Table>
            {problems.length > 0 && (
              <ul aria-label="Lines to look at" style={{ listStyle: 'none', maxHeight: 120, overflow: 'auto' }}>
                {problems.map(({ line, reason }, n) => (
                  <li key={n}>
                    <span className="figure">Line {line}:</span> {reason}.
                  </li>
                ))}
              </ul>
            )}
          </>
        )}
      </DialogContent>
      <DialogActions>
        <Button
          variant="contained"
          color="primary"
          disabled={!subjects.length}
          onClick={() => {
            onAdd(subjects);
            close();
          }}
        >
          Add {counted(subjects.length, 'person', 'people')}
        </Button>
        <Button variant="text" onClick={close}>
          Leave it
        </Button>
      </DialogActions>
    </Dialog>
  );
}
