// Puts in place what the commands need, with nothing but Node.js: npm packages from the lock file and programs from
// Debian's packages. Plain JavaScript, because it runs before anything is installed.
import { execFileSync, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, renameSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import process from 'node:process';

export const root = join(import.meta.dirname, '..');

/** Installs the npm packages if they are missing or the lock file has changed since. */
export function ensurePackages() {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major < 20 || (major === 20 && minor < 19))
    fail(`Silent Lawn needs Node.js 20.19 or newer; this is ${process.versions.node}.`);
  const wanted = createHash('sha256')
    .update(readFileSync(join(root, 'package-lock.json')))
    .digest('hex');
  const stamp = join(root, 'node_modules', '.installed-for');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted) return;
  say('Installing npm packages …');
  run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error']);
  writeFileSync(stamp, wanted);
}

/** @param {{ program: string[], package: string, what: string }[]} needs */
export function ensurePrograms(needs) {
  const missing = needs.filter(({ program }) => !program.some(isInstalled));
  if (!missing.length) return;
  const packages = missing.map((need) => need.package);
  const command = `apt-get install -y --no-install-recommends ${packages.join(' ')}`;
  if (process.getuid?.() !== 0 || !isInstalled('apt-get')) {
    fail(
      `Missing: ${missing.map((need) => need.what).join(', ')}. Run this once, then start again:\n\n  sudo ${command}\n`,
    );
  }
  say(`Installing ${packages.join(' and ')} from Debian's packages …`);
  const environment = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  const quiet = (args) =>
    spawnSync('apt-get', args, { stdio: ['ignore', 'ignore', 'inherit'], env: environment }).status === 0;
  if (!quiet(['update', '-qq']) || !quiet(command.split(' ').slice(1)))
    fail(`That did not work. Run it by hand to see why:\n\n  sudo apt-get update && sudo ${command}\n`);
}

export const mariadb = { program: ['mariadbd', 'mysqld'], package: 'mariadb-server', what: 'the MariaDB server' };
export const chromium = { program: ['chromium'], package: 'chromium', what: 'the Chromium browser' };
/** Readers of other makers, with which tests look at the files that come out. */
export const readers = [
  { program: ['exiftool'], package: 'libimage-exiftool-perl', what: 'ExifTool' },
  { program: ['exiv2'], package: 'exiv2', what: 'Exiv2' },
  { program: ['pdfinfo'], package: 'poppler-utils', what: 'the PDF tools' },
  { program: ['tiffinfo'], package: 'libtiff-tools', what: 'the TIFF tools' },
  { program: ['unzip'], package: 'unzip', what: 'unzip' },
];

/** Compiles the core's kernels to WebAssembly if their sources have changed since the last time. */
export function ensureKernels() {
  const sources = join(root, 'core', 'kernels', 'assembly');
  const digest = createHash('sha256').update(readFileSync(join(root, 'package-lock.json')));
  hashFolder(sources, digest);
  const wanted = digest.digest('hex');
  const out = join(root, 'dist', 'kernels.wasm');
  const stamp = join(root, 'dist', '.kernels-built-from');
  if (existsSync(out) && existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted) return;
  mkdirSync(join(root, 'dist'), { recursive: true });
  const compiler = join(root, 'node_modules', 'assemblyscript', 'bin', 'asc.js');
  // Whole or not at all: another process may be reading it, or building it too.
  const fresh = `${out}.${process.pid}`;
  run(process.execPath, [
    compiler,
    join(sources, 'index.ts'),
    '-o',
    fresh,
    '-O3',
    '--runtime',
    'stub',
    '--enable',
    'simd',
    '--noAssert',
  ]);
  renameSync(fresh, out);
  writeFileSync(stamp, wanted);
}

/** Builds the web application if its sources have changed since the last build. */
export function ensureWeb() {
  ensureKernels();
  ensureBuilt('web', 'Building the web application …', 'vite.config.ts');
}

/** Builds the server and what its threads run if their sources have changed since the last build. */
export function ensureServer() {
  ensureKernels();
  ensureBuilt('server', 'Building the server …', 'vite.server.config.ts');
}

function ensureBuilt(part, saying, config) {
  const digest = createHash('sha256');
  for (const folder of [part, 'core', 'contract']) hashFolder(join(root, folder), digest);
  for (const file of ['package-lock.json', config]) digest.update(readFileSync(join(root, file)));
  const wanted = digest.digest('hex');
  const stamp = join(root, 'dist', part, '.built-from');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted) return;
  say(saying);
  run('npx', ['vite', 'build', '--config', config, '--logLevel', 'warn']);
  writeFileSync(stamp, wanted);
}

function hashFolder(folder, digest) {
  for (const name of readdirSync(folder).sort()) {
    const path = join(folder, name);
    if (statSync(path).isDirectory()) hashFolder(path, digest);
    else if (!/\.test\.tsx?$/.test(name)) digest.update(name).update(readFileSync(path));
  }
}

function isInstalled(program) {
  return [...(process.env.PATH ?? '').split(':'), '/usr/sbin', '/usr/bin'].some(
    (folder) => folder && existsSync(join(folder, program)),
  );
}

function run(program, args) {
  execFileSync(program, args, { cwd: root, stdio: ['ignore', 'inherit', 'inherit'] });
}

export function say(text) {
  console.log(text);
}

function fail(text) {
  console.error(text);
  process.exit(1);
}
