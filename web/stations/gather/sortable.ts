import { secondsOf } from '../../../contract/clock.ts';
import type { Frame, Setup } from '../../../contract/index.ts';
import { signsOf } from '../../../contract/sign.ts';
import { assignFrames, type Assigned, type Slot, type Sortable } from '../../../core/gather/assign.ts';
import { gainsOf, times } from '../../../core/colour/lightGains.ts';
import { personLight, personLightFor, type Departure } from '../../../core/cut/index.ts';
import { broughtBack, type BroughtBack } from '../../../core/gather/broughtBack.ts';
import { driftsOf, type Drift } from '../../../core/gather/drift.ts';
import { grouped } from '../../../core/gather/grouped.ts';
import { comparable, proposeSetups, type ProposedSetup, type Reference } from '../../../core/gather/setups.ts';
import { medianOf } from '../../../core/screen/statistics.ts';
import type { DayLine } from './DayChart.tsx';

/** Frames of a shoot as the sorting in core sees them. */

export function sortableOf({ id, camera, takenAt, facts }: Frame): Sortable {
  return {
    id,
    camera: camera.body,
    at: secondsOf(takenAt),
    slate: facts?.slate ?? null,
    // Until it has been read, somebody is taken to be on it.
    person: facts === null || facts.kind === 'people' || facts.kind === 'slate' || facts.kind === 'unknown',
    looks: facts?.person?.looks ?? null,
  };
}

/** Who is proposed for the frames that nobody has said yet, in runs of one person; and slates of nobody. */
export function assignmentFor(
  frames: readonly Frame[],
  roster: readonly { name: string; number: string }[],
  slots: readonly Slot[],
): { runs: { subject: string; parts: Assigned[]; sure: number }[]; unknown: { frameId: number; number: string }[] } {
  const { assigned, unknown } = assignFrames(frames.map(sortableOf), roster, slots);
  const said = new Map(frames.map((frame) => [frame.id, frame.subject]));
  const runs: { subject: string; parts: Assigned[]; sure: number }[] = [];
  for (const part of assigned) {
    if (said.get(part.frameId)) continue;
    const run = runs.find(({ subject }) => subject === part.subject);
    if (run) {
      run.parts.push(part);
      run.sure = Math.min(run.sure, part.sure);
    } else runs.push({ subject: part.subject, parts: [part], sure: part.sure });
  }
  return { runs, unknown };
}

export interface WantedSetup extends ProposedSetup {
  /** The setup that most of its frames are in already, if no other proposal has it. */
  setup: Setup | undefined;
  /** Frames that would come into it from another one. */
  moving: number[];
}

/** Setups as they are proposed, each led back to one that is there where that is possible. */
export function wantedSetups(frames: readonly Frame[], setups: readonly Setup[]): WantedSetup[] {
  const setupOf = new Map(frames.map((frame) => [frame.id, frame.setupId]));
  const proposals = proposeSetups(frames.map(signsOf));
  const pairs = proposals
    .flatMap((proposal, n) =>
      setups.map((setup) => ({
        n,
        setup,
        shared: proposal.frames.filter((id) => setupOf.get(id) === setup.id).length,
      })),
    )
    .toSorted((a, b) => b.shared - a.shared);
  const given = new Map<number, Setup>();
  for (const { n, setup, shared } of pairs)
    if (shared > 0 && !given.has(n) && ![...given.values()].includes(setup)) given.set(n, setup);
  return proposals.map((proposal, n) => {
    const setup = given.get(n);
    return { ...proposal, setup, moving: proposal.frames.filter((id) => setupOf.get(id) !== setup?.id) };
  });
}

/** Where frames of each setup begin to differ from those before. */
export function driftsIn(frames: readonly Frame[], setups: readonly Setup[]): { setup: Setup; drift: Drift }[] {
  return setups.flatMap((setup) => {
    const own = frames.filter(({ setupId, facts }) => setupId === setup.id && facts?.screen);
    const held = grouped(own, ({ camera, width, height }) => `${camera.body} ${height >= width}`);
    return [...held.values()].flatMap((frames) => driftsOf(frames.map(signsOf)).map((drift) => ({ setup, drift })));
  });
}

/**
 * Frames that stand off the signed-off test frame of their setup, or its first ones, by light that their camera set, for
 * each setup that has some.
 */
export function offLight(
  frames: readonly Frame[],
  setups: readonly Setup[],
  references: ReadonlyMap<number, Reference> = new Map(),
): { setup: Setup; off: { frame: Frame; back: BroughtBack }[]; signed: boolean }[] {
  return setups.flatMap((setup) => {
    const own = frames.filter(({ setupId, facts }) => setupId === setup.id && facts?.kind === 'people');
    const held = grouped(own, ({ camera, width, height }) => `${camera.body} ${height >= width}`);
    const off = [...held.values()].flatMap((group) =>
      broughtBack(group.map(signsOf), references.get(setup.id)).flatMap((back) => {
        const frame = group.find(({ id }) => id === back.frameId);
        return frame ? [{ frame, back }] : [];
      }),
    );
    const reference = references.get(setup.id);
    const signed = reference !== undefined && own.some((frame) => comparable(signsOf(frame), reference));
    return off.length ? [{ setup, off, signed }] : [];
  });
}

/** A frame’s departures that bring its light back, on top of what its setup asks for; none if there is nothing to do. */
export function backDepartures({ recipe }: Setup, { gains }: Pick<BroughtBack, 'gains'>): Departure[] {
  const own = gainsOf({ exposure: recipe.personExposure, warmth: recipe.personWarmth, tint: recipe.personTint });
  const set = personLightFor(times(own, gains));
  return personLight.flatMap((id): Departure[] => (set[id] === recipe[id] ? [] : [{ id, to: set[id] }]));
}

/** Frames at the beginning of a setup that its light is compared with. */
const FIRST = 3;

/** The light on the screen through the day, a line for each setup with at least a few timed frames. */
export function dayLines(
  frames: readonly Frame[],
  setups: readonly Setup[],
  drifts: readonly { drift: Drift }[],
): DayLine[] {
  const marked = new Set(drifts.map(({ drift }) => drift.frameId));
  return setups.flatMap((setup): DayLine[] => {
    const own = frames.flatMap((frame) => {
      const { exposure, screen } = signsOf(frame);
      if (frame.setupId !== setup.id || !screen || frame.takenAt === null) return [];
      return [{ id: frame.id, at: frame.takenAt, level: screen.level - (exposure ?? 0) }];
    });
    if (own.length < FIRST) return [];
    const first = medianOf(own.slice(0, FIRST).map(({ level }) => level));
    return [
      {
        name: setup.name,
        times: own.map(({ at }) => at),
        levels: own.map(({ level }) => level - first),
        marked: own.map(({ id }) => marked.has(id)),
      },
    ];
  });
}
