// npm test: type check, lint, unit and database tests, browser tests; ends in "N passed, N failed".
import { execFile, spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import process from 'node:process';
import {
  chromium,
  ensureKernels,
  ensurePackages,
  ensurePrograms,
  ensureWeb,
  mariadb,
  readers,
  root,
  say,
} from './prepare.mjs';

ensurePackages();
ensurePrograms([mariadb, chromium, ...readers]);
ensureKernels();

const results = join(root, 'test-results');
rmSync(results, { recursive: true, force: true });
mkdirSync(results, { recursive: true });

let passed = 0;
let failed = 0;

function step(title, program, args, count) {
  say(`\n── ${title}`);
  const { status } = spawnSync(program, args, { cwd: root, stdio: ['ignore', 'inherit', 'inherit'] });
  const counted = count?.() ?? { passed: status === 0 ? 1 : 0, failed: status === 0 ? 0 : 1 };
  passed += counted.passed;
  failed += counted.failed;
  // A runner that broke without counting a failure has failed all the same.
  if (status !== 0 && counted.failed === 0) failed++;
}

await inTurns(2, [
  ...['core', 'contract', 'web', 'server'].map((folder) => [`Type check: ${folder}`, 'tsc', '-p', folder]),
  ['Format', 'prettier', '--check', '.', '--log-level', 'warn'],
  // Type imports count as well: whoever reads one file of a circle has to read all of it.
  [
    'Import circles',
    'dpdm',
    '--no-warning',
    '--no-tree',
    '--no-progress',
    '--exit-code',
    'circular:1',
    ...['core', 'contract', 'cli', 'server', 'web'].map((folder) => `${folder}/**/*.{ts,tsx}`),
  ],
  ['Lint', 'eslint', '.', '--max-warnings', '0'],
]);
for (const project of ['unit', 'page', 'components', 'database']) {
  const reporters = ['--reporter=default', '--reporter=json', `--outputFile.json=test-results/${project}.json`];
  step(`Tests: ${project}`, 'npx', ['vitest', 'run', '--project', project, ...reporters], () => {
    const report = read(`${project}.json`);
    return report && { passed: report.numPassedTests, failed: report.numFailedTests };
  });
}
ensureWeb();
step('Browser tests', 'npx', ['playwright', 'test'], () => {
  const report = read('e2e.json');
  return report && { passed: report.stats.expected, failed: report.stats.unexpected + report.stats.flaky };
});

say(`\n${passed} passed, ${failed} failed`);
process.exit(failed ? 1 : 0);

/** Checks that do not disturb each other, so many at a time, each told when it has ended. */
async function inTurns(lanes, checks) {
  const left = [...checks];
  const lane = async () => {
    for (let check = left.shift(); check; check = left.shift()) {
      const [title, ...command] = check;
      const { error, output } = await new Promise((resolve) =>
        execFile('npx', command, { cwd: root, maxBuffer: 1e8 }, (error, out, err) =>
          resolve({ error, output: (out + err).trim() }),
        ),
      );
      say(`\n── ${title}${error ? `\n${output}` : ''}`);
      if (error) failed++;
      else passed++;
    }
  };
  await Promise.all(Array.from({ length: lanes }, lane));
}

function read(name) {
  const file = join(results, name);
  return existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')) : undefined;
}
