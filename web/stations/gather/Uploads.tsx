import { Box, Button, styled } from '@mui/material';
import { useEffect } from 'react';
import { counted, fileSize } from '../../shared/format.ts';
import { Actions } from '../../shared/layout.tsx';
import { Problem } from '../../shared/Problem.tsx';
import { StepWedge } from '../../shared/StepWedge.tsx';
import { useStore } from '../../state/store.ts';
import { clearUploads, forgetLeft, lookForLeft, useUploads, type Upload } from '../../state/uploads.ts';

const Listed = styled('ul')`
  list-style: none;
  max-height: 168px;
  overflow: auto;
  border: 1px solid var(--hairline);
  background: var(--sheet);
  & > li {
    padding: 4px 12px;
    border-bottom: 1px solid var(--hairline);
    display: grid;
    grid-template-columns: 220px 1fr;
    gap: 12px;
  }
`;

/** What went well needs no line. */
function isListed({ result }: Upload): boolean {
  return result?.outcome !== 'stored' || result.question !== undefined;
}

/** What was on its way when the page was left, and how it goes on. */
function LeftUploads({ shootId }: { shootId: number }) {
  const left = useUploads((state) => state.left);
  const setup = useStore(({ setups }) => setups.find(({ id }) => id === left?.setupId));
  useEffect(() => void lookForLeft(), [shootId]);
  if (left?.shootId !== shootId || !setup) return null;
  const files = Object.values(left.files);
  const open = files.filter((arrived) => !arrived).length;
  return (
    <Problem
      role="note"
      lead={`${open} of ${counted(files.length, 'file')} had not arrived when the page was left.`}
      action={
        <Button variant="text" sx={{ whiteSpace: 'nowrap' }} onClick={forgetLeft}>
          Let them be
        </Button>
      }
    >
      Choose the same files or their folder again for “{setup.name}”: what has arrived is passed over, and a file that
      was half sent goes on where it stopped.
    </Problem>
  );
}

/** Files on their way into a shoot, and what became of those that were not simply taken in. */
export function Uploads({ shootId }: { shootId: number }) {
  const all = useUploads((state) => state.uploads);
  const uploads = all.filter((upload) => upload.shootId === shootId);
  if (!uploads.length) return <LeftUploads shootId={shootId} />;
  const finished = uploads.filter((u) => u.result);
  const refused = finished.filter((u) => u.result?.outcome === 'refused');
  const duplicates = finished.filter((u) => u.result?.outcome === 'duplicate').length;
  const stored = finished.length - refused.length - duplicates;
  const bytes = uploads.reduce((sum, u) => sum + u.bytes, 0);
  const share = bytes ? uploads.reduce((sum, u) => sum + u.bytes * (u.result ? 1 : u.sent * 0.97), 0) / bytes : 1;
  const done = finished.length === uploads.length;
  return (
    <Box component="section" aria-label="Import" sx={{ display: 'grid', gap: 0.75 }}>
      <Actions>
        <strong>{done ? 'Import finished' : 'Importing'}</strong>
        <span className="figure">
          {stored} taken in, {duplicates} already here, {refused.length} refused, {uploads.length - finished.length} to
          go
        </span>
        {done && (
          <Button variant="text" onClick={() => clearUploads(shootId)}>
            Put this list away
          </Button>
        )}
      </Actions>
      {!done && <StepWedge share={share} label="Import" />}
      {uploads.some(isListed) && (
        <Listed>
          {uploads.filter(isListed).map((u) => (
            <li key={u.key}>
              <span className="name">{u.name}</span>
              {!u.result && (
                <span className="quiet figure">
                  {u.sent < 1 ? `${Math.round(u.sent * 100)} % of ${fileSize(u.bytes)}` : 'being checked …'}
                </span>
              )}
              {u.result?.outcome === 'stored' && u.result.question && (
                <span>
                  <strong>Taken in, but:</strong> {u.result.question.reason}. {u.result.question.remedy}
                </span>
              )}
              {u.result?.outcome === 'duplicate' && <span>Already in this shoot as {u.result.of}.</span>}
              {u.result?.outcome === 'refused' && (
                <span>
                  <strong>Refused:</strong> {u.result.reason}. {u.result.remedy}
                </span>
              )}
            </li>
          ))}
        </Listed>
      )}
    </Box>
  );
}
