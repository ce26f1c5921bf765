import Database from 'better-sqlite3';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ServerLife, type StandInPlaces } from '../../tests/crash/server-life.ts';
import { layOutClosed } from '../closed-tasks.ts';
// @ts-expect-error plain scripts that start the application
import { startStandIn } from '../serve.mjs';
// @ts-expect-error as above
import { ensureBuild } from '../setup.mjs';
import type { Figure } from './measure.ts';

const SWEPT = 50_000;
const NOW = Date.parse('2026-03-05T08:00:00Z');
const PAGES = ['/tasks', '/', '/rules', '/tasks/17', '/people'];
const PAGE_EVERY_MS = 100;
const LONGEST_MS = 120_000;

/** Fifty thousand of a hundred thousand tasks are archived by one sweep and brought back, over the built server, while somebody reads pages. */
export async function benchSweep(): Promise<Figure[]> {
  await (ensureBuild as () => Promise<void>)();
  const folder = mkdtempSync(join(tmpdir(), 'early-bell-sweep-'));
  const standIn = await (
    startStandIn as (dir: string) => Promise<StandInPlaces & { child: { kill(): void } }>
  )(join(folder, 'stand-ins'));
  await layOutClosed(folder, NOW, { tasks: SWEPT * 2, closed: SWEPT, people: 200, projects: 40 });
  const server = await ServerLife.over(folder, standIn);
  const db = new Database(join(folder, 'early-bell.sqlite'), { readonly: true });
  const state = db.prepare<[], string>('SELECT state FROM sweep_run ORDER BY id DESC LIMIT 1').pluck();
  /** Reads pages until the run stands so. @returns what it took, and how long pages did */
  const until = async (wanted: string) => {
    const began = performance.now();
    const ms: number[] = [];
    while (state.get() !== wanted && performance.now() - began < LONGEST_MS)
      for (const page of PAGES) {
        const asked = performance.now();
        await server.read(page);
        const took = performance.now() - asked;
        ms.push(took);
        if (state.get() === wanted) break;
        await new Promise((resolve) => setTimeout(resolve, Math.max(0, PAGE_EVERY_MS - took)));
      }
    const seconds = (performance.now() - began) / 1_000;
    ms.sort((a, b) => a - b);
    const at = (part: number) => ms[Math.floor(part * (ms.length - 1))]!.toFixed(0);
    return `${seconds.toFixed(1)} s; ${ms.length} pages, ten a second, median ${at(0.5)} ms, p95 ${at(0.95)} ms, longest ${at(1)} ms`;
  };
  try {
    await server.start();
    await server.signIn(1);
    for (const page of PAGES) await server.read(page);
    await server.submit('/sweeps/1?/look', {});
    const looked = await until('ready');
    await server.submit('/sweeps/runs/1?/run', { meant: 'yes' });
    const swept = await until('done');
    const count = db
      .prepare(`SELECT count(*) FROM task WHERE set_aside = 'archived'`)
      .pluck()
      .get() as number;
    await server.submit('/sweeps/runs/1?/undo', {});
    const undone = await until('undone');
    const what = (words: string) => `${words} 50,000 of 100,000 tasks while pages are read`;
    return [
      { what: what('the list of a sweep of'), ours: looked, peer: null, ratio: null },
      {
        what: what(`a sweep that archives (${count.toLocaleString('en')} in the archive then)`),
        ours: swept,
        peer: null,
        ratio: null
      },
      { what: what('its undo, of'), ours: undone, peer: null, ratio: null }
    ];
  } finally {
    db.close();
    await server.stop();
    standIn.child.kill();
    rmSync(folder, { recursive: true, force: true });
  }
}
