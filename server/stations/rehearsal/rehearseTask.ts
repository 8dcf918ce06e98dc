import type { Findings, PictureKind } from '../../../contract/index.ts';
import { rehearse, shotsOf, takeFrame } from '../../../core/studio/index.ts';
import { encodeShot } from '../../standIn/encodeShot.ts';
import type { Bench } from '../../threads/bench.ts';
import { read } from '../check/readTask.ts';

export interface RehearseInput {
  level: number;
  seed: number;
}
/** The hidden causes, the photographs and what is read from them. */
export interface RehearseOutput {
  causes: string[];
  pictures: { kind: PictureKind; file: string; width: number; height: number }[];
  findings: Findings;
}

/** Pixels across of rehearsed frames. */
const WIDTH = 900;
const kinds = ['people', 'plate', 'ball', 'grey card'] as const;

/** Hides faults in a set and photographs it. */
export async function makeSet({ level, seed }: RehearseInput, bench: Bench): Promise<RehearseOutput> {
  const { set, causes } = rehearse(level, seed, WIDTH);
  const shots = shotsOf(set, seed, WIDTH);
  const pictures: RehearseOutput['pictures'] = [];
  for (const kind of kinds) {
    const content = await encodeShot(
      takeFrame(set.plan, shots[kind]),
      { ...set.plan.camera, file: 'jpeg' },
      '2026:06:13 12:00:00',
    );
    pictures.push({ kind, file: await bench.store.put(content), width: shots[kind].width, height: shots[kind].height });
    bench.tell(pictures.length / (kinds.length + 1));
  }
  const files = Object.fromEntries(pictures.map(({ kind, file }) => [kind, file]));
  const findings = await read({ pictures: files, marks: {} }, { ...bench, tell: () => undefined });
  return { causes, pictures, findings };
}
