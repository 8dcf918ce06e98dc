import { useEffect, useState } from 'react';
import { Outlet, useParams } from 'react-router';
import { followEvents, loadShoot, undoLast, useStore } from '../state/store.ts';
import { Head } from './Head.tsx';
import { Missing } from './Missing.tsx';
import { ProblemBar } from './ProblemBar.tsx';
import { StationRuler } from './StationRuler.tsx';

/** One shoot: head, ruler of stations, and the station's sheet below. */
export function ShootLayout() {
  const id = Number(useParams().shootId);
  const [found, setFound] = useState<boolean | null>(null);
  const shoot = useStore((state) => state.shoot);

  useEffect(() => {
    const read = (): void => void loadShoot(id).then(setFound);
    read();
    return followEvents(read);
  }, [id]);

  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      const typing = event.target instanceof HTMLInputElement && event.target.type !== 'range';
      if ((event.ctrlKey || event.metaKey) && event.key === 'z' && !typing) {
        event.preventDefault();
        void undoLast();
      }
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);

  if (found === false) return <Missing what="shoot" />;
  if (!shoot || shoot.id !== id) return <p className="empty">Reading the shoot …</p>;
  return (
    <div className="page">
      <header className="head">
        <Head shoot={shoot} />
        <StationRuler shootId={id} />
        <ProblemBar />
      </header>
      <main className="main">
        <Outlet />
      </main>
    </div>
  );
}
