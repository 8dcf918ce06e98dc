import { availableParallelism } from 'node:os';
import { Piscina } from 'piscina';
import type { CaseOrder, CaseResult, Way } from './accuracyWorker.ts';
import { accuracyReport } from './accuracyReport.ts';
import { writeSection } from './section.ts';
import { framesOf, setNames, type SetName } from './sets.ts';

/** Which ways are compared on which set; the classic methods are slow to compare and always far behind. */
const waysOf: Record<SetName, readonly Way[]> = {
  standIn: ['unmixing', 'plate', 'alone', 'distance', 'difference', 'layers'],
  generated: ['unmixing', 'plate', 'alone'],
  photographs: ['unmixing', 'plate', 'alone', 'distance', 'difference'],
};

/**
 * Measures the frames of every set and writes the section of docs/accuracy.md about them.
 * @param folder of photographs with truth; see sets.ts for its layout.
 * @param every so many-th frame of the painted sets, which takes that much less time.
 */
export async function accuracy(folder?: string, every = 1): Promise<void> {
  const results = {} as Record<SetName, CaseResult[]>;
  for (const set of setNames) results[set] = await measureSet(set, folder, every);
  await writeSection('accuracy.md', 'Cutting', accuracyReport(results, every));
}

/** The photographs alone, on the console. */
export async function photographs(folder?: string): Promise<void> {
  if (!folder) throw new Error('photographs: expected the folder that holds them');
  await measureSet('photographs', folder);
}

async function measureSet(set: SetName, folder: string | undefined, every = 1): Promise<CaseResult[]> {
  const indices = framesOf(set, folder).flatMap((_, index) =>
    set === 'photographs' || index % every === 0 ? [index] : [],
  );
  const pool = new Piscina<CaseOrder, CaseResult>({
    filename: new URL('./accuracyWorker.ts', import.meta.url).href,
    maxThreads: availableParallelism(),
    execArgv: ['--import', import.meta.resolve('tsx')],
  });
  try {
    return await Promise.all(
      indices.map(async (index) => {
        const result = await pool.run({ set, folder, index, ways: waysOf[set] });
        const { unmixing, plate } = result.figures;
        console.log(
          `${set} ${result.name} ${result.what}: MSE ${unmixing?.mse.toFixed(1)} (with the plate ${plate?.mse.toFixed(1)}), holes ${unmixing?.holes.toFixed(2)} %, residue ${unmixing?.residue.toFixed(2)} %, ${result.minutes.toFixed(1)} min`,
        );
        return result;
      }),
    );
  } finally {
    await pool.destroy();
  }
}
