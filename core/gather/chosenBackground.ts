/** Frames that stand elsewhere than the people on them chose, by what the roster says. */

interface Named {
  id: number;
  name: string;
}
export interface ChosenBackgrounds<F, B> {
  /** For each background the frames that belong on it and are not there yet. */
  moves: { background: B; frames: F[] }[];
  /** What was chosen and is called like no background, or like several; with who chose it. */
  unknown: { chosen: string; people: string[] }[];
}

/**
 * @param subjects the roster: who chose which background, by its name or a part of it that only one has.
 * @param frames only frames of one person are moved; of several people nobody knows whose choice counts.
 */
export function chosenBackgrounds<
  F extends { subject: string; placement: { backgroundId: number } | null },
  B extends Named,
>(
  subjects: readonly { name: string; background: string }[],
  frames: readonly F[],
  backgrounds: readonly B[],
): ChosenBackgrounds<F, B> {
  const moves = new Map<B, F[]>();
  const unknown = new Map<string, string[]>();
  for (const { name, background: chosen } of subjects) {
    const own = frames.filter(({ subject }) => subject === name);
    if (!chosen.trim() || !own.length) continue;
    const background = calledSo(chosen, backgrounds);
    if (!background) {
      unknown.set(chosen, [...(unknown.get(chosen) ?? []), name]);
      continue;
    }
    const elsewhere = own.filter(({ placement }) => placement?.backgroundId !== background.id);
    if (elsewhere.length) moves.set(background, [...(moves.get(background) ?? []), ...elsewhere]);
  }
  return {
    moves: [...moves].map(([background, list]) => ({ background, frames: list })),
    unknown: [...unknown].map(([chosen, people]) => ({ chosen, people })),
  };
}

function calledSo<B extends Named>(chosen: string, backgrounds: readonly B[]): B | undefined {
  const plain = (text: string): string => text.trim().toLowerCase();
  const exact = backgrounds.filter(({ name }) => plain(name) === plain(chosen));
  if (exact.length) return exact.length === 1 ? exact[0] : undefined;
  const like = backgrounds.filter(({ name }) => plain(name).includes(plain(chosen)));
  return like.length === 1 ? like[0] : undefined;
}
