import { execFile } from 'node:child_process';
import { copyFile, link, mkdir, mkdtemp, readdir, readFile, rm, symlink, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { beforeAll, describe, expect, test, vi } from 'vitest';
import { startingPlan } from '../core/plan/index.ts';
import { main } from './main.ts';
import { writeSamples, type SampleName } from '../server/testing/samples.ts';

interface Outcome {
  code: number;
  out: string;
  err: string;
}

/** What a command answers; in this process, which is much sooner than one of its own. */
async function run(...args: string[]): Promise<Outcome> {
  const said = { out: '', err: '' };
  const into = (where: keyof typeof said) => (text: unknown) => void (said[where] += `${String(text)}\n`);
  const spies = [
    vi.spyOn(console, 'log').mockImplementation(into('out')),
    vi.spyOn(console, 'error').mockImplementation(into('err')),
  ];
  try {
    return { code: await main(args), ...said };
  } finally {
    for (const spy of spies) spy.mockRestore();
  }
}

/** The same in a process of its own, as people run it. */
function runProgram(...args: string[]): Promise<Outcome> {
  return new Promise((resolve) => {
    execFile(process.execPath, [join(import.meta.dirname, '..', 'bin', 'silent-lawn'), ...args], (error, out, err) =>
      resolve({ code: error ? Number(error.code) : 0, out, err }),
    );
  });
}

async function planFile(into: string, change: object = {}): Promise<string> {
  const file = join(into, 'plan.json');
  await writeFile(file, JSON.stringify({ ...startingPlan('Hall', '2026-06-13'), ...change }));
  return file;
}

let folder: string;
let samples: Record<SampleName, string>;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'silent-lawn-cli-'));
  samples = await writeSamples(folder);
});

describe('silent-lawn cut', () => {
  test('cuts what it can, names what it cannot, exit 1', async () => {
    const out = join(folder, 'mixed');
    const files = [
      samples['good.jpg'],
      samples['truncated.jpg'],
      samples['turned.jpg'],
      samples['no-screen.jpg'],
      join(folder, 'nowhere.jpg'),
      samples['ünï code & 100% (1).jpg'],
    ];
    const { code, out: text, err } = await runProgram('cut', ...files, '--out', out, '--json', '--jobs', '2');
    expect(code).toBe(1);
    const lines = text
      .trim()
      .split('\n')
      .map((line) => JSON.parse(line));
    expect(lines.map((line) => line.file).sort()).toEqual(
      [samples['good.jpg'], samples['turned.jpg'], samples['ünï code & 100% (1).jpg']].sort(),
    );
    for (const line of lines) {
      expect(Object.keys(line)).toEqual(['file', 'out', 'width', 'height', 'ms', 'quality']);
      expect(Object.keys(line.ms)).toEqual(['decode', 'cut', 'encode']);
      const metadata = await sharp(line.out).metadata();
      expect([metadata.width, metadata.height, metadata.channels, metadata.depth]).toEqual([
        line.width,
        line.height,
        4,
        'uchar',
      ]);
    }
    expect(lines.find((line) => line.file === samples['turned.jpg'])).toMatchObject({ width: 160, height: 120 });
    const complaints = err.trim().split('\n');
    expect(complaints).toHaveLength(3);
    for (const [n, name] of ['truncated.jpg', 'no-screen.jpg', 'nowhere.jpg'].entries())
      expect(
        complaints.some((c) => c.includes(name) && /\. [A-Z].*\.$/.test(c)),
        `${n} ${err}`,
      ).toBe(true);
    expect((await readdir(out)).filter((name) => name.endsWith('.part'))).toEqual([]);
  });

  test('16-bit formats, a recipe, a plate and a background', async () => {
    const out = join(folder, 'wide');
    const recipe = join(folder, 'recipe.json');
    await writeFile(recipe, JSON.stringify({ floor: 0.1 }));
    const { code, out: text } = await run(
      'cut',
      samples['sixteen.tif'],
      '--out',
      out,
      '--format',
      'tiff16',
      '--recipe',
      recipe,
      '--plate',
      samples['good.jpg'],
      '--background',
      samples['good.png'],
    );
    expect(code).toBe(0);
    expect(text).toContain('sixteen.tif');
    expect((await sharp(join(out, 'sixteen.tif')).metadata()).depth).toBe('ushort');
    expect((await sharp(join(out, 'sixteen.finished.jpg')).metadata()).width).toBe(120);
  });

  test('masks are laid over the cut; a plate of another size and a spoilt mask file are refused by name', async () => {
    const out = join(folder, 'masked');
    const masks = join(folder, 'masks.json');
    await writeFile(
      masks,
      JSON.stringify({
        masks: [
          {
            effect: 'clear',
            polygon: [
              { x: 0, y: 0.5 },
              { x: 1, y: 0.5 },
              { x: 1, y: 1 },
              { x: 0, y: 1 },
            ],
          },
        ],
      }),
    );
    expect((await run('cut', samples['good.png'], '--out', out, '--masks', masks)).code).toBe(0);
    const { data } = await sharp(join(out, 'good.png')).extractChannel(3).raw().toBuffer({ resolveWithObject: true });
    expect(Math.max(...data.subarray(81 * 120))).toBe(0);
    expect(data[75 * 120 + 60]).toBe(255);
    const plate = await run('cut', samples['good.png'], '--out', out, '--plate', samples['turned.jpg']);
    expect(plate.code).toBe(1);
    expect(plate.err).toContain('the plate is 160 × 120 pixels, the frame 120 × 160');
    const path = {
      closed: true,
      points: [
        [0, 0.5],
        [1, 0.5],
        [1, 1],
        [0, 1],
      ].map(([x, y]) => ({ x, y, pressure: 1 })),
    };
    const touch = { id: 'a', at: 1, kind: 'take', on: true, size: 0.001, softness: 0, strength: 1, path };
    await writeFile(masks, JSON.stringify({ touches: [touch], departures: [{ id: 'edge', to: -1 }] }));
    const touched = join(folder, 'touched');
    expect((await run('cut', samples['good.png'], '--out', touched, '--masks', masks)).code).toBe(0);
    const alpha = await sharp(join(touched, 'good.png')).extractChannel(3).raw().toBuffer();
    expect(Math.max(...alpha.subarray(81 * 120))).toBe(0);
    const cover = (of: Buffer): number => of.subarray(0, 75 * 120).reduce((sum, v) => sum + v, 0);
    expect(cover(alpha)).toBeLessThan(cover(data));
    await writeFile(masks, JSON.stringify({ masks: [{ effect: 'clear', polygon: [{ x: 0, y: 3 }] }] }));
    const spoilt = await run('cut', samples['good.png'], '--out', out, '--masks', masks);
    expect(spoilt.code).toBe(2);
    expect(spoilt.err).toContain('masks.0.polygon');
  });

  test('a plate put together from frames, used by cut; what it cannot use it says', async () => {
    const out = join(folder, 'gathered.jpg');
    const { code, out: text } = await run(
      'plate',
      samples['good.jpg'],
      samples['good.png'],
      samples['turned.jpg'],
      '--out',
      out,
      '--json',
    );
    expect(code).toBe(0);
    expect(JSON.parse(text)).toMatchObject({ used: 2, width: 120, height: 160 });
    expect(await sharp(out).metadata()).toMatchObject({ width: 120, height: 160, channels: 3 });
    // Its colour is the screen's, and what is cut with it is clear where the screen is.
    const corner = async (file: string): Promise<number[]> => [
      ...(await sharp(file).extract({ left: 4, top: 4, width: 1, height: 1 }).raw().toBuffer()),
    ];
    const screen = await corner(samples['good.jpg']);
    (await corner(out)).forEach((v, c) => expect(Math.abs(v - screen[c])).toBeLessThan(4));
    expect((await run('cut', samples['good.png'], '--out', join(folder, 'by-plate'), '--plate', out)).code).toBe(0);
    expect((await corner(join(folder, 'by-plate', 'good.png')))[3]).toBe(0);
    const spoilt = await run(
      'plate',
      samples['truncated.jpg'],
      samples['good.jpg'],
      join(folder, 'nowhere.jpg'),
      '--out',
      out,
      '--json',
    );
    expect([spoilt.code, JSON.parse(spoilt.out).used]).toEqual([1, 1]);
    for (const name of ['truncated.jpg', 'nowhere.jpg']) expect(spoilt.err).toContain(name);
    const none = await run('plate', samples['no-screen.jpg'], '--out', out);
    expect(none.code).toBe(1);
    expect(none.err).toContain('no green or blue screen');
    expect((await run('plate', '--out', out)).code).toBe(2);
  });

  test('the cut itself: the disc stays, the screen goes, nothing is green', async () => {
    const out = join(folder, 'one');
    expect((await run('cut', samples['good.png'], '--out', out)).code).toBe(0);
    const { data } = await sharp(join(out, 'good.png')).raw().toBuffer({ resolveWithObject: true });
    const at = (x: number, y: number): number[] => [...data.subarray((y * 120 + x) * 4, (y * 120 + x) * 4 + 4)];
    expect(at(5, 5)).toEqual([0, 0, 0, 0]);
    expect(at(60, 96)).toEqual([190, 129, 110, 255]);
    for (let i = 0; i < data.length; i += 4)
      if (data[i + 3] > 128) expect(data[i + 1]).toBeLessThanOrEqual(data[i] + 2);
  });

  test('a picture that is cut out already keeps its transparency, though it shows no screen', async () => {
    const out = join(folder, 'cut-before');
    expect((await run('cut', samples['transparent.png'], '--out', out)).code).toBe(0);
    const [given, made] = await Promise.all(
      [samples['transparent.png'], join(out, 'transparent.png')].map((file) =>
        sharp(file).extractChannel(3).raw().toBuffer(),
      ),
    );
    expect(made).toEqual(given);
  });

  test('an original is never overwritten, a strange file only with --force, an own one that nobody touched at once', async () => {
    const own = join(folder, 'own');
    await mkdir(own);
    await copyFile(samples['good.png'], join(own, 'photo.png'));
    const original = await readFile(join(own, 'photo.png'));
    for (const options of [[], ['--force']]) {
      const { code, err } = await run('cut', join(own, 'photo.png'), '--out', own, ...options);
      expect(code).toBe(1);
      expect(err).toContain('the very file that is read');
    }
    await link(join(own, 'photo.png'), join(own, 'linked.jpg'));
    expect(
      (await run('plate', join(own, 'photo.png'), samples['good.jpg'], '--out', join(own, 'linked.jpg'))).err,
    ).toContain('the very file that is read');
    expect(await readFile(join(own, 'photo.png'))).toEqual(original);

    const out = join(folder, 'again');
    const cut = (...options: string[]): Promise<Outcome> => run('cut', samples['good.png'], '--out', out, ...options);
    expect((await cut()).code).toBe(0);
    expect((await cut()).code, 'written by itself before').toBe(0);
    await writeFile(join(out, 'good.png'), 'retouched by hand');
    const refused = await cut();
    expect(refused.code).toBe(1);
    expect(refused.err).toContain('--force');
    expect(await readFile(join(out, 'good.png'), 'utf8')).toBe('retouched by hand');
    expect((await cut('--force')).code).toBe(0);
    await rm(join(out, 'good.png'));
    await symlink('/dev/null', join(out, 'good.png'));
    expect((await cut('--force')).err).toContain('no plain file');
  });

  test('folders in the place of files, and a reader who leaves early, end in words', async () => {
    const shown = async (...args: string[]): Promise<string> => {
      const { code, err } = await run(...args);
      expect([1, 2]).toContain(code);
      expect(err, args.join(' ')).not.toMatch(/^\s+at /m);
      return err;
    };
    const out = join(folder, 'words');
    expect(await shown('cut', folder, '--out', out)).toContain('it is a folder, not a file');
    expect(await shown('cut', samples['good.png'], '--out', out, '--plate', folder)).toContain('--plate');
    expect(await shown('cut', samples['good.png'], '--out', out, '--background', folder)).toContain('it is a folder');
    expect(await shown('cut', samples['good.png'], '--out', samples['good.jpg'])).toContain('cannot be a folder');
    expect(await shown('cut', samples['good.png'], '--out', out, '--recipe', folder)).toContain('it is a folder');
    expect(await shown('plate', folder, samples['good.jpg'], '--out', folder)).toContain('no plain file');
    expect(await shown('check', folder)).toContain('it is a folder');
    expect(await shown('shoot', await planFile(folder), '--out', out, '--people', '__proto__')).toContain('--people');
    const early = await new Promise<string>((resolve) => {
      const child = execFile(
        process.execPath,
        [join(import.meta.dirname, '..', 'bin', 'silent-lawn'), 'plan', '--schema'],
        (_error, _out, err) => resolve(err),
      );
      child.stdout?.destroy();
    });
    expect(early).toBe('');
  });

  test('two files of the same name get two cutouts', async () => {
    const out = join(folder, 'same');
    await run('cut', samples['good.jpg'], samples['good.png'], samples['good.tif'], '--out', out, '--jobs', '1');
    expect((await readdir(out)).filter((name) => !name.startsWith('.')).sort()).toEqual([
      'good-2.png',
      'good-3.png',
      'good.png',
    ]);
  });

  test.each([
    [['cut'], /at least one photograph/],
    [['cut', 'a.jpg'], /--out/],
    [['cut', 'a.jpg', '--out', 'x', '--format', 'webp'], /--format: expected png/],
    [['cut', 'a.jpg', '--out', 'x', '--jobs', 'many'], /--jobs: expected a whole number/],
    [['cut', 'a.jpg', '--out', 'x', '--plate', 'nowhere.jpg'], /--plate: nowhere.jpg does not exist/],
    [['cut', 'a.jpg', '--out', 'x', '--florr', '1'], /florr/],
    [['paint'], /unknown command: paint/],
    [[], /no command/],
  ])('wrong usage %j: exit 2 and what was expected', async (args, message) => {
    const { code, err } = await run(...args);
    expect(code).toBe(2);
    expect(err).toMatch(message);
  });

  test('a recipe out of range names the setting', async () => {
    const recipe = join(folder, 'bad.json');
    await writeFile(recipe, JSON.stringify({ ceiling: 5 }));
    const { code, err } = await run('cut', samples['good.jpg'], '--out', folder, '--recipe', recipe);
    expect(code).toBe(2);
    expect(err).toMatch(/ceiling/);
    expect((await readFile(samples['good.jpg'])).length).toBeGreaterThan(0);
  });
});

describe('plan and shoot', () => {
  const temporary = (): Promise<string> => mkdtemp(join(tmpdir(), 'silent-lawn-plan-cli-'));

  test('plan --json prints all outputs; a spoilt plan is refused by field', async () => {
    const folder = await temporary();
    const { code, out: stdout } = await run(...['plan', await planFile(folder), '--json']);
    expect(code).toBe(0);
    const all = JSON.parse(stdout);
    expect(all.readings.find((r: { id: string }) => r.id === 'spread')).toMatchObject({
      unit: 'stops',
      max: 1,
      verdict: expect.any(String),
      reason: expect.any(String),
      remedy: expect.any(String),
    });
    for (const key of [
      'coverage',
      'lawnMap',
      'person',
      'bounce',
      'focus',
      'motion',
      'losses',
      'circuits',
      'wardrobe',
      'kit',
      'forecast',
      'savings',
      'schedule',
      'cautions',
    ])
      expect(all, key).toHaveProperty(key);
    const bad = await run(...['plan', await planFile(folder, { room: {} }), '--json']);
    expect(bad.code).toBe(2);
    expect(bad.err).toContain('room');
    expect((await run(...['plan'])).code).toBe(2);
    expect(JSON.parse((await run(...['plan', '--schema'])).out).type).toBe('object');
    expect((await run(...['plan', await planFile(folder)])).out).toContain('Saves most');
  }, 60_000);

  test('shoot writes frames with their truth, the same ones for the same number', async () => {
    const folder = await temporary();
    const args = [
      'shoot',
      await planFile(folder),
      '--out',
      join(folder, 'a'),
      '--height',
      '150',
      '--people',
      'otto',
      '--json',
    ];
    const { code, out: stdout } = await run(...args);
    expect(code).toBe(0);
    const line = JSON.parse(stdout);
    expect(line).toMatchObject({ width: 100, height: 150, people: ['otto'] });
    for (const ending of ['jpg', 'matte.png', 'foreground.png', 'screen.png'])
      expect((await sharp(join(folder, 'a', `frame-0001.${ending}`)).metadata()).width).toBe(100);
    await run(...[...args.slice(0, 3), join(folder, 'b'), ...args.slice(4)]);
    expect(await readFile(join(folder, 'b', 'frame-0001.jpg'))).toEqual(
      await readFile(join(folder, 'a', 'frame-0001.jpg')),
    );
    expect((await run(...['shoot', await planFile(folder), '--out', folder, '--people', 'nobody'])).err).toContain(
      '--people',
    );
  }, 60_000);
});

describe('silent-lawn check', () => {
  test('reads a test frame with its plate: readings, causes, exit code by readiness', async () => {
    const { seededSet, shotsOf, takeFrame } = await import('../core/studio/index.ts');
    const { fromRaster } = await import('../server/pictures/encode.ts');
    const set = seededSet(4500, ['overlit'], 480, [0.8, 1]);
    const shots = shotsOf(set, 4500, 480);
    const files = { people: join(folder, 'test-frame.jpg'), plate: join(folder, 'plate.jpg') };
    for (const kind of ['people', 'plate'] as const)
      await fromRaster(takeFrame(set.plan, shots[kind]).frame)
        .toColourspace('srgb')
        .jpeg({ quality: 92, chromaSubsampling: '4:2:0' })
        .toFile(files[kind]);
    const { code, out } = await run('check', files.people, '--plate', files.plate, '--json');
    expect(code).toBe(1);
    const report = JSON.parse(out);
    expect(report).toMatchObject({ found: true, ready: false, jpeg: { halvedChroma: true } });
    expect(Math.abs(report.jpeg.quality - 92)).toBeLessThanOrEqual(2);
    expect(report.causes.map(({ id }: { id: string }) => id)).toContain('overlit');
    const words = await run('check', files.people, '--plate', files.plate);
    expect(words.out).toMatch(/^Not ready: \d+ min by hand/);
    expect(words.out).toContain('! Level of the screen');
  }, 60_000);

  test.each([
    [['check'], 2, /FILE: expected one test frame/],
    [['check', 'nowhere.jpg'], 1, /nowhere.jpg: the file does not exist/],
    [['check', 'a.jpg', '--plane', 'b.jpg'], 2, /plane/],
  ])('%s', async (args, code, message) => {
    const outcome = await run(...args);
    expect(outcome.code).toBe(code);
    expect(outcome.err).toMatch(message);
  });

  test('a picture without a screen says so', async () => {
    const { code, err } = await run('check', samples['no-screen.jpg']);
    expect(code).toBe(1);
    expect(err).toContain('no green or blue screen');
  });
});
