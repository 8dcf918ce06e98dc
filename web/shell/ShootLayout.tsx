import { useEffect, useState } from 'react';
import { Outlet, useMatch, useParams } from 'react-router';
import { followEvents, loadShoot, undoLast, useStore } from '../state/store.ts';
import { Head } from './Head.tsx';
import { isTyping } from '../shared/keys.ts';
import { Missing } from './Missing.tsx';
import { ProblemBar, UploadsUnderWay } from './ProblemBar.tsx';
import { StationRuler } from './StationRuler.tsx';

/** Between two tries to read a shoot, ms. */
const AGAIN_AFTER = 1500;

/** One shoot: head, ruler of stations, and the station's sheet below. */
export function ShootLayout() {
  const id = Number(useParams().shootId);
  const atGather = useMatch('/shoots/:shootId/gather') !== null;
  const [found, setFound] = useState<Awaited<ReturnType<typeof loadShoot>>>();
  const shoot = useStore((state) => state.shoot);

  useEffect(() => {
    let again: ReturnType<typeof setTimeout> | undefined;
    let left = false;
    const read = async (): Promise<void> => {
      clearTimeout(again);
      const result = await loadShoot(id);
      if (left) return;
      setFound(result);
      // It goes on by itself when the server, or its database, is back.
      if (result === 'failed') again = setTimeout(() => void read(), AGAIN_AFTER);
    };
    const stop = followEvents(() => void read());
    void read();
    return () => {
      left = true;
      clearTimeout(again);
      stop();
    };
  }, [id]);

  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      if ((event.ctrlKey || event.metaKey) && event.key === 'z' && !isTyping(event.target)) {
        event.preventDefault();
        void undoLast();
      }
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);

  if (found === 'missing') return <Missing what="shoot" />;
  if (!shoot || shoot.id !== id) {
    return (
      <>
        <ProblemBar />
        <p className="empty">
          {found === 'failed' ? 'The shoot could not be read yet; it is tried again by itself.' : 'Reading the shoot …'}
        </p>
      </>
    );
  }
  return (
    <div className="page">
      <header className="head">
        <Head shoot={shoot} />
        <StationRuler shootId={id} />
        <ProblemBar />
        {!atGather && <UploadsUnderWay shootId={id} />}
      </header>
      <main className="main">
        <Outlet />
      </main>
    </div>
  );
}
