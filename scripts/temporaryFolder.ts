// Tests put what they write into one folder, which goes with the run.
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import process from 'node:process';

export default function temporaryFolder(): () => void {
  const folder = mkdtempSync(join(tmpdir(), 'silent-lawn-tests-'));
  process.env.TMPDIR = folder;
  return () => rmSync(folder, { recursive: true, force: true });
}
