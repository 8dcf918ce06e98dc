import { Button } from '@mui/material';
import type { FallbackProps } from 'react-error-boundary';
import { useRouteError } from 'react-router';
import { EmptyPlace } from '../shared/layout.tsx';
import { PartAway } from '../shared/part.ts';

/** Instead of a station that met a fault of ours, or that could not be loaded: the others go on. */
export function StationBroken({ error, resetErrorBoundary }: FallbackProps) {
  if (error instanceof PartAway)
    return (
      <div role="alert">
        <EmptyPlace title="This station could not be loaded.">
          <p>
            Silent Lawn was renewed since this page was opened, or does not answer now. What was saved is safe. See that
            it runs, then load the page anew.
          </p>
          <Button sx={{ mt: 1 }} onClick={() => window.location.reload()}>
            Load the page anew
          </Button>
        </EmptyPlace>
      </div>
    );
  return (
    <div role="alert">
      <EmptyPlace title="This station met a fault of its own.">
        <p>
          {error instanceof Error ? error.message : String(error)}. Nothing that was saved is lost, and the other
          stations work. If it stays so after a reload, send this line to whoever looks after the program.
        </p>
        <Button sx={{ mt: 1 }} onClick={resetErrorBoundary}>
          Open it again
        </Button>
      </EmptyPlace>
    </div>
  );
}

/** Hands what the router caught on to the boundary around it. */
export function Thrown(): never {
  throw useRouteError();
}
