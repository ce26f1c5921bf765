import Database from 'better-sqlite3';
import { basename, dirname } from 'node:path';
import { migrate } from './migrate.ts';
import { keepForOneself } from './own-files.ts';

export type Db = Database.Database;

/**
 * Opens the workspace database, brings it to the newest migration and returns the one connection that writes.
 * @param file path, or `:memory:`
 * @param onStatement hears of each statement before it runs, and may keep it from running by throwing: tests try what happens then
 * @throws CodedError `database-before`, `database-newer` or `database-changed`
 */
export function openDatabase(file: string, onStatement?: (sql: string) => void): Db {
  if (file !== ':memory:') keepForOneself(dirname(file), basename(file));
  const db = new Database(file, onStatement ? { verbose: (sql) => onStatement(String(sql)) } : {});
  db.pragma('journal_mode = WAL');
  db.pragma('foreign_keys = ON');
  // Whoever waits for the database waits with the whole process: what is asked for waits before that, and the engine tries again.
  db.pragma('busy_timeout = 100');
  db.pragma('trusted_schema = OFF');
  // What was sent must still be known after the machine lost power.
  db.pragma('synchronous = FULL');
  // What is written again and again, indexes above all, goes into the file once for every 16 MB of the log, not for every 4.
  db.pragma('wal_autocheckpoint = 4000');
  migrate(db, file);
  return db;
}

/** A copy of a workspace in a file of its own, to write very much into it. It is thrown away or taken over: nothing of it must outlive the power. */
export function openFileCopy(file: string): Db {
  const db = new Database(file);
  db.pragma('journal_mode = MEMORY');
  db.pragma('synchronous = OFF');
  db.pragma('foreign_keys = ON');
  db.pragma('trusted_schema = OFF');
  // What very many rows change at all ends of the indexes stays at hand until all are written.
  db.pragma('cache_size = -32000');
  return db;
}

/** A copy of a whole workspace in memory, to try something on. Nothing that is done to it reaches the file. */
export function openCopy(db: Db): Db {
  const bytes = db.serialize();
  // A database in memory has no write-ahead log. The two bytes that say how a file is written and read are 1 without one
  // (SQLite, "Database File Format", 1.3.3 File format version numbers).
  bytes.fill(1, 18, 20);
  const copy = new Database(bytes);
  copy.pragma('trusted_schema = OFF');
  // What is put back row by row stands for a while without what it names.
  copy.pragma('foreign_keys = OFF');
  return copy;
}
