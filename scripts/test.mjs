// `npm test`: everything, on a fresh machine too. Its last line is the count of what passed and what failed.
//   -- --times   prints where the minutes went: by part, by file, and the slowest tests
import { spawn } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import { parseArgs } from 'node:util';
import { ROOT, beginPackages, ensureBuild, ensureChromium, say } from './setup.mjs';
import { browserTests, sayFailures, sayTimes, unitTests } from './test-report.mjs';

const bin = (name) => join(ROOT, 'node_modules/.bin', name);

const TYPES = 'Types';
/** Checks that pass or fail as a whole. */
const CHECKS = [
  ['Formatting', bin('prettier'), ['--check', '--log-level', 'warn', '.']],
  ['Lint', bin('eslint'), ['.']],
  [TYPES, bin('svelte-check'), ['--tsconfig', './tsconfig.json', '--fail-on-warnings', '--output', 'human']],
  [
    'Import law',
    bin('depcruise'),
    ['--config', '.dependency-cruiser.cjs', 'src', 'standin', 'demo', 'scripts']
  ],
  ['Unused code', bin('knip'), ['--no-progress', '--no-config-hints']]
];
/** What reads a clock, a calendar or a zone: of the core this alone could be changed by the zone of the process. */
const OF_ZONES = [
  ...['time', 'calendar', 'recurrence', 'ring', 'ringtime', 'ladder', 'message'].map(
    (part) => `src/lib/core/${part}/`
  ),
  ...['fixtures', 'rfc5545', 'trade', 'holidays'].map((part) => `tests/reference/${part}`)
];
/** So much of the end of what a check or a runner printed is kept, in characters. */
const MOST_OF_THE_END = 1500;
const OTHER_ZONES = ['America/New_York', 'Pacific/Chatham'];

const count = { passed: 0, failed: 0 };
/** What took how long, in ms. */
const parts = [];
const tests = [];
/** What failed that is no single test: a check, or a runner that ended badly. */
const others = [];

async function test() {
  const { values } = parseArgs({ options: { times: { type: 'boolean', default: false } } });
  const began = Date.now();
  let chromium = '';
  let checked;
  await timed('packages, Chromium, build', async () => {
    const compiled = await beginPackages();
    chromium = ensureChromium();
    await run(bin('svelte-kit'), ['sync']);
    // Compiling, the build and the checks have one thread each, and the tests wait now and then: together they fill two cores.
    const built = ensureBuild();
    checked = timed('static checks, beside the build and the tests', () => check(built));
    await built;
    await compiled();
  });
  const reports = mkdtempSync(join(tmpdir(), 'early-bell-tests-'));

  await timed('tests without a browser', () => runUnit(reports, 'UTC', []));
  await timed(`the same of ${OTHER_ZONES.length} further zones`, () =>
    Promise.all(OTHER_ZONES.map((zone) => runUnit(reports, zone, OF_ZONES)))
  );
  await checked;
  await timed('tests in a browser', () => runBrowser(reports, chromium));
  rmSync(reports, { recursive: true });

  parts.push(['everything', Date.now() - began]);
  if (values.times) sayTimes(parts, tests);
  sayFailures([...tests.filter(({ failed }) => failed !== null), ...others]);
  say(`\n${count.passed} passed, ${count.failed} failed`);
  return count.failed === 0 && count.passed > 0;
}

/** One check after the other; what they say comes together, so that it does not stand between the lines of the tests. */
async function check(built) {
  for (const [name, command, args] of CHECKS) {
    // The build writes the types of the routes anew: who reads them waits for it. That it failed is told by whoever else awaits it.
    if (name === TYPES) await built.catch(() => {});
    const began = Date.now();
    const { passed, output } = await run(command, args, { quiet: true });
    if (passed) count.passed++;
    else failedAsAWhole(name, command, output);
    const seconds = Math.round((Date.now() - began) / 1000);
    say(`\n— ${name}: ${passed ? 'passed' : 'FAILED'} in ${seconds} s${passed ? '' : `\n${output}`}`);
  }
}

/** Runs the tests that need no browser, in a process whose own zone is the given one. */
async function runUnit(reports, zone, folders) {
  say(`\n— Tests without a browser, TZ=${zone}${folders.length > 0 ? ', of what reads a clock' : ''}`);
  const file = join(reports, `unit-${zone.replace('/', '-')}.json`);
  const workers = folders.length > 0 ? ['--maxWorkers=1'] : [];
  const args = [
    'run',
    '--reporter=dot',
    '--reporter=json',
    `--outputFile.json=${file}`,
    ...workers,
    ...folders
  ];
  const { passed, output } = await run(bin('vitest'), args, { env: { TZ: zone } });
  const report = existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')) : null;
  count.passed += report?.numPassedTests ?? 0;
  count.failed += report?.numFailedTests ?? 0;
  if (!passed && !report?.numFailedTests) failedAsAWhole(`Tests, TZ=${zone}`, 'vitest', output);
  if (report) tests.push(...unitTests(report, zone));
}

async function runBrowser(reports, chromium) {
  say('\n— Tests in a browser');
  const file = join(reports, 'browser.json');
  const env = { E2E_REPORT: file, CHROMIUM_PATH: chromium };
  const { passed, output } = await run(bin('playwright'), ['test'], { env });
  const report = existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')) : null;
  const { expected = 0, unexpected = 0, flaky = 0, skipped = 0 } = report?.stats ?? {};
  count.passed += expected;
  const failed = unexpected + flaky + skipped;
  count.failed += failed;
  if (!passed && failed === 0) failedAsAWhole('Tests in a browser', 'playwright', output);
  if (report) tests.push(...browserTests(report));
}

/** A check that failed, or a runner that ended badly without a failed test or without a report: it counts as one. */
function failedAsAWhole(name, command, output) {
  count.failed++;
  others.push({ name, file: basename(command), failed: output.slice(-MOST_OF_THE_END) });
}

async function timed(part, work) {
  const began = Date.now();
  await work();
  parts.push([part, Date.now() - began]);
}

/** Runs a program; what it prints is shown, unless it is to be quiet. @returns whether it ended well, and what it printed */
function run(command, args, { env = {}, quiet = false } = {}) {
  const child = spawn(command, args, {
    cwd: ROOT,
    stdio: ['ignore', 'pipe', 'pipe'],
    env: { ...process.env, ...env }
  });
  let output = '';
  for (const [from, to] of [
    [child.stdout, process.stdout],
    [child.stderr, process.stderr]
  ])
    from.setEncoding('utf8').on('data', (chunk) => {
      output += chunk;
      if (!quiet) to.write(chunk);
    });
  return new Promise((resolve, reject) => {
    child.once('error', reject);
    child.once('close', (status) => resolve({ passed: status === 0, output }));
  });
}

try {
  process.exitCode = (await test()) ? 0 : 1;
} catch (error) {
  say(`${error.message}\n0 passed, 1 failed`);
  process.exitCode = 1;
}
