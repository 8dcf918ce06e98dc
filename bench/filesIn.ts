import { execFileSync } from 'node:child_process';
import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import type { ImportResult, Shoot, ShootDetail } from '../contract/index.ts';
import { demoFrames, demoShot, takeFrame } from '../core/studio/index.ts';
import { startApplication } from '../e2e/server.ts';
import { checkWhole } from '../server/pictures/decode.ts';
import { encodePicture } from '../server/pictures/encode.ts';
import { largePicture } from './largePicture.ts';
import { writeSection } from './section.ts';
import '../server/kernels.ts';

const MEGAPIXELS = 24;
/** As many at once as a page sends, and as much of each as it sends in one part. */
const AT_ONCE = 3;
const PART = 8_000_000;
const tus = { 'tus-resumable': '1.0.0' };

/**
 * Brings frames of 24 megapixels into a running application as a page does, and writes how long they take against
 * decoding one alone, and the memory of its process.
 * @param wanted how many; 400 takes some ten minutes.
 */
export async function filesIn(wanted = '60'): Promise<void> {
  const count = Number(wanted);
  const folder = await mkdtemp(join(tmpdir(), 'silent-lawn-bench-in-'));
  const application = await startApplication(join(folder, 'data'), { SILENT_LAWN_DEMO: 'off', PORT: '4480' });
  let most = 0;
  const watch = setInterval(() => (most = Math.max(most, residentMb(application.process.pid ?? 0))), 500);
  try {
    const { plan, shot } = demoShot(demoFrames[0], 1200);
    const base = await encodePicture(takeFrame(plan, shot).frame, 'png');
    const file = join(folder, 'large.jpg');
    await largePicture(base, MEGAPIXELS, file);
    const content = await readFile(file);
    await checkWhole(file, 'frame', 220);
    const begun = performance.now();
    for (let n = 0; n < 5; n++) await sharp(file, { sequentialRead: true }).raw().toBuffer();
    const decode = (performance.now() - begun) / 5000;

    const ask = asker(application.address);
    const { id } = await ask<Shoot>('POST', 'shoots', { name: 'Bench', date: '2026-06-13' });
    const { setups } = await ask<ShootDetail>('GET', `shoots/${id}`);
    let next = 0;
    const send = async (): Promise<void> => {
      for (let n = next++; n < count; n = next++)
        await bringIn(
          application.address,
          setups[0].id,
          Buffer.concat([content, Buffer.from(`${n}`.padStart(8, '0'))]),
          n,
        );
    };
    const start = performance.now();
    await Promise.all(Array.from({ length: AT_ONCE }, send));
    const arrived = (performance.now() - start) / 1000;
    for (;;) {
      const { frames } = await ask<ShootDetail>('GET', `shoots/${id}`);
      if (frames.every(({ facts }) => facts)) break;
      await new Promise((resolve) => setTimeout(resolve, 1000));
    }
    const read = (performance.now() - start) / 1000;
    const lines = [
      `${count} JPEG files of ${MEGAPIXELS} megapixels, ${(content.length / 1e6).toFixed(1)} MB each, as a page sends them. 1.0 is decoding one (${decode.toFixed(2)} s).`,
      '',
      '| | times that, a frame | a second |',
      '| --- | --: | --: |',
      `| until it can be looked at | ${(arrived / count / decode).toFixed(1)} | ${(count / arrived).toFixed(1)} |`,
      `| until it is read: slate, screen, persons, faces, sharpness | ${(read / count / decode).toFixed(1)} | ${(count / read).toFixed(1)} |`,
      '',
      `The application's process held ${most.toFixed(0)} MB at the most; how many files come in makes no difference to it.`,
    ];
    await writeSection('speed.md', 'Files in', lines.join('\n'));
    console.log(lines.join('\n'));
  } finally {
    clearInterval(watch);
    await application.stop();
    await rm(folder, { recursive: true, force: true });
  }
}

function asker(address: string) {
  return async <T>(method: string, path: string, body?: object): Promise<T> => {
    const headers = { 'content-type': 'application/json' };
    const sent = body ? { headers, body: JSON.stringify(body) } : {};
    return (await (await fetch(`${address}api/${path}`, { method, ...sent })).json()) as T;
  };
}

async function bringIn(address: string, setupId: number, content: Buffer, n: number): Promise<void> {
  const type = { 'content-type': 'application/offset+octet-stream' };
  const headers = { ...tus, ...type, 'upload-length': `${content.length}` };
  const body = new Uint8Array(content.subarray(0, PART));
  const made = await fetch(`${address}api/uploads`, { method: 'POST', headers, body });
  const id = (made.headers.get('location') ?? '').slice(-32);
  for (let at = PART; at < content.length; at += PART)
    await fetch(`${address}api/uploads/${id}`, {
      method: 'PATCH',
      headers: { ...tus, ...type, 'upload-offset': `${at}` },
      body: new Uint8Array(content.subarray(at, at + PART)),
    });
  const path = `setups/${setupId}/frames?${new URLSearchParams({ name: `I${n}.jpg`, upload: id })}`;
  const result = await asker(address)<ImportResult>('POST', path);
  if (result.outcome !== 'stored') throw new Error(`I${n}.jpg: ${JSON.stringify(result)}`);
}

/** Memory of a process and those it started, but for the database, MB. */
function residentMb(pid: number): number {
  const list = execFileSync('ps', ['-eo', 'pid=,ppid=,rss=,comm='], { encoding: 'utf8' });
  const rows = list.split('\n').map((line) => line.trim().split(/\s+/));
  const own = rows.filter(([of, parent, , name]) => (of === `${pid}` || parent === `${pid}`) && name !== 'mariadbd');
  return own.reduce((sum, [, , rss]) => sum + Number(rss), 0) / 1024;
}
