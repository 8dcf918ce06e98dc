import type { DoubtKind } from '../cut/doubts.ts';
import { patchOf, verdictOn, type Guidance } from '../cut/guidance.ts';
import type { Place } from '../cut/places.ts';
import type { Quality } from '../cut/quality.ts';
import { minutesOf, settledAt, type Review, type Settled } from './review.ts';
import type { Path, Touch, TouchKind } from './touch.ts';

/** The walk through the doubtful places: at each a question, and a few likely answers. */

/** What an answer does: nothing, a touch on the place's zone, or a verdict on its green. */
export interface Answer {
  title: string;
  does: 'nothing' | { touch: TouchKind; strength?: number } | { verdict: boolean };
}

/** What is asked at the places of a doubt; the first answer leaves the cut as it is. */
interface Asked {
  ask: string;
  answers: readonly Answer[];
}

const good: Answer = { title: 'It is good so', does: 'nothing' };

/** Doubts about a frame as a whole have no place and are not asked. */
export const questions: Partial<Record<DoubtKind, Asked>> = {
  strands: {
    ask: 'Is the hair as it should be?',
    answers: [
      good,
      { title: 'All of it is loose hair', does: { touch: 'hair' } },
      { title: 'Fuller', does: { touch: 'greysUp', strength: 0.8 } },
    ],
  },
  unexplained: {
    ask: 'Is this outline as it should be?',
    answers: [
      good,
      { title: 'It is the person', does: { touch: 'person' } },
      { title: 'It is the screen', does: { touch: 'screen' } },
    ],
  },
  greenClose: {
    ask: 'Is this green solid, see-through, or the screen?',
    answers: [
      { title: 'It is solid', does: { verdict: true } },
      { title: 'It is the screen', does: { verdict: false } },
      { title: 'The screen shines through it', does: { touch: 'sheer' } },
    ],
  },
  outlineGreen: {
    ask: 'Is the screen’s colour gone from this outline?',
    answers: [
      good,
      { title: 'Take all of it', does: { touch: 'spillGone' } },
      { title: 'Colour from inside', does: { touch: 'edgeColour' } },
    ],
  },
  spillLeft: {
    ask: 'Is the screen’s light gone from here?',
    answers: [good, { title: 'Take all of it', does: { touch: 'spillGone' } }],
  },
  spillBent: {
    ask: 'Is this its own colour?',
    answers: [good, { title: 'Keep the colour', does: { touch: 'spillLeft' } }],
  },
  unsure: {
    ask: 'Is this the person or the screen?',
    answers: [
      good,
      { title: 'All of it is the person', does: { touch: 'person' } },
      { title: 'It is the screen', does: { touch: 'screen' } },
    ],
  },
  holes: {
    ask: 'Is this a gap, thin cloth, or solid?',
    answers: [
      good,
      { title: 'It is solid', does: { touch: 'add' } },
      { title: 'The screen is seen through a gap', does: { touch: 'screen' } },
    ],
  },
  residue: {
    ask: 'Does this belong to the picture?',
    answers: [good, { title: 'It goes', does: { touch: 'take' } }],
  },
  atEdge: {
    ask: 'Beyond the screen: is this the person?',
    answers: [
      good,
      { title: 'It goes', does: { touch: 'take' } },
      { title: 'All of it stays', does: { touch: 'add' } },
    ],
  },
  likeScreen: {
    ask: 'Is this the person or the wall behind?',
    answers: [
      good,
      { title: 'It is solid', does: { touch: 'add' } },
      { title: 'It is the screen', does: { touch: 'screen' } },
    ],
  },
  maskedPerson: {
    ask: 'A mask takes this away: is it the person?',
    answers: [
      { title: 'It goes', does: 'nothing' },
      { title: 'It stays', does: { touch: 'add' } },
    ],
  },
};

/** A doubtful place of a frame. */
export interface Question extends Asked {
  kind: DoubtKind;
  place: Place;
  /** Minutes by hand that it was foreseen to cost. */
  minutes: number;
}

/** A place that was foreseen to cost less, minutes, is not asked about. */
const LEAST_MINUTES = 0.05;

/**
 * The places of a cut that nobody has settled, costliest first. What lies in the middle of a costlier place, and is not
 * much larger, is asked with that.
 */
export function questionsOf({ doubts }: Pick<Quality, 'doubts'>, review: Review | null): Question[] {
  const all = doubts
    .flatMap((doubt) => {
      const asked = questions[doubt.kind];
      const costs = minutesOf(doubt);
      return asked ? doubt.places.map((place, n) => ({ ...asked, kind: doubt.kind, place, minutes: costs[n] })) : [];
    })
    .filter(({ minutes }) => minutes >= LEAST_MINUTES)
    .sort((a, b) => b.minutes - a.minutes);
  return all
    .filter(
      ({ place }, n) =>
        !all
          .slice(0, n)
          .some((before) => isMiddleIn(place, before.place) && areaOf(place) < LARGER * areaOf(before.place)),
    )
    .filter(({ kind, place }) => !settledAt(review, kind, place));
}

/** What an answer at a place settles: the place, and those of other doubts that lie in it. */
export function settledBy(
  { doubts }: Pick<Quality, 'doubts'>,
  { kind, place }: Pick<Question, 'kind' | 'place'>,
  isGood: boolean,
): Settled[] {
  const settle = (of: DoubtKind, { x, y, width, height }: Place): Settled => ({
    kind: of,
    x: x + width / 2,
    y: y + height / 2,
    good: isGood,
  });
  const within = doubts.flatMap((doubt) =>
    doubt.places
      .filter((other) => doubt.kind !== kind && isMiddleIn(other, place))
      .map((other) => settle(doubt.kind, other)),
  );
  return [settle(kind, place), ...within];
}

const LARGER = 2;
function areaOf({ width, height }: Place): number {
  return width * height;
}

function isMiddleIn(place: Place, within: Place): boolean {
  const [x, y] = [place.x + place.width / 2, place.y + place.height / 2];
  return x > within.x && x < within.x + within.width && y > within.y && y < within.y + within.height;
}

/** Room that a zone has around its place, and how softly it ends, shares of the frame's height. */
const BORDER = 0.006;

/** The zone of a place, as a path. */
export function zoneOf({ x, y, width, height, outline }: Place): Path {
  const flat = outline?.length ? outline : [x, y, x + width, y, x + width, y + height, x, y + height];
  const [middleX, middleY] = [x + width / 2, y + height / 2];
  const points = Array.from({ length: flat.length / 2 }, (_, n) => ({ x: flat[2 * n], y: flat[2 * n + 1] }));
  return {
    closed: true,
    points: points.map((point) => {
      const [dx, dy] = [point.x - middleX, point.y - middleY];
      const length = Math.hypot(dx, dy) || 1;
      return { x: point.x + (BORDER * dx) / length, y: point.y + (BORDER * dy) / length, pressure: 1 };
    }),
  };
}

/** What a frame's guidance becomes by an answer. @param path name of the zone's path. @param id of the new touch. */
export function answered(
  guidance: Guidance,
  { place }: Pick<Question, 'place'>,
  { does }: Answer,
  ledger: Quality['ledger'],
  path: string,
  id: string,
): Guidance {
  if (does === 'nothing') return guidance;
  if ('verdict' in does) {
    const { verdict } = does;
    const meant = entriesAt(ledger, place);
    const others = guidance.verdicts.filter((given) => !meant.includes(ledger[patchOf(given, ledger)]));
    return { ...guidance, verdicts: [...others, ...meant.map((entry) => verdictOn(entry, verdict))] };
  }
  const touch: Touch = {
    id,
    at: Math.max(0, ...guidance.touches.map(({ at }) => at)) + 1,
    kind: does.touch,
    on: true,
    size: BORDER * 2,
    softness: 1,
    strength: does.strength ?? 1,
    path,
  };
  return { ...guidance, touches: [...guidance.touches, touch] };
}

/** The doubtful patches of the ledger that a place is about: those in it, or the one most like it. */
function entriesAt(ledger: Quality['ledger'], place: Place): Quality['ledger'] {
  const within = ledger.filter((entry) => (entry.doubtful || entry.byHand) && isMiddleIn(entry.place, place));
  if (within.length) return within;
  const apart = (one: Place): number =>
    Math.abs(one.x - place.x) + Math.abs(one.y - place.y) + Math.abs(one.width - place.width);
  return [...ledger].sort((a, b) => apart(a.place) - apart(b.place)).slice(0, 1);
}
