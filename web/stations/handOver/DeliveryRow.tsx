import DownloadIcon from '@mui/icons-material/DownloadOutlined';
import { Button, Link, styled } from '@mui/material';
import { Link as RouterLink } from 'react-router';
import type { Delivery } from '../../../contract/index.ts';
import { counted, fileSize, timeLeft } from '../../shared/format.ts';
import { Actions } from '../../shared/layout.tsx';
import { Problem } from '../../shared/Problem.tsx';
import { StepWedge } from '../../shared/StepWedge.tsx';
import { api, pictures } from '../../state/api.ts';
import { attempt } from '../../state/store.ts';
import { cutoutChoices, finishedChoices } from './choices.ts';

const Row = styled('article')`
  border-top: 1px solid var(--ink);
  padding-top: 8px;
  display: grid;
  gap: 6px;
`;

/** Frames that were kept out and are named. */
const MOST_NAMED = 6;

/** One hand-over: how far it is, its ZIP, and what is not in it. */
export function DeliveryRow({ delivery }: { delivery: Delivery }) {
  const { batch, settings } = delivery;
  const ended = batch.total - batch.open;
  const what = [
    cutoutChoices.find((c) => c.value === settings.cutout && c.value !== 'none')?.title,
    finishedChoices.find((c) => c.value === settings.finished && c.value !== 'none')?.title,
  ]
    .filter(Boolean)
    .join(' and ');
  const made = new Date(delivery.createdAt).toLocaleString('en-GB', {
    day: 'numeric',
    month: 'long',
    hour: '2-digit',
    minute: '2-digit',
  });
  return (
    <Row aria-label={`Hand-over ${delivery.id}`}>
      <Actions sx={{ justifyContent: 'space-between' }}>
        <span>
          <strong>{what}</strong>, <span className="figure">{made}</span>
        </span>
        <span className="figure">
          {delivery.files} files, {fileSize(delivery.bytes)}
        </span>
      </Actions>
      {batch.open > 0 ? (
        <>
          <StepWedge share={ended / batch.total} label="Making files" />
          <Actions>
            <span className="figure">
              {ended} of {batch.total} people, {timeLeft(batch.secondsLeft)}
            </span>
            <Button onClick={() => void attempt(api.cancel(batch.id))}>Cancel the rest</Button>
          </Actions>
        </>
      ) : (
        <Actions>
          {delivery.files > 0 && (
            <Button component="a" href={pictures.zip(delivery.id)} download startIcon={<DownloadIcon />}>
              Download the ZIP
            </Button>
          )}
          {batch.cancelled > 0 && <span>{batch.cancelled} cancelled</span>}
        </Actions>
      )}
      {delivery.keptBack.length > 0 && (
        <Problem lead={`${counted(delivery.keptBack.length, 'frame')} kept out of it:`} role="note">
          {delivery.keptBack
            .slice(0, MOST_NAMED)
            .map(({ frame, subject, reason }) => `${frame} (${subject || 'nobody named'}: ${reason})`)
            .join(', ')}
          {delivery.keptBack.length > MOST_NAMED && ` and ${delivery.keptBack.length - MOST_NAMED} more`}.
        </Problem>
      )}
      {delivery.leftOut.length > 0 && (
        <p>
          <strong>
            {delivery.leftOut.length === 1
              ? 'One person has no finished picture'
              : `${delivery.leftOut.length} people have no finished picture`}
            ,
          </strong>{' '}
          since nobody has chosen a background for them: {delivery.leftOut.slice(0, 6).join(', ')}
          {delivery.leftOut.length > 6 && ` and ${delivery.leftOut.length - 6} more`}.{' '}
          <Link component={RouterLink} to="../place">
            Choose their backgrounds
          </Link>
          , then hand over again.
        </p>
      )}
      {grouped(delivery.problems).map(({ reason, remedy, frames }) => (
        <Problem key={reason} role="note" lead={`${frames.length === 1 ? frames[0] : `${frames.length} frames`}:`}>
          {reason}. {remedy}
          {frames.length > 1 && (
            <span className="quiet">
              {' '}
              {frames.slice(0, 8).join(', ')}
              {frames.length > 8 && ` and ${frames.length - 8} more`}
            </span>
          )}
        </Problem>
      ))}
    </Row>
  );
}

/** What has one reason is told once. */
function grouped(problems: Delivery['problems']): { reason: string; remedy: string; frames: string[] }[] {
  const groups = new Map<string, { reason: string; remedy: string; frames: string[] }>();
  for (const { reason, remedy, frame } of problems) {
    const group = groups.get(reason) ?? { reason, remedy, frames: [] };
    group.frames.push(frame);
    groups.set(reason, group);
  }
  return [...groups.values()].sort((a, b) => b.frames.length - a.frames.length);
}
