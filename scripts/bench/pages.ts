import Database from 'better-sqlite3';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { START } from '../../tests/crash/points.ts';
import type { ServerLife } from '../../tests/crash/server-life.ts';
import { openSoak } from '../../tests/soak/open-soak.ts';
// @ts-expect-error a plain script
import { ensureBuild } from '../setup.mjs';
import { withBuiltServer } from './built-server.ts';
import type { Figure } from './measure.ts';
import { fillWithVeryMany, turnOnRules } from './very-many.ts';

const VERY_MANY = 100_000;
const RULES = 5;
const READ = 7;
/** What comes after it looks at all tasks once for each starter: it is read once. */
const READ_ONCE = '/rules/starters';

/** How long each page takes to its first byte, of the built server at rest: with the demo, and with very many tasks. */
export async function benchPages(): Promise<Figure[]> {
  await (ensureBuild as () => Promise<void>)();
  return [
    await inFolder(async (folder) => {
      const { server, close } = await openSoak(folder);
      try {
        return await read('the demo', server, pagesOf(folder));
      } finally {
        await close();
      }
    }),
    await inFolder((folder) =>
      withBuiltServer(
        folder,
        START,
        async (container) => {
          fillWithVeryMany(container, VERY_MANY);
          turnOnRules(container, RULES);
          await container.engine.tick();
        },
        (server) => read(`${VERY_MANY.toLocaleString('en')} tasks`, server, pagesOf(folder))
      )
    )
  ];
}

async function read(what: string, server: ServerLife, pages: readonly string[]): Promise<Figure> {
  const lines: { page: string; median: number; most: number }[] = [];
  // What is read once for all pages is read by the first.
  for (const page of pages) if (page !== READ_ONCE) await server.readTimed(page);
  for (const page of pages) {
    const ms: number[] = [];
    for (let i = 0; i < (page === READ_ONCE ? 1 : READ); i++) {
      const answer = await server.readTimed(page);
      if (answer.status !== 200) throw new Error(`${page} answered ${answer.status}.`);
      ms.push(answer.ms);
    }
    ms.sort((a, b) => a - b);
    lines.push({ page, median: ms[ms.length >> 1]!, most: ms.at(-1)! });
  }
  lines.sort((a, b) => b.median - a.median);
  const ours = lines.map(({ page, median, most }) => `${median.toFixed(0)} (${most.toFixed(0)})  ${page}`);
  return {
    what: `pages to the first byte with ${what}: median and most of ${READ}, ms`,
    ours: ours.join('\n         '),
    peer: null,
    ratio: null
  };
}

/** Each page once; of those of one thing the page of one that is in use. */
function pagesOf(folder: string): string[] {
  const db = new Database(join(folder, 'early-bell.sqlite'), { readonly: true });
  const first = (sql: string) => db.prepare<[], number>(sql).pluck().get();
  const one = (path: string, sql: string) => {
    const id = first(sql);
    return id === undefined ? [] : [path.replace('ID', String(id))];
  };
  const pages = [
    ...['/', '/tasks', '/tasks?view=days', '/tasks?view=columns', '/rules', '/people', '/projects'],
    ...['/outbox', '/journal', '/escalations', '/digests', '/sweeps', '/settings', '/healthz', '/bell/next'],
    ...one(
      '/tasks/ID',
      'SELECT id FROM task WHERE set_aside IS NULL AND finished_at IS NULL AND due_date IS NOT NULL LIMIT 1'
    ),
    ...one('/rules/ID', `SELECT id FROM rule WHERE state = 'on' AND kind = 'rule' LIMIT 1`),
    ...one('/rules/ID/runs', `SELECT id FROM rule WHERE state = 'on' AND kind = 'rule' LIMIT 1`),
    ...one(
      '/people/ID',
      'SELECT owner_id FROM task WHERE owner_id IS NOT NULL GROUP BY 1 ORDER BY count(*) DESC LIMIT 1'
    ),
    ...one(
      '/projects/ID',
      'SELECT project_id FROM task WHERE project_id IS NOT NULL GROUP BY 1 ORDER BY count(*) DESC LIMIT 1'
    ),
    ...one('/changes/ID', 'SELECT change_id FROM change_row GROUP BY 1 ORDER BY count(*) DESC LIMIT 1'),
    ...one('/digests/ID', 'SELECT id FROM digest LIMIT 1'),
    ...one('/sweeps/ID', 'SELECT id FROM sweep LIMIT 1')
  ];
  db.close();
  return [...pages, READ_ONCE];
}

async function inFolder<T>(work: (folder: string) => Promise<T>): Promise<T> {
  const folder = mkdtempSync(join(tmpdir(), 'early-bell-pages-'));
  try {
    return await work(folder);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}
