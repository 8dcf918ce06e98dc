import { Button } from '@mui/material';
import { useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { FileInput } from '../../shared/FileInput.tsx';
import { JobFailed, JobLine } from '../../shared/JobLine.tsx';
import { StepWedge } from '../../shared/StepWedge.tsx';
import { api } from '../../state/api.ts';
import { runJob } from '../../state/jobs.ts';
import { useStore } from '../../state/store.ts';

/** Takes a shoot in that was carried away as one file. */
export function BringIn({ onDone }: { onDone: () => Promise<unknown> }) {
  const [sent, setSent] = useState<number>();
  const jobs = useStore((state) => state.looseJobs);
  const own = Object.values(jobs).filter(({ kind }) => kind === 'import');
  const open = own.find(({ state }) => state === 'queued' || state === 'running');
  const failed = own.findLast(({ state }) => state === 'failed');
  const take = async (file: File | undefined): Promise<void> => {
    if (!file) return;
    setSent(0);
    const ended = await runJob(api.importShoot(file, setSent).finally(() => setSent(undefined)));
    if (ended?.state === 'done') await onDone();
  };
  const { getInputProps, open: choose } = useDropzone({
    multiple: false,
    noDrag: true,
    onDrop: ([file]) => void take(file),
  });
  return (
    <>
      {sent !== undefined && <StepWedge share={sent} label="Sending the file" />}
      {open && <JobLine job={open} label="Taking the shoot in" words="Taking the shoot in" />}
      <JobFailed job={failed} />
      <Button disabled={sent !== undefined || open !== undefined} onClick={choose}>
        Bring in a shoot
      </Button>
      <FileInput label="Shoot that was carried away" props={getInputProps} />
    </>
  );
}
