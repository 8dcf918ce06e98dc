import { lstat, readFile, realpath, stat } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';
import type { Problem } from '../contract/index.ts';
import { writeWhole } from '../server/store/writeWhole.ts';

/** In every folder that was written into: what was written there, so that a second run may write it again. */
const RECORD = '.silent-lawn.json';
type Written = Record<string, { bytes: number; changed: number }>;

/**
 * Watches over what the command line writes: never over a file that it reads, never over what is no plain file, and
 * over a file that is there already only if it was written by an earlier run and has not been touched since, or with
 * --force.
 */
export class Outputs {
  private readonly read = new Set<string>();
  private readonly written = new Map<string, Written>();

  private constructor(private readonly force: boolean) {}

  /** @param inputs files that are read, whether they exist or not. */
  static async over(inputs: readonly (string | undefined)[], force: boolean): Promise<Outputs> {
    const outputs = new Outputs(force);
    for (const input of inputs) {
      const facts = input ? await stat(input).catch(() => undefined) : undefined;
      if (facts) outputs.read.add(`${facts.dev} ${facts.ino}`);
    }
    return outputs;
  }

  /** Why a file must not be written; undefined if it may. */
  async refusal(target: string): Promise<Problem | undefined> {
    const facts = await lstat(target).catch(() => undefined);
    if (!facts) return undefined;
    if (!facts.isFile())
      return {
        reason: `${target} is there already and is no plain file`,
        remedy: 'Give another folder or name with --out.',
      };
    if (this.read.has(`${facts.dev} ${facts.ino}`))
      return {
        reason: `${target} would be written over the very file that is read`,
        remedy: 'Give another folder or name with --out; originals are never overwritten.',
      };
    const known = (await this.writtenIn(dirname(target)))[basename(target)];
    if (this.force || (known && known.bytes === facts.size && known.changed === facts.mtimeMs)) return undefined;
    return {
      reason: `${target} is there already and was not written by this program, or has been changed since`,
      remedy: 'Give another folder or name with --out, or say --force to write over it.',
    };
  }

  /** Notes that a file has been written. */
  async note(target: string): Promise<void> {
    const { size, mtimeMs } = await stat(target);
    (await this.writtenIn(dirname(target)))[basename(target)] = { bytes: size, changed: mtimeMs };
  }

  /**
   * Keeps the notes; a folder that cannot take them loses nothing but the right to be written again without --force.
   */
  async close(): Promise<void> {
    for (const [folder, written] of this.written)
      if (Object.keys(written).length)
        await writeWhole(join(folder, RECORD), Buffer.from(JSON.stringify(written))).catch(() => undefined);
  }

  private async writtenIn(folder: string): Promise<Written> {
    const real = await realpath(folder);
    const known = this.written.get(real);
    if (known) return known;
    const kept = await readFile(join(real, RECORD), 'utf8').then(
      (text) => JSON.parse(text) as Written,
      () => ({}),
    );
    // Another frame may have read it meanwhile.
    const written = this.written.get(real) ?? kept;
    this.written.set(real, written);
    return written;
  }
}
