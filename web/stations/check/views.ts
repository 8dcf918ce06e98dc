import type { Check, Findings, PictureKind } from '../../../contract/index.ts';
import type { Shown } from './EvidencePicture.tsx';
import { kinds } from './kinds.ts';

/** What a round can show: its photographs, and maps of what was read from them. */
export type View = PictureKind | 'lawn' | 'plan' | 'last';

const maps: { view: View; title: string }[] = [
  { view: 'lawn', title: 'Lawn map' },
  { view: 'plan', title: 'Against the plan' },
  { view: 'last', title: 'Against the last round' },
];

/** What there is to look at in a round. */
export function viewsOf(check: Check | undefined, previous: Findings | undefined): { view: View; title: string }[] {
  if (!check) return [];
  return [
    ...kinds
      .filter(({ kind }) => check.pictures.some((p) => p.kind === kind))
      .map(({ kind, title }) => ({ view: kind as View, title })),
    ...maps.filter(({ view }) => mapOf(view, check.findings ?? undefined, previous)),
  ];
}

/** The photograph on which the foremost cause shows. */
export function defaultView(
  check: Check | undefined,
  findings: Findings | undefined,
  cause: string | undefined,
): View | undefined {
  const there = (kind: PictureKind): boolean => check?.pictures.some((p) => p.kind === kind) ?? false;
  const first = findings?.causes.find((c) => c.id === cause) ?? findings?.causes[0];
  if (first && ['tooClose', 'keyShadow', 'clothing', 'defocus', 'motion'].includes(first.id) && there('people'))
    return 'people';
  if (first?.id === 'whiteBalance' && there('grey card')) return 'grey card';
  if (there('plate')) return 'plate';
  return check?.pictures[0]?.kind;
}

/** Stops over the frame, from the top left; null where there is nothing. */
export interface StopMap {
  columns: number;
  rows: number;
  stops: (number | null)[];
}

export function mapOf(
  view: View | undefined,
  findings: Findings | undefined,
  previous: Findings | undefined,
): StopMap | undefined {
  if (view === 'lawn') return findings?.lawn;
  if (view === 'plan') return findings?.difference;
  const before = previous?.lawn;
  const now = findings?.lawn;
  if (view !== 'last' || !before || !now || before.columns !== now.columns || before.rows !== now.rows)
    return undefined;
  return {
    ...now,
    stops: now.stops.map((v, p) => (v === null || before.stops[p] === null ? null : v - (before.stops[p] as number))),
  };
}

/** Readings that speak of the photograph of each kind. */
const speaksOf: Partial<Record<PictureKind, string[]>> = {
  plate: ['coverage', 'spread', 'tilt', 'bulge', 'sides', 'mismatch', 'wrinkle', 'level', 'clipped', 'purity', 'noise'],
  people: ['shadow', 'bounce', 'nearColour', 'edge', 'smear'],
  'grey card': ['exposure', 'whiteBalance', 'cardScreen'],
};

/** What is shown on a photograph: the chosen cause's evidence; without a choice, of all readings out of bounds. */
export function evidenceOn(kind: PictureKind, findings: Findings | undefined, cause: string | undefined): Shown[] {
  if (!findings) return [];
  const of = findings.readings.filter(({ id }) => speaksOf[kind]?.includes(id));
  const chosen = findings.causes.find((c) => c.id === cause) ?? findings.causes[0];
  const shown =
    chosen?.evidence.length &&
    of.some(({ evidence }) => evidence.some((e) => chosen.evidence.some((c) => c.words === e.words)))
      ? chosen.evidence
      : of.filter(({ verdict }) => verdict === 'beyond').flatMap(({ evidence }) => evidence);
  const calm = shown.length
    ? shown
    : kind === 'plate'
      ? (of.find(({ id }) => id === 'spread')?.evidence ?? [])
      : kind === 'grey card'
        ? (of[0]?.evidence ?? [])
        : [];
  return [...calm, ...(kind === 'plate' ? findings.inView : [])].slice(0, 8);
}

/** The hottest and the darkest place. */
export function extremes({ columns, rows, stops }: StopMap): { x: number; y: number; stops: number }[] {
  let hot = -1;
  let dark = -1;
  stops.forEach((v, p) => {
    if (v === null) return;
    if (hot < 0 || v > (stops[hot] as number)) hot = p;
    if (dark < 0 || v < (stops[dark] as number)) dark = p;
  });
  return [hot, dark]
    .filter((p) => p >= 0)
    .map((p) => ({
      x: ((p % columns) + 0.5) / columns,
      y: (Math.floor(p / columns) + 0.5) / rows,
      stops: stops[p] as number,
    }));
}
