import type { Doubt, Quality } from '../cut/quality.ts';
import type { Place } from '../cut/places.ts';

/** How far a hand has come with a frame. */
export const reviewStates = ['open', 'looked', 'accepted', 'again'] as const;
export type ReviewState = (typeof reviewStates)[number];

/** A place of doubt that a hand has settled: it is good so, or was put right. */
export interface Settled {
  kind: Doubt['kind'];
  /** Middle of the place, shares of the frame. */
  x: number;
  y: number;
  good: boolean;
}

/** What a hand said of a frame as a whole. */
export interface Review {
  state: ReviewState;
  /** Fingerprint of the cut that it was said of. */
  of: string;
  /** Seconds that were spent on the frame. */
  seconds: number;
  settled: Settled[];
}
export const noReview: Review = { state: 'open', of: '', seconds: 0, settled: [] };

export interface Reviewed {
  cut: { fingerprint: string; quality: Quality } | null;
  review: Review | null;
}

/** How a frame stands now: what was accepted or looked at is open again when its cut has become another. */
export function stateNow({ cut, review }: Reviewed): ReviewState {
  if (!review || !cut) return 'open';
  return review.state !== 'again' && review.of !== cut.fingerprint ? 'open' : review.state;
}

/** Two places nearer to each other than this, share of the frame, are one. */
const NEAR = 0.02;

/** The word of a hand on a place of a doubt. */
export function settledAt(review: Review | null, kind: Doubt['kind'], place: Place): Settled | undefined {
  const [x, y] = [place.x + place.width / 2, place.y + place.height / 2];
  return review?.settled.find((one) => one.kind === kind && Math.hypot(one.x - x, one.y - y) < NEAR);
}

/** How the minutes of a doubt are spread over its places: the worst first, each half again as costly as the next. */
const FALL = 1.5;
export function minutesOf({ minutes, places }: Doubt): number[] {
  const weights = places.map((_, n) => FALL ** -n);
  const sum = weights.reduce((total, v) => total + v, 0);
  return weights.map((v) => (minutes * v) / sum);
}

/** What the hand's own work on a shoot says of the forecast. */
export interface Experience {
  /** Seconds really spent to a second foreseen, on frames that were accepted. */
  pace: number;
  /** Share of what was foreseen for a kind of doubt that its places turned out to be worth; 1 where nothing is known. */
  weights: Partial<Record<Doubt['kind'], number>>;
}
export const noExperience: Experience = { pace: 1, weights: {} };

/** So many accepted frames, or settled places of a kind, before they speak. */
const LEAST_FRAMES = 4;
const LEAST_PLACES = 5;
/** The pace is believed within these. */
const PACES = { min: 0.05, max: 4 };

/** @param before what the own log says of the kinds of doubt, until this shoot says more itself. */
export function experienceOf(frames: readonly Reviewed[], before: Experience['weights'] = {}): Experience {
  const counts = new Map<Doubt['kind'], { good: number; all: number }>();
  let [spent, foreseen, accepted] = [0, 0, 0];
  for (const { cut, review } of frames) {
    for (const { kind, good } of review?.settled ?? []) {
      const count = counts.get(kind) ?? { good: 0, all: 0 };
      counts.set(kind, { good: count.good + (good ? 1 : 0), all: count.all + 1 });
    }
    if (!cut || review?.state !== 'accepted') continue;
    accepted++;
    spent += review.seconds;
    foreseen += 60 * cut.quality.minutes;
  }
  const pace = accepted >= LEAST_FRAMES && foreseen > 0 ? spent / foreseen : 1;
  return {
    pace: Math.min(PACES.max, Math.max(PACES.min, pace)),
    weights: {
      ...before,
      ...Object.fromEntries(
        // As if one more had been bad: not even many good ones make a kind worth nothing.
        [...counts]
          .filter(([, { all }]) => all >= LEAST_PLACES)
          .map(([kind, { good, all }]) => [kind, (all - good + 1) / (all + 1)]),
      ),
    },
  };
}

/**
 * Minutes by hand that are left on a frame: none once it is accepted, else those of what is not settled, as experience
 * sees them.
 */
export function minutesLeft(frame: Reviewed, { pace, weights }: Experience = noExperience): number {
  if (!frame.cut || stateNow(frame) === 'accepted') return 0;
  let left = 0;
  for (const doubt of frame.cut.quality.doubts) {
    const weight = weights[doubt.kind] ?? 1;
    const costs = minutesOf(doubt);
    if (!costs.length) left += weight * doubt.minutes;
    else doubt.places.forEach((place, n) => settledAt(frame.review, doubt.kind, place) || (left += weight * costs[n]));
  }
  return pace * left;
}

/** Seconds that a look at a frame takes which shows nothing doubtful. */
const LOOK = 2;

/** Minutes until every frame has been looked at and put right. */
export function minutesToAll(frames: readonly Reviewed[], experience: Experience): number {
  return frames.reduce(
    (sum, frame) =>
      sum + (frame.cut && stateNow(frame) !== 'accepted' ? LOOK / 60 + minutesLeft(frame, experience) : 0),
    0,
  );
}

/** How much a frame asks for: nothing, a look at a place or two, or the hand. */
export type Triage = 'clean' | 'look' | 'hand';
/** A frame is clean below so many minutes, and a look is enough at so many places and minutes. */
export const triageBounds = { clean: 0.1, places: 2, minutes: 1 };

export function triageOf(frame: Reviewed, { weights }: Experience = noExperience): Triage {
  const left = minutesLeft(frame, { pace: 1, weights });
  if (left < triageBounds.clean) return 'clean';
  const places = (frame.cut?.quality.doubts ?? []).flatMap(({ kind, places }) =>
    places.filter((place) => !settledAt(frame.review, kind, place)),
  );
  return places.length <= triageBounds.places && left <= triageBounds.minutes ? 'look' : 'hand';
}
