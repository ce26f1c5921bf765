import type { Db } from '../db/open.ts';
import type { Row } from '../db/row.ts';
import type { ChangeWriter } from './change-writer.ts';
import { tablesMarked, type RecordedTable } from './recorded-tables.ts';

/** Tasks, and what is made with them in very great numbers. */
const KINDS = [...tablesMarked('made in great numbers')];

/** A row that was written, as far as it says whether it goes: of what was made, what it hangs on. */
interface Written {
  id: number;
  changeId: number;
  table: RecordedTable;
  rowId: number;
  made: number;
  task_id: number | null;
  parent_id: number | null;
  set_aside: string | null;
  rhythm: string | null;
}

/** Tasks that changes made, and what hangs on them: very many of them go again in a few statements, each row with its record. */
export class MadeStore {
  readonly #written;
  readonly #record;
  readonly #kinds: Readonly<Record<RecordedTable, Statements>>;

  constructor(db: Db) {
    const said = (column: string) =>
      `iif(before IS NULL AND table_name IN (SELECT value FROM json_each(@kinds)), after ->> '$.${column}', NULL) AS ${column}`;
    this.#written = db.prepare<[{ changeId: number; kinds: string }], Written>(
      `SELECT id, change_id AS changeId, table_name AS "table", row_id AS rowId, before IS NULL AS made,
       ${['task_id', 'parent_id', 'set_aside', 'rhythm'].map(said).join(', ')}
       FROM change_row WHERE change_id = @changeId ORDER BY id DESC`
    );
    this.#record = db.prepare<[{ by: number; rows: string }]>(
      `INSERT INTO change_row (change_id, table_name, row_id, before, after)
       SELECT @by, table_name, row_id, after, NULL FROM change_row WHERE id IN (SELECT value FROM json_each(@rows)) ORDER BY id DESC`
    );
    this.#kinds = Object.fromEntries(KINDS.map((kind) => [kind, prepare(db, kind)])) as Record<
      RecordedTable,
      Statements
    >;
  }

  /**
   * What changes made of tasks, and what stands as it was made, goes again together; what hangs on a task goes before it.
   * @param changeIds those that are taken back, the last first
   * @param writer of the change that takes them back
   * @returns by change, the rows of its record that are still to be taken back, the last first
   */
  revert(changeIds: readonly number[], writer: ChangeWriter): Map<number, number[]> {
    const kinds = JSON.stringify(KINDS);
    const all = changeIds.map((changeId) => this.#written.all({ changeId, kinds }));
    const times = new Map<string, number>();
    for (const row of all.flat()) times.set(keyOf(row), (times.get(keyOf(row)) ?? 0) + 1);
    const left = new Map<number, number[]>();
    changeIds.forEach((changeId, i) => {
      const rows = all[i]!;
      const once = rows.filter((row) => row.made === 1 && times.get(keyOf(row)) === 1);
      const gone = this.#remove(changeId, once, writer);
      left.set(
        changeId,
        rows.filter(({ id }) => !gone.has(id)).map(({ id }) => id)
      );
    });
    return left;
  }

  #remove(changeId: number, rows: readonly Written[], writer: ChangeWriter): Set<number> {
    const gone = new Set<number>();
    const made = (kind: RecordedTable) => rows.filter(({ table }) => table === kind);
    const tasks = this.#standing('task', changeId, made('task'));
    // A task of which something was written since stays, and what belongs to it with it.
    const taskIds = new Set(tasks.map(({ rowId }) => rowId));
    for (const kind of KINDS.toReversed()) {
      const going =
        kind === 'task'
          ? tasks
          : this.#standing(kind, changeId, made(kind)).filter(({ task_id }) => taskIds.has(task_id!));
      if (going.length === 0) continue;
      this.#kinds[kind].remove(going.map(({ rowId }) => rowId));
      this.#record.run({ by: writer.id, rows: JSON.stringify(going.map(({ id }) => id)) });
      for (const row of going) {
        gone.add(row.id);
        writer.written.push({ table: kind, rowId: row.rowId, kind: 'remove', columns: [], row: asRow(row) });
      }
    }
    return gone;
  }

  #standing(kind: RecordedTable, changeId: number, rows: readonly Written[]): readonly Written[] {
    if (rows.length === 0) return rows;
    const standing = this.#kinds[kind].standing(changeId);
    return rows.filter(({ rowId }) => standing.has(rowId));
  }
}

interface Statements {
  /** Rows that a change made and that stand as it made them. A number with a fraction may be written in two ways: such a row is looked at by itself. */
  standing(changeId: number): Set<number>;
  remove(ids: readonly number[]): void;
}

function prepare(db: Db, kind: RecordedTable): Statements {
  const columns = db.pragma(`table_info(${kind})`) as { name: string }[];
  const row = columns.map(({ name }) => `'${name}', t.${name}`).join(', ');
  const standing = db.prepare<[number], { id: number }>(
    `SELECT t.id FROM change_row r JOIN ${kind} t ON t.id = r.row_id
     WHERE r.change_id = ? AND r.table_name = '${kind}' AND r.before IS NULL AND r.after = json_object(${row})`
  );
  const remove = db.prepare<[string]>(`DELETE FROM ${kind} WHERE id IN (SELECT value FROM json_each(?))`);
  return {
    standing: (changeId) => new Set(standing.all(changeId).map(({ id }) => id)),
    remove: (ids) => void remove.run(JSON.stringify(ids))
  };
}

/** As far as whoever reacts to its going asks for it. */
function asRow({ table, task_id, parent_id, set_aside, rhythm }: Written): Row {
  return table === 'task' ? { parent_id, set_aside, rhythm } : { task_id };
}

function keyOf({ table, rowId }: Written): string {
  return `${table} ${rowId}`;
}
