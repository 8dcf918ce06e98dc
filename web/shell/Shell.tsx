import { Outlet } from 'react-router';
import { Questioner } from '../shared/ask.tsx';
import { redoLast, undoLast } from '../state/changes.ts';
import { useKeys } from '../shared/keys.ts';
import { KeysHelp } from './KeysHelp.tsx';

/** What every page has: questions before something is lost, the keys that hold everywhere, and their list. */
export function Shell() {
  useKeys('everywhere', { back: () => void undoLast(), again: () => void redoLast() });
  return (
    <>
      <Outlet />
      <Questioner />
      <KeysHelp />
    </>
  );
}
