import Database from 'better-sqlite3';
import { expect, it } from 'vitest';
import { WideRows } from './wide-rows.ts';

it('gives the rows that the statement alone would give, whatever their columns are called', () => {
  const db = new Database(':memory:');
  db.exec(
    `CREATE TABLE t (id INTEGER PRIMARY KEY, name TEXT, "a ""quoted"" one" REAL, "__proto__ too" TEXT)`
  );
  db.exec(`INSERT INTO t VALUES (1, 'Buoy', 1.5, NULL), (2, NULL, NULL, 'x')`);
  const sql = 'SELECT *, name AS "again", count(*) OVER () AS "of" FROM t WHERE id >= ? ORDER BY id';
  const rows = new WideRows<[number], Record<string, unknown>>(db, sql);
  expect(rows.all(1)).toEqual(db.prepare(sql).all(1));
  expect(rows.get(2)).toEqual(db.prepare(sql).get(2));
  expect(rows.get(3)).toBeUndefined();
  expect(rows.all(3)).toEqual([]);
  db.close();
});
