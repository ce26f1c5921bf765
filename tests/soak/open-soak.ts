import Database from 'better-sqlite3';
import { join } from 'node:path';
// @ts-expect-error plain scripts that start the application for people and for tests alike
import { layOutDemo } from '../../scripts/serve.mjs';
import { START } from '../crash/points.ts';
import { ServerLife } from '../crash/server-life.ts';
import { StandIns } from '../crash/stand-ins.ts';

/** The built server over the demo, laid out in a folder, with somebody signed in. */
export async function openSoak(folder: string) {
  const standIns = await StandIns.open();
  const server = await ServerLife.over(folder, standIns.places);
  const demo = {
    data: folder,
    at: new Date(START).toISOString(),
    standIn: standIns.places,
    origin: server.origin
  };
  await (layOutDemo as (demo: object) => Promise<void>)(demo);
  const db = new Database(join(folder, 'early-bell.sqlite'), { readonly: true });
  const taskIds = db
    .prepare<[], number>('SELECT id FROM task WHERE set_aside IS NULL ORDER BY id LIMIT 100')
    .pluck()
    .all();
  const administrator = db
    .prepare<[], number>(`SELECT id FROM person WHERE role = 'administrator' LIMIT 1`)
    .pluck()
    .get()!;
  db.close();
  await server.start();
  await server.signIn(administrator);
  return {
    server,
    with: { taskIds, from: START },
    async close() {
      await server.stop();
      await standIns.close();
    }
  };
}

/** @param sorted in order */
export function quantile(sorted: readonly number[], q: number): number {
  return Math.round(sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * q))] ?? 0);
}
