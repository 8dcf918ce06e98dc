import DeleteIcon from '@mui/icons-material/DeleteOutlined';
import DownloadIcon from '@mui/icons-material/DownloadOutlined';
import FolderIcon from '@mui/icons-material/FolderOutlined';
import { Button, IconButton, Link, styled } from '@mui/material';
import { useState } from 'react';
import { Link as RouterLink } from 'react-router';
import type { Delivery, PrintOrder } from '../../../contract/index.ts';
import { needsSmall, presetKinds } from '../../../core/handOver/index.ts';
import { ask } from '../../shared/ask.tsx';
import { FolderForm } from '../../shared/FolderForm.tsx';
import { counted, fileSize, timeLeft } from '../../shared/format.ts';
import { JobFailed, JobLine } from '../../shared/JobLine.tsx';
import { Actions } from '../../shared/layout.tsx';
import { Problem } from '../../shared/Problem.tsx';
import { StepWedge } from '../../shared/StepWedge.tsx';
import { api, pictures } from '../../state/api.ts';
import { startJob, useEndedJob, useFailedJob, useOpenJob } from '../../state/jobs.ts';
import { attempt } from '../../state/store.ts';
import { PrintOrders } from './PrintOrders.tsx';

const Row = styled('article')`
  border-top: 1px solid var(--ink);
  padding-top: 8px;
  display: grid;
  gap: 6px;
`;

/** Frames that are named in a note. */
const MOST_NAMED = 6;

/** One hand-over: how far it is, what comes out of it, and what is not in it. */
export function DeliveryRow({ delivery }: { delivery: Delivery }) {
  const { batch, settings } = delivery;
  const ended = batch.total - batch.open;
  const made = new Date(delivery.createdAt).toLocaleString('en-GB', {
    day: 'numeric',
    month: 'long',
    hour: '2-digit',
    minute: '2-digit',
  });
  const remove = async (): Promise<void> => {
    const orders = (await attempt(api.printOrders(delivery.id))) ?? [];
    const yes = await ask({
      title: `Remove the hand-over of ${made}?`,
      text: `Its files go; pictures, cuts and presets stay, and it can be made again.${lostOrders(orders)}`,
      action: 'Remove',
    });
    if (yes) await attempt(api.removeDelivery(delivery.id));
  };
  return (
    <Row aria-label={`Hand-over ${delivery.id}`}>
      <Actions sx={{ justifyContent: 'space-between', flexWrap: 'nowrap' }}>
        <span>
          <strong>{settings.presets.map(({ name }) => name).join(', ')}</strong>, <span className="figure">{made}</span>
        </span>
        <span className="figure" style={{ whiteSpace: 'nowrap' }}>
          {delivery.files} files, {fileSize(delivery.bytes)}
          <IconButton aria-label={`Remove hand-over ${delivery.id}`} onClick={() => void remove()}>
            <DeleteIcon />
          </IconButton>
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
        <Outputs delivery={delivery} />
      )}
      {delivery.differences && <Different differences={delivery.differences} />}
      {delivery.keptBack.length > 0 && (
        <Problem lead={`${counted(delivery.keptBack.length, 'frame')} kept back:`} role="note">
          {named(
            delivery.keptBack.map(({ frame, subject, reason }) => `${frame} (${subject || 'nobody named'}: ${reason})`),
          )}
        </Problem>
      )}
      {delivery.notPlaced.length > 0 && (
        <p>
          <strong>{counted(delivery.notPlaced.length, 'frame')} not placed:</strong> {named(delivery.notPlaced)}{' '}
          <Link component={RouterLink} to="../place" relative="path">
            Choose their backgrounds
          </Link>
          , then make it again.
        </p>
      )}
      {grouped(delivery.problems).map(({ reason, remedy, frames }) => (
        <Problem key={reason} role="note" lead={`${frames.length === 1 ? frames[0] : `${frames.length} frames`}:`}>
          {reason}. {remedy}
          {frames.length > 1 && <span className="quiet"> {named(frames)}</span>}
        </Problem>
      ))}
    </Row>
  );
}

/** What is lost of its orders; the print service keeps what it has. */
function lostOrders(orders: readonly PrintOrder[]): string {
  if (!orders.length) return '';
  const numbers = orders.map(({ number }) => number || 'one on its way').join(', ');
  return ` What is known here of its ${counted(orders.length, 'print order')} (${numbers}) goes, too; the print service goes on with what it has accepted.`;
}

function Outputs({ delivery: { id, files, batch, settings } }: { delivery: Delivery }) {
  const { papers } = settings;
  const [asking, setAsking] = useState(false);
  const job = useOpenJob(['copyOut'], { deliveryId: id });
  const failed = useFailedJob(['copyOut'], { deliveryId: id });
  const copied = useEndedJob(['copyOut'], { deliveryId: id });
  const copy = async (folder: string): Promise<void> => {
    if (await startJob(api.copyDelivery(id, folder))) setAsking(false);
  };
  const download = (href: string, words: string) => (
    <Button component="a" variant="text" href={href} download>
      {words}
    </Button>
  );
  return (
    <>
      <Actions>
        {(files > 0 || needsSmall(papers)) && (
          <>
            <Button component="a" href={pictures.zip(id)} download startIcon={<DownloadIcon />}>
              Download the ZIP
            </Button>
            <Button startIcon={<FolderIcon />} aria-expanded={asking} onClick={() => setAsking(!asking)}>
              Into a folder
            </Button>
            <Button onClick={() => void attempt(api.repeatDelivery(id))}>Make again what changed</Button>
            {download(pictures.handedOver(id, 'manifest.csv'), 'List')}
            {papers.contact && download(pictures.handedOver(id, 'contact-sheet.pdf'), 'Contact sheet')}
            {papers.slips && download(pictures.handedOver(id, 'order-slips.pdf'), 'Order slips')}
          </>
        )}
        {batch.cancelled > 0 && <span>{batch.cancelled} cancelled</span>}
      </Actions>
      {asking && (
        <FolderForm
          help="A folder of its own is made in it; nothing that is there is written over."
          action="Copy"
          onGiven={copy}
        />
      )}
      {settings.presets.some(({ kind }) => presetKinds[kind].paper) && files > 0 && <PrintOrders deliveryId={id} />}
      {job && <JobLine job={job} label="Copying files" words="Copying into the folder" />}
      {copied && !job && <span role="status">Copied into the folder.</span>}
      <JobFailed job={failed} />
    </>
  );
}

function Different({
  differences: { same, changed, added, gone },
}: {
  differences: NonNullable<Delivery['differences']>;
}) {
  const parts = [
    changed.length && `${changed.length} changed: ${named(changed)}`,
    added.length && `${added.length} new: ${named(added)}`,
    gone.length && `${gone.length} not in it any more: ${named(gone)}`,
  ].filter(Boolean);
  return (
    <p aria-label="Differences">
      Against the one before, <strong>{counted(same, 'file')} as they were</strong>
      {parts.length ? `. ${parts.join('. ')}` : '. Nothing has changed.'}
    </p>
  );
}

function named(list: readonly string[]): string {
  const more = list.length > MOST_NAMED ? ` and ${list.length - MOST_NAMED} more` : '';
  return `${list.slice(0, MOST_NAMED).join(', ')}${more}`;
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
