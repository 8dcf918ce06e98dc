import { Button } from '@mui/material';
import type { Frame, Setup } from '../../../contract/index.ts';
import { personLight, type Departure } from '../../../core/cut/index.ts';
import { counted } from '../../shared/format.ts';
import { changeFrames } from '../../state/changes.ts';
import { backDepartures, type offLight } from './sortable.ts';
import { Thumbnails } from './sortRows.tsx';

/** Frames of a setup that are lighter, darker or of another colour than they were to be, and how they are brought back. */
export function OffLight({
  setup,
  list,
  signed,
  frames,
}: {
  setup: Setup;
  list: ReturnType<typeof offLight>[number]['off'];
  /** Whether they are compared with a test frame that was signed off. */
  signed: boolean;
  frames: readonly Frame[];
}) {
  const ids = personLight as readonly string[];
  const wanted = new Map(list.map(({ frame, back }) => [frame.id, backDepartures(setup, back)]));
  const kept = ({ guidance }: Frame) => guidance.departures.filter(({ id }) => ids.includes(id));
  const done = list.every(({ frame }) => {
    const own = kept(frame);
    const to = wanted.get(frame.id) ?? [];
    return (
      own.length === to.length && to.every((one) => own.some(({ id, to: value }) => id === one.id && value === one.to))
    );
  });
  const depart = (to: (frame: Frame) => Departure[], label: string): void =>
    void changeFrames(
      list.map(({ frame }) => frame),
      (now) => ({
        guidance: {
          ...now.guidance,
          departures: [...now.guidance.departures.filter(({ id }) => !ids.includes(id)), ...to(now)],
        },
      }),
      label,
    );
  const steps = list.map(({ back }) => back.lighter);
  const [least, most] = [Math.min(...steps), Math.max(...steps)].map(
    (v) => `${v > 0 ? '+' : '−'}${Math.abs(v).toFixed(2)}`,
  );
  const coloured = list.filter(({ back }) => back.gains[0] !== back.gains[2]).length;
  return (
    <li style={{ gridTemplateColumns: '200px 60px minmax(0, 1fr)' }}>
      <strong>{setup.name}</strong>
      <Thumbnails ids={list.slice(0, 1).map(({ frame }) => frame.id)} frames={frames} />
      <span>
        {counted(list.length, 'frame')} {list.length === 1 ? 'stands' : 'stand'}{' '}
        <span className="figure">{least === most ? least : `${least} to ${most}`}</span> steps off the
        {signed ? ' test frame that was signed off' : ' first ones'}{' '}
        {coloured > 0 && `, ${coloured} of them in another colour`}, with the same pattern of light: as when the camera
        sets exposure or white balance itself. If a lamp changed instead, leave them.
        <br />
        {done ? (
          <Button variant="text" onClick={() => depart(() => [], 'frames as they were shot')}>
            Leave them as they were shot
          </Button>
        ) : (
          <Button onClick={() => depart((frame) => wanted.get(frame.id) ?? [], 'frames brought back')}>
            Bring {list.length === 1 ? 'it' : 'them'} back
          </Button>
        )}{' '}
        {done && <span className="quiet">Brought back; each shows it at Extract as its own departure.</span>}
      </span>
    </li>
  );
}
