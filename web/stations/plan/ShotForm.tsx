import { Box, Button } from '@mui/material';
import { useState } from 'react';
import type { PlanRow } from '../../../contract/index.ts';
import { demoPeople, type SubjectName } from '../../../core/studio/cast.ts';
import { Choice } from '../../shared/Choice.tsx';
import { JobFailed, JobLine } from '../../shared/JobLine.tsx';
import { api } from '../../state/api.ts';
import { runJob, useFailedJob, useOpenJob } from '../../state/jobs.ts';
import { useStore } from '../../state/store.ts';
import type { PreviewShot } from './CameraPicture.tsx';

const kinds = [
  { value: 'people', title: 'people' },
  { value: 'plate', title: 'plate' },
  { value: 'ball', title: 'matt ball' },
  { value: 'grey card', title: 'grey card' },
  { value: 'colour chart', title: 'colour chart' },
];
/** Most people that can stand there. */
const MOST_PLACES = 3;

/** What the stand-in camera takes, and taking it into a setup. */
export function ShotForm({
  row,
  shot,
  onShot,
}: {
  row: PlanRow;
  shot: PreviewShot;
  onShot: (shot: PreviewShot) => void;
}) {
  const setups = useStore((state) => state.setups);
  const [takenId, setTakenId] = useState<number>();
  // The frame may be told after the job that made it.
  const taken = useStore((state) => state.frames.find(({ id }) => id === takenId));
  const about = { planId: row.id };
  const taking = useOpenJob(['shot'], about);
  const failed = useFailedJob(['shot'], about);
  const setupId = row.setupId ?? setups[0]?.id;
  const places = Math.min(
    MOST_PLACES,
    row.plan.people.reduce((sum, person) => sum + person.count, 0),
  );
  const person = (n: number): SubjectName => shot.people[n] ?? (Object.keys(demoPeople)[n] as SubjectName);
  const all = Array.from({ length: places }, (_, n) => person(n));
  const people = shot.kind === 'people' ? all : [];
  const take = async (): Promise<void> => {
    setTakenId(undefined);
    const job = await runJob(api.takeFrame(row.id, { kind: shot.kind, people, seed: shot.seed, setupId }));
    if (job?.state !== 'done') return;
    setTakenId(job.made?.frameId);
    onShot({ ...shot, seed: shot.seed + 1 });
  };
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: 'minmax(0, 1fr)', gap: 0.5 }}>
      <Choice
        aria="What is taken"
        inverse
        value={shot.kind}
        options={kinds}
        onChange={(kind) => onShot({ ...shot, kind: kind as PreviewShot['kind'] })}
      />
      {people.map((name, n) => (
        <Choice
          key={n}
          aria={`Who stands there${n ? `, ${n + 1}` : ''}`}
          inverse
          value={name}
          options={Object.entries(demoPeople).map(([value, subject]) => ({ value, title: subject.name }))}
          onChange={(chosen) =>
            onShot({ ...shot, people: all.map((one, k) => (k === n ? (chosen as SubjectName) : one)) })
          }
        />
      ))}
      <Button disabled={!!taking || !setupId} onClick={() => void take()}>
        Take this frame
      </Button>
      {taking && (
        <Box sx={{ bgcolor: 'background.paper', color: 'text.primary', px: 1, py: 0.5 }}>
          <JobLine job={taking} label="Taking" words="Taking it at full size" />
        </Box>
      )}
      <JobFailed job={failed} />
      <span role="status">{taken && `${taken.name} is at Gather`}</span>
    </Box>
  );
}
