// `npm test`: everything, on a fresh machine too. Its last line is the count of what passed and what failed.
import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ROOT, ensureBuild, ensureChromium, ensurePackages, say } from './setup.mjs';

const bin = (name) => join(ROOT, 'node_modules/.bin', name);

/** Checks that pass or fail as a whole. */
const CHECKS = [
  ['Formatting', bin('prettier'), ['--check', '--log-level', 'warn', '.']],
  ['Lint', bin('eslint'), ['.']],
  [
    'Types',
    bin('svelte-check'),
    ['--tsconfig', './tsconfig.json', '--fail-on-warnings', '--output', 'human']
  ],
  [
    'Import law',
    bin('depcruise'),
    ['--config', '.dependency-cruiser.cjs', 'src', 'standin', 'demo', 'scripts']
  ],
  ['Unused code', bin('knip'), ['--no-progress', '--no-config-hints']]
];

function test() {
  ensurePackages();
  const chromium = ensureChromium();
  runLoud(bin('svelte-kit'), ['sync']);
  ensureBuild();
  const reports = mkdtempSync(join(tmpdir(), 'early-bell-tests-'));
  const count = { passed: 0, failed: 0 };

  for (const [name, command, args] of CHECKS) {
    say(`\n— ${name}`);
    if (runLoud(command, args)) count.passed++;
    else count.failed++;
  }

  runUnit(count, reports, 'UTC', []);
  // The process's own zone must not matter to the core.
  for (const zone of ['America/New_York', 'Pacific/Chatham'])
    runUnit(count, reports, zone, ['src/lib/core', 'tests/reference']);

  say('\n— Tests in a browser');
  const browser = join(reports, 'browser.json');
  const browserPassed = runLoud(bin('playwright'), ['test'], {
    E2E_REPORT: browser,
    CHROMIUM_PATH: chromium
  });
  addBrowser(count, browser, browserPassed);

  say(`\n${count.passed} passed, ${count.failed} failed`);
  return count.failed === 0 && count.passed > 0;
}

/** Runs the tests that need no browser, in a process whose own zone is the given one. */
function runUnit(count, reports, zone, folders) {
  say(`\n— Tests without a browser, TZ=${zone}${folders.length > 0 ? `: ${folders.join(', ')}` : ''}`);
  const file = join(reports, `unit-${zone.replace('/', '-')}.json`);
  const args = ['run', '--reporter=dot', '--reporter=json', `--outputFile.json=${file}`, ...folders];
  addUnit(count, file, runLoud(bin('vitest'), args, { TZ: zone }));
}

/** Runs a program with its output shown. @returns whether it ended well */
function runLoud(command, args, env = {}) {
  const { status, error } = spawnSync(command, args, {
    cwd: ROOT,
    stdio: ['ignore', 'inherit', 'inherit'],
    env: { ...process.env, ...env }
  });
  if (error) throw error;
  return status === 0;
}

/** A runner that ended badly without a failed test, or without a report, counts as one failure. */
function addUnit(count, file, passed) {
  const report = existsSync(file)
    ? JSON.parse(readFileSync(file, 'utf8'))
    : { numPassedTests: 0, numFailedTests: 0 };
  count.passed += report.numPassedTests;
  count.failed += report.numFailedTests || (passed ? 0 : 1);
}

function addBrowser(count, file, passed) {
  const stats = existsSync(file)
    ? JSON.parse(readFileSync(file, 'utf8')).stats
    : { expected: 0, unexpected: 0, flaky: 0, skipped: 0 };
  count.passed += stats.expected;
  count.failed += stats.unexpected + stats.flaky + stats.skipped || (passed ? 0 : 1);
}

try {
  process.exitCode = test() ? 0 : 1;
} catch (error) {
  say(`${error.message}\n0 passed, 1 failed`);
  process.exitCode = 1;
}
