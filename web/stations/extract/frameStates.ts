import type { Frame } from '../../../contract/index.ts';
import { doubtFacts } from '../../../core/cut/doubts.ts';
import { minutesLeft, noExperience, stateNow, type Experience } from '../../../core/touch/review.ts';
import { counted, minutes } from '../../shared/format.ts';
import { stateTitles } from './review.ts';

/**
 * Failed ones first, then the costliest by hand, then what is not cut, in the order they were taken, then what is
 * accepted, and plates last.
 */
export function orderFrames(frames: Frame[], experience: Experience = noExperience): Frame[] {
  const ranks = new Map(frames.map((frame) => [frame.id, rankOf(frame, experience)]));
  return [...frames].sort((a, b) => (ranks.get(b.id) ?? 0) - (ranks.get(a.id) ?? 0));
}

function rankOf(frame: Frame, experience: Experience): number {
  if (frame.plate) return -3;
  if (frame.job?.state === 'failed') return 1e6;
  if (!frame.cut) return -1;
  return stateNow(frame) === 'accepted' ? -2 : minutesLeft(frame, experience);
}

/** How a frame stands, for its row. */
export function noteOf(frame: Frame): string {
  if (frame.plate) return 'a plate of its setup';
  if (frame.job?.state === 'running') return 'being extracted …';
  if (frame.job?.state === 'queued') return 'waits its turn';
  if (frame.job?.state === 'failed') return `failed: ${frame.job.problem?.reason ?? 'unknown'}`;
  if (!frame.cut) return 'not extracted yet';
  const state = stateNow(frame);
  if (state === 'accepted' || state === 'again') return stateTitles[state];
  const { idle, doubts } = frame.cut.quality;
  if (idle?.some((id) => frame.guidance.touches.some((touch) => touch.id === id)))
    return `${counted(idle.length, 'touch', 'touches')} no longer needed`;
  return doubts.length ? doubtFacts[doubts[0].kind].title : 'nothing doubtful';
}

/** The same for the caption of its picture. @param asShown whether the cut is what the picture shows. */
export function stateOf(frame: Frame, asShown: boolean): string {
  if (frame.job?.state === 'failed')
    return `${frame.job.problem?.reason ?? 'failed'}. ${frame.job.problem?.remedy ?? ''}`;
  if (!frame.cut) return 'preview; not extracted yet';
  return asShown ? `extracted, ${minutes(frame.cut.quality.minutes)}` : 'preview; extract again to keep these settings';
}
