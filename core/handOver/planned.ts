import { namesFor, stemOf, type Named } from './naming.ts';
import { endingOf, presetKinds, type Preset } from './preset.ts';

/** Whose pictures are handed over; null is no bound. */
export interface Chosen {
  /** All but the dropped, or those alone that are to be kept. */
  picks: 'all' | 'keep';
  subjects: string[] | null;
  setups: number[] | null;
  backgrounds: number[] | null;
}
export const everybody: Chosen = { picks: 'all', subjects: null, setups: null, backgrounds: null };

/** What is made beside the pictures, of all of them together. */
export interface Papers {
  /** A PDF with all pictures, small. */
  contact: boolean;
  /** A PDF with a page for each subject: their pictures and what they ordered. */
  slips: boolean;
  /** Pages to look at and choose from, without a network. */
  proof: boolean;
}
export const noPapers: Papers = { contact: false, slips: false, proof: false };
export const needsSmall = ({ contact, slips, proof }: Papers): boolean => contact || slips || proof;

/** An extracted frame that might be handed over. */
export interface Candidate {
  id: number;
  frame: string;
  setup: { id: number; name: string };
  pick: 'keep' | 'reserve' | 'drop' | null;
  subject: string;
  number: string;
  group: string;
  background: { id: number; name: string } | null;
  /** Everybody in its picture, and what they said. */
  people: { name: string; consent: string }[];
}

export interface KeptBack {
  frame: string;
  subject: string;
  reason: string;
}

/** A file that is to be made: of which frame, by which preset (−1: the small one for papers), under which name. */
export interface PlannedFile {
  frameId: number;
  preset: number;
  name: string;
}
export const SMALL = -1;

export interface Planned {
  files: PlannedFile[];
  /** Frames without a picture that a preset needs, because nobody has chosen a background. */
  notPlaced: string[];
  keptBack: KeptBack[];
}

/**
 * All files of a hand-over, in the order of the frames, with their names. Whoever said no is in none; whoever allowed
 * only prints is in nothing but prints. Dropped frames are left out without a word.
 */
export function plannedFiles(
  shoot: { name: string; date: string },
  settings: { presets: readonly Preset[]; names: string; chosen: Chosen; papers: Papers },
  candidates: readonly Candidate[],
): Planned {
  const { presets, names, chosen, papers } = settings;
  const notPlaced: string[] = [];
  const keptBack: KeptBack[] = [];
  const wanted: { frameId: number; preset: number; named: Named }[] = [];
  let count = 0;
  for (const one of candidates) {
    if (!isChosen(one, chosen)) continue;
    const refused = one.people.find(({ consent }) => consent === 'no');
    if (refused) {
      const reason = refused.name === one.subject ? 'said no' : `${refused.name} stands on it, who said no`;
      keptBack.push({ frame: one.frame, subject: one.subject, reason });
      continue;
    }
    const onlyPrints = one.people.some(({ consent }) => consent === 'prints');
    const allowed = presets.filter(({ kind }) => !onlyPrints || presetKinds[kind].paper);
    if (allowed.length < presets.length || (onlyPrints && needsSmall(papers))) {
      const left = presets.filter((preset) => !allowed.includes(preset)).map(({ name }) => `“${name}”`);
      const also = needsSmall(papers) ? ['contact sheet, slips and proof pages'] : [];
      const reason = `allows only prints: not in ${[...left, ...also].join(', ')}`;
      keptBack.push({ frame: one.frame, subject: one.subject, reason });
    }
    const made = allowed.filter(({ kind }) => one.background || !presetKinds[kind].placed);
    if (made.length < allowed.length) notPlaced.push(one.frame);
    const small = needsSmall(papers) && !onlyPrints;
    if (!made.length && !small) continue;
    count++;
    const facts = {
      shoot: shoot.name,
      date: shoot.date,
      subject: one.subject,
      number: one.number,
      group: one.group,
      setup: one.setup.name,
      frame: stemOf(one.frame),
      background: one.background?.name ?? '',
    };
    for (const preset of made) {
      const named = { facts: { ...facts, preset: preset.name }, count, ending: endingOf(preset) };
      wanted.push({ frameId: one.id, preset: presets.indexOf(preset), named });
    }
    if (small) {
      const named = { facts: { ...facts, preset: '' }, count, ending: 'jpg' };
      wanted.push({ frameId: one.id, preset: SMALL, named });
    }
  }
  const pictures = wanted.filter(({ preset }) => preset !== SMALL);
  const smalls = wanted.filter(({ preset }) => preset === SMALL);
  const nameOf = new Map([
    ...zip(
      pictures,
      namesFor(
        names,
        pictures.map(({ named }) => named),
      ),
    ),
    ...zip(
      smalls,
      namesFor(
        'proof/pictures/{count}',
        smalls.map(({ named }) => named),
      ),
    ),
  ]);
  return {
    files: wanted.map((file) => ({ frameId: file.frameId, preset: file.preset, name: nameOf.get(file) ?? '' })),
    notPlaced,
    keptBack,
  };
}

function zip<K, V>(keys: readonly K[], values: readonly V[]): [K, V][] {
  return keys.map((key, n) => [key, values[n]]);
}

function isChosen({ pick, subject, setup, background }: Candidate, chosen: Chosen): boolean {
  if (pick === 'drop' || (chosen.picks === 'keep' && pick !== 'keep')) return false;
  if (chosen.subjects && !chosen.subjects.includes(subject)) return false;
  if (chosen.setups && !chosen.setups.includes(setup.id)) return false;
  return !chosen.backgrounds || (background !== null && chosen.backgrounds.includes(background.id));
}
