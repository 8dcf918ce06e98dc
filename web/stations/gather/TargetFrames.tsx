import { Button } from '@mui/material';
import { useMemo } from 'react';
import type { Frame, Shoot } from '../../../contract/index.ts';
import { grouped } from '../../../core/gather/grouped.ts';
import { counted } from '../../shared/format.ts';
import { Actions } from '../../shared/layout.tsx';
import { plateOf } from '../../shared/plates.ts';
import { sortFrames } from '../../state/changes.ts';
import { api } from '../../state/api.ts';
import { attempt, openShoot, takeItems, useStore } from '../../state/store.ts';
import { Rows, Thumbnails } from './sortRows.tsx';

const targetWords = {
  plate: 'shows the empty screen',
  ball: 'shows the matt ball',
  'grey card': 'shows the grey card',
  'colour chart': 'shows the colour chart',
} as const;

/** Frames without a person: plates of their setup, and what belongs to a round at Check. */
export function TargetFrames({ shoot, frames }: { shoot: Shoot; frames: readonly Frame[] }) {
  const setups = useStore((state) => state.setups);
  const checks = useStore((state) => state.checks);
  const inRound = ({ name, setupId, facts }: Frame): boolean =>
    checks.some(
      (round) =>
        round.setupId === setupId && round.pictures.some((one) => one.name === name && one.kind === facts?.kind),
    );
  const hand = async (frame: Frame): Promise<void> => {
    const shootId = openShoot();
    const check = await attempt(api.handToRound(frame.id));
    if (check) takeItems(shootId, { checks: [check] });
  };
  const found = frames.filter(({ facts, pick }) => facts && facts.kind in targetWords && pick !== 'drop');
  const lying = useMemo(() => framesOver(frames), [frames]);
  const takeAs = (plate: boolean, of: readonly Frame[]): void =>
    void sortFrames(shoot.id, [{ frameIds: of.map(({ id }) => id), plate }], 'plates');
  if (!found.length) return null;
  const empty = found.filter(({ facts, plate }) => facts?.kind === 'plate' && !plate);
  return (
    <section aria-label="Frames without a person">
      <Actions>
        <h2 className="title">Frames without a person</h2>
        {empty.length > 1 && (
          <Button variant="contained" color="primary" sx={{ ml: 'auto' }} onClick={() => takeAs(true, empty)}>
            Take {empty.length} as plates
          </Button>
        )}
      </Actions>
      <Rows>
        {found.map((frame) => {
          const kind = frame.facts?.kind as keyof typeof targetWords;
          const setup = setups.find(({ id }) => id === frame.setupId);
          return (
            <li key={frame.id}>
              <strong>{frame.name}</strong>
              <Thumbnails ids={[frame.id]} frames={frames} />
              <span className="quiet">
                {targetWords[kind]}
                {frame.plate &&
                  `: a plate of “${setup?.name}”, under ${counted(lying.get(frame.id) ?? 0, 'frame')} taken nearest to it`}
                {inRound(frame) && '; it is in a round at Check'}
              </span>
              {kind === 'plate' ? (
                <Button variant={frame.plate ? 'text' : undefined} onClick={() => takeAs(!frame.plate, [frame])}>
                  {frame.plate ? 'No plate' : 'Take as a plate'}
                </Button>
              ) : (
                <Actions>
                  {!inRound(frame) && <Button onClick={() => void hand(frame)}>Read it at Check</Button>}
                  <Button
                    variant="text"
                    onClick={() => void sortFrames(shoot.id, [{ frameIds: [frame.id], pick: 'drop' }], 'dropped frame')}
                  >
                    Drop
                  </Button>
                </Actions>
              )}
            </li>
          );
        })}
      </Rows>
    </section>
  );
}

/** How many frames each plate is laid under, by the plate. */
function framesOver(frames: readonly Frame[]): Map<number, number> {
  const over = new Map<number, number>();
  for (const own of grouped(frames, ({ setupId }) => setupId).values())
    for (const frame of own) {
      const nobody = frame.plate || frame.pick === 'drop' || (frame.facts && frame.facts.kind in targetWords);
      const plate = nobody ? undefined : plateOf(frame, own);
      if (plate) over.set(plate.id, (over.get(plate.id) ?? 0) + 1);
    }
  return over;
}
