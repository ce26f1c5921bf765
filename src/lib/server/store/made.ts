import type { Db } from '../db/open.ts';
import type { ChangeWriter, RecordedTable } from './changes.ts';
import { PARTS, type UndoneRow } from './facets.ts';

/** Rows that changes made: very many of them go again in a few statements, each with its record. */
export class MadeStore {
  readonly #db: Db;
  readonly #tables = new Map<RecordedTable, Statements>();
  readonly #record;

  constructor(db: Db) {
    this.#db = db;
    this.#record = db.prepare<[{ by: number; changeId: number; table: string; ids: string }]>(
      `INSERT INTO change_row (change_id, table_name, row_id, before, after)
       SELECT @by, table_name, row_id, after, NULL FROM change_row
       WHERE change_id = @changeId AND table_name = @table AND row_id IN (SELECT value FROM json_each(@ids)) ORDER BY id DESC`
    );
  }

  /**
   * What a change made, and what stands as it was made, goes again together. What hangs on a row goes before it; what something that came later
   * hangs on is left.
   * @param rows everything that is taken back, the last first
   * @returns the rows that are looked at one by one
   */
  revert<R extends UndoneRow>(rows: readonly R[], writer: ChangeWriter): R[] {
    const times = new Map<string, number>();
    for (const row of rows) times.set(keyOf(row), (times.get(keyOf(row)) ?? 0) + 1);
    // What was made last hangs on what was made before it: the kind that was begun with goes last.
    const kinds = new Map<string, R[]>();
    for (const row of rows.toReversed()) {
      if (row.before !== null || times.get(keyOf(row)) !== 1) continue;
      const kind = `${row.changeId} ${row.table}`;
      const same = kinds.get(kind);
      if (same) same.push(row);
      else kinds.set(kind, [row]);
    }
    const standing = new Map<string, Set<number>>();
    const stands = (changeId: number, table: RecordedTable, id: number) => {
      const kind = `${changeId} ${table}`;
      let ids = standing.get(kind);
      if (!ids) standing.set(kind, (ids = this.#of(table).standing(changeId)));
      return ids.has(id);
    };
    const done = new Set<R>();
    for (const made of [...kinds.values()].reverse()) {
      const { table, changeId } = made[0]!;
      // What belongs to a task stays with one that stays.
      const goes = made.filter(
        ({ rowId, after }) =>
          stands(changeId, table, rowId) &&
          (!PARTS.has(table) || stands(changeId, 'task', Number(after!.task_id)))
      );
      const ids = goes.map(({ rowId }) => rowId);
      if (!this.#remove(table, ids)) continue;
      this.#record.run({ by: writer.id, changeId, table, ids: JSON.stringify(ids) });
      for (const row of goes.toReversed()) {
        writer.written.push({ table, rowId: row.rowId, kind: 'remove', columns: [], row: row.after! });
        done.add(row);
      }
    }
    return rows.filter((row) => !done.has(row));
  }

  /** @returns whether they are gone; none of them is where something else hangs on one */
  #remove(table: RecordedTable, ids: readonly number[]): boolean {
    if (ids.length === 0) return false;
    try {
      this.#of(table).remove(ids);
      return true;
    } catch (failure) {
      if ((failure as { code?: string }).code !== 'SQLITE_CONSTRAINT_FOREIGNKEY') throw failure;
      return false;
    }
  }

  #of(table: RecordedTable): Statements {
    let known = this.#tables.get(table);
    if (!known) this.#tables.set(table, (known = prepare(this.#db, table)));
    return known;
  }
}

interface Statements {
  /** Rows that a change made and that stand as it made them. A number with a fraction may be written in two ways: such a row is looked at by itself. */
  standing(changeId: number): Set<number>;
  remove(ids: readonly number[]): void;
}

function prepare(db: Db, table: RecordedTable): Statements {
  const columns = db.pragma(`table_info(${table})`) as { name: string }[];
  const row = columns.map(({ name }) => `'${name}', t.${name}`).join(', ');
  const standing = db.prepare<[number, string], { id: number }>(
    `SELECT t.id FROM change_row r JOIN ${table} t ON t.id = r.row_id
     WHERE r.change_id = ? AND r.table_name = ? AND r.before IS NULL AND r.after = json_object(${row})`
  );
  const remove = db.prepare<[string]>(`DELETE FROM ${table} WHERE id IN (SELECT value FROM json_each(?))`);
  return {
    standing: (changeId) => new Set(standing.all(changeId, table).map(({ id }) => id)),
    remove: (ids) => void remove.run(JSON.stringify(ids))
  };
}

function keyOf({ table, rowId }: UndoneRow): string {
  return `${table} ${rowId}`;
}
