import type { Background, Frame, Setup, Subject } from '../../../contract/index.ts';
import { peopleIn, type Candidate, type People, type StandsIn } from '../../../core/handOver/index.ts';
import { plainLook, type Size } from '../../../core/place/index.ts';

/** The extracted frames that might be handed over, as the server sees them: in the order they were taken. */
export function candidatesOf(
  frames: readonly Frame[],
  setups: readonly Setup[],
  subjects: readonly Subject[],
  backgrounds: readonly Background[],
): Candidate[] {
  const onRoster = new Map(subjects.map((subject) => [subject.name, subject]));
  const byId = new Map(frames.map((frame) => [frame.id, frame]));
  const setupOf = new Map(setups.map((setup) => [setup.id, setup]));
  const person = (name: string) => ({ name, consent: onRoster.get(name)?.consent ?? 'unasked' });
  return frames.flatMap((frame): Candidate[] => {
    const { id, name, setupId, plate, pick, subject, placement, cut } = frame;
    const setup = setupOf.get(setupId);
    if (!cut || !setup || plate) return [];
    const background = backgrounds.find((one) => one.id === placement?.backgroundId);
    const beside = (placement?.others ?? []).flatMap(({ frameId }) => byId.get(frameId)?.subject ?? []);
    return [
      {
        id,
        frame: name,
        setup: { id: setupId, name: setup.name },
        pick,
        subject,
        number: onRoster.get(subject)?.number ?? '',
        group: onRoster.get(subject)?.group ?? '',
        background: placement ? { id: placement.backgroundId, name: background?.name ?? '' } : null,
        people: [subject, ...beside].map(person),
      },
    ];
  });
}

/** Where the people of a frame’s finished picture are. @param mirrored whether the style or the frame mirrors them. */
export function peopleOf(
  frame: Frame,
  frames: ReadonlyMap<number, Frame>,
  background: Size,
  mirrored: boolean,
): People | null {
  const { placement } = frame;
  if (!placement) return null;
  const standing = (of: Frame | undefined, at: StandsIn['placement'], turned: boolean): StandsIn[] =>
    of?.cut ? [{ ...of.cut, cut: of, extent: of.cut.quality.extent, placement: at, mirrored: turned }] : [];
  const own = { ...plainLook, mirrorPerson: mirrored, ...placement.look };
  return peopleIn(
    [
      ...standing(frame, placement, own.mirrorPerson),
      ...(placement.others ?? []).flatMap((other) => standing(frames.get(other.frameId), other, other.mirrored)),
    ],
    background,
  );
}
