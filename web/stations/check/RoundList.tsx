import { Button, List, ListItem, ListItemButton } from '@mui/material';
import type { Check } from '../../../contract/index.ts';
import { Actions } from '../../shared/layout.tsx';

/** The rounds of a setup, each with how it ended. */
export function RoundList({
  rounds,
  current,
  onChoose,
  onBegin,
}: {
  rounds: Check[];
  current: number | undefined;
  onChoose: (id: number) => void;
  onBegin: () => void;
}) {
  return (
    <>
      <Actions sx={{ justifyContent: 'space-between', borderTop: 1, borderColor: 'divider', pt: 0.5 }}>
        <strong>Rounds</strong>
        <Button variant="text" onClick={onBegin}>
          New round
        </Button>
      </Actions>
      <List
        aria-label="Rounds"
        sx={{ borderBottom: 1, borderColor: 'divider', mb: 0.75, maxHeight: 150, overflow: 'auto', flex: '0 0 auto' }}
      >
        {rounds.map((round, n) => (
          <ListItem key={round.id} disablePadding>
            <ListItemButton
              component="button"
              selected={round.id === current}
              aria-current={round.id === current}
              sx={{ py: 0.25 }}
              onClick={() => onChoose(round.id)}
            >
              <span className="figure">
                {n + 1},&nbsp;
                {new Date(round.createdAt).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })}
              </span>
              <span style={{ flex: 1, textAlign: 'left', whiteSpace: 'nowrap', overflow: 'hidden' }}>
                {stateOf(round)}
              </span>
              <span className="figure">
                {round.findings?.forecast ? `${round.findings.forecast.minutes.toFixed(0)} min` : ''}
              </span>
            </ListItemButton>
          </ListItem>
        ))}
      </List>
    </>
  );
}

function stateOf({ signedAt, findings }: Check): string {
  if (signedAt) return 'signed off';
  if (!findings) return 'not read';
  return findings.ready ? 'ready' : `${findings.causes.length} to change`;
}
