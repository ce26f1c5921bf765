import { execFileSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { dirname, join, posix, resolve } from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';

/** The law of imports is held against breaches of it, in a house of its own: each law must name the one that breaks it. */
const CONFIG = resolve('.dependency-cruiser.cjs');
const S = 'src/lib/server';

/** Who breaks a law, by importing whom. */
const BREACHES: Readonly<Record<string, readonly [from: string, to: string]>> = {
  'core-is-pure': ['src/lib/core/rule/breach.ts', `${S}/store/target.ts`],
  view: ['src/lib/view/breach.ts', `${S}/store/target.ts`],
  worker: ['src/lib/worker/breach.ts', `${S}/store/target.ts`],
  ui: ['src/lib/ui/task/breach.ts', `${S}/store/target.ts`],
  input: [`${S}/input/breach.ts`, `${S}/task/target.ts`],
  db: [`${S}/db/breach.ts`, `${S}/store/target.ts`],
  store: [`${S}/store/breach.ts`, `${S}/engine/target.ts`],
  engine: [`${S}/engine/breach.ts`, `${S}/task/target.ts`],
  channel: [`${S}/channel/breach.ts`, `${S}/store/target.ts`],
  auth: [`${S}/auth/breach.ts`, `${S}/person/target.ts`],
  schema: [`${S}/task/schema.ts`, `${S}/store/target.ts`],
  files: [`${S}/in-out/read/breach.ts`, `${S}/engine/target.ts`],
  subject: [`${S}/task/breach.ts`, `${S}/threads/target.ts`],
  tryout: [`${S}/tryout/breach.ts`, `${S}/store/target.ts`],
  threads: [`${S}/threads/breach.ts`, `${S}/web/target.ts`],
  web: [`${S}/web/breach.ts`, `${S}/engine/target.ts`],
  routes: ['src/routes/breach.ts', `${S}/store/target.ts`],
  hooks: ['src/hooks.breach.ts', `${S}/store/target.ts`],
  'wired-once': [`${S}/rule/breach.ts`, `${S}/wiring/life.ts`],
  cli: ['src/cli/breach.ts', `${S}/store/target.ts`],
  demo: ['demo/breach.ts', `${S}/store/target.ts`],
  standin: ['standin/breach.ts', 'src/lib/core/target.ts'],
  'nobody-imports': ['src/lib/view/other.ts', 'demo/target.ts']
};

interface Violation {
  from: string;
  rule: { name: string };
}
let house: string;
let found: Violation[];

function write(file: string, text: string): void {
  mkdirSync(join(house, dirname(file)), { recursive: true });
  writeFileSync(join(house, file), text);
}

beforeAll(() => {
  house = mkdtempSync(join(tmpdir(), 'early-bell-law-'));
  write('package.json', '{ "type": "module" }');
  write('tsconfig.json', '{ "compilerOptions": { "module": "esnext", "moduleResolution": "bundler" } }');
  write('tsconfig.law.json', '{ "extends": "./tsconfig.json" }');
  for (const [from, to] of Object.values(BREACHES)) {
    write(to, 'export const target = 1;\n');
    const path = posix.relative(posix.dirname(from), to);
    write(
      from,
      `import { target } from '${path.startsWith('.') ? path : `./${path}`}';\nexport const used = target;\n`
    );
  }
  write(
    'src/lib/core/packages.ts',
    "import { readFileSync } from 'node:fs';\nexport const read = readFileSync;\n"
  );
  write('src/lib/core/one.ts', "import type { Two } from './two.ts';\nexport type One = Two | null;\n");
  write('src/lib/core/two.ts', "import type { One } from './one.ts';\nexport type Two = { one: One };\n");
  const args = [
    resolve('node_modules', '.bin', 'depcruise'),
    ...['--config', CONFIG, '--output-type', 'json', 'src', 'demo', 'standin']
  ];
  // It ends with another code where a law is broken, which is what is wanted.
  let out: string;
  try {
    out = execFileSync(process.execPath, args, { cwd: house, encoding: 'utf8', maxBuffer: 2 ** 26 });
  } catch (failure) {
    out = (failure as { stdout: string }).stdout;
  }
  found = (JSON.parse(out) as { summary: { violations: Violation[] } }).summary.violations;
}, 120_000);
afterAll(() => rmSync(house, { recursive: true, force: true }));

const brokenBy = (file: string) => found.filter(({ from }) => from === file).map(({ rule }) => rule.name);

it.each(Object.entries(BREACHES))('“%s” is a law', (law, [from]) => {
  expect(brokenBy(from)).toContain(law);
});

it('the core asks no package and nothing of the machine', () => {
  expect(brokenBy('src/lib/core/packages.ts')).toContain('core-packages');
});

it('nothing goes round, not even in types', () => {
  expect(brokenBy('src/lib/core/one.ts')).toContain('no-cycles');
});

it('every law has its breach here', () => {
  const { forbidden } = createRequire(import.meta.url)(CONFIG) as { forbidden: { name: string }[] };
  const tried = [...Object.keys(BREACHES), 'core-packages', 'no-cycles'];
  expect(forbidden.map(({ name }) => name).sort()).toEqual(tried.sort());
});
