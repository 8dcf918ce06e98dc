import { Button, styled } from '@mui/material';
import { useEffect } from 'react';
import { Problem, sentence } from '../shared/Problem.tsx';
import { StepWedge } from '../shared/StepWedge.tsx';
import { dismissProblem, useStore } from '../state/store.ts';
import { useUploads } from '../state/uploads.ts';

/**
 * The last failure with its remedy, whether server and database are there, what is not saved yet, and what cannot be
 * read.
 */
export function ProblemBar() {
  const problem = useStore((state) => state.problem);
  const connected = useStore((state) => state.connected);
  const databaseUp = useStore((state) => state.databaseUp);
  const unsaved = useStore((state) => state.unsaved);
  const broken = useStore((state) => state.broken);
  const kept = unsaved
    ? `${unsaved === 1 ? 'One change of yours waits' : `${unsaved} changes of yours wait`} and will be saved then.`
    : 'What was saved is safe.';
  return (
    <>
      <StaysOpen unsaved={unsaved > 0} />
      {!connected && (
        <Problem role="status" lead="The connection is broken.">
          Trying again every second; a running batch goes on when the server does. {kept}
        </Problem>
      )}
      {connected && !databaseUp && (
        <Problem role="status" lead="The database ended and is being started again.">
          This page goes on by itself in a moment. {kept}
        </Problem>
      )}
      {broken.map(({ reason, remedy }) => (
        <Problem role="note" key={reason} lead={sentence(reason)}>
          {remedy}
        </Problem>
      ))}
      {problem && (
        <Problem
          lead={sentence(problem.reason)}
          action={
            <Button variant="text" onClick={dismissProblem}>
              Put away
            </Button>
          }
        >
          {problem.remedy}
        </Problem>
      )}
    </>
  );
}

/**
 * The browser asks before a page is left that has something on its way: files, which a page cannot send on after a
 * reload, and changes.
 */
function StaysOpen({ unsaved }: { unsaved: boolean }) {
  const uploading = useUploads((state) => state.uploads.some(({ result }) => !result));
  const ask = uploading || unsaved;
  useEffect(() => {
    if (!ask) return;
    const onLeave = (event: BeforeUnloadEvent): void => event.preventDefault();
    window.addEventListener('beforeunload', onLeave);
    return () => window.removeEventListener('beforeunload', onLeave);
  }, [ask]);
  return null;
}

const UnderWay = styled('div')`
  display: grid;
  grid-template-columns: 180px 1fr;
  gap: 12px;
  align-items: center;
  padding: 4px 20px;
`;

/** Files on their way, for every station but the one that lists them. */
export function UploadsUnderWay({ shootId }: { shootId: number }) {
  const uploads = useUploads((state) => state.uploads);
  const own = uploads.filter((upload) => upload.shootId === shootId);
  const done = own.filter(({ result }) => result).length;
  const refused = own.filter(({ result }) => result?.outcome === 'refused').length;
  if (done === own.length && !refused) return null;
  return (
    <UnderWay role="status">
      {done < own.length && <StepWedge share={done / own.length} label="Import" />}
      <span className="figure">
        {done < own.length ? `Importing: ${done} of ${own.length}` : 'Import finished'}
        {refused > 0 && `, ${refused} refused (listed at Gather)`}
      </span>
    </UnderWay>
  );
}
