// Everything a fresh machine needs, each step only when it is missing. Plain Node: nothing is installed yet when it starts.
import { spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';

export const ROOT = join(dirname(fileURLToPath(import.meta.url)), '..');
const PACKAGES_STAMP = join(ROOT, 'node_modules', '.early-bell-setup');
/** The package that is compiled on this machine. */
const DRIVER = 'better-sqlite3';
/** Of a line of a terminal. */
const WIDTH = 78;
const NAME_FROM = 'node_modules/'.length;
const WINDOWLESS = 'chromium-headless-shell';
const CHROMIUM_NAMES = ['chromium', 'chromium-browser', 'google-chrome', 'google-chrome-stable'];

/**
 * Installs the packages that package-lock.json names, unless they are there. One of them, the database driver, is compiled on this machine: that
 * keeps one core busy for minutes, so whoever has something to do that needs no database need not wait for it.
 * @returns what ends when the driver is there too; to be awaited before a database is opened
 */
export async function beginPackages() {
  const wanted = hashOf([join(ROOT, 'package-lock.json')]);
  if (existsSync(PACKAGES_STAMP) && readFileSync(PACKAGES_STAMP, 'utf8') === wanted) return async () => {};
  const { packages } = JSON.parse(readFileSync(join(ROOT, 'package-lock.json'), 'utf8'));
  const named = Object.keys(packages).filter(
    (path) => /^node_modules\/(@[^/]+\/)?[^/]+$/.test(path) && !packages[path].optional
  );
  const quietly = ['--no-fund', '--no-audit', '--loglevel=error'];
  await runTelling('Unpacking packages', 'npm', ['ci', '--ignore-scripts', ...quietly], () => {
    const there = named.filter((path) => existsSync(join(ROOT, path, 'package.json'))).length;
    return `${there} of ${named.length}`;
  });
  const made = named.filter((path) => packages[path].hasInstallScript).map((path) => path.slice(NAME_FROM));
  const others = made.filter((name) => name !== DRIVER);
  if (others.length > 0) await runTelling('Setting packages up', 'npm', ['rebuild', ...others, ...quietly]);
  const compiled = runTelling('Compiling the database driver, a few minutes', 'npm', [
    'rebuild',
    DRIVER,
    ...quietly
  ]).then(() => writeFileSync(PACKAGES_STAMP, wanted));
  // Whoever awaits it is told; nobody who fails before that is told of a failure that nobody caught.
  compiled.catch(() => {});
  return () => compiled;
}

/** Installs the packages, the compiled one too. */
export async function ensurePackages() {
  const compiled = await beginPackages();
  await compiled();
}

/** Packages and build; the driver is compiled beside the build. */
export async function ensurePackagesAndBuild() {
  const compiled = await beginPackages();
  await ensureBuild();
  await compiled();
}

/** Builds the application and its parts, unless what is built is what the sources say. */
export async function ensureBuild() {
  const common = ['package-lock.json', 'tsconfig.json'];
  await ensureBuilt(
    'the application',
    { stamp: join(ROOT, 'build', '.sources'), folders: ['src', 'static'] },
    [...common, 'svelte.config.js', 'vite.config.ts'],
    []
  );
  // The application empties the folder in which they stand, so they come after it.
  await ensureBuilt(
    'its parts',
    {
      stamp: join(ROOT, 'build', 'parts', '.sources'),
      folders: ['src', 'standin', 'demo', 'scripts', 'tests/crash', 'tests/support']
    },
    [...common, 'vite.parts.config.ts'],
    ['--config', 'vite.parts.config.ts']
  );
}

async function ensureBuilt(what, { stamp, folders }, configs, args) {
  const sources = folders.flatMap((folder) => filesIn(join(ROOT, folder)));
  const wanted = hashOf([
    ...sources.filter((file) => !/\.test\.ts$/.test(file)),
    ...configs.map((file) => join(ROOT, file))
  ]);
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted) return;
  const vite = join(ROOT, 'node_modules/vite/bin/vite.js');
  await runTelling(`Building ${what}`, process.execPath, [vite, 'build', '--logLevel', 'error', ...args]);
  mkdirSync(dirname(stamp), { recursive: true });
  writeFileSync(stamp, wanted);
}

/**
 * The path of a Chromium for the browser tests. The one without a window costs a quarter less of a processor, so Debian's is installed where that is
 * possible, with the whole one for what the other cannot do; any other serves.
 */
export function ensureChromium() {
  if (process.env.CHROMIUM_PATH) return process.env.CHROMIUM_PATH;
  const isThere = () => onPath(WINDOWLESS) && CHROMIUM_NAMES.some(onPath);
  if (!isThere() && process.getuid?.() === 0 && onPath('apt-get')) {
    say('Installing Chromium for the browser tests…');
    try {
      run('apt-get', ['update', '-qq']);
      run('apt-get', ['install', '-y', '-qq', '--no-install-recommends', WINDOWLESS, 'chromium']);
    } catch (failure) {
      say(failure.message);
    }
  }
  const found = [WINDOWLESS, ...CHROMIUM_NAMES].map(onPath).find(Boolean);
  if (found) return found;
  throw new Error(
    'The browser tests need Chromium, and none was found. Install it (on Debian: apt-get install chromium), or set CHROMIUM_PATH to it.'
  );
}

/** The path of a Chromium that shows notifications of its own, which the one without a window does not. */
export function wholeChromium() {
  return CHROMIUM_NAMES.map(onPath).find(Boolean) ?? ensureChromium();
}

function onPath(name) {
  const folders = (process.env.PATH ?? '').split(':');
  return folders.map((folder) => join(folder, name)).find((file) => existsSync(file));
}

/** Runs a program with its output shown; throws when it fails. */
function run(command, args, env = {}) {
  const { status, error } = spawnSync(command, args, {
    cwd: ROOT,
    stdio: ['ignore', 'inherit', 'inherit'],
    env: { ...process.env, ...env }
  });
  if (error) throw error;
  if (status !== 0) throw new Error(`${command} ${args.join(' ')} ended with ${status}.`);
}

/**
 * Runs a program, and says what it is for, and every few seconds how far it is. What it says itself is shown when it fails.
 * @throws Error when it fails
 */
async function runTelling(what, command, args, howFar = () => '') {
  const began = Date.now();
  const seconds = () => Math.round((Date.now() - began) / 1000);
  const child = spawn(command, args, { cwd: ROOT, stdio: ['ignore', 'pipe', 'pipe'] });
  let output = '';
  for (const stream of [child.stdout, child.stderr]) stream.on('data', (chunk) => (output += chunk));
  say(`${what}…`);
  const untold = telling(() => `${seconds()} s ${[what, howFar()].filter(Boolean).join(', ')}`);
  const status = await new Promise((resolve, reject) => {
    child.once('error', reject);
    child.once('close', resolve);
  }).finally(untold);
  const end = `${what}: ${status === 0 ? 'done' : 'FAILED'} in ${seconds()} s`;
  say(process.stdout.isTTY ? `\r${end.padEnd(WIDTH)}` : end);
  if (status !== 0) throw new Error(`${output}\n${command} ${args.join(' ')} ended with ${status}.`);
}

/** What is under way: told in one line, since several can be. */
const underWay = new Set();
let timer;

function telling(line) {
  underWay.add(line);
  timer ??= setInterval(
    () => {
      const all = `  ${[...underWay].map((told) => told()).join(' · ')}`;
      process.stdout.write(process.stdout.isTTY ? `\r${all.slice(0, WIDTH).padEnd(WIDTH)}` : `${all}\n`);
    },
    process.stdout.isTTY ? 1_000 : 15_000
  );
  return () => {
    underWay.delete(line);
    if (underWay.size > 0) return;
    clearInterval(timer);
    timer = undefined;
  };
}

export function say(text) {
  process.stdout.write(`${text}\n`);
}

function filesIn(folder) {
  return readdirSync(folder)
    .sort()
    .flatMap((name) => {
      const path = join(folder, name);
      return statSync(path).isDirectory() ? filesIn(path) : [path];
    });
}

function hashOf(files) {
  const hash = createHash('sha256');
  for (const file of files)
    hash.update(file.slice(ROOT.length)).update('\0').update(readFileSync(file)).update('\0');
  return hash.digest('hex');
}

if (import.meta.url === pathToFileURL(process.argv[1] ?? '').href) {
  await ensurePackagesAndBuild();
  say(`Chromium: ${ensureChromium()}`);
}
