import { DATABASE } from './data-folder.ts';
import Database from 'better-sqlite3';
import { writeForOneself } from './own-files.ts';
import { copyFileSync, existsSync, mkdirSync, renameSync, rmSync, statSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { CodedError } from '../../core/errors.ts';
import { tryClaim } from './claim.ts';
import { openDatabase } from './open.ts';

/** A demo's clock as it is kept: at `workspaceMs` when the machine's was `machineMs`. */
interface KeptClock {
  workspaceMs: number;
  machineMs: number;
  running: boolean;
}

/** What a backup holds. */
export interface BackupFacts {
  file: string;
  bytes: number;
  tasks: number;
  rules: number;
  /** The moment up to which it knows what rang, workspace clock. */
  until: number;
}

/**
 * Copies a workspace while it runs: page by page, as of one moment, and looked over before it gets its name.
 * @param dir folder of the workspace
 * @param file where the backup goes; one that is there is replaced when the new one is sound
 * @throws CodedError `backup-broken`
 */
export async function backUp(dir: string, file: string): Promise<BackupFacts> {
  const source = open(join(dir, DATABASE));
  const unfinished = `${file}.unfinished`;
  try {
    writeForOneself();
    mkdirSync(dirname(file), { recursive: true, mode: 0o700 });
    rmSync(unfinished, { force: true });
    await source.backup(unfinished);
  } finally {
    source.close();
  }
  const copy = new Database(unfinished);
  try {
    // One file, without a log beside it.
    copy.pragma('journal_mode = DELETE');
    const now = Date.now();
    copy
      .prepare(
        `INSERT INTO engine_state (key, value) VALUES ('backed up', ?) ON CONFLICT (key) DO UPDATE SET value = excluded.value`
      )
      .run(JSON.stringify(workspaceNow(copy, now)));
  } finally {
    copy.close();
  }
  const facts = lookOver(unfinished);
  renameSync(unfinished, file);
  return { ...facts, file };
}

/**
 * Puts a backup in the place of a workspace that does not run. What was there stays beside it under another name. At the next start the
 * engine stands still, and somebody says what is done about what should have rung since the backup.
 * @returns the backup, and where the workspace that was there is now; null where there was none
 * @throws CodedError `backup-in-use`, `backup-broken`, or what a database of another version is refused with
 */
export function restore(dir: string, file: string): { facts: BackupFacts; before: string | null } {
  const facts = lookOver(file);
  const claim = tryClaim(dir);
  if (!claim) throw new CodedError('backup-in-use', { dir });
  try {
    const place = join(dir, DATABASE);
    const coming = `${place}.coming`;
    copyFileSync(file, coming);
    const db = openDatabase(coming);
    const until = Date.now();
    const standing = { why: 'restored', since: facts.until, until: workspaceNow(db, until), answer: null };
    db.prepare(
      `INSERT INTO engine_state (key, value) VALUES ('standing', ?) ON CONFLICT (key) DO UPDATE SET value = excluded.value`
    ).run(JSON.stringify(standing));
    db.pragma('journal_mode = DELETE');
    db.close();
    const before = existsSync(place) ? setAside(place) : null;
    renameSync(coming, place);
    return { facts, before };
  } finally {
    claim.release();
  }
}

/** The workspace that is there gets another name; what its log still holds goes with it. */
function setAside(place: string): string {
  const old = new Database(place);
  old.pragma('journal_mode = DELETE');
  old.close();
  const before = place.replace(
    /\.sqlite$/,
    `.before-${new Date().toISOString().replace(/[:.]/g, '')}.sqlite`
  );
  renameSync(place, before);
  return before;
}

/** Whether a file is a sound workspace. @throws CodedError `backup-broken` */
function lookOver(file: string): BackupFacts {
  const db = open(file);
  try {
    const verdict = db.pragma('integrity_check', { simple: true }) as string;
    if (verdict !== 'ok') throw new CodedError('backup-broken', { file, detail: verdict });
    const count = (table: string) =>
      db.prepare<[], { count: number }>(`SELECT count(*) AS count FROM ${table}`).get()!.count;
    const kept = db
      .prepare<[], { value: string }>(`SELECT value FROM engine_state WHERE key = 'backed up'`)
      .get();
    return {
      ...{ file, bytes: statSync(file).size, tasks: count('task'), rules: count('rule') },
      until: kept ? (JSON.parse(kept.value) as number) : statSync(file).mtimeMs
    };
  } catch (failure) {
    if (failure instanceof CodedError) throw failure;
    throw new CodedError('backup-broken', { file, detail: (failure as Error).message });
  } finally {
    db.close();
  }
}

function open(file: string): Database.Database {
  try {
    return new Database(file, { readonly: true, fileMustExist: true });
  } catch (failure) {
    throw new CodedError('backup-broken', { file, detail: (failure as Error).message });
  }
}

/** Where the workspace clock of a database stands at a moment of the machine's. */
function workspaceNow(db: Database.Database, machineNow: number): number {
  const row = db.prepare<[], { value: string }>(`SELECT value FROM engine_state WHERE key = 'clock'`).get();
  const clock = row ? (JSON.parse(row.value) as KeptClock) : null;
  if (!clock) return machineNow;
  return clock.running ? clock.workspaceMs + (machineNow - clock.machineMs) : clock.workspaceMs;
}
