import type Database from 'better-sqlite3';
import { createHash } from 'node:crypto';
import { dirname } from 'node:path';
import { CodedError } from '../../core/errors.ts';
import { MIGRATIONS } from './migrations.ts';

/** Databases from before the first migrations were made one have this. */
const OF_BEFORE = '0002_people';

/**
 * Applies the migrations that a database lacks, each in one transaction with its log row.
 * @param file where it is, for whoever reads why it is refused
 * @throws CodedError `database-before` when it is of before the first release, `database-newer` when it has one we do not know, `database-changed` when one differs from ours,
 * `database-lacks` when one is missing before others
 */
export function migrate(db: Database.Database, file = ':memory:'): void {
  db.exec(
    'CREATE TABLE IF NOT EXISTS schema_migration (name TEXT PRIMARY KEY, sha256 TEXT NOT NULL, applied_at INTEGER NOT NULL) STRICT'
  );
  const applied = new Map(
    (db.prepare('SELECT name, sha256 FROM schema_migration').all() as { name: string; sha256: string }[]).map(
      ({ name, sha256 }) => [name, sha256]
    )
  );
  if (applied.has(OF_BEFORE)) throw new CodedError('database-before', { folder: dirname(file) });
  for (const name of applied.keys()) {
    if (!MIGRATIONS.some((migration) => migration.name === name))
      throw new CodedError('database-newer', { name });
  }
  const firstMissing = MIGRATIONS.findIndex(({ name }) => !applied.has(name));
  const gap = MIGRATIONS[firstMissing];
  if (gap && MIGRATIONS.slice(firstMissing).some(({ name }) => applied.has(name)))
    throw new CodedError('database-lacks', { name: gap.name });
  const log = db.prepare('INSERT INTO schema_migration (name, sha256, applied_at) VALUES (?, ?, ?)');
  for (const { name, sql } of MIGRATIONS) {
    const sha256 = createHash('sha256').update(sql).digest('hex');
    const known = applied.get(name);
    if (known === sha256) continue;
    if (known !== undefined) throw new CodedError('database-changed', { name });
    db.transaction(() => {
      db.exec(sql);
      log.run(name, sha256, Date.now());
    }).immediate();
  }
}
