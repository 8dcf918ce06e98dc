import { Link } from '@mui/material';
import { Link as RouterLink } from 'react-router';
import { EmptyPlace } from '../shared/layout.tsx';

export function Missing({ what }: { what: string }) {
  return (
    <EmptyPlace title={`This ${what} does not exist.`}>
      It may have been removed, or the address is mistyped.{' '}
      <Link component={RouterLink} to="/">
        Go to the list of shoots.
      </Link>
    </EmptyPlace>
  );
}
