import { availableParallelism } from 'node:os';
import { Piscina } from 'piscina';
import { spearman } from './accuracyReport.ts';
import { writeSection } from './section.ts';
import { framesOf, setNames, type SetName } from './sets.ts';
import type { WalkOrder, WalkResult } from './walkWorker.ts';

/** Answers for a frame, at most. */
const MOST = 12;

const titles: Record<SetName, string> = {
  standIn: 'Stand-in camera',
  generated: 'Generator',
  photographs: 'Photographs',
};

/** The walk through doubtful places, answered by one who knows the truth. Writes its section of docs/accuracy.md. */
export async function walk(folder?: string, every = 1): Promise<void> {
  const pool = new Piscina<WalkOrder, WalkResult>({
    filename: new URL('./walkWorker.ts', import.meta.url).href,
    maxThreads: availableParallelism(),
    execArgv: ['--import', import.meta.resolve('tsx')],
  });
  const rows: string[] = [];
  const gains = new Map<string, { count: number; gain: number }>();
  for (const set of setNames) {
    const chosen = framesOf(set, folder)
      .map((frame, index) => ({ ...frame, index }))
      .filter(({ part }) => part === 'reporting')
      .filter((_, n) => set === 'photographs' || n % every === 0);
    if (!chosen.length) continue;
    const results = await Promise.all(
      chosen.map(async ({ index }) => {
        const result = await pool.run({ set, folder, index, most: MOST });
        console.log(
          [
            result.name.padEnd(12),
            result.what.slice(0, 34).padEnd(34),
            result.before.toFixed(2),
            result.after.toFixed(2),
            `${result.changed}/${result.asked}`,
            result.minutes,
            result.minutesAfter.toFixed(1),
          ].join('  '),
        );
        return result;
      }),
    );
    for (const { kind, title, gain } of results.flatMap((result) => result.gains)) {
      const sum = gains.get(`${kind}: ${title}`) ?? { count: 0, gain: 0 };
      gains.set(`${kind}: ${title}`, { count: sum.count + 1, gain: sum.gain + gain });
    }
    rows.push(rowOf(titles[set], results));
  }
  await pool.close();
  for (const [name, { count, gain }] of [...gains].sort((a, b) => b[1].gain - a[1].gain))
    console.log(name.padEnd(60), count, gain.toFixed(2));
  await writeSection(
    'accuracy.md',
    'The walk',
    `Each doubtful place of a frame, costliest first and at most ${MOST} of them, answered by one who knows the truth and takes the answer that brings the
cut nearest to it. Error of coverage: mean square over the whole frame, ×1000. Reporting part${every > 1 ? `, every ${every}th frame` : ''}; \`npm run bench -- walk DIR\`.

| frames | number | error before | after | ratio | minutes foreseen | left | answers, and those that changed something | foreseen minutes against answers needed (Spearman) |
| --- | --: | --: | --: | --: | --: | --: | --: | --: |
${rows.join('\n')}`,
  );
}

function rowOf(title: string, results: WalkResult[]): string {
  const mean = (of: (result: WalkResult) => number): number =>
    results.reduce((sum, result) => sum + of(result), 0) / results.length;
  const [before, after] = [mean((r) => r.before), mean((r) => r.after)];
  const order = spearman(
    results.map(({ minutes }) => minutes),
    results.map(({ changed }) => changed),
  );
  return `| ${title} | ${results.length} | ${before.toFixed(2)} | ${after.toFixed(2)} | ${(after / before).toFixed(2)} | ${mean((r) => r.minutes).toFixed(1)} | ${mean((r) => r.minutesAfter).toFixed(1)} | ${mean((r) => r.asked).toFixed(1)}, ${mean((r) => r.changed).toFixed(1)} | ${order.toFixed(2)} |`;
}
