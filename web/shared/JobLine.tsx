import { Button } from '@mui/material';
import type { Job } from '../../contract/index.ts';
import { api } from '../state/api.ts';
import { startJob } from '../state/jobs.ts';
import { timeLeft } from './format.ts';
import { Actions } from './layout.tsx';
import { Problem, sentence } from './Problem.tsx';
import { StepWedge } from './StepWedge.tsx';

/** A job under way: what it does, how far it is, and how to end it. */
export function JobLine({ job, label, words }: { job: Job; label: string; words: string }) {
  const done = job.progress === null ? '' : `, ${Math.round(100 * job.progress)} %`;
  return (
    <div role="status" style={{ display: 'grid', gap: 4 }}>
      <Actions sx={{ justifyContent: 'space-between', flexWrap: 'nowrap' }}>
        <span>
          {words}
          <span className="figure quiet">
            {job.state === 'queued' ? ', waits its turn' : `${done}, ${timeLeft(job.secondsLeft)}`}
          </span>
        </span>
        <Button variant="text" aria-label={`Cancel: ${words}`} onClick={() => void startJob(api.endJob(job.id))}>
          Cancel
        </Button>
      </Actions>
      <StepWedge share={job.progress ?? 0} label={label} />
    </div>
  );
}

/** A job that failed, with its remedy, until it is put away. */
export function JobFailed({ job }: { job: Job | undefined }) {
  if (!job?.problem) return null;
  return (
    <Problem
      lead={sentence(job.problem.reason)}
      action={
        <Button variant="text" onClick={() => void startJob(api.endJob(job.id))}>
          Put away
        </Button>
      }
    >
      {job.problem.remedy}
    </Problem>
  );
}
