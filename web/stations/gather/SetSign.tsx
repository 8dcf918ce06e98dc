import { Box, Link, styled } from '@mui/material';
import { Link as RouterLink } from 'react-router';
import type { Shoot } from '../../../contract/index.ts';
import { verdictOn } from '../../../core/gather/again.ts';
import { pictures } from '../../state/api.ts';
import { useStore } from '../../state/store.ts';
import { judgedOf, referencesOf, signsOf } from './sortable.ts';

const Window = styled('section')`
  position: fixed;
  inset: 0;
  z-index: 1200;
  display: grid;
  grid-template-rows: minmax(0, 1fr) auto;
  background: var(--paper);
  &.good {
    background: var(--ink);
    color: var(--sheet);
  }
  &.again {
    background: var(--accent);
    color: #fff;
  }
`;

/** Whether the frame that came last is good, to be read across the room while the guest is still there. */
export function SetSign({ shoot }: { shoot: Shoot }) {
  const frames = useStore((state) => state.frames);
  const checks = useStore((state) => state.checks);
  const people = frames.filter((frame) => !frame.plate && frame.facts?.kind !== 'slate');
  const last = people.reduce<(typeof people)[number] | undefined>(
    (latest, frame) => (frame.id > (latest?.id ?? 0) ? frame : latest),
    undefined,
  );
  const before = people.filter((frame) => frame.setupId === last?.setupId && frame.id < last.id);
  const verdict =
    last &&
    verdictOn(
      [...before, last].map((frame) => ({ ...judgedOf(frame), ...signsOf(frame), facts: frame.facts })),
      referencesOf(checks).get(last.setupId),
    );
  const words = !last
    ? 'Waiting for the first frame'
    : verdict
      ? verdict.good
        ? 'Good'
        : 'Again, because'
      : last.facts
        ? 'Nobody is on it'
        : 'Reading …';
  return (
    <Window aria-label="Sign for the set" className={verdict ? (verdict.good ? 'good' : 'again') : undefined}>
      <Box sx={{ display: 'grid', alignContent: 'center', p: '5vw', gap: '2vw' }} role="status">
        <strong style={{ fontSize: verdict?.good ? '18vw' : '9vw', lineHeight: 1 }}>{words}</strong>
        {verdict?.reasons.map((reason) => (
          <span key={reason} style={{ fontSize: '4vw', lineHeight: 1.15 }}>
            {reason}
          </span>
        ))}
      </Box>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', p: 1.5 }}>
        {last && <img src={pictures.thumbnail(last)} alt={last.name} style={{ height: 90 }} />}
        {last && (
          <span>
            {last.name}, {last.subject || 'nobody yet'}
          </span>
        )}
        <Link component={RouterLink} to={`/shoots/${shoot.id}/gather`} color="inherit" sx={{ ml: 'auto' }}>
          Back to Gather
        </Link>
      </Box>
    </Window>
  );
}
