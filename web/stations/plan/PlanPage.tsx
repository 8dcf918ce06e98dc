import { Box, styled } from '@mui/material';
import { useEffect, useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import type { LibraryItem, PlanRow } from '../../../contract/index.ts';
import { byOwnLog } from '../../../core/log/index.ts';
import { startingPlan, type Plan } from '../../../core/plan/index.ts';
import { Choice } from '../../shared/Choice.tsx';
import { Headline } from '../../shared/Headline.tsx';
import { EmptyPlace, ListMargin, ReadingMargin } from '../../shared/layout.tsx';
import { NameField } from '../../shared/NameField.tsx';
import { Panel, PanelTabs } from '../../shared/Panels.tsx';
import { api } from '../../state/api.ts';
import { changePlan } from '../../state/changes.ts';
import { useOwnFactors } from '../../state/factors.ts';
import { attempt, useStore } from '../../state/store.ts';
import { CameraPicture, type PreviewShot } from './CameraPicture.tsx';
import { DayPanel } from './DayPanel.tsx';
import { Findings } from './Findings.tsx';
import { ForecastPanel } from './ForecastPanel.tsx';
import { KitPanel } from './KitPanel.tsx';
import { LawnMapView } from './LawnMapView.tsx';
import { LibraryDialog } from './LibraryDialog.tsx';
import type { Numbers } from './plan.worker.ts';
import { PlanBar } from './PlanBar.tsx';
import { SavePanel } from './SavePanel.tsx';
import { SetDrawing } from './SetDrawing.tsx';
import { ShotForm } from './ShotForm.tsx';
import { ThingForm } from './ThingForm.tsx';
import type { ThingId } from './things.ts';
import { useComputed, usePlanWorker } from './usePlanWorker.ts';
import { useUnits } from './useUnits.ts';

const panels = { findings: 'Findings', save: 'What saves', forecast: 'Forecast', day: 'Day', kit: 'Kit' } as const;
type PanelId = keyof typeof panels;

const Planning = styled('div')`
  height: 100%;
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  grid-template-rows: auto minmax(0, 1fr);
  min-height: 0;
  @media (max-width: 860px) {
    height: auto;
  }
`;

const SheetGrid = styled('div')`
  display: grid;
  grid-template-columns: 236px minmax(0, 1fr) 196px 324px;
  min-height: 0;
  & > aside:first-of-type {
    overflow: hidden;
  }
  @media (max-width: 1150px) {
    grid-template-columns: 196px minmax(0, 1fr) 150px 268px;
  }
  @media (max-width: 860px) {
    grid-template-columns: minmax(0, 1fr) 220px;
    grid-template-rows: 60vh auto;
    & > * {
      min-width: 0;
    }
    & > .set-drawing,
    & > section {
      order: -1;
    }
  }
`;

const Seen = styled('section')`
  background: var(--surround);
  color: #fff;
  padding: 8px;
  display: flex;
  flex-direction: column;
  gap: 6px;
  min-height: 0;
  overflow: auto;
  & > * {
    min-width: 0;
  }
  & .quiet {
    color: #fff;
  }
  & .camera-picture,
  & .lawn {
    height: 33vh;
    max-width: 100%;
    align-self: center;
  }
  @media (max-width: 1150px) {
    & .camera-picture,
    & .lawn {
      height: auto;
      width: 100%;
    }
  }
`;

/** What a new plan begins with, to look at. */
const beginning = {
  plan: startingPlan('Example', '2026-06-13'),
  units: 'metric' as const,
  chosen: 'room' as const,
  onChoose: () => undefined,
  onDraft: () => undefined,
  onChange: () => undefined,
};

/** Planning a set: drawn to scale, computed as it changes. */
export function PlanPage() {
  const shoot = useStore((state) => state.shoot);
  const plans = useStore((state) => state.plans);
  const [search, setSearch] = useSearchParams();
  const row = plans.find((p) => p.id === Number(search.get('plan'))) ?? plans[0];
  if (!shoot) return null;
  const choose = (id: number): void => setSearch({ plan: String(id) }, { replace: true });
  return (
    <Planning>
      <PlanBar shootId={shoot.id} date={shoot.date} rows={plans} row={row} onChoose={choose} />
      {row ? (
        <PlanSheet key={row.id} row={row} />
      ) : (
        <EmptyPlace title="No set is planned yet.">
          A new plan begins with the rules of thumb: two lamps on the screen, the person two metres before it. Then drag
          things to where your room has them; light, focus, power, kit and the minutes of repair are computed as you do.
          <Box inert sx={{ mt: 1.5, '& .set-drawing': { gridTemplate: 'none / 1fr 1fr', height: 260 } }}>
            <SetDrawing {...beginning} />
          </Box>
        </EmptyPlace>
      )}
    </Planning>
  );
}

function PlanSheet({ row }: { row: PlanRow }) {
  const { units } = useUnits();
  const [draft, setDraft] = useState<Plan>();
  const [chosen, setChosen] = useState<ThingId>('screen');
  const [library, setLibrary] = useState<LibraryItem[]>([]);
  const [keeping, setKeeping] = useState(false);
  const worker = usePlanWorker();
  const plan = draft ?? row.plan;
  const { value: computed, behind } = useComputed(worker, plan, (remote, current) => remote.numbers(current));
  const factors = useOwnFactors();
  const numbers = useMemo(
    () =>
      computed && {
        ...computed,
        report: { ...computed.report, forecast: byOwnLog(computed.report.forecast, factors) },
      },
    [computed, factors],
  );
  const onChange = (next: Plan, label: string): void => {
    setDraft(undefined);
    changePlan(row.id, next, label);
  };
  const readLibrary = (): void =>
    void attempt(api.library()).then(
      (items) =>
        items && setLibrary(items.filter(({ item: { kind } }) => ['lamp', 'camera', 'material'].includes(kind))),
    );
  useEffect(readLibrary, []);
  return (
    <SheetGrid>
      <ListMargin aria-label="Things and their numbers">
        <div>
          <NameField
            label="Name of the plan"
            name={row.plan.name}
            size={15}
            onChange={(name) => onChange({ ...row.plan, name }, 'name')}
          />
        </div>
        <ThingForm
          plan={plan}
          units={units}
          chosen={chosen}
          library={library}
          onChoose={setChosen}
          onChange={onChange}
          onLibrary={() => setKeeping(true)}
        />
      </ListMargin>
      <SetDrawing
        plan={plan}
        units={units}
        chosen={chosen}
        onChoose={setChosen}
        onDraft={setDraft}
        onChange={onChange}
      />
      <CameraSide row={row} plan={plan} numbers={numbers} />
      <FindingsSide row={row} plan={plan} numbers={numbers} behind={behind} onChange={onChange} />
      <LibraryDialog
        open={keeping}
        plan={plan}
        chosen={chosen}
        library={library}
        onClose={() => setKeeping(false)}
        onChanged={readLibrary}
      />
    </SheetGrid>
  );
}

/** What the camera sees: a frame, and the light on the screen. */
function CameraSide({ row, plan, numbers }: { row: PlanRow; plan: Plan; numbers: Numbers | undefined }) {
  const [lamp, setLamp] = useState('');
  const [shot, setShot] = useState<PreviewShot>({ kind: 'people', people: ['maren'], seed: 1 });
  const source = useMemo(() => plan.lamps.findIndex((l) => l.id === lamp), [plan.lamps, lamp]);
  return (
    <Seen aria-label="What the camera sees">
      <CameraPicture plan={plan} shot={shot} coverage={numbers?.report.coverage} />
      <ShotForm row={row} shot={shot} onShot={setShot} />
      <Box sx={{ display: 'flex', justifyContent: 'space-between', gap: 1, alignItems: 'baseline', pt: 0.5 }}>
        <strong style={{ whiteSpace: 'nowrap' }}>Lawn map</strong>
        <Choice
          aria="Light of"
          inverse
          value={lamp}
          options={[
            { value: '', title: 'all lamps' },
            { value: 'shadows', title: 'all, with shadows' },
            ...plan.lamps.map((l) => ({ value: l.id, title: l.name })),
          ]}
          onChange={setLamp}
        />
      </Box>
      {numbers && (
        <LawnMapView
          plan={plan}
          report={numbers.report}
          source={source >= 0 && source < numbers.report.map.bySource.length ? source : undefined}
          shadows={lamp === 'shadows'}
        />
      )}
      <p className="quiet figure">
        {numbers?.report.evenness
          ? `${numbers.report.evenness.spread.toFixed(2)} stops, nine tenths ${numbers.report.evenness.spread90.toFixed(2)}`
          : ''}
      </p>
    </Seen>
  );
}

/** What the plan will give and cost, behind tabs. */
function FindingsSide({
  row,
  plan,
  numbers,
  behind,
  onChange,
}: {
  row: PlanRow;
  plan: Plan;
  numbers: Numbers | undefined;
  behind: boolean;
  onChange: (plan: Plan, label: string) => void;
}) {
  const [panel, setPanel] = useState<PanelId>('findings');
  return (
    <ReadingMargin aria-label="Findings of the plan">
      <Headline className="headline" data-ready={numbers !== undefined && !behind}>
        {numbers ? (
          <>
            <span className="figure big">{numbers.report.forecast.minutes.toFixed(0)}</span> min by hand
            <span className="quiet figure">
              {' '}
              {numbers.report.forecast.low.toFixed(0)}–{numbers.report.forecast.high.toFixed(0)}
            </span>
          </>
        ) : (
          'Computing …'
        )}
      </Headline>
      <PanelTabs label="Panels" panels={panels} value={panel} onChange={setPanel} />
      <Panel id={panel}>
        {numbers && panel === 'findings' && <Findings plan={plan} report={numbers.report} />}
        {panel === 'save' && <SavePanel plan={row.plan} onChange={onChange} />}
        {numbers && panel === 'forecast' && <ForecastPanel report={numbers.report} />}
        {numbers && panel === 'day' && <DayPanel planId={row.id} numbers={numbers} />}
        {numbers && panel === 'kit' && <KitPanel report={numbers.report} />}
      </Panel>
    </ReadingMargin>
  );
}
