import Database from 'better-sqlite3';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, expect, it } from 'vitest';
import { openDatabase, type Db } from '../../src/lib/server/db/open.ts';
import { UnitOfWork } from '../../src/lib/server/db/unit-of-work.ts';
import { untilWritable } from '../../src/lib/server/db/until-writable.ts';

/** Another process has the database: whoever wants to write waits, and nobody else does. */
let folder: string;
let db: Db;
let work: UnitOfWork;
let other: Database.Database;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'early-bell-held-'));
  db = openDatabase(join(folder, 'early-bell.sqlite'));
  work = new UnitOfWork(db, () => {});
  other = new Database(join(folder, 'early-bell.sqlite'));
});
afterEach(() => {
  other.close();
  db.close();
  rmSync(folder, { recursive: true });
});

it('a write waits until it is let go of, while reads and everything else go on', async () => {
  other.exec('BEGIN IMMEDIATE');
  let turns = 0;
  const turning = setInterval(() => turns++, 5);
  const waiting = untilWritable(work, 10_000);
  await expect.poll(() => turns).toBeGreaterThan(20);
  expect(db.prepare('SELECT count(*) FROM task').pluck().get()).toBe(0);
  other.exec('COMMIT');
  expect(await waiting).toBe(true);
  clearInterval(turning);
  db.exec("INSERT INTO project (name) VALUES ('P')");
});

it('and is refused where that takes too long', async () => {
  other.exec('BEGIN IMMEDIATE');
  expect(await untilWritable(work, 120)).toBe(false);
  other.exec('COMMIT');
  expect(await untilWritable(work, 0)).toBe(true);
  // Inside a unit of one's own nobody is waited for.
  expect(work.run(() => work.isFree())).toBe(true);
});
