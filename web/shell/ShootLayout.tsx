import { useEffect, useState } from 'react';
import { ErrorBoundary } from 'react-error-boundary';
import { Outlet, useLocation, useMatch, useParams } from 'react-router';
import { EmptyPlace } from '../shared/layout.tsx';
import { countWork } from '../state/activity.ts';
import { loadFactors } from '../state/factors.ts';
import { followEvents, loadShoot, useStore } from '../state/store.ts';
import { Head } from './Head.tsx';
import { Missing } from './Missing.tsx';
import { Page } from './Page.tsx';
import { ProblemBar, UploadsUnderWay } from './ProblemBar.tsx';
import { StationBroken } from './StationBroken.tsx';
import { StationRuler } from './StationRuler.tsx';

/** Between two tries to read a shoot, ms. */
const AGAIN_AFTER = 1500;

/** One shoot: head, ruler of stations, and the station's sheet below. */
export function ShootLayout() {
  const id = Number(useParams().shootId);
  const { pathname } = useLocation();
  const atGather = useMatch('/shoots/:shootId/gather/:panel?') !== null;
  const [found, setFound] = useState<Awaited<ReturnType<typeof loadShoot>>>();
  const shoot = useStore((state) => state.shoot);

  useEffect(() => {
    void loadFactors();
    return countWork();
  }, []);

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

  if (found === 'missing') return <Missing what="shoot" />;
  if (!shoot || shoot.id !== id) {
    return (
      <>
        <ProblemBar />
        <EmptyPlace title={found === 'failed' ? 'The shoot could not be read yet.' : 'Reading the shoot …'}>
          {found === 'failed' && 'It is tried again by itself.'}
        </EmptyPlace>
      </>
    );
  }
  return (
    <Page>
      <header>
        <Head shoot={shoot} />
        <StationRuler shootId={id} />
        <ProblemBar />
        {!atGather && <UploadsUnderWay shootId={id} />}
      </header>
      <main>
        <ErrorBoundary FallbackComponent={StationBroken} resetKeys={[pathname]}>
          <Outlet />
        </ErrorBoundary>
      </main>
    </Page>
  );
}
