import { Button } from '@mui/material';
import { dismissProblem, useStore } from '../state/store.ts';

/** The last failure with its remedy, and whether the server is still there. */
export function ProblemBar() {
  const problem = useStore((state) => state.problem);
  const connected = useStore((state) => state.connected);
  return (
    <>
      {!connected && (
        <p className="problem repeating" role="status">
          <strong>The connection is broken.</strong> Trying again every second; what was saved is safe, and a running batch goes on when the server does.
        </p>
      )}
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

function sentence(text: string): string {
  return `${text.charAt(0).toUpperCase()}${text.slice(1)}.`;
}
