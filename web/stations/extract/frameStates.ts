import type { Frame, Setup } from '../../../contract/index.ts';
import { doubtFacts } from '../../../core/cut/doubts.ts';
import { minutesLeft, noExperience, stateNow, type Experience } from '../../../core/touch/review.ts';
import { minutes } from '../../shared/format.ts';
import { stateTitles } from './review.ts';
import { isPlate } from '../../state/store.ts';

/**
 * Failed ones first, then the costliest by hand, then what is not cut, in the order they were taken, then what is
 * accepted, and plates last.
 */
export function orderFrames(frames: Frame[], setups: Setup[], experience: Experience = noExperience): Frame[] {
  const plates = new Set(setups.map(({ plateFrameId }) => plateFrameId));
  const ranks = new Map(frames.map((frame) => [frame.id, rankOf(frame, plates.has(frame.id), experience)]));
  return [...frames].sort((a, b) => (ranks.get(b.id) ?? 0) - (ranks.get(a.id) ?? 0));
}

function rankOf(frame: Frame, plate: boolean, experience: Experience): number {
  if (plate) return -3;
  if (frame.job?.state === 'failed') return 1e6;
  if (!frame.cut) return -1;
  return stateNow(frame) === 'accepted' ? -2 : minutesLeft(frame, experience);
}

/** How a frame stands, for its row. */
export function noteOf(frame: Frame, setups: Setup[]): string {
  if (isPlate(frame, setups)) return 'the setup’s plate';
  if (frame.job?.state === 'running') return 'being extracted …';
  if (frame.job?.state === 'queued') return 'waits its turn';
  if (frame.job?.state === 'failed') return `failed: ${frame.job.problem?.reason ?? 'unknown'}`;
  if (!frame.cut) return 'not extracted yet';
  const state = stateNow(frame);
  if (state === 'accepted' || state === 'again') return stateTitles[state];
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
