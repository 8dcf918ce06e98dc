import type { Background, Check, Frame } from '../../../contract/index.ts';
import type { BallLight } from '../../../core/place/ballLight.ts';

/** The latest round of a frame's setup in which a ball was read. */
function ballRound(frame: Frame, checks: readonly Check[]): Check | undefined {
  return checks.findLast(({ setupId, findings }) => setupId === frame.setupId && findings?.ball?.light);
}

/** The balls of both places, where both were photographed. */
export function ballsOf(
  frame: Frame,
  background: Background | undefined,
  checks: readonly Check[],
): { person: BallLight; scene: BallLight } | undefined {
  const person = ballRound(frame, checks)?.findings?.ball?.light;
  const scene = background?.scene.ball;
  return person && scene ? { person, scene } : undefined;
}

/** A name for what is known of the light and of the others in the picture, so that an address with it names one picture. */
export function lightName(
  frame: Frame,
  background: Background | undefined,
  checks: readonly Check[],
  frames: readonly Frame[],
): string {
  const { lightFrom = null, ball = null } = background?.scene ?? {};
  const round = ball && ballRound(frame, checks);
  const cuts = (frame.placement?.others ?? []).map(
    ({ frameId }) => frames.find(({ id }) => id === frameId)?.cut?.version ?? '',
  );
  return [lightFrom, ball?.red[0], round && `${round.id} ${round.findings?.ball?.light?.red[0]}`, ...cuts].join(' ');
}
