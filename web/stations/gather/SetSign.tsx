import { Box, Link, styled } from '@mui/material';
import { Link as RouterLink } from 'react-router';
import type { Shoot } from '../../../contract/index.ts';
import { signOf } from '../../../contract/sign.ts';
import { pictures } from '../../state/api.ts';
import { useStore } from '../../state/store.ts';

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
  const { last, mood, words, reasons } = signOf(frames, checks);
  return (
    <Window aria-label="Sign for the set" className={mood}>
      <Box sx={{ display: 'grid', alignContent: 'center', p: '5vw', gap: '2vw' }} role="status">
        <strong style={{ fontSize: mood === 'good' ? '18vw' : '9vw', lineHeight: 1 }}>{words}</strong>
        {reasons.map((reason) => (
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
