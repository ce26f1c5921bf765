import type { Db } from '../db/open.ts';
import { RECORDED_TABLES, tablesMarked, type RecordedTable } from './recorded-tables.ts';
import type { ReplanCause } from './plan.ts';

/** A change that was written into a copy of the workspace. */
export interface ArrivingChange {
  changeId: number;
  /** The last change of the workspace when the copy was made. */
  asOf: number;
}

/** What names in a file mean depends on these: what was made of them before somebody changed them does not hold. */
const MEANING = [...tablesMarked('imports go by it')];

/** So much of the database is kept at hand while very many rows are written. */
const CACHE_KB = 96 * 1024;

/** What lists and searches need takes most of the time of a write: a copy that is only written to goes without. */
export function keepOnlyWhatIsWrittenBy(copy: Db): void {
  for (const trigger of ['task_text_added', 'task_text_changed', 'task_text_gone'])
    copy.exec(`DROP TRIGGER ${trigger}`);
  for (const index of NOT_WRITTEN_BY) copy.exec(`DROP INDEX ${index}`);
}
const NOT_WRITTEN_BY = [
  'task_listed',
  'task_by_due',
  'task_due',
  'task_owner',
  'change_row_row',
  'change_row_parts',
  'task_tag_name'
];

/**
 * A change that was written into a copy, in a file of its own, on its way into the workspace: all of its rows come in one transaction, each under
 * the id that it has in the copy.
 */
export class ArrivingStore {
  readonly #db: Db;

  /** @param copy the file; open it outside of any transaction, and close it so */
  constructor(db: Db, copy: string) {
    this.#db = db;
    db.pragma(`cache_size = -${CACHE_KB}`);
    db.prepare<[string]>('ATTACH ? AS arriving').run(copy);
  }

  close(): void {
    this.#db.exec('DETACH arriving');
  }

  /** Whether others have meanwhile written to what it writes to, or changed what names in it mean. */
  isOvertaken({ changeId, asOf }: ArrivingChange): boolean {
    const mine = this.#firstIds(changeId);
    const isTaken = [...mine].some(([table, first]) => this.#hasFrom(table, first));
    if (isTaken || this.#hasFrom('change', changeId)) return true;
    const { hit } = this.#db
      .prepare<[{ changeId: number; asOf: number; meaning: string }], { hit: number }>(
        `SELECT EXISTS (
           SELECT 1 FROM main.change_row theirs WHERE theirs.change_id > @asOf AND (
             theirs.table_name IN (SELECT value FROM json_each(@meaning)) OR EXISTS (
               SELECT 1 FROM arriving.change_row own
               WHERE own.table_name = theirs.table_name AND own.row_id = theirs.row_id AND own.change_id = @changeId
             ))) AS hit`
      )
      .get({ changeId, asOf, meaning: JSON.stringify(MEANING) })!;
    return hit === 1;
  }

  /** Takes all rows of the change in, and its record. Inside a transaction. */
  take({ changeId }: ArrivingChange): void {
    // What names each other comes table by table: it is looked at once everything is there.
    this.#db.pragma('defer_foreign_keys = ON');
    const mine = this.#firstIds(changeId);
    const changed = this.#changedTables(changeId);
    for (const table of RECORDED_TABLES) {
      const first = mine.get(table) ?? Number.MAX_SAFE_INTEGER;
      const given = { first, changeId };
      if (mine.has(table))
        this.#run(`INSERT INTO main.${table} SELECT * FROM arriving.${table} WHERE id >= @first`, given);
      if (changed.has(table)) this.#takeChanged(table, first, changeId);
    }
    const bare = { changeId, first: 0 };
    this.#run('INSERT INTO main.change SELECT * FROM arriving.change WHERE id = @changeId', bare);
    for (const [table, columns] of [
      ['change_row', 'change_id, table_name, row_id, before, after'],
      ['owed_event', 'change_id, actor_id, events']
    ])
      this.#run(
        `INSERT INTO main.${table} (${columns}) SELECT ${columns} FROM arriving.${table} WHERE change_id = @changeId ORDER BY id`,
        bare
      );
    this.#takeChores(bare);
  }

  #takeChores(given: { changeId: number; first: number }): void {
    const touched = `SELECT row_id FROM arriving.change_row WHERE change_id = @changeId AND table_name = 'task'`;
    this.#run(`DELETE FROM main.chore WHERE task_id IN (${touched})`, given);
    this.#run(`INSERT INTO main.chore SELECT * FROM arriving.chore WHERE task_id IN (${touched})`, given);
  }

  /** Tasks whose plan the change made stale, by why. */
  stale(changeId: number): { cause: ReplanCause; taskIds: number[] }[] {
    return this.#db
      .prepare<[number], { cause: ReplanCause; ids: string }>(
        'SELECT cause, json_group_array(task_id) AS ids FROM arriving.replan WHERE change_id = ? GROUP BY cause'
      )
      .all(changeId)
      .map(({ cause, ids }) => ({ cause, taskIds: JSON.parse(ids) as number[] }));
  }

  /** The first id of the rows that the change made, by their table. */
  #firstIds(changeId: number): Map<RecordedTable, number> {
    const rows = this.#db
      .prepare<[number], { table_name: RecordedTable; first: number }>(
        'SELECT table_name, min(row_id) AS first FROM arriving.change_row WHERE change_id = ? AND before IS NULL GROUP BY table_name'
      )
      .all(changeId);
    return new Map(rows.map(({ table_name, first }) => [table_name, first]));
  }

  /** Tables of which the change wrote rows that were there before. */
  #changedTables(changeId: number): Set<RecordedTable> {
    const rows = this.#db
      .prepare<[number], { table_name: RecordedTable }>(
        'SELECT DISTINCT table_name FROM arriving.change_row WHERE change_id = ? AND before IS NOT NULL'
      )
      .all(changeId);
    return new Set(rows.map(({ table_name }) => table_name));
  }

  #hasFrom(table: RecordedTable | 'change', first: number): boolean {
    return this.#db.prepare<[number]>(`SELECT 1 FROM main.${table} WHERE id >= ?`).get(first) !== undefined;
  }

  /** Rows that were there before: written anew, or taken away. */
  #takeChanged(table: RecordedTable, first: number, changeId: number): void {
    const touched = (gone: boolean) =>
      `SELECT row_id FROM arriving.change_row WHERE change_id = @changeId AND table_name = '${table}' AND row_id < @first
       AND before IS NOT NULL AND after IS ${gone ? '' : 'NOT '}NULL`;
    const columns = (this.#db.pragma(`main.table_info(${table})`) as { name: string }[])
      .map(({ name }) => name)
      .filter((name) => name !== 'id');
    const set = columns.map((column) => `${column} = excluded.${column}`).join(', ');
    this.#run(
      `INSERT INTO main.${table} SELECT * FROM arriving.${table} WHERE id IN (${touched(false)}) ON CONFLICT (id) DO UPDATE SET ${set}`,
      { changeId, first }
    );
    this.#run(`DELETE FROM main.${table} WHERE id IN (${touched(true)})`, { changeId, first });
  }

  #run(sql: string, given: { changeId: number; first: number }): void {
    this.#db.prepare<[typeof given]>(sql).run(given);
  }
}
