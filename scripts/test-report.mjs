// What `npm test` says at its end: what failed, and where the minutes went.
import { relative } from 'node:path';
import { ROOT, say } from './setup.mjs';

const SLOWEST = 10;
const MOST_FILES = 25;
/** So much of what went wrong is said again at the end: of a long run often only the end is kept. */
const MOST_SAID = 1500;

/** The tests of a report of the runner without a browser, with what each took in ms, and of those that failed why. */
export function unitTests({ testResults }, zone) {
  return testResults.flatMap(({ name, assertionResults }) =>
    assertionResults.map(({ fullName, duration, status, failureMessages }) => ({
      file: `${relative(ROOT, name)}${zone === 'UTC' ? '' : `, ${zone}`}`,
      name: fullName,
      ms: duration ?? 0,
      failed: status === 'failed' ? (failureMessages ?? []).join('\n') : null
    }))
  );
}

/** The same of the runner with a browser. */
export function browserTests({ suites }) {
  const of = (suite, file) => [
    ...(suite.suites ?? []).flatMap((inner) => of(inner, file)),
    ...(suite.specs ?? []).map((spec) => {
      const results = spec.tests.flatMap((test) => test.results);
      return {
        file: `tests/e2e/${file}`,
        name: spec.title,
        ms: results.reduce((sum, { duration }) => sum + duration, 0),
        failed: spec.tests.every(({ status }) => status === 'expected')
          ? null
          : results.flatMap(({ errors }) => errors.map(saidBy)).join('\n')
      };
    })
  ];
  return suites.flatMap((suite) => of(suite, suite.file));
}

const saidBy = ({ message }) => message ?? '';

/** Says again what failed and why. */
export function sayFailures(failures) {
  for (const { name, file, failed } of failures)
    say(`\nFAILED  ${name} (${file})\n${failed.slice(0, MOST_SAID)}`);
}

/** Prints where the minutes went: by part, by file, and the slowest tests. */
export function sayTimes(parts, tests) {
  say('\nBy part');
  for (const [part, ms] of parts) line(ms, part);
  const files = new Map();
  for (const { file, ms } of tests) files.set(file, (files.get(file) ?? 0) + ms);
  const ordered = [...files].sort((a, b) => b[1] - a[1]);
  say(`\nBy file, the ${Math.min(MOST_FILES, ordered.length)} slowest of ${ordered.length}`);
  for (const [file, ms] of ordered.slice(0, MOST_FILES)) line(ms, file);
  say(`\nThe ${SLOWEST} slowest tests`);
  const slowest = [...tests].sort((a, b) => b.ms - a.ms).slice(0, SLOWEST);
  for (const { name, file, ms } of slowest) line(ms, `${name} (${file})`);
}

function line(ms, what) {
  say(`${(ms / 1000).toFixed(0).padStart(6)} s  ${what}`);
}
