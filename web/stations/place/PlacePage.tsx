import { Box, Button, Link } from '@mui/material';
import { useState } from 'react';
import { Link as RouterLink } from 'react-router';
import { Example } from '../../shared/Example.tsx';
import { FrameRows } from '../../shared/FrameRows.tsx';
import { useKeys } from '../../shared/keys.ts';
import { useFrame } from '../../shared/useFrame.ts';
import { Bench, EmptyPlace, Key, ListMargin } from '../../shared/layout.tsx';
import { useStore } from '../../state/store.ts';
import { AsChosen } from './AsChosen.tsx';
import { FringeTable } from './FringeTable.tsx';
import { PlacedSheet } from './PlacedSheet.tsx';
import { usePlaceBench } from './usePlaceBench.ts';
import { OneFrame } from './OneFrame.tsx';

/** Putting people on backgrounds: one frame or all, by drag, keys and numbers. */
export function PlacePage() {
  const shoot = useStore((state) => state.shoot);
  const frames = useStore((state) => state.frames);
  const backgrounds = useStore((state) => state.backgrounds);
  const cut = frames.filter((frame) => frame.cut && frame.pick !== 'drop');
  const [frame, choose] = useFrame('place', cut);
  const bench = usePlaceBench();
  const [instead, putInstead] = useState<'sheet' | 'fringe'>();
  useKeys('place', { sheet: () => putInstead('sheet'), fringe: () => putInstead('fringe') });
  const toBench = (id?: number): void => {
    putInstead(undefined);
    if (id !== undefined) choose(id);
  };
  if (!shoot || !frame)
    return (
      <EmptyPlace title="Nobody to place yet.">
        People can be placed on backgrounds once they are{' '}
        <Link component={RouterLink} to="../extract">
          extracted
        </Link>
        ; each guest on one of their own choice.
        <Example show={['cut']} words="a person who can be placed" />
      </EmptyPlace>
    );
  if (instead === 'sheet') return <PlacedSheet frames={cut} onEnd={toBench} />;
  if (instead === 'fringe') return <FringeTable frames={cut} backgrounds={backgrounds} onEnd={toBench} />;
  return (
    <Bench>
      <ListMargin aria-label="Frames to place">
        <Box sx={{ pb: 1.5 }}>
          <h2>People extracted</h2>
          <span className="quiet">
            <span className="figure">{cut.filter((f) => f.placement).length}</span> of{' '}
            <span className="figure">{cut.length}</span> have a background.
          </span>
          <div>
            <Button variant="text" sx={{ ml: -0.75 }} onClick={() => putInstead('sheet')}>
              <Key>E</Key> All finished pictures
            </Button>
          </div>
          <div>
            <Button variant="text" sx={{ ml: -0.75 }} onClick={() => putInstead('fringe')}>
              <Key>F</Key> Fringe on each background
            </Button>
          </div>
        </Box>
        <AsChosen shootId={shoot.id} cut={cut} backgrounds={backgrounds} />
        <FrameRows
          frames={cut}
          current={frame.id}
          onChoose={choose}
          note={(f) => backgrounds.find((b) => b.id === f.placement?.backgroundId)?.name ?? 'no background yet'}
          figure={() => ''}
        />
      </ListMargin>
      <OneFrame
        key={frame.id}
        bench={bench}
        shoot={shoot}
        frame={frame}
        cut={cut}
        frames={frames}
        backgrounds={backgrounds}
      />
    </Bench>
  );
}
