import { styled } from '@mui/material';
import { lazy, Suspense } from 'react';
import { useNavigate, useParams } from 'react-router';
import { part } from '../../shared/part.ts';
import { Panel, PanelTabs } from '../../shared/Panels.tsx';
import { useStore } from '../../state/store.ts';
import { FramesPanel } from './FramesPanel.tsx';
import { PicksPanel } from './PicksPanel.tsx';
import { SetSign } from './SetSign.tsx';

/** The table, the reader of lists and the plan's slots are fetched when they are asked for. */
const RosterPanel = lazy(() => part(async () => ({ default: (await import('./RosterPanel.tsx')).RosterPanel })));
const SortPanel = lazy(() => part(async () => ({ default: (await import('./SortPanel.tsx')).SortPanel })));

const Gather = styled('div')`
  padding: 0 20px 24px;
  display: grid;
  gap: 14px;
  grid-template-columns: minmax(0, 1fr);
  max-width: 1500px;
`;

const panels = { frames: 'Frames', roster: 'Roster', sort: 'Sort', picks: 'Picks' };
type PanelId = keyof typeof panels;

/** From files to setups, people and picks. */
export function GatherPage() {
  const { panel = 'frames' } = useParams();
  const navigate = useNavigate();
  const shoot = useStore((state) => state.shoot);
  const frames = useStore((state) => state.frames);
  const subjects = useStore((state) => state.subjects);
  const shown: PanelId = panel in panels ? (panel as PanelId) : 'frames';
  if (!shoot) return null;
  if (panel === 'sign') return <SetSign shoot={shoot} />;
  const kept = frames.filter(({ pick }) => pick === 'keep').length;
  return (
    <Gather>
      <PanelTabs
        label="Gather"
        panels={panels}
        value={shown}
        figures={{ frames: frames.length, roster: subjects.length, picks: kept || undefined }}
        onChange={(next) => void navigate(`/shoots/${shoot.id}/gather${next === 'frames' ? '' : `/${next}`}`)}
      />
      <Panel id={shown}>
        {shown === 'frames' && <FramesPanel shoot={shoot} />}
        <Suspense>
          {shown === 'roster' && <RosterPanel shoot={shoot} />}
          {shown === 'sort' && <SortPanel shoot={shoot} />}
        </Suspense>
        {shown === 'picks' && <PicksPanel shoot={shoot} />}
      </Panel>
    </Gather>
  );
}
