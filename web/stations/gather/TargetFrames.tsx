import { Button } from '@mui/material';
import type { Frame, Shoot } from '../../../contract/index.ts';
import { changeSetup, sortFrames } from '../../state/changes.ts';
import { Actions } from '../../shared/layout.tsx';
import { api } from '../../state/api.ts';
import { attempt, openShoot, takeItems, useStore } from '../../state/store.ts';
import { Rows, Thumbnails } from './sortRows.tsx';

const targetWords = {
  plate: 'shows the empty screen',
  ball: 'shows the matt ball',
  'grey card': 'shows the grey card',
  'colour chart': 'shows the colour chart',
} as const;

/** Frames without a person: the plate of their setup, and what belongs to a round at Check. */
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
  if (!found.length) return null;
  return (
    <section aria-label="Frames without a person">
      <h2 className="title">Frames without a person</h2>
      <Rows>
        {found.map((frame) => {
          const kind = frame.facts?.kind as keyof typeof targetWords;
          const setup = setups.find(({ id }) => id === frame.setupId);
          const isPlate = setup?.plateFrameId === frame.id;
          return (
            <li key={frame.id}>
              <strong>{frame.name}</strong>
              <Thumbnails ids={[frame.id]} frames={frames} />
              <span className="quiet">
                {targetWords[kind]}
                {kind === 'plate' ? (isPlate ? `: the plate of “${setup?.name}”` : '') : ''}
                {inRound(frame) && '; it is in a round at Check'}
              </span>
              {kind === 'plate' && setup && !isPlate ? (
                <Button onClick={() => void changeSetup(setup, { plateFrameId: frame.id }, 'plate')}>
                  Take as the plate
                </Button>
              ) : kind !== 'plate' ? (
                <Actions>
                  {!inRound(frame) && <Button onClick={() => void hand(frame)}>Read it at Check</Button>}
                  <Button
                    variant="text"
                    onClick={() => void sortFrames(shoot.id, [{ frameIds: [frame.id], pick: 'drop' }], 'dropped frame')}
                  >
                    Drop
                  </Button>
                </Actions>
              ) : (
                <span />
              )}
            </li>
          );
        })}
      </Rows>
    </section>
  );
}
