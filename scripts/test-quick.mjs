// `npm run test:quick`: the core without its longest properties, the tests that were changed, and the neighbours of what was: those that stand
// beside a changed file or import it by name.
import { spawnSync } from 'node:child_process';
import { existsSync, readFileSync, readdirSync, statSync } from 'node:fs';
import { basename, dirname, join, relative, resolve } from 'node:path';
import { ROOT, ensurePackages, say } from './setup.mjs';

/** More than these take longer than a minute: those that were changed themselves come first. */
const MOST = 8;
const isTest = (file) => /\.test\.ts$/.test(file);
/** A property is tried very often, and takes as long. */
const isLong = (file) => /\.property\.test\.ts$|plain-walk|zone\.test|crash\.test|demo\.test/.test(file);

await ensurePackages();
const git = (...args) => spawnSync('git', args, { cwd: ROOT, encoding: 'utf8' }).stdout.split('\n');
const changed = [
  ...new Set([
    ...git('diff', '--name-only', 'HEAD'),
    ...git('ls-files', '--others', '--exclude-standard'),
    ...git('diff', '--name-only', 'HEAD~1', 'HEAD')
  ])
].filter((file) => file && existsSync(join(ROOT, file)));
const tests = ['src', 'standin', 'demo', 'tests/reference', 'tests/server'].flatMap(filesIn).filter(isTest);

const core = tests.filter((file) => file.startsWith('src/lib/core/') && !isLong(file));
const own = tests.filter((file) => !core.includes(file) && changed.includes(file));
const beside = tests.filter((file) => !own.includes(file) && !core.includes(file) && isNeighbour(file));
const short = [...own, ...beside].filter((file) => !isLong(file));
const chosen = [...core, ...short.slice(0, MOST)];
const left = own.length + beside.length - Math.min(short.length, MOST);
say(
  `${chosen.length} of ${tests.length} files: the core, and ${chosen.length - core.length} of what was changed and stands beside it; ${left} of those are left to npm test.`
);
const vitest = join(ROOT, 'node_modules/.bin/vitest');
const { status } = spawnSync(vitest, ['run', '--reporter=dot', ...chosen], { cwd: ROOT, stdio: 'inherit' });
process.exitCode = status ?? 1;

function isNeighbour(test) {
  const folder = dirname(test);
  const imported = [...readFileSync(join(ROOT, test), 'utf8').matchAll(/from '(\.[^']+)'/g)].map(([, path]) =>
    relative(ROOT, resolve(ROOT, folder, path))
  );
  return changed.some(
    (file) =>
      imported.includes(file) ||
      (dirname(file) === folder && !isTest(file)) ||
      basename(test).startsWith(`${basename(file, '.ts')}.`)
  );
}

function filesIn(folder) {
  return readdirSync(join(ROOT, folder)).flatMap((name) => {
    const path = join(folder, name);
    return statSync(join(ROOT, path)).isDirectory() ? filesIn(path) : [path];
  });
}
