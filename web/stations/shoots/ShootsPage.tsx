import { Button, Dialog, DialogActions, DialogContent, DialogTitle, TextField } from '@mui/material';
import { useEffect, useState, type FormEvent } from 'react';
import { Link, useNavigate } from 'react-router';
import { Head } from '../../shell/Head.tsx';
import { ProblemBar } from '../../shell/ProblemBar.tsx';
import { longDate, minutes } from '../../shared/format.ts';
import { api } from '../../state/api.ts';
import { attempt, followEvents, loadShoots, useStore } from '../../state/store.ts';

export function ShootsPage() {
  const shoots = useStore((state) => state.shoots);
  const [adding, setAdding] = useState(false);

  useEffect(() => {
    void loadShoots();
    return followEvents(() => void loadShoots());
  }, []);

  return (
    <div className="page">
      <header className="head">
        <Head />
        <ProblemBar />
      </header>
      <main className="main">
        <div className="sheet">
          <div className="actions" style={{ justifyContent: 'space-between' }}>
            <h1>Shoots</h1>
            <Button variant="contained" color="primary" onClick={() => setAdding(true)}>
              New shoot
            </Button>
          </div>
          {shoots && shoots.length > 0 && (
            <table className="table">
              <thead>
                <tr>
                  <th>Shoot</th>
                  <th>Date</th>
                  <th className="number">Frames</th>
                  <th className="number">Cut</th>
                  <th className="number">Placed</th>
                  <th>Left by hand</th>
                </tr>
              </thead>
              <tbody>
                {shoots.map((shoot) => (
                  <tr key={shoot.id}>
                    <td>
                      <Link to={`/shoots/${shoot.id}`}>
                        <strong>{shoot.name}</strong>
                      </Link>
                      <div className="quiet">
                        {shoot.place || 'no place given'}
                        {shoot.demo && ', sample shoot'}
                        {shoot.pending > 0 && (
                          <>
                            , <span className="figure">{shoot.pending}</span> sample pictures still being rendered
                          </>
                        )}
                      </div>
                    </td>
                    <td className="figure">{longDate(shoot.date)}</td>
                    <td className="number">{shoot.frames}</td>
                    <td className="number">{shoot.cut}</td>
                    <td className="number">{shoot.placed}</td>
                    <td className="figure">{shoot.cut ? minutes(shoot.minutes) : 'not cut yet'}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
          {shoots?.length === 0 && (
            <p className="empty">
              <strong>No shoots yet.</strong>A shoot is one job: an event or a studio day. Make one, then bring in its
              frames.
            </p>
          )}
          {!shoots && <p className="quiet">Reading the shoots …</p>}
          <p className="quiet" style={{ maxWidth: '72ch' }}>
            Frames stay on this machine, untouched. The path through a shoot: gather the frames, cut the people out,
            place them on their backgrounds, deliver.
          </p>
        </div>
      </main>
      {adding && <NewShootDialog onClose={() => setAdding(false)} />}
    </div>
  );
}

function NewShootDialog({ onClose }: { onClose: () => void }) {
  const navigate = useNavigate();
  const [name, setName] = useState('');
  const [date, setDate] = useState(() => new Date().toLocaleDateString('sv-SE'));
  const [place, setPlace] = useState('');
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    const shoot = await attempt(api.createShoot({ name, date, place }));
    if (shoot) await navigate(`/shoots/${shoot.id}/gather`);
    else onClose();
  };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="xs">
      <form onSubmit={(event) => void submit(event)}>
        <DialogTitle>New shoot</DialogTitle>
        <DialogContent sx={{ display: 'grid', gap: 2 }}>
          <TextField
            label="Name"
            value={name}
            onChange={(e) => setName(e.target.value)}
            autoFocus
            required
            slotProps={{ htmlInput: { maxLength: 120 } }}
          />
          <TextField
            label="Date"
            type="date"
            value={date}
            onChange={(e) => setDate(e.target.value)}
            required
            slotProps={{ inputLabel: { shrink: true } }}
          />
          <TextField
            label="Place"
            value={place}
            onChange={(e) => setPlace(e.target.value)}
            slotProps={{ htmlInput: { maxLength: 120 } }}
          />
        </DialogContent>
        <DialogActions sx={{ p: 2 }}>
          <Button onClick={onClose}>Leave it</Button>
          <Button type="submit" variant="contained" color="primary" disabled={!name.trim() || !date}>
            Make the shoot
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
