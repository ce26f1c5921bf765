import Database from 'better-sqlite3';
import { accessSync, closeSync, constants, mkdirSync, openSync, readSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { CodedError } from '../../core/errors.ts';
import { isMachineFault } from './machine-fault.ts';

/** The name of the database in its folder. */
export const DATABASE = 'early-bell.sqlite';

/** How every database of SQLite begins (SQLite, "Database File Format", 1.3.1 Magic Header String). */
const HEADER = 'SQLite format 3\0';

/**
 * Looks at a folder of data before anything is opened or made in it. A file that is there and is no workspace is never taken for a new one.
 * @throws CodedError `data-not-folder`, `data-unusable`, `database-not-file`, `database-empty`, `database-damaged` or `database-foreign`
 */
export function checkDataFolder(dir: string): void {
  const unusable = (failure: unknown) =>
    new CodedError('data-unusable', { folder: dir, code: (failure as { code?: string }).code ?? 'unknown' });
  if (statOf(dir)?.isDirectory() === false) throw new CodedError('data-not-folder', { folder: dir });
  try {
    mkdirSync(dir, { recursive: true, mode: 0o700 });
    accessSync(dir, constants.R_OK | constants.W_OK | constants.X_OK);
  } catch (failure) {
    throw unusable(failure);
  }
  const file = join(dir, DATABASE);
  const found = statOf(file);
  if (!found) return;
  if (!found.isFile()) throw new CodedError('database-not-file', { file });
  if (found.size === 0) throw new CodedError('database-empty', { file });
  try {
    accessSync(file, constants.R_OK | constants.W_OK);
  } catch (failure) {
    throw unusable(failure);
  }
  if (!beginsAsDatabase(file)) throw new CodedError('database-damaged', { file });
  if (!isOurs(file)) throw new CodedError('database-foreign', { file });
}

/** Why a workspace cannot be opened, in a sentence; null where that is a fault of the application. */
export function whyNotOpened(error: unknown, dir: string): string | null {
  if (error instanceof CodedError) return error.message;
  const { code } = error as { code?: string };
  if (code === 'SQLITE_CORRUPT' || code === 'SQLITE_NOTADB')
    return new CodedError('database-damaged', { file: join(dir, DATABASE) }).message;
  if (!isMachineFault(error) && !/^(EACCES|EPERM|EROFS|ENOSPC|EDQUOT|EIO)$/.test(code ?? '')) return null;
  return new CodedError('data-unusable', { folder: dir, code: code! }).message;
}

function statOf(path: string) {
  try {
    return statSync(path, { throwIfNoEntry: false }) ?? null;
  } catch {
    // A part of its way is no folder, or may not be looked into: what is then tried says which.
    return null;
  }
}

function beginsAsDatabase(file: string): boolean {
  const handle = openSync(file, 'r');
  try {
    const head = Buffer.alloc(HEADER.length);
    readSync(handle, head, 0, head.length, 0);
    return head.toString('latin1') === HEADER;
  } finally {
    closeSync(handle);
  }
}

/** One in which nothing stands yet is: a start was cut off before the first migration. */
function isOurs(file: string): boolean {
  const db = new Database(file, { readonly: true });
  try {
    const tables = db
      .prepare<[], string>(`SELECT name FROM sqlite_schema WHERE type = 'table'`)
      .pluck()
      .all();
    return tables.length === 0 || tables.includes('schema_migration');
  } finally {
    db.close();
  }
}
