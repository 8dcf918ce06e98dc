import { Button } from '@mui/material';
import { useMemo, useState } from 'react';
import type { Frame, Shoot, SortingChange } from '../../../contract/index.ts';
import { counted } from '../../shared/format.ts';
import { Actions } from '../../shared/layout.tsx';
import { api } from '../../state/api.ts';
import { sortFrames } from '../../state/changes.ts';
import { attempt, takeItems, useStore } from '../../state/store.ts';
import { wantedSetups, type WantedSetup } from './sortable.ts';
import { Rows, Thumbnails } from './sortRows.tsx';

/** Which frames belong to one setup, by what they show. */
export function SetupProposals({ shoot, frames }: { shoot: Shoot; frames: readonly Frame[] }) {
  const setups = useStore((state) => state.setups);
  const wanted = useMemo(() => wantedSetups(frames, setups), [frames, setups]);
  const [joined, setJoined] = useState<ReadonlySet<number>>(new Set());
  const moving = wanted.reduce((sum, group) => sum + group.moving.length, 0);
  // A group that was joined goes with the one above it.
  const merged = wanted.reduce<WantedSetup[]>((list, group, n) => {
    const above = list.at(-1);
    if (!joined.has(n) || !above) return [...list, group];
    return [
      ...list.slice(0, -1),
      { ...above, frames: [...above.frames, ...group.frames], moving: [...above.moving, ...group.frames] },
    ];
  }, []);
  const accept = async (): Promise<void> => {
    const changes: SortingChange[] = [];
    let made = 0;
    for (const { setup, moving: frameIds } of merged) {
      if (!frameIds.length) continue;
      let setupId = setup?.id;
      if (setupId === undefined) {
        const created = await attempt(api.createSetup(shoot.id, `Setup ${setups.length + ++made}`));
        if (!created) return;
        takeItems(shoot.id, { setups: [created] });
        setupId = created.id;
      }
      const other = frameIds.filter((id) => frames.find((frame) => frame.id === id)?.setupId !== setupId);
      if (other.length) changes.push({ frameIds: other, setupId });
    }
    if (changes.length) await sortFrames(shoot.id, changes, 'setups of frames');
    setJoined(new Set());
  };
  return (
    <section aria-label="Setups">
      <Actions>
        <h2 className="title">Setups</h2>
        <span className="quiet" role="status">
          {moving
            ? `${counted(wanted.length, 'setup')} by what the frames show; ${counted(moving, 'frame')} stand otherwise`
            : `${counted(wanted.length, 'setup')}, as the frames stand`}
        </span>
        {moving > 0 && (
          <Button variant="contained" color="primary" sx={{ ml: 'auto' }} onClick={() => void accept()}>
            Sort them so
          </Button>
        )}
      </Actions>
      {moving > 0 && (
        <Rows>
          {wanted.map(({ frames: ids, setup, reasons }, n) => (
            <li key={ids[0]}>
              <strong>{joined.has(n) ? 'with the one above' : (setup?.name ?? 'a new setup')}</strong>
              <Thumbnails ids={ids} frames={frames} />
              <span className="quiet">
                {counted(ids.length, 'frame')}
                {reasons.length > 0 && `: ${reasons.join(', ')}`}
              </span>
              {n > 0 ? (
                <Button
                  onClick={() =>
                    setJoined((old) => {
                      const next = new Set(old);
                      if (!next.delete(n)) next.add(n);
                      return next;
                    })
                  }
                >
                  {joined.has(n) ? 'Keep apart' : 'Join with above'}
                </Button>
              ) : (
                <span />
              )}
            </li>
          ))}
        </Rows>
      )}
    </section>
  );
}
