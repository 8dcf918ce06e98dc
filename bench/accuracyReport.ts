import { recipeChoices, type Method } from '../core/cut/index.ts';
import type { CaseResult, Way } from './accuracyWorker.ts';
import type { Figures } from './measure.ts';
import type { SetName } from './sets.ts';

interface Column {
  name: keyof Figures;
  title: string;
  digits: number;
  /** What is aimed at, by set. */
  aims?: Record<SetName, string>;
}

const columns: readonly Column[] = [
  { name: 'mse', title: 'MSE ×1000', digits: 1, aims: { standIn: '≤ 4', generated: '≤ 5', photographs: '≤ 5' } },
  { name: 'sad', title: 'SAD /1000', digits: 1 },
  { name: 'gradient', title: 'gradient', digits: 3 },
  { name: 'holes', title: 'holes %', digits: 2, aims: { standIn: '≤ 0.3', generated: '≤ 0.4', photographs: '≤ 1' } },
  {
    name: 'residue',
    title: 'residue %',
    digits: 2,
    aims: { standIn: '≤ 0.2', generated: '≤ 0.3', photographs: '≤ 0.4' },
  },
  {
    name: 'kept',
    title: 'kept green',
    digits: 3,
    aims: { standIn: '≥ 0.99', generated: '≥ 0.98', photographs: '≥ 0.97' },
  },
  { name: 'gaps', title: 'gaps', digits: 3, aims: { standIn: '≤ 0.01', generated: '≤ 0.01', photographs: '≤ 0.01' } },
  {
    name: 'fringe',
    title: 'fringe ΔE',
    digits: 2,
    aims: { standIn: '≤ 2.5', generated: '≤ 2.5', photographs: '≤ 2.8' },
  },
  { name: 'keptColour', title: 'kept green ΔE', digits: 2 },
  { name: 'body', title: 'body ΔE', digits: 2 },
  { name: 'excess', title: 'green excess', digits: 2 },
];

const titles: Record<SetName, string> = {
  standIn: 'Frames of the stand-in camera',
  generated: 'Frames of the generator',
  photographs: 'Photographs over simulated screens',
};

const wayTitles: Record<Way, string> = {
  ...(Object.fromEntries(
    Object.entries(recipeChoices.method.options).map(([way, { title }]) => [way, title]),
  ) as Record<Method, string>),
  plate: 'Unmixing with the plate',
  alone: 'Unmixing without the map of persons',
};

const row = (cells: readonly string[]): string => `| ${cells.join(' | ')} |`;
const digits = (value: number | undefined, n: number): string =>
  value !== undefined && Number.isFinite(value) ? value.toFixed(n) : '–';
const known = (values: readonly (number | undefined)[]): number[] =>
  values.filter((v): v is number => v !== undefined && Number.isFinite(v));
const mean = (values: readonly (number | undefined)[]): number =>
  known(values).reduce((sum, v) => sum + v, 0) / known(values).length;

/** Value below which a share of the values lies; NaN of none. */
export function percentile(values: readonly (number | undefined)[], share: number): number {
  const sorted = known(values).sort((a, b) => a - b);
  return sorted.length ? sorted[Math.min(sorted.length - 1, Math.round(share * (sorted.length - 1)))] : NaN;
}

/** Mean of the worst tenth, at least of one. */
export function worstTenth(values: readonly (number | undefined)[]): number {
  const sorted = known(values).sort((a, b) => b - a);
  return mean(sorted.slice(0, Math.max(1, Math.round(sorted.length / 10))));
}

/** The section of docs/accuracy.md about cutting. */
export function accuracyReport(results: Record<SetName, CaseResult[]>, every: number): string {
  const { standIn, generated, photographs } = results;
  return `
Written by \`npm run bench -- accuracy DIR\`; do not edit by hand. DIR holds photographs with truth (\`bench/sets.ts\` says in which layout);
without it that part is left out. All frames are cut with the default recipe, no touch, unless the row says otherwise.

Three sets, so that what is learnt from one painter does not count:

- **Stand-in**: ${standIn.length} frames of \`core/studio\` at 1600 pixels, JPEG with halved chroma (one as 16-bit file).
- **Generator**: ${generated.length} frames of \`bench/generator\`, which shares no code with the stand-in: people, plants, things and cloth over random screens,
  spill, cameras and files.
- **Photographs**: ${photographs.length} real photographs of people laid in linear light over simulated screens; their matte and colour are defined as the truth.
  They have licences of their own and are no part of the project.

Half of the first two is looked at while tuning, the other half only reported.${every > 1 ? ` This run measured every ${every}${every === 2 ? 'nd' : every === 3 ? 'rd' : 'th'} of their frames.` : ''}

- **MSE, SAD, gradient**: coverage against the truth over the unknown band (true coverage 0.02–0.98, widened by 6 px at 1600).
- **Holes**: truly solid pixels cut below 0.97. **Residue**: truly clear pixels left above 0.03.
- **Kept green, gaps**: mean coverage over solid pixels near the screen's colour, and over clear pixels that the person encloses.
- **Fringe ΔE**: mean CIEDE2000 against the true composite where true coverage is 0.02–0.98, over mid-grey, red, navy and pale teal.
  **Kept green ΔE, body ΔE**: the same for solid pixels; for the body less what noise and compression alone give.
- **Green excess**: lead of the screen's channel in the fringe beyond the true one, of 255.
- **Worst tenth**: mean MSE of the tenth of the frames with the highest. **Doubts**: share of the area whose coverage is off by more than a quarter
  that lies in the places of a named doubt; and how the order of the minutes foreseen agrees with the order of the true error (SAD; Spearman).

${(Object.keys(results) as SetName[])
  .filter((set) => results[set].length)
  .map((set) => section(set, results[set]))
  .join('\n\n')}
`;
}

function section(set: SetName, results: CaseResult[]): string {
  const reporting = results.filter(({ part }) => part === 'reporting');
  const tuning = results.filter(({ part }) => part === 'tuning');
  return [
    `### ${titles[set]}`,
    '',
    table(set, reporting, tuning),
    '',
    summary(reporting),
    '',
    ...(set === 'photographs'
      ? []
      : ['By class, reporting part: the mean, and in brackets the 5th and 95th percentile.', '', byClass(reporting)]),
  ].join('\n');
}

function table(set: SetName, reporting: CaseResult[], tuning: CaseResult[]): string {
  const ways = Object.keys(reporting[0].figures) as Way[];
  const means = (part: CaseResult[], way: Way): string[] =>
    columns.map(({ name, digits: n }) => digits(mean(part.map((r) => r.figures[way]?.[name])), n));
  return [
    row(['part', 'way', ...columns.map(({ title }) => title), 'worst tenth']),
    row(['---', '---', ...columns.map(() => '--:'), '--:']),
    row(['', '*aim*', ...columns.map(({ aims }) => aims?.[set] ?? ''), '≤ 3 × the mean']),
    ...[
      ['reporting', reporting],
      ['tuning', tuning],
    ].flatMap(([title, part]) =>
      (part as CaseResult[]).length
        ? ways.map((way) =>
            row([
              title as string,
              wayTitles[way],
              ...means(part as CaseResult[], way),
              digits(worstTenth((part as CaseResult[]).map((r) => r.figures[way]?.mse)), 1),
            ]),
          )
        : [],
    ),
  ].join('\n');
}

function summary(part: CaseResult[]): string {
  const wrong = part.reduce((sum, r) => sum + r.wrong, 0);
  const named = part.reduce((sum, r) => sum + r.named, 0);
  const ranks = spearman(
    part.map((r) => r.minutes),
    part.map((r) => r.figures.unmixing?.sad ?? 0),
  );
  const worst = [...part].sort((a, b) => (b.figures.unmixing?.mse ?? 0) - (a.figures.unmixing?.mse ?? 0)).slice(0, 5);
  return `Doubts name ${((100 * named) / Math.max(1, wrong)).toFixed(0)} % of the wrong area (aim: 90); order of the minutes: ${ranks.toFixed(2)} (aim: 0.8). Worst: ${worst.map((r) => `${r.name} ${r.what} (${digits(r.figures.unmixing?.mse, 1)})`).join(', ')}.`;
}

function byClass(part: CaseResult[]): string {
  const classes = [...new Set(part.map(({ what }) => what))];
  const shown = columns.filter(({ aims }) => aims);
  return [
    row(['class', 'frames', ...shown.map(({ title }) => title)]),
    row(['---', '--:', ...shown.map(() => '--:')]),
    ...classes.map((what) => {
      const own = part.filter((r) => r.what === what);
      return row([
        what,
        String(own.length),
        ...shown.map(({ name, digits: n }) => {
          const values = own.map((r) => r.figures.unmixing?.[name]);
          return own.length === 1
            ? digits(values[0], n)
            : known(values).length
              ? `${digits(mean(values), n)} (${digits(percentile(values, 0.05), n)}–${digits(percentile(values, 0.95), n)})`
              : '–';
        }),
      ]);
    }),
  ].join('\n');
}

/** Rank correlation; ties share no rank, which matters little for measured values. */
export function spearman(a: readonly number[], b: readonly number[]): number {
  const ranks = (values: readonly number[]): number[] => {
    const out: number[] = [];
    values
      .map((value, n) => ({ value, n }))
      .sort((x, y) => x.value - y.value)
      .forEach(({ n }, rank) => (out[n] = rank));
    return out;
  };
  const x = ranks(a);
  const y = ranks(b);
  const n = a.length;
  return 1 - (6 * x.reduce((sum, rank, k) => sum + (rank - y[k]) ** 2, 0)) / (n * (n * n - 1));
}
