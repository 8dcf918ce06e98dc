import DownloadIcon from '@mui/icons-material/DownloadOutlined';
import { Button, styled } from '@mui/material';
import { lazy, Suspense } from 'react';
import { useNavigate, useParams } from 'react-router';
import { secondsOf } from '../../../core/log/index.ts';
import { span } from '../../shared/format.ts';
import { Actions } from '../../shared/layout.tsx';
import { Panel, PanelTabs } from '../../shared/Panels.tsx';
import { part } from '../../shared/part.ts';
import { pictures } from '../../state/api.ts';
import { useStore } from '../../state/store.ts';
import { CoursePanel } from './CoursePanel.tsx';
import { TimePanel } from './TimePanel.tsx';
import { useLog } from './useLog.ts';

const TruthPanel = lazy(() => part(async () => ({ default: (await import('./TruthPanel.tsx')).TruthPanel })));
const NextPanel = lazy(() => part(async () => ({ default: (await import('./NextPanel.tsx')).NextPanel })));

const Page = styled('div')`
  padding: 0 20px 24px;
  display: grid;
  gap: 14px;
  grid-template-columns: minmax(0, 1fr);
  max-width: 1240px;
`;

const panels = { course: 'Course', time: 'Time and cost', truth: 'Forecast and truth', next: 'Next time' };
type PanelId = keyof typeof panels;

/** What a shoot was: its course, its time and cost, how the forecast held, what to change. */
export function LogPage() {
  const { panel = 'course' } = useParams();
  const navigate = useNavigate();
  const shoot = useStore((state) => state.shoot);
  const shown: PanelId = panel in panels ? (panel as PanelId) : 'course';
  const open = useLog(shoot?.id ?? 0);
  const { log } = open;
  if (!shoot) return null;
  return (
    <Page>
      <PanelTabs
        label="Log"
        panels={panels}
        value={shown}
        figures={{
          course: log ? log.events.length + log.notes.length : undefined,
          time: log && secondsOf(log.times) ? span(secondsOf(log.times) / 60) : undefined,
        }}
        onChange={(next) => void navigate(`/shoots/${shoot.id}/log${next === 'course' ? '' : `/${next}`}`)}
      />
      <Panel id={shown}>
        {log && shown === 'course' && <CoursePanel open={open} log={log} />}
        {log && shown === 'time' && <TimePanel open={open} log={log} />}
        <Suspense>
          {log && shown === 'truth' && <TruthPanel log={log} />}
          {log && shown === 'next' && <NextPanel log={log} />}
        </Suspense>
      </Panel>
      <Actions>
        <span className="quiet">This shoot’s log</span>
        <Button component="a" variant="text" href={pictures.logFile(shoot.id)} download startIcon={<DownloadIcon />}>
          as JSON
        </Button>
        {(['events', 'setups', 'shoots'] as const).map((name) => (
          <Button key={name} component="a" variant="text" href={pictures.log(shoot.id, `${name}.csv`)} download>
            {name === 'shoots' ? 'times and cost' : name} as CSV
          </Button>
        ))}
        <span className="quiet">all shoots</span>
        {(['events', 'setups', 'shoots'] as const).map((name) => (
          <Button
            key={name}
            component="a"
            variant="text"
            href={pictures.log(null, `${name}.csv`)}
            aria-label={`All shoots: ${name} as CSV`}
            download
          >
            {name === 'shoots' ? 'times and cost' : name}
          </Button>
        ))}
      </Actions>
    </Page>
  );
}
