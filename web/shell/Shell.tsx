import { ErrorBoundary } from 'react-error-boundary';
import { Outlet, useLocation } from 'react-router';
import { Questioner } from '../shared/ask.tsx';
import { redoLast, undoLast } from '../state/change.ts';
import { useKeys } from '../shared/keys.ts';
import { KeysHelp } from './KeysHelp.tsx';
import { StationBroken } from './StationBroken.tsx';

/** What every page has: questions before something is lost, the keys that hold everywhere, and their list. */
export function Shell() {
  const { pathname } = useLocation();
  useKeys('everywhere', { back: () => void undoLast(), again: () => void redoLast() });
  return (
    <>
      <ErrorBoundary FallbackComponent={StationBroken} resetKeys={[pathname]}>
        <Outlet />
      </ErrorBoundary>
      <Questioner />
      <KeysHelp />
    </>
  );
}
