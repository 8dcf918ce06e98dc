import { Box, Button, styled, Table, TableBody, TableCell, TableContainer, TableHead, TableRow } from '@mui/material';
import type { Background, Frame } from '../../../contract/index.ts';
import { grouped } from '../../../core/gather/grouped.ts';
import { fringeStep, fringeWords } from '../../../core/place/fringeWords.ts';
import { counted, timeLeft } from '../../shared/format.ts';
import { useKeys } from '../../shared/keys.ts';
import { Actions, Key } from '../../shared/layout.tsx';
import { pictures } from '../../state/api.ts';
import { useFringes } from './useFringes.ts';

/** Backgrounds in the table at most: those that somebody stands on come first. */
const MOST_COLUMNS = 8;

interface Props {
  /** Those that are extracted. */
  frames: readonly Frame[];
  backgrounds: readonly Background[];
  /** Back to the bench; with a frame, to that one. */
  onEnd: (frame?: number) => void;
}

/** How much of each person’s fringe will be seen on each background, before one is offered to them. */
export function FringeTable({ frames, backgrounds, onEnd }: Props) {
  useKeys('sheet', { leave: () => onEnd() });
  const used = (id: number): number => frames.filter(({ placement }) => placement?.backgroundId === id).length;
  const offered = backgrounds
    .filter(({ removed }) => !removed)
    .toSorted((a, b) => used(b.id) - used(a.id) || a.id - b.id)
    .slice(0, MOST_COLUMNS);
  const { seen, open, secondsLeft } = useFringes(frames.map((frame) => ({ frame, on: offered })));
  const people = [...grouped(frames, ({ subject, id }) => subject || `frame ${id}`).values()].map((own) => ({
    own,
    amounts: offered.map((_, n) => meanOf(own.flatMap(({ id }) => seen.get(id)?.[n] ?? []))),
  }));
  return (
    <Box component="section" aria-label="Fringe on each background" sx={{ px: 2.5, py: 1.5 }}>
      <Actions sx={{ mb: 1 }}>
        <h1 style={{ fontSize: 17 }}>Fringe on each background</h1>
        <span className="quiet" role="status">
          {open
            ? `${counted(open, 'frame')} still to be looked at, ${timeLeft(secondsLeft)}`
            : 'foretold from the soft outline of each cut, its own tone and that of the background behind it'}
        </span>
        <Button variant="text" sx={{ ml: 'auto' }} onClick={() => onEnd()}>
          <Key>Esc</Key> To the bench
        </Button>
      </Actions>
      <TableContainer>
        <Table size="small" aria-label="Fringe on each background" sx={{ width: 'auto', '& td, & th': { px: 1 } }}>
          <TableHead>
            <TableRow>
              <TableCell>Person</TableCell>
              {offered.map((background) => (
                <TableCell key={background.id} sx={{ verticalAlign: 'bottom', width: 120 }}>
                  <img
                    src={pictures.background(background, 'thumbnail')}
                    alt=""
                    style={{ height: 54, display: 'block' }}
                  />
                  {background.name}
                </TableCell>
              ))}
            </TableRow>
          </TableHead>
          <TableBody>
            {people.map(({ own, amounts }) => {
              const known = amounts.filter((amount) => amount !== undefined);
              const best = known.length > 1 ? Math.min(...known) : undefined;
              return (
                <TableRow key={own[0].id}>
                  <TableCell>
                    <Button variant="text" onClick={() => onEnd(own[0].id)}>
                      {own[0].subject || own[0].name}
                    </Button>{' '}
                    {own.length > 1 && <span className="quiet">{own.length} frames</span>}
                  </TableCell>
                  {offered.map(({ id }, n) => (
                    <Cell
                      key={id}
                      amount={amounts[n]}
                      best={amounts[n] !== undefined && amounts[n] === best}
                      here={own.some(({ placement }) => placement?.backgroundId === id)}
                    />
                  ))}
                </TableRow>
              );
            })}
          </TableBody>
        </Table>
      </TableContainer>
      <p className="quiet" style={{ paddingTop: 6 }}>
        Bold is the background that forgives most; underlined, where they stand. Where no two differ much, choose by
        taste. The figures are thousandths of the frame times the colour difference seen.
      </p>
    </Box>
  );
}

const Scale = styled('i')`
  display: inline-block;
  height: 8px;
  background: var(--ink);
  margin-right: 6px;
`;

/** Full width of the scale, pixels, and the amount that it stands for. */
const WIDTH = 40;
const FULL = 240;

function Cell({ amount, best, here }: { amount: number | undefined; best: boolean; here: boolean }) {
  if (amount === undefined) return <TableCell className="quiet">…</TableCell>;
  return (
    <TableCell sx={{ fontWeight: best ? 700 : undefined, borderBottom: here ? '2px solid var(--accent)' : undefined }}>
      <Scale style={{ width: Math.max(2, Math.min(1, amount / FULL) * WIDTH) }} />
      <span className="figure">{Math.round(amount)}</span>
      <br />
      {fringeWords[fringeStep(amount)].words}
    </TableCell>
  );
}

function meanOf(values: readonly number[]): number | undefined {
  return values.length ? values.reduce((sum, v) => sum + v, 0) / values.length : undefined;
}
