import { Box, Button, styled } from '@mui/material';
import { fileSize } from '../../shared/format.ts';
import { Actions } from '../../shared/layout.tsx';
import { StepWedge } from '../../shared/StepWedge.tsx';
import { clearUploads, useUploads, type Upload } from '../../state/uploads.ts';

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

/** Files on their way into a shoot, and what became of those that were not simply taken in. */
export function Uploads({ shootId }: { shootId: number }) {
  const all = useUploads((state) => state.uploads);
  const uploads = all.filter((upload) => upload.shootId === shootId);
  if (!uploads.length) return null;
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
