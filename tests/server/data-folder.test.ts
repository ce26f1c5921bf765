import Database from 'better-sqlite3';
import { mkdirSync, mkdtempSync, readdirSync, rmSync, truncateSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { checkDataFolder, DATABASE, whyNotOpened } from '../../src/lib/server/db/data-folder.ts';
import { openDatabase } from '../../src/lib/server/db/open.ts';

/** A folder of data that is none is refused in words, before anything is made or changed in it. */
let folder: string;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'early-bell-data-'));
});
afterEach(() => rmSync(folder, { recursive: true }));

const file = () => join(folder, DATABASE);
const code = (expected: string) => expect.objectContaining({ code: expected }) as Error;
const refused = (expected: string) => {
  const before = readdirSync(folder);
  expect(() => checkDataFolder(folder)).toThrow(code(expected));
  expect(readdirSync(folder)).toEqual(before);
};

describe('a folder of data', () => {
  it('is good where it is new, or holds a workspace', () => {
    checkDataFolder(folder);
    checkDataFolder(join(folder, 'of', 'its', 'own'));
    openDatabase(file()).close();
    checkDataFolder(folder);
  });

  it('is refused where something else stands in its place, or in that of the database', () => {
    writeFileSync(join(folder, 'file'), 'x');
    expect(() => checkDataFolder(join(folder, 'file'))).toThrow(code('data-not-folder'));
    expect(() => checkDataFolder(join(folder, 'file', 'below'))).toThrow(code('data-unusable'));
    mkdirSync(file());
    refused('database-not-file');
  });

  it('is never taken for a new workspace where its database is empty', () => {
    openDatabase(file()).close();
    truncateSync(file());
    refused('database-empty');
  });

  it('is refused where the database is none, damaged, or of something else', () => {
    writeFileSync(file(), 'This is no database at all, and never was one.');
    refused('database-damaged');
    rmSync(file());
    const other = new Database(file());
    other.exec('CREATE TABLE recipe (name TEXT)');
    other.close();
    refused('database-foreign');
  });
});

describe('what is said of a workspace that cannot be opened', () => {
  const opening = () => {
    try {
      openDatabase(file()).close();
      return null;
    } catch (failure) {
      return whyNotOpened(failure, folder);
    }
  };

  it('is a sentence where it is damaged further in, newer, or lacks a migration', () => {
    openDatabase(file()).close();
    const db = new Database(file());
    db.prepare("INSERT INTO schema_migration VALUES ('9999_of_tomorrow', 'x', 0)").run();
    db.close();
    expect(opening()).toContain('newer version');
    const gap = new Database(file());
    gap.exec("DELETE FROM schema_migration WHERE name IN ('9999_of_tomorrow', '0003_parked_by')");
    gap.close();
    expect(opening()).toContain(
      'Migration 0003_parked_by is missing in the database, but later ones are there. Put a backup in its place.'
    );
    writeFileSync(file(), Buffer.concat([Buffer.from('SQLite format 3\0'), Buffer.alloc(5_000, 7)]));
    expect(opening()).toContain('damaged');
  });

  it('is a sentence where the machine does not let us, and nothing where the fault is ours', () => {
    for (const of of ['EACCES', 'EROFS', 'ENOSPC', 'SQLITE_READONLY', 'SQLITE_CANTOPEN'])
      expect(whyNotOpened(Object.assign(new Error(of), { code: of }), folder)).toContain(of);
    expect(whyNotOpened(new TypeError('a mistake'), folder)).toBeNull();
  });
});
