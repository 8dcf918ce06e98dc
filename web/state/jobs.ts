import type { Job, JobKind } from '../../contract/index.ts';
import { attempt, openShoot, takeItems, takeLooseJob, useStore } from './store.ts';

/** Jobs that stand alone: started, watched, waited for. */

const isOpen = ({ state }: Job): boolean => state === 'queued' || state === 'running';

/** Starts a job; pages see it from now on. @returns undefined if it was refused, which is shown. */
export async function startJob(start: Promise<Job>): Promise<Job | undefined> {
  const shootId = openShoot();
  const job = await attempt(start);
  if (job?.shootId === null) takeLooseJob(job);
  else if (job) takeItems(shootId, { jobs: [job] });
  return job;
}

/**
 * Starts a job and waits for its end.
 * @returns how it ended; undefined if it was refused, or another shoot was opened meanwhile.
 */
export async function runJob(start: Promise<Job>): Promise<Job | undefined> {
  const job = await startJob(start);
  if (!job) return undefined;
  const shootId = openShoot();
  return new Promise((resolve) => {
    const look = (): void => {
      const now = jobOf(job);
      const left = job.shootId !== null && openShoot() !== shootId;
      if (!left && now && isOpen(now)) return;
      stop();
      resolve(left ? undefined : now);
    };
    const stop = useStore.subscribe(look);
    look();
  });
}

function jobOf({ id, shootId }: Job): Job | undefined {
  const { jobs, looseJobs } = useStore.getState();
  return shootId === null ? looseJobs[id] : jobs.find((job) => job.id === id);
}

type About = Partial<Job['about']>;

function isAbout(job: Job, kinds: readonly JobKind[], about: About): boolean {
  return (
    kinds.includes(job.kind) && (Object.keys(about) as (keyof About)[]).every((name) => job.about[name] === about[name])
  );
}

/** The open job of one of these kinds about something, if there is one. */
export function useOpenJob(kinds: readonly JobKind[], about: About): Job | undefined {
  return useStore((state) => state.jobs.find((job) => isOpen(job) && isAbout(job, kinds, about)));
}

/** The latest job of one of these kinds about something, if it failed. */
export function useFailedJob(kinds: readonly JobKind[], about: About): Job | undefined {
  return useStore((state) => {
    const last = state.jobs.findLast((job) => isAbout(job, kinds, about));
    return last?.state === 'failed' ? last : undefined;
  });
}

/** The latest job of one of these kinds about something, if it was done while this page was open. */
export function useEndedJob(kinds: readonly JobKind[], about: About): Job | undefined {
  return useStore((state) => {
    const last = state.jobs.findLast((job) => isAbout(job, kinds, about));
    return last?.state === 'done' ? last : undefined;
  });
}
