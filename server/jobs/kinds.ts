import type { JobKind } from '../../contract/index.ts';
import { readingJob } from '../stations/check/readingJob.ts';
import { testShotJob } from '../stations/check/testShotJob.ts';
import { cutJob } from '../stations/extract/cutJob.ts';
import { trialJob } from '../stations/extract/trialJob.ts';
import { developJob } from '../stations/gather/developJob.ts';
import { factsJob } from '../stations/gather/factsJob.ts';
import { archiveJob } from '../stations/log/archiveJob.ts';
import { plateJob } from '../stations/gather/plateJob.ts';
import { copyOutJob } from '../stations/handOver/copyOutJob.ts';
import { deliverJob } from '../stations/handOver/deliverJob.ts';
import { printJob } from '../stations/handOver/printJob.ts';
import { shotJob } from '../stations/plan/shotJob.ts';
import { rehearsalJob } from '../stations/rehearsal/rehearsalJob.ts';
import { importJob } from '../stations/shoots/importJob.ts';
import { samplePictureJob } from '../stations/shoots/samplePictureJob.ts';
import type { Definition } from './definition.ts';

/** Every kind of job, each defined by its station. */
export const definitions: Record<JobKind, Definition<unknown>> = {
  cut: cutJob,
  deliver: deliverJob,
  copyOut: copyOutJob,
  archive: archiveJob,
  import: importJob,
  printOrder: printJob,
  plate: plateJob,
  reading: readingJob,
  shot: shotJob,
  testShot: testShotJob,
  rehearsal: rehearsalJob,
  samplePicture: samplePictureJob,
  trial: trialJob,
  facts: factsJob,
  develop: developJob,
};
