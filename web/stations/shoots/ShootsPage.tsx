import AddIcon from '@mui/icons-material/Add';
import { Button, Snackbar } from '@mui/material';
import { lazy, Suspense, useEffect, useState } from 'react';
import { useNavigate } from 'react-router';
import { BACK_MINUTES, type NewShoot, type Shoot } from '../../../contract/index.ts';
import { counted } from '../../shared/format.ts';
import { ask } from '../../shared/ask.tsx';
import { Actions, EmptyPlace, Sheet } from '../../shared/layout.tsx';
import { part } from '../../shared/part.ts';
import { Head } from '../../shell/Head.tsx';
import { Page } from '../../shell/Page.tsx';
import { ProblemBar } from '../../shell/ProblemBar.tsx';
import { api } from '../../state/api.ts';
import { attempt, followEvents, loadShoots, useStore } from '../../state/store.ts';
import { BringIn } from './BringIn.tsx';
import { ShootCard } from './ShootCard.tsx';

// Forms and calendar are loaded when somebody wants them.
const ShootDialog = lazy(async () => ({ default: (await part(() => import('./ShootDialog.tsx'))).ShootDialog }));

/** Every shoot with its pictures and what to do next. */
export function ShootsPage() {
  const all = useStore((state) => state.shoots);
  const sampleHere = useStore((state) => state.sampleHere);
  const cutSeconds = useStore((state) => state.cutSeconds);
  const [editing, setEditing] = useState<Shoot | 'new'>();
  const [removed, setRemoved] = useState<Shoot>();
  const navigate = useNavigate();
  useEffect(() => {
    void loadShoots();
    return followEvents(() => void loadShoots());
  }, []);
  const shoots = all?.filter(({ removedAt }) => removedAt === null);
  const gone = all?.filter(({ removedAt }) => removedAt !== null) ?? [];

  const keep = async (values: NewShoot): Promise<void> => {
    if (editing === 'new') {
      const made = await attempt(api.createShoot(values));
      if (made) return void navigate(`/shoots/${made.id}/gather`);
    } else if (editing) await attempt(api.changeShoot(editing.id, values));
    setEditing(undefined);
    await loadShoots();
  };
  const remove = async (shoot: Shoot): Promise<void> => {
    const sure = await ask({
      title: `Remove “${shoot.name}”?`,
      text: lostWith(shoot),
      action: 'Remove it',
    });
    if (!sure) return;
    await attempt(api.removeShoot(shoot.id));
    await loadShoots();
    setRemoved(shoot);
  };
  const bringBack = async (shoot: Shoot): Promise<void> => {
    setRemoved(undefined);
    await attempt(api.bringShootBack(shoot.id));
    await loadShoots();
  };
  return (
    <Page>
      <header>
        <Head />
        <ProblemBar />
      </header>
      <main>
        <Sheet sx={{ maxWidth: 1180 }}>
          <Actions sx={{ justifyContent: 'space-between' }}>
            <h1>Shoots</h1>
            <Actions>
              <BringIn onDone={loadShoots} />
              <Button variant="contained" color="primary" startIcon={<AddIcon />} onClick={() => setEditing('new')}>
                New shoot
              </Button>
            </Actions>
          </Actions>
          {shoots?.map((shoot) => (
            <ShootCard
              key={shoot.id}
              shoot={shoot}
              cutSeconds={cutSeconds}
              onRename={() => setEditing(shoot)}
              onDuplicate={() => void attempt(api.duplicateShoot(shoot.id)).then(loadShoots)}
              onRemove={() => void remove(shoot)}
            />
          ))}
          {shoots?.length === 0 && (
            <EmptyPlace title="No shoots yet.">
              A shoot is one job: an event or a studio day. Make one, then plan its set or bring in its frames. The
              sample shoot shows what each station is for.
            </EmptyPlace>
          )}
          {!shoots && <p className="quiet">Reading the shoots …</p>}
          {gone.map((shoot) => (
            <p key={shoot.id} className="quiet">
              “{shoot.name}” was removed and can be brought back for <span className="figure">{BACK_MINUTES}</span>{' '}
              minutes.{' '}
              <Button variant="text" onClick={() => void bringBack(shoot)}>
                Bring {shoot.name} back
              </Button>
            </p>
          ))}
          {!sampleHere && (
            <p className="quiet">
              The sample shoot is not here.{' '}
              <Button variant="text" onClick={() => void attempt(api.bringSampleBack()).then(loadShoots)}>
                Bring the sample back
              </Button>
            </p>
          )}
          <p className="quiet">
            Frames stay on this machine, untouched. The path through a shoot: plan the set, test it, gather the frames,
            extract the people, place them on their backgrounds, hand over, learn from the log.
          </p>
        </Sheet>
      </main>
      {editing && (
        <Suspense>
          <ShootDialog
            title={editing === 'new' ? 'New shoot' : `Change “${editing.name}”`}
            action={editing === 'new' ? 'Make the shoot' : 'Keep it'}
            shoot={editing === 'new' ? emptyShoot() : { name: editing.name, date: editing.date, place: editing.place }}
            onDone={keep}
            onClose={() => setEditing(undefined)}
          />
        </Suspense>
      )}
      <Snackbar
        open={removed !== undefined}
        autoHideDuration={10_000}
        onClose={(_, reason) => reason === 'timeout' && setRemoved(undefined)}
        message={`“${removed?.name}” is removed`}
        action={
          <Button variant="text" sx={{ color: '#fff' }} onClick={() => removed && void bringBack(removed)}>
            Take back
          </Button>
        }
      />
    </Page>
  );
}

function emptyShoot(): NewShoot {
  return { name: '', date: new Date().toLocaleDateString('sv-SE'), place: '' };
}

/** What goes with a shoot, in words. */
function lostWith({ frames, cut, plans, handedOver, sample }: Shoot): string {
  const parts = [
    frames && `${counted(frames, 'frame')}${cut ? ` with ${counted(cut, 'cut')}` : ''}`,
    plans && counted(plans, 'plan'),
    handedOver && counted(handedOver, 'hand-over'),
  ].filter(Boolean);
  const lost = parts.length ? `It goes with ${parts.join(', ')}.` : 'It is empty.';
  return `${lost} For ${BACK_MINUTES} minutes it can be brought back. ${sample ? 'The sample can always be made anew.' : 'The files on your card or disk are not touched.'}`;
}
