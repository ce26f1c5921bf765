import Database from 'better-sqlite3';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
// @ts-expect-error a plain script
import { freePort } from '../../scripts/serve.mjs';
import { layOutClosed } from '../../scripts/closed-tasks.ts';
import type { SweepDefinition } from '../../src/lib/core/sweep/model.ts';
import { START } from './points.ts';
import { ServerLife } from './server-life.ts';

const TASKS = 12_000;
const LONGEST_MS = 60_000;

/** How a sweep stands in the database. */
export interface SweepState {
  run: string;
  /** Tasks in the archive, and those that the run says it has done. */
  archived: number;
  done: number;
  /** Tasks whose record says they were archived more often than once. */
  twice: number;
}

/**
 * A sweep of twelve thousand tasks by the built server, killed with SIGKILL half-way and started again.
 * @param when while it archives, or while it is undone
 * @returns how it stood when it was killed, and how it ended after the next start
 */
export async function killSweep(
  cutOff: SweepDefinition['cutOff'],
  when: 'running' | 'undoing'
): Promise<{ killed: SweepState; ended: SweepState; tasks: number }> {
  const folder = mkdtempSync(join(tmpdir(), 'early-bell-sweep-'));
  const size = { tasks: TASKS, closed: TASKS, people: 20, projects: 5 };
  await layOutClosed(folder, START, size, cutOff);
  // Nothing is listened to there: what is told of the sweep waits for its next attempt.
  const nowhere = 'http://127.0.0.1:1';
  const server = await ServerLife.over(folder, {
    ...{ smtpPort: 1, httpPort: 1, returnPort: (await freePort()) as number },
    ...{ text: nowhere, textToken: 'token', chat: nowhere, chatHook: nowhere }
  });
  const db = new Database(join(folder, 'early-bell.sqlite'), { readonly: true });
  const half = when === 'running' ? (done: number) => done > 0 : (done: number) => done < TASKS;
  try {
    await server.start();
    await server.signIn(1);
    await server.submit('/sweeps/1?/look', {});
    await until(db, ({ run }) => run === 'ready');
    await server.submit('/sweeps/runs/1?/run', { meant: 'yes' });
    if (when === 'undoing') {
      await until(db, ({ run }) => run === 'done');
      await server.submit('/sweeps/runs/1?/undo', {});
    }
    await until(db, ({ run, done }) => run === when && half(done));
    await server.kill();
    const killed = stateOf(db);
    await server.start();
    const last = when === 'undoing' || cutOff === 'undo' ? 'undone' : 'done';
    await until(db, ({ run }) => run === last);
    return { killed, ended: stateOf(db), tasks: TASKS };
  } finally {
    db.close();
    await server.stop();
    rmSync(folder, { recursive: true, force: true });
  }
}

function stateOf(db: Database.Database): SweepState {
  const count = (sql: string) => db.prepare<[], number>(sql).pluck().get()!;
  return {
    run:
      db.prepare<[], string>('SELECT state FROM sweep_run ORDER BY id DESC LIMIT 1').pluck().get() ?? 'none',
    archived: count(`SELECT count(*) FROM task WHERE set_aside = 'archived'`),
    done: count(`SELECT count(*) FROM sweep_row WHERE state = 'done'`),
    twice: count(
      `SELECT count(*) FROM (SELECT 1 FROM change_row r JOIN change c ON c.id = r.change_id
       WHERE r.table_name = 'task' AND c.source = 'sweep' GROUP BY r.row_id HAVING count(*) > 1)`
    )
  };
}

async function until(db: Database.Database, isSo: (state: SweepState) => boolean): Promise<void> {
  const latest = Date.now() + LONGEST_MS;
  while (!isSo(stateOf(db))) {
    if (Date.now() > latest) throw new Error(`The sweep stands still: ${JSON.stringify(stateOf(db))}.`);
    await new Promise((resolve) => setTimeout(resolve, 2));
  }
}
