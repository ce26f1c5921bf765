import type { Db } from '../db/open.ts';
import { tablesMarked, type RecordedTable } from './recorded-tables.ts';
import type { ChangeRow } from './change-model.ts';
import { STORED_COLUMNS, toChangeRow, type StoredRow } from './stored-row.ts';

/** Rows of a task that are somebody’s own word, whoever the task is of: to take one’s own back asks for no right over the task. */
const OWN_WORDS = [...tablesMarked('own word')];

const THOSE = 'change_id IN (SELECT value FROM json_each(@changes))';
/** The task that a row is of, or hangs on; null for any other. */
const TASK = `CASE table_name WHEN 'task' THEN row_id WHEN 'hush'
  THEN iif(coalesce(after, before) ->> '$.subject_kind' = 'task', coalesce(after, before) ->> '$.subject_id', NULL)
  ELSE coalesce(after, before) ->> '$.task_id' END`;

/** What changes touched, found without reading all that they wrote: there may be hundreds of thousands of rows. */
export class TouchedStore {
  readonly #count;
  readonly #tasks;
  readonly #given;
  readonly #rowsIn;
  readonly #rowsAbout;
  readonly #inOrder;

  constructor(db: Db) {
    this.#count = db.prepare<[{ changes: string }], { count: number }>(
      `SELECT count(*) AS count FROM change_row WHERE ${THOSE}`
    );
    // A task of which only when it was last touched was written says nothing.
    this.#tasks = db.prepare<[{ changes: string; without: string }], { id: number | null }>(
      `SELECT DISTINCT ${TASK} AS id FROM change_row WHERE ${THOSE} AND table_name NOT IN (SELECT value FROM json_each(@without))
       AND NOT (table_name = 'task' AND before IS NOT NULL AND after IS NOT NULL AND after LIKE '{"touched_at":%'
         AND (SELECT count(*) FROM json_each(after)) = 1)`
    );
    this.#given = db.prepare<[{ changes: string }], { id: number }>(
      `SELECT row_id AS id FROM change_row WHERE ${THOSE} AND table_name = 'task' AND after IS NOT NULL
       UNION SELECT after ->> '$.task_id' FROM change_row WHERE ${THOSE} AND table_name = 'co_owner' AND after IS NOT NULL`
    );
    this.#rowsIn = db.prepare<[{ changes: string; tables: string }], StoredRow & { change_id: number }>(
      `SELECT change_id, ${STORED_COLUMNS} FROM change_row WHERE ${THOSE} AND table_name IN (SELECT value FROM json_each(@tables)) ORDER BY id DESC`
    );
    this.#rowsAbout = db.prepare<[{ changes: string; tasks: string }], StoredRow & { change_id: number }>(
      `SELECT change_id, ${STORED_COLUMNS} FROM change_row WHERE ${THOSE} AND table_name IN ('task', 'co_owner')
       AND ${TASK} IN (SELECT value FROM json_each(@tasks)) ORDER BY id DESC`
    );
    this.#inOrder = db.prepare<[{ changes: string }], StoredRow>(
      `SELECT ${STORED_COLUMNS} FROM change_row WHERE ${THOSE} ORDER BY change_id, id`
    );
  }

  /** How many rows some changes wrote. */
  count(changeIds: readonly number[]): number {
    return this.#count.get({ changes: JSON.stringify(changeIds) })!.count;
  }

  /**
   * Tasks that some changes wrote, or of which they wrote something.
   * @param withWords whether what is only somebody’s word about a task counts
   */
  tasks(changeIds: readonly number[], withWords = true): number[] {
    const of = { changes: JSON.stringify(changeIds), without: JSON.stringify(withWords ? [] : OWN_WORDS) };
    return this.#tasks.all(of).flatMap(({ id }) => id ?? []);
  }

  /** Tasks that some changes made, changed, or gave to somebody. */
  tasksGiven(changeIds: readonly number[]): number[] {
    return this.#given.all({ changes: JSON.stringify(changeIds) }).map(({ id }) => id);
  }

  /** The rows of some tables that changes wrote, the last first, each with its change. */
  rowsIn(changeIds: readonly number[], tables: readonly RecordedTable[]): (ChangeRow & Of)[] {
    const of = { changes: JSON.stringify(changeIds), tables: JSON.stringify(tables) };
    return this.#rowsIn.all(of).map(ofChange);
  }

  /** What changes wrote of some tasks themselves and of who owns them besides, the last first, each with its change. */
  rowsAbout(changeIds: readonly number[], taskIds: readonly number[]): (ChangeRow & Of)[] {
    const of = { changes: JSON.stringify(changeIds), tasks: JSON.stringify(taskIds) };
    return this.#rowsAbout.all(of).map(ofChange);
  }

  /** Everything that changes wrote, in order, one row after another. */
  *inOrder(changeIds: readonly number[]): Generator<ChangeRow> {
    for (const row of this.#inOrder.iterate({ changes: JSON.stringify(changeIds) })) yield toChangeRow(row);
  }
}

interface Of {
  changeId: number;
}

function ofChange(row: StoredRow & { change_id: number }): ChangeRow & Of {
  return { ...toChangeRow(row), changeId: row.change_id };
}
