import type { Frame, Setup } from '../../../contract/index.ts';
import { doubtFacts } from '../../../core/cut/doubts.ts';
import { minutes } from '../../shared/format.ts';
import { isPlate } from '../../state/store.ts';

/** Failed ones first, then the costliest by hand, then what is not cut, in the order they were taken, and plates last. */
export function orderFrames(frames: Frame[], setups: Setup[]): Frame[] {
  const plates = new Set(setups.map(({ plateFrameId }) => plateFrameId));
  const rank = (frame: Frame): number =>
    plates.has(frame.id) ? -2 : frame.job?.state === 'failed' ? 1e6 : frame.cut ? frame.cut.quality.minutes : -1;
  return [...frames].sort((a, b) => rank(b) - rank(a));
}

/** How a frame stands, for its row. */
export function noteOf(frame: Frame, setups: Setup[]): string {
  if (isPlate(frame, setups)) return 'the setup’s plate';
  if (frame.job?.state === 'running') return 'being extracted …';
  if (frame.job?.state === 'queued') return 'waits its turn';
  if (frame.job?.state === 'failed') return `failed: ${frame.job.problem?.reason ?? 'unknown'}`;
  if (!frame.cut) return 'not extracted yet';
  const [worst] = frame.cut.quality.doubts;
  return worst ? doubtFacts[worst.kind].title : 'nothing doubtful';
}

/** The same for the caption of its picture. @param asShown whether the cut is what the picture shows. */
export function stateOf(frame: Frame, asShown: boolean): string {
  if (frame.job?.state === 'failed')
    return `${frame.job.problem?.reason ?? 'failed'}. ${frame.job.problem?.remedy ?? ''}`;
  if (!frame.cut) return 'preview; not extracted yet';
  return asShown ? `extracted, ${minutes(frame.cut.quality.minutes)}` : 'preview; extract again to keep these settings';
}
