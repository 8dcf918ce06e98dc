import { plateOf } from '../../../shared/plates.ts';
import { useEffect, useMemo, useRef, useState } from 'react';
import type { Background, Frame, Setup } from '../../../../contract/index.ts';
import type { Guidance } from '../../../../core/cut/guidance.ts';
import { minutesLeft, stateNow, type Experience } from '../../../../core/touch/review.ts';
import { answered, questionsOf, zoneOf, type Answer, type Question } from '../../../../core/touch/walk.ts';
import { api, pictures } from '../../../state/api.ts';
import { untilAnswered } from '../../../state/request.ts';
import { changeFrames } from '../../../state/changes.ts';
import { attempt, useStore } from '../../../state/store.ts';
import type { Look } from '../../../worker/picture.worker.ts';
import { usePictureWorker, type OwnWorker } from '../../../worker/usePictureWorker.ts';
import { settledWith } from '../review.ts';
import { previewOrder } from '../wanted.ts';

/** A question about a place of a frame. */
export interface Stop {
  key: string;
  frame: Frame;
  setup: Setup;
  question: Question;
}

/** Stops whose answers are computed while the hand thinks about the one before. */
const AHEAD = 3;
/** Two places of a setup's frames so near to each other, shares of the frame, may have one cause. */
const ALIKE = 0.08;

/** The doubtful places of frames, and what a hand answers. */
export function useWalk(frames: readonly Frame[], setups: readonly Setup[], experience: Experience) {
  const [skipped, skip] = useState<ReadonlySet<string>>(new Set());
  /** Frames in the order in which the walk began, and the seconds since the last answer. */
  const [order] = useState(() =>
    [...frames].sort((a, b) => minutesLeft(b, experience) - minutesLeft(a, experience)).map(({ id }) => id),
  );
  const since = useRef(performance.now());
  const stops = useMemo(() => stopsOf(order, frames, setups), [order, frames, setups]);
  const [total] = useState(stops.length);
  const open = stops.filter(({ key }) => !skipped.has(key));
  const near = open.slice(0, AHEAD);
  const looks = useLooks(near);
  const [now] = open;

  const answer = async (given: Answer, meant: readonly Stop[]): Promise<void> => {
    const seconds = Math.min(60, (performance.now() - since.current) / 1000) / meant.length;
    since.current = performance.now();
    const paths = new Map<Stop, string>();
    if (isTouch(given)) {
      const kept = await Promise.all(
        meant.map((stop) => attempt(untilAnswered(() => api.keepPath(zoneOf(stop.question.place))))),
      );
      for (const [n, one] of kept.entries()) {
        // Why it cannot be kept is said; the places stay open.
        if (!one) return;
        paths.set(meant[n], one.path);
      }
    }
    await changeFrames(
      [...new Set(meant.map(({ frame }) => frame))],
      (current) => {
        const ledger = current.cut?.quality.ledger ?? [];
        let { guidance } = current;
        let { review } = current;
        for (const stop of meant) {
          if (stop.frame.id !== current.id) continue;
          const path = paths.get(stop) ?? '';
          guidance = answered(guidance, stop.question, given, ledger, path, crypto.randomUUID());
          const settled = settledWith({ ...current, review }, stop.question, given.does === 'nothing');
          review = { ...settled, seconds: settled.seconds + seconds };
        }
        if (review?.state === 'open') review = { ...review, state: 'looked' };
        return { guidance, review };
      },
      meant.length > 1 ? `${given.title.toLowerCase()}, ${meant.length} places` : given.title.toLowerCase(),
    );
  };
  const alike = now ? open.filter((other) => isAlike(now, other)) : [];
  return {
    now,
    looks: now && looks.get(now.key),
    /** Stops after this one whose pictures are there. */
    ahead: near.slice(1).filter(({ key }) => looks.has(key)).length,
    alike,
    left: open.length,
    total,
    minutes: frames.reduce((sum, frame) => sum + minutesLeft(frame, experience), 0),
    /** @param meant other places than the one that is asked about. */
    answer: (given: Answer, meant?: readonly Stop[]) => now && void answer(given, meant ?? [now]),
    skip: () => now && skip((before) => new Set([...before, now.key])),
  };
}

function stopsOf(order: readonly number[], frames: readonly Frame[], setups: readonly Setup[]): Stop[] {
  const byId = new Map(frames.map((frame) => [frame.id, frame]));
  return order.flatMap((id) => {
    const frame = byId.get(id);
    const setup = setups.find((one) => one.id === frame?.setupId);
    if (!frame?.cut || !setup || stateNow({ ...frame, review: here(frame) }) === 'accepted') return [];
    return questionsOf(frame.cut.quality, frame.review).map((question) => {
      const { x, y } = question.place;
      return { key: `${id} ${question.kind} ${x} ${y}`, frame, setup, question };
    });
  });
}

/** What was said of a frame, as of its cut now. */
function here({ review, cut }: Frame): Frame['review'] {
  return review && cut && { ...review, of: cut.fingerprint };
}

export function isTouch({ does }: Answer): boolean {
  return does !== 'nothing' && 'touch' in does;
}

/** The same doubt on the same frame, or at the same place of another frame of the setup. */
function isAlike(a: Stop, b: Stop): boolean {
  if (a.question.kind !== b.question.kind || a.setup.id !== b.setup.id) return false;
  const middle = ({ question: { place } }: Stop) => ({ x: place.x + place.width / 2, y: place.y + place.height / 2 });
  const [one, other] = [middle(a), middle(b)];
  return a.frame.id === b.frame.id || Math.hypot(one.x - other.x, one.y - other.y) < ALIKE;
}

/**
 * How each answer at some stops would look, computed one stop after the other. Only those of these stops are kept: the
 * pictures of a whole walk would fill the memory. Empty where they cannot be computed.
 */
function useLooks(stops: readonly Stop[]): ReadonlyMap<string, Look[]> {
  const { remote: worker } = usePictureWorker();
  const backgrounds = useStore((state) => state.backgrounds);
  // All of them: a plate is one that nobody walks to.
  const frames = useStore((state) => state.frames);
  const [looks, setLooks] = useState<ReadonlyMap<string, Look[]>>(new Map());
  // What was asked of a worker that died is never answered: each has a queue of its own.
  const own = useMemo(() => ({ worker, asked: new Set<string>(), busy: Promise.resolve() }), [worker]);
  const wanted = useRef(new Set<string>());
  wanted.current = new Set(stops.map(({ key }) => key));
  useEffect(() => {
    if (!own.worker) return;
    const keep = (key: string, made: Look[]): void =>
      setLooks((before) => {
        const all = [...before, [key, made] as const];
        for (const [one, shown] of all) {
          if (wanted.current.has(one)) continue;
          own.asked.delete(one);
          for (const bitmap of shown.flatMap(({ first, second }) => [first, second])) bitmap.close();
        }
        return new Map(all.filter(([one]) => wanted.current.has(one)));
      });
    for (const stop of stops) {
      if (own.asked.has(stop.key)) continue;
      own.asked.add(stop.key);
      own.busy = own.busy.then(async () => {
        if (!wanted.current.has(stop.key)) return void own.asked.delete(stop.key);
        keep(
          stop.key,
          await looksAt(own.worker as NonNullable<typeof worker>, stop, frames, backgrounds).catch(() => []),
        );
      });
    }
  }, [own, stops, frames, backgrounds]);
  return looks;
}

async function looksAt(
  worker: NonNullable<OwnWorker['remote']>,
  stop: Stop,
  frames: readonly Frame[],
  backgrounds: readonly Background[],
): Promise<Look[]> {
  const { frame, setup, question } = stop;
  const setupFrames = frames.filter(({ setupId }) => setupId === setup.id);
  const { recipe, guidance } = previewOrder(frame, setup, setupFrames);
  const background = backgrounds.find(({ id }) => id === frame.placement?.backgroundId);
  const plateFrame = plateOf(frame, setupFrames);
  const path = `zone of ${stop.key}`;
  return worker.looks(
    {
      frame: pictures.working(frame),
      persons: pictures.persons(frame),
      fileWidth: frame.width,
      plate: plateFrame && pictures.working(plateFrame),
      own: guidance.matte ? { address: pictures.matte(guidance.matte.file), use: guidance.matte.use } : undefined,
      background: background && pictures.background(background, 'view'),
    },
    recipe,
    guidancesOf(stop, guidance, path),
    [[path, zoneOf(question.place)]],
    question.place,
    frame.placement ?? undefined,
  );
}

function guidancesOf({ frame, question }: Stop, guidance: Guidance, path: string): Guidance[] {
  const ledger = frame.cut?.quality.ledger ?? [];
  return question.answers.map((answer) => answered(guidance, question, answer, ledger, path, path));
}
