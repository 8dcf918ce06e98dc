import { Button } from '@mui/material';
import type { FallbackProps } from 'react-error-boundary';
import { EmptyPlace } from '../shared/layout.tsx';

/** Instead of a station that met a fault of ours: the others go on. */
export function StationBroken({ error, resetErrorBoundary }: FallbackProps) {
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
