import Database from 'better-sqlite3';
import { mkdirSync } from 'node:fs';
import { dirname } from 'node:path';
import { migrate } from './migrate.ts';

export type Db = Database.Database;

/**
 * Opens the workspace database, brings it to the newest migration and returns the one connection that writes.
 * @param file path, or `:memory:`
 * @throws CodedError `database-newer` or `database-changed`
 */
export function openDatabase(file: string): Db {
  if (file !== ':memory:') mkdirSync(dirname(file), { recursive: true });
  const db = new Database(file);
  db.pragma('journal_mode = WAL');
  db.pragma('foreign_keys = ON');
  db.pragma('busy_timeout = 5000');
  db.pragma('trusted_schema = OFF');
  // What was sent must still be known after the machine lost power.
  db.pragma('synchronous = FULL');
  migrate(db);
  return db;
}
