import { Button } from '@mui/material';
import type { Frame, Shoot } from '../../../contract/index.ts';
import { changeSetup, sortFrames } from '../../state/changes.ts';
import { useStore } from '../../state/store.ts';
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
                {kind === 'plate'
                  ? isPlate
                    ? `: the plate of “${setup?.name}”`
                    : ''
                  : '; it is read in a round at Check, and nobody’s picture'}
              </span>
              {kind === 'plate' && setup && !isPlate ? (
                <Button onClick={() => void changeSetup(setup, { plateFrameId: frame.id }, 'plate')}>
                  Take as the plate
                </Button>
              ) : kind !== 'plate' ? (
                <Button
                  onClick={() => void sortFrames(shoot.id, [{ frameIds: [frame.id], pick: 'drop' }], 'dropped frame')}
                >
                  Drop
                </Button>
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
