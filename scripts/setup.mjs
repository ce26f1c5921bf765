// Everything a fresh machine needs, each step only when it is missing. Plain Node: nothing is installed yet when it starts.
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';

export const ROOT = join(dirname(fileURLToPath(import.meta.url)), '..');
const PACKAGES_STAMP = join(ROOT, 'node_modules', '.early-bell-setup');
const BUILD_STAMP = join(ROOT, 'build', '.sources');
const CHROMIUM_NAMES = ['chromium', 'chromium-browser', 'google-chrome', 'google-chrome-stable'];

/** Installs the packages that package-lock.json names, unless they are there. */
export function ensurePackages() {
  const wanted = hashOf([join(ROOT, 'package-lock.json')]);
  if (existsSync(PACKAGES_STAMP) && readFileSync(PACKAGES_STAMP, 'utf8') === wanted) return;
  say('Installing packages (a few minutes: the database driver is compiled on this machine)…');
  run('npm', ['ci', '--no-fund', '--no-audit']);
  writeFileSync(PACKAGES_STAMP, wanted);
}

/** Builds the application, unless what is built is what the sources say. */
export function ensureBuild() {
  const sources = ['src', 'static'].flatMap((folder) => filesIn(join(ROOT, folder)));
  const configs = ['package-lock.json', 'svelte.config.js', 'vite.config.ts', 'tsconfig.json'].map((file) =>
    join(ROOT, file)
  );
  const wanted = hashOf([...sources.filter((file) => !/\.test\.ts$/.test(file)), ...configs]);
  if (existsSync(BUILD_STAMP) && readFileSync(BUILD_STAMP, 'utf8') === wanted) return;
  say('Building the application…');
  run(process.execPath, [join(ROOT, 'node_modules/vite/bin/vite.js'), 'build', '--logLevel', 'warn']);
  mkdirSync(dirname(BUILD_STAMP), { recursive: true });
  writeFileSync(BUILD_STAMP, wanted);
}

/** The path of a Chromium for the browser tests; installs Debian's where that is possible. */
export function ensureChromium() {
  const found = findChromium();
  if (found) return found;
  if (process.getuid?.() === 0 && onPath('apt-get')) {
    say('Installing Chromium for the browser tests…');
    run('apt-get', ['update', '-qq']);
    run('apt-get', ['install', '-y', '-qq', '--no-install-recommends', 'chromium']);
    const installed = findChromium();
    if (installed) return installed;
  }
  throw new Error(
    'The browser tests need Chromium, and none was found. Install it (on Debian: apt-get install chromium), or set CHROMIUM_PATH to it.'
  );
}

function findChromium() {
  if (process.env.CHROMIUM_PATH) return process.env.CHROMIUM_PATH;
  return CHROMIUM_NAMES.map(onPath).find(Boolean);
}

function onPath(name) {
  const folders = (process.env.PATH ?? '').split(':');
  return folders.map((folder) => join(folder, name)).find((file) => existsSync(file));
}

/** Runs a program with its output shown; throws when it fails. */
export function run(command, args, env = {}) {
  const { status, error } = spawnSync(command, args, {
    cwd: ROOT,
    stdio: ['ignore', 'inherit', 'inherit'],
    env: { ...process.env, ...env }
  });
  if (error) throw error;
  if (status !== 0) throw new Error(`${command} ${args.join(' ')} ended with ${status}.`);
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
  ensurePackages();
  ensureBuild();
  say(`Chromium: ${ensureChromium()}`);
}
