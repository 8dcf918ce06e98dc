import { Box, Button } from '@mui/material';
import { useEffect, useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { useSearchParams } from 'react-router';
import type { Check, PictureKind, Setup } from '../../../contract/index.ts';
import { demoPeople, type SubjectName } from '../../../core/studio/cast.ts';
import { Choice } from '../../shared/Choice.tsx';
import { Example } from '../../shared/Example.tsx';
import { JobFailed, JobLine } from '../../shared/JobLine.tsx';
import { useKeys } from '../../shared/keys.ts';
import { Actions, Caption, EmptyPlace, ListMargin, Plate, ReadingMargin, Strip } from '../../shared/layout.tsx';
import { Problem } from '../../shared/Problem.tsx';
import { StepWedge } from '../../shared/StepWedge.tsx';
import { ViewStrip } from '../../shared/ViewStrip.tsx';
import { api } from '../../state/api.ts';
import { runJob, useFailedJob, useOpenJob } from '../../state/jobs.ts';
import { attempt, useStore } from '../../state/store.ts';
import { CheckFindings } from './CheckFindings.tsx';
import { CheckBench, CheckStage } from './CheckStage.tsx';
import { PictureSlots } from './PictureSlots.tsx';
import { RoundCaption } from './RoundCaption.tsx';
import { RoundList } from './RoundList.tsx';
import { RoundPicture } from './RoundPicture.tsx';
import { useReceiving } from './useReceiving.ts';
import { defaultView, viewsOf, type View } from './views.ts';

/** Test frames of a setup: photograph, read, change, photograph again, sign off. */
export function CheckPage() {
  const shoot = useStore((state) => state.shoot);
  const setups = useStore((state) => state.setups);
  const checks = useStore((state) => state.checks);
  const [search, setSearch] = useSearchParams();
  const setup = setups.find((s) => s.id === Number(search.get('setup'))) ?? setups[0];
  const rounds = checks.filter((check) => check.setupId === setup?.id);
  const check = rounds.find((c) => c.id === Number(search.get('round'))) ?? rounds.at(-1);
  if (!shoot || !setup) return null;
  const choose = (setupId: number, roundId?: number): void =>
    setSearch({ setup: String(setupId), ...(roundId ? { round: String(roundId) } : {}) }, { replace: true });
  return <Round key={setup.id} setup={setup} setups={setups} rounds={rounds} check={check} onChoose={choose} />;
}

function Round({
  setup,
  setups,
  rounds,
  check,
  onChoose,
}: {
  setup: Setup;
  setups: Setup[];
  rounds: Check[];
  check: Check | undefined;
  onChoose: (setupId: number, roundId?: number) => void;
}) {
  const plans = useStore((state) => state.plans);
  const plan = plans.find((row) => row.setupId === setup.id) ?? plans[0];
  const [view, setView] = useState<View>();
  const [cause, setCause] = useState<string>();
  const [who, setWho] = useState<SubjectName>('maren');
  const [marking, setMarking] = useState(false);
  const about = { checkId: check?.id };
  const taking = useOpenJob(['testShot'], about);
  const reading = useOpenJob(['reading'], about);
  const failed = useFailedJob(['testShot', 'reading'], about);
  const previous = (check && rounds[rounds.indexOf(check) - 1]?.findings) ?? undefined;
  const findings = check?.findings ?? undefined;
  const shown = view ?? defaultView(check, findings, cause);
  const views = viewsOf(check, previous);
  useReadingMadeUp(check, reading !== undefined || taking !== undefined);
  useKeys('check', { view: (key) => views[Number(key) - 1] && setView(views[Number(key) - 1].view) });

  const chooseRound = (id: number): void => {
    setView(undefined);
    setCause(undefined);
    onChoose(setup.id, id);
  };
  const begin = async (): Promise<Check | undefined> => {
    const made = await attempt(api.createCheck(setup.id));
    if (made) chooseRound(made.id);
    return made;
  };
  const { upload, refused, receive } = useReceiving(async () => check ?? (await begin()), setView);
  const take = async (kind: PictureKind): Promise<void> => {
    if (!check || !plan || kind === 'background') return;
    const people = kind === 'people' ? [who] : [];
    const seed = check.id * 10 + check.pictures.length;
    const job = await runJob(api.takeTestFrame(check.id, { planId: plan.id, kind, people, seed }));
    if (job?.state === 'done') setView(kind);
  };
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    onDrop: (files) => void receive(files),
    noClick: true,
    noKeyboard: true,
  });
  const markable = ['ball', 'background', 'grey card', 'colour chart'].includes(shown ?? '') && check;

  return (
    <CheckBench className={isDragActive ? 'over' : undefined} {...getRootProps()}>
      <ListMargin aria-label="Setup and rounds">
        <Box sx={{ pb: 0.75 }}>
          <Choice
            label="Setup"
            value={String(setup.id)}
            options={setups.map((s) => ({ value: String(s.id), title: s.name }))}
            onChange={(id) => onChoose(Number(id))}
          />
        </Box>
        <RoundList rounds={rounds} current={check?.id} onChoose={chooseRound} onBegin={() => void begin()} />
        {check && plan && (
          <Box sx={{ pb: 0.75 }}>
            <span className="quiet">Stand-in camera, by “{plan.plan.name}”</span>
            <Choice
              aria="Who stands there"
              value={who}
              options={Object.entries(demoPeople).map(([value, subject]) => ({ value, title: subject.name }))}
              onChange={(name) => setWho(name as SubjectName)}
            />
          </Box>
        )}
        {check && (
          <PictureSlots
            check={check}
            shown={shown as PictureKind}
            busy={upload !== undefined}
            canTake={plan !== undefined}
            onShow={setView}
            onFile={(file, kind) => void receive([file], kind)}
            onTake={(kind) => void take(kind)}
            onRemove={(kind) => void attempt(api.removeTestPicture(check.id, kind))}
          />
        )}
      </ListMargin>
      <Plate aria-label="Photograph and findings on it">
        <Strip>
          <ViewStrip
            label="View"
            views={views.map(({ view: value, title }, n) => ({ value, title, keyName: String(n + 1) }))}
            value={shown}
            onChange={setView}
          />
          {markable && (
            <Button variant="text" sx={{ ml: 'auto' }} onClick={() => setMarking(!marking)}>
              {marking ? 'Leave it' : shown === 'ball' || shown === 'background' ? 'Circle the ball' : 'Mark it'}
            </Button>
          )}
        </Strip>
        <CheckStage>
          <input {...getInputProps({ 'aria-label': 'Test frames' } as object)} />
          <div className="over">
            {refused.map((problem) => (
              <Problem key={problem.name} lead={`${problem.name}: ${problem.reason}.`}>
                {problem.remedy}
              </Problem>
            ))}
            <JobFailed job={failed} />
          </div>
          {(upload ?? taking ?? reading) && (
            <div className="under-way">
              {upload && (
                <div role="status">
                  {upload.name} is on its way … <StepWedge share={upload.share} label="Upload" />
                </div>
              )}
              {taking && <JobLine job={taking} label="Taking" words="The stand-in camera takes it" />}
              {reading && <JobLine job={reading} label="Reading" words="Reading the photographs" />}
            </div>
          )}
          {check?.pictures.length ? (
            <RoundPicture
              check={check}
              shown={shown}
              findings={findings}
              previous={previous}
              cause={cause}
              marking={marking}
              onMarked={() => setMarking(false)}
            />
          ) : (
            <Box sx={{ bgcolor: 'background.paper', maxWidth: 560 }}>
              <EmptyPlace title={check ? 'This round has no photographs yet.' : 'This setup has not been tested yet.'}>
                Drop an empty frame of the lit screen and a test frame here; ball, grey card and colour chart as well,
                if you have them. What a picture shows is recognised. What is wrong with the set is then named, with
                what to move and by how much, before the guests come.
                <Example show={['photograph']} words="a test frame, somebody where the guests will stand" />
                <Actions sx={{ pt: 1 }}>
                  <Button variant="contained" color="primary" onClick={open}>
                    Choose photographs
                  </Button>
                  {!check && <Button onClick={() => void begin()}>Begin a round</Button>}
                </Actions>
              </EmptyPlace>
            </Box>
          )}
        </CheckStage>
        <Caption>{check && <RoundCaption shown={shown} findings={findings} />}</Caption>
      </Plate>
      <ReadingMargin aria-label="Findings">
        {check ? (
          <CheckFindings check={check} previous={previous} chosen={cause} onChoose={setCause} />
        ) : (
          <p className="quiet">
            Readings appear here: evenness, creases, shadow, spill, noise, focus and more, each with its bound.
          </p>
        )}
      </ReadingMargin>
    </CheckBench>
  );
}

/** After which a round that has photographs, no findings and no job is read once more, ms: rounds of an earlier version. */
const MADE_UP_AFTER = 1500;

function useReadingMadeUp(check: Check | undefined, underWay: boolean): void {
  const missing = check !== undefined && check.findings === null && check.pictures.length > 0 && !underWay;
  useEffect(() => {
    if (!missing) return;
    const timer = setTimeout(() => void attempt(api.readCheck(check.id)), MADE_UP_AFTER);
    return () => clearTimeout(timer);
  }, [missing, check?.id]);
}
