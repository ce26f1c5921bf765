import Database from 'better-sqlite3';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { ServerLife } from '../../tests/crash/server-life.ts';
import type { Container } from '../../src/lib/server/container.ts';
import { fillWorkspace } from '../many-tasks.ts';
// @ts-expect-error a plain script
import { ensureBuild } from '../setup.mjs';
import { withBuiltServer } from './built-server.ts';
import type { Figure } from './measure.ts';

const ROWS = 100_000;
const NOW = Date.parse('2026-03-05T08:00:00Z');
const PAGES = ['/tasks', '/', '/rules', '/tasks/17', '/people', '/healthz'];
const PAGE_EVERY_MS = 100;

/** A file of a hundred thousand rows is read, checked and written by the built server, while somebody reads pages. */
export async function benchImport(): Promise<Figure[]> {
  await (ensureBuild as () => Promise<void>)();
  const folder = mkdtempSync(join(tmpdir(), 'early-bell-import-'));
  const fill = (container: Container) =>
    fillWorkspace(container, { tasks: 1_000, people: 200, projects: 40 });
  try {
    return await withBuiltServer(folder, NOW, fill, (server) => measure(server, folder));
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

async function measure(server: ServerLife, folder: string): Promise<Figure[]> {
  for (const page of PAGES) await server.read(page);
  let token: string | null = null;
  const read = await meanwhile(server, async () => (token = await server.upload(sheet())));
  const looked = await meanwhile(server, () => server.read(`/tasks/import/${token}`));
  const written = await meanwhile(server, () => server.act(`/tasks/import/${token}?/import`));
  const changeId = lastChange(folder);
  const opened = await meanwhile(server, () => server.read(`/changes/${changeId}`));
  const undone = await meanwhile(server, () => server.send('/undo', { changeId }));
  const what = (words: string) => `${words} 100,000 rows while pages are read`;
  return [
    { what: what('the reading of'), ours: read, peer: null, ratio: null },
    { what: what('the check of'), ours: looked, peer: null, ratio: null },
    { what: what('the check and the writing of'), ours: written, peer: null, ratio: null },
    { what: what('the change opened that wrote'), ours: opened, peer: null, ratio: null },
    { what: what('the taking back of'), ours: undone, peer: null, ratio: null }
  ];
}

function lastChange(folder: string): number {
  const db = new Database(join(folder, 'early-bell.sqlite'), { readonly: true });
  try {
    return db.prepare<[], number>(`SELECT max(id) FROM change WHERE source = 'import'`).pluck().get()!;
  } finally {
    db.close();
  }
}

/** Reads pages until something is done. @returns what it took, how long pages did, and how much memory there was */
async function meanwhile(server: ServerLife, work: () => Promise<unknown>): Promise<string> {
  const began = performance.now();
  const ms: number[] = [];
  let memory = 0;
  let refused = 0;
  let isDone = false;
  const done = work().then(() => (isDone = true));
  while (!isDone)
    for (const page of PAGES) {
      const asked = performance.now();
      const first = await server.readTimed(page);
      if (first.status !== 200) refused++;
      ms.push(first.ms);
      const took = performance.now() - asked;
      memory = Math.max(memory, memoryOf(server.pid));
      if (isDone) break;
      await new Promise((resolve) => setTimeout(resolve, Math.max(0, PAGE_EVERY_MS - took)));
    }
  await done;
  const seconds = (performance.now() - began) / 1_000;
  ms.sort((a, b) => a - b);
  const at = (part: number) => ms[Math.floor(part * (ms.length - 1))]!.toFixed(0);
  return `${seconds.toFixed(1)} s, ${memory} MB at most; ${ms.length} pages, to the first byte median ${at(0.5)} ms, p95 ${at(0.95)} ms, longest ${at(1)} ms, ${refused} refused`;
}

function memoryOf(pid: number): number {
  return Math.round(Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))![1]) / 1_024);
}

function sheet(): string {
  const pad = (n: number) => String(n).padStart(2, '0');
  const rows = Array.from(
    { length: ROWS },
    (_, i) =>
      `Read the logger ${i},Person ${i % 200},Project ${i % 40},2026-${pad(3 + (i % 9))}-${pad(1 + (i % 28))},high,"a, b${i % 5}"`
  );
  return `Task,Owner,Project,Due,Priority,Tags\n${rows.join('\n')}\n`;
}
