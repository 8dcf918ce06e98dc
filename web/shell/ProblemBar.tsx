import { Button } from '@mui/material';
import { useEffect } from 'react';
import { StepWedge } from '../shared/StepWedge.tsx';
import { dismissProblem, useStore } from '../state/store.ts';
import { useUploads } from '../state/uploads.ts';

/** The last failure with its remedy, whether server and database are there, what is not saved yet, and what cannot be read. */
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
        <p className="problem repeating" role="status">
          <strong>The connection is broken.</strong> Trying again every second; a running batch goes on when the server
          does. {kept}
        </p>
      )}
      {connected && !databaseUp && (
        <p className="problem repeating" role="status">
          <strong>The database ended and is being started again.</strong> This page goes on by itself in a moment.{' '}
          {kept}
        </p>
      )}
      {broken.map(({ reason, remedy }) => (
        <p className="problem" key={reason}>
          <strong>{sentence(reason)}</strong> {remedy}
        </p>
      ))}
      {problem && (
        <p className="problem" role="alert">
          <strong>{sentence(problem.reason)}</strong> {problem.remedy}{' '}
          <Button variant="text" onClick={dismissProblem}>
            Put away
          </Button>
        </p>
      )}
    </>
  );
}

/** The browser asks before a page is left that has something on its way: files, which a page cannot send on after a reload, and changes. */
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

/** Files on their way, for every station but the one that lists them. */
export function UploadsUnderWay({ shootId }: { shootId: number }) {
  const uploads = useUploads((state) => state.uploads);
  const own = uploads.filter((upload) => upload.shootId === shootId);
  const done = own.filter(({ result }) => result).length;
  const refused = own.filter(({ result }) => result?.outcome === 'refused').length;
  if (done === own.length && !refused) return null;
  return (
    <p className="under-way" role="status">
      {done < own.length && <StepWedge share={done / own.length} label="Import" />}
      <span className="figure">
        {done < own.length ? `Importing: ${done} of ${own.length}` : 'Import finished'}
        {refused > 0 && `, ${refused} refused (listed at Gather)`}
      </span>
    </p>
  );
}

function sentence(text: string): string {
  return `${text.charAt(0).toUpperCase()}${text.slice(1)}.`;
}
