import { WideRows } from '../db/wide-rows.ts';
import type { Statement } from 'better-sqlite3';
import { CodedError } from '../../core/errors.ts';
import type { Db } from '../db/open.ts';
import type { Row, SqlValue } from '../db/row.ts';
import { AsideStore } from './asides.ts';
import { MadeStore } from './made.ts';
import type { ChangeHead, ChangeMade, ChangeRow, ChangeSource, KeptEdit } from './change-model.ts';
import { ChangeWriter } from './change-writer.ts';
import { Reverting } from './reverting.ts';
import { RECORDED_TABLES, tablesMarked, type RecordedTable } from './recorded-tables.ts';
import { STORED_COLUMNS, toChangeRow, type StoredRow } from './stored-row.ts';

/** What says who is told of a task, besides who owns it first. */
const ADDRESSING = JSON.stringify([...tablesMarked('says who is told')]);

/** What an undo has done. */
export interface UndoneChange {
  /** The change that is the undo. */
  writer: ChangeWriter;
  kept: KeptEdit[];
  /** What was taken back: the change, and what rules had done because of it. */
  ids: number[];
  /** When the change had been made, workspace clock. */
  since: number;
}

interface TableStatements {
  columns: ReadonlySet<string>;
  read: (id: number) => Row | undefined;
}

/** Change records with their inverse. */
export class ChangeStore {
  readonly #db: Db;
  readonly #tables = new Map<RecordedTable, TableStatements>();
  readonly #prepared = new Map<string, Statement<unknown[]>>();
  readonly #inserts = new Map<string, WideRows<unknown[], Row>>();
  readonly #insertHead;
  readonly #insertRow;
  readonly #addressing;
  readonly #head;
  readonly #takenBack;
  readonly #ofProject;
  readonly #actor;
  readonly #rows;
  readonly #rowsAmong;
  readonly #rowsAfter;
  readonly #parts;
  readonly #markUndone;
  readonly #laterOf;
  readonly #caused;
  readonly #ofRun;
  readonly #rule;
  readonly #latest;
  readonly #since;
  readonly #firstAt;
  readonly #nextIds = new Map<RecordedTable, number>();
  /** The id that the next change gets; null where that is the next of all. */
  #nextChange: number | null = null;
  readonly #made: MadeStore;
  readonly #reverting: Reverting;
  readonly asides: AsideStore;

  constructor(db: Db) {
    this.#db = db;
    this.asides = new AsideStore(db);
    this.#made = new MadeStore(db);
    this.#reverting = new Reverting(db, this);
    this.#insertHead = db.prepare<[{ id: number | null } & { [K in keyof Required<ChangeHead>]: SqlValue }]>(
      `INSERT INTO change (id, at, actor_id, source, title, rule_id, run_id, caused_by, message_id)
       VALUES (@id, @at, @actorId, @source, @title, @ruleId, @runId, @causedBy, @messageId)`
    );
    this.#rule = db.prepare<[number], { ruleId: number | null }>(
      'SELECT rule_id AS ruleId FROM change WHERE id = ?'
    );
    this.#ofRun = db.prepare<[number], { id: number; title: string; undone: number }>(
      'SELECT id, title, undone_by IS NOT NULL AS undone FROM change WHERE run_id = ? ORDER BY id'
    );
    // What a run does later, after a wait or an answer, was set off by what set off the run.
    this.#caused = db.prepare<[{ id: number }], { id: number }>(
      `SELECT id FROM change WHERE caused_by = @id AND undone_by IS NULL
       UNION SELECT c.id FROM run u JOIN change c ON c.run_id = u.id WHERE u.set_off_by = @id AND c.undone_by IS NULL ORDER BY id DESC`
    );
    this.#insertRow = db.prepare<[number, string, number, string | null, string | null]>(
      'INSERT INTO change_row (change_id, table_name, row_id, before, after) VALUES (?, ?, ?, ?, ?)'
    );
    this.#addressing = db.prepare<[number, string], { id: number }>(
      `SELECT id FROM change_row WHERE change_id = ? AND table_name IN (SELECT value FROM json_each(?)) LIMIT 1`
    );
    this.#since = db.prepare<
      [number],
      { id: number; at: number; actorId: number | null; source: ChangeSource; ruleId: number | null }
    >(
      'SELECT id, at, actor_id AS actorId, source, rule_id AS ruleId FROM change WHERE at > ? ORDER BY at, id'
    );
    this.#firstAt = db.prepare<[], { at: number }>('SELECT at FROM change ORDER BY at LIMIT 1');
    this.#actor = db.prepare<[number], { actorId: number | null }>(
      'SELECT actor_id AS actorId FROM change WHERE id = ?'
    );
    const made = `c.id, c.at, c.actor_id AS actorId, c.source, c.title, c.undone_by AS undoneBy, c.caused_by AS causedBy, c.rule_id AS ruleId,
      c.run_id AS runId`;
    this.#ofProject = db.prepare<[{ projectId: number; since: number; limit: number }], ChangeMade>(
      `WITH touched AS (
         SELECT r.change_id, r.row_id FROM task t JOIN change_row r ON r.table_name = 'task' AND r.row_id = t.id WHERE t.project_id = @projectId
       ), several AS (
         SELECT coalesce(c.caused_by, c.id) AS id FROM touched JOIN change c ON c.id = touched.change_id
         WHERE c.at > @since AND c.source <> 'undo' GROUP BY 1 HAVING count(DISTINCT touched.row_id) > 1
         UNION SELECT change_id FROM change_row WHERE table_name = 'project' AND row_id = @projectId
       ) SELECT ${made} FROM change c JOIN several USING (id) WHERE c.at > @since AND c.source <> 'undo' ORDER BY c.id DESC LIMIT @limit`
    );
    this.#takenBack = db.prepare<[number], { id: number }>(
      'SELECT id FROM change WHERE undone_by = ? ORDER BY id'
    );
    this.#head = db.prepare<[number], ChangeMade>(`SELECT ${made} FROM change c WHERE c.id = ?`);
    this.#parts = db.prepare<[number, number], StoredRow>(
      `SELECT ${STORED_COLUMNS} FROM change_row WHERE change_id = ? AND table_name IN ('task_tag', 'co_owner', 'field_value')
       AND json_extract(coalesce(after, before), '$.task_id') = ? ORDER BY id DESC`
    );
    this.#rows = db.prepare<[number], StoredRow>(
      `SELECT ${STORED_COLUMNS} FROM change_row WHERE change_id = ? ORDER BY id DESC`
    );
    this.#rowsAmong = db.prepare<[number, string], StoredRow>(
      `SELECT ${STORED_COLUMNS} FROM change_row WHERE change_id = ? AND id IN (SELECT value FROM json_each(?)) ORDER BY id DESC`
    );
    this.#rowsAfter = db.prepare<[number, string], StoredRow>(
      `SELECT ${STORED_COLUMNS} FROM change_row WHERE change_id > ? AND table_name IN (SELECT value FROM json_each(?)) ORDER BY id`
    );
    this.#laterOf = db.prepare<[string, number, number], { actorId: number | null; title: string }>(
      `SELECT c.actor_id AS actorId, c.title FROM change_row r JOIN change c ON c.id = r.change_id
       WHERE r.table_name = ? AND r.row_id = ? AND c.id > ? AND c.source <> 'undo' ORDER BY c.id DESC LIMIT 1`
    );
    this.#latest = db.prepare<[string, number], { actorId: number | null; title: string; at: number }>(
      `SELECT c.actor_id AS actorId, c.title, c.at FROM change_row r JOIN change c ON c.id = r.change_id
       WHERE r.table_name = ? AND r.row_id = ? ORDER BY c.id DESC LIMIT 1`
    );
    this.#markUndone = db.prepare<[number, number]>('UPDATE change SET undone_by = ? WHERE id = ?');
    for (const table of RECORDED_TABLES) this.#tables.set(table, this.#prepareTable(table));
  }

  #prepareTable(table: RecordedTable): TableStatements {
    const columns = this.#db.pragma(`table_info(${table})`) as { name: string }[];
    const rows = new WideRows<[number], Row>(this.#db, `SELECT * FROM ${table} WHERE id = ?`);
    return { columns: new Set(columns.map(({ name }) => name)), read: (id) => rows.get(id) };
  }

  /** The last change of a row; null when none is recorded. */
  latestOf(
    table: RecordedTable,
    rowId: number
  ): { actorId: number | null; title: string; at: number } | null {
    return this.#latest.get(table, rowId) ?? null;
  }

  /** Starts a change; call inside the transaction that the change is. */
  begin(head: ChangeHead): ChangeWriter {
    const { ruleId = null, runId = null, causedBy = null, messageId = null } = head;
    const known = { ...head, ruleId, runId, causedBy, messageId };
    const { lastInsertRowid } = this.#insertHead.run({ id: this.#nextChange, ...known });
    if (this.#nextChange !== null) this.#nextChange++;
    return new ChangeWriter(this, Number(lastInsertRowid), head);
  }

  /** Writes more rows of a change that has begun. */
  goOn(changeId: number, head: ChangeHead): ChangeWriter {
    return new ChangeWriter(this, changeId, head);
  }

  /** Who made a change; null when nobody did, undefined when there is none. */
  actorOf(changeId: number): number | null | undefined {
    return this.#actor.get(changeId)?.actorId;
  }

  /** Whether a change may have made people recipients of what others heard of before. */
  addresses(changeId: number): boolean {
    return this.#addressing.get(changeId, ADDRESSING) !== undefined;
  }

  /** The rule that made a change; null when none did. */
  ruleOf(changeId: number): number | null {
    return this.#rule.get(changeId)?.ruleId ?? null;
  }

  /**
   * What was done to a project, or to several of its tasks at once, since an instant: by whoever set it off, the latest first. What was taken
   * back is among it.
   */
  ofProject(projectId: number, since: number, limit: number): ChangeMade[] {
    return this.#ofProject.all({ projectId, since, limit });
  }

  /** What an undo took back: the change, and what rules had done because of it. */
  takenBackBy(undoId: number): number[] {
    return this.#takenBack.all(undoId).map(({ id }) => id);
  }

  /** A change as it was made; null when there is none. */
  byId(changeId: number): ChangeMade | null {
    return this.#head.get(changeId) ?? null;
  }

  /** What a run of a rule changed, in order. */
  ofRun(runId: number): { id: number; title: string; undone: boolean }[] {
    return this.#ofRun.all(runId).map((row) => ({ ...row, undone: row.undone === 1 }));
  }

  /** The rows that a change wrote, last first. */
  rowsOf(changeId: number): ChangeRow[] {
    return this.#rows.all(changeId).map(toChangeRow);
  }

  /** The rows of some tables that changes wrote after one, in order. */
  rowsAfter(changeId: number, tables: readonly RecordedTable[]): ChangeRow[] {
    return this.#rowsAfter.all(changeId, JSON.stringify(tables)).map(toChangeRow);
  }

  /** Those of its rows that hang on one task: tags, further owners and own fields. A change may have written very many others. */
  partsOf(changeId: number, taskId: number): ChangeRow[] {
    return this.#parts.all(changeId, taskId).map(toChangeRow);
  }

  /**
   * Puts back what a change wrote, wherever the field still holds it; fields that were edited later stay.
   * @returns the change that is the undo, what it took back, and the later edits that were kept
   * @throws CodedError `undo-gone`, `undo-done` or `undo-held`
   */
  undo(changeId: number, at: number, actorId: number | null): UndoneChange {
    const head = this.#head.get(changeId);
    if (!head) throw new CodedError('undo-gone');
    if (head.undoneBy !== null) throw new CodedError('undo-done');
    const writer = this.begin({ at, actorId, source: 'undo', title: `Undone: ${head.title}` });
    const kept: KeptEdit[] = [];
    // What rules did because of it goes back first, the last of it before the first.
    const ids = this.withCaused(changeId);
    const rows = [...this.#made.revert(ids, writer)].flatMap(([id, left]) =>
      this.#rowsAmong.all(id, JSON.stringify(left)).map((row) => ({ ...toChangeRow(row), changeId: id }))
    );
    for (const row of this.#reverting.revert(rows, writer)) {
      const later = this.#laterOf.get(row.table, row.rowId, changeId);
      kept.push({
        table: row.table,
        rowId: row.rowId,
        actorId: later?.actorId ?? null,
        title: later?.title ?? head.title
      });
    }
    for (const id of ids) this.#markUndone.run(writer.id, id);
    return { writer, kept, ids, since: head.at };
  }

  /** A change after everything that rules did because of it, and because of that; what was taken back already is not among it. */
  withCaused(changeId: number): number[] {
    const found = new Set<number>();
    const follow = (id: number) => {
      if (found.has(id)) return;
      for (const caused of this.#caused.all({ id })) follow(caused.id);
      found.add(id);
    };
    follow(changeId);
    return [...found];
  }

  /** What was changed after an instant, in order. */
  since(
    at: number
  ): { id: number; at: number; actorId: number | null; source: ChangeSource; ruleId: number | null }[] {
    return this.#since.all(at);
  }

  /** When the first change was made, workspace clock; null when there is none. */
  firstAt(): number | null {
    return this.#firstAt.get()?.at ?? null;
  }

  /** Puts rows back as they were, whatever has become of them since. For copies of a workspace alone: it is not recorded. */
  forceBack({ table, rowId, before, after }: ChangeRow): void {
    if (before === null) return void this.#statement(`DELETE FROM ${table} WHERE id = ?`).run(rowId);
    const columns = Object.keys(before).filter((column) => this.#tables.get(table)!.columns.has(column));
    const values = columns.map((column) => before[column]!);
    if (after === null) {
      const marks = columns.map(() => '?').join(', ');
      const sql = `INSERT OR REPLACE INTO ${table} (${columns.join(', ')}) VALUES (${marks})`;
      return void this.#statement(sql).run(values);
    }
    const set = columns.map((column) => `${column} = ?`).join(', ');
    this.#statement(`UPDATE ${table} SET ${set} WHERE id = ?`).run([...values, rowId]);
  }

  /** What stood in a workspace once may stand again, whether or not it would be written today. For copies alone. */
  letThePastBe(): void {
    this.#db.exec(
      `DROP INDEX status_span_open; DROP TRIGGER task_parked_of_nobody; DROP TRIGGER task_made_parked_of_nobody`
    );
  }

  /** From now on rows that are made get ids above those that a table has: the ids below are kept for rows that are yet to come back. */
  reserveIds(): void {
    for (const table of RECORDED_TABLES) this.#nextIds.set(table, this.#lastOf(table) + 1);
  }

  /**
   * Leaves a gap before the ids of what is written from now on, the changes among it: for a copy of which what is written will be taken into
   * its workspace, where others go on meanwhile.
   */
  leaveGap(size: number): void {
    for (const table of RECORDED_TABLES) this.#nextIds.set(table, this.#lastOf(table) + size);
    this.#nextChange = this.lastId() + size;
  }

  /** The id of the last change; 0 where there is none. */
  lastId(): number {
    return this.#lastOf('change');
  }

  #lastOf(table: RecordedTable | 'change'): number {
    return (
      this.#db.prepare<[], { top: number | null }>(`SELECT max(id) AS top FROM ${table}`).get()!.top ?? 0
    );
  }

  /** Prepared once for each set of columns that is written together; their names were checked against the table. */
  #statement(sql: string): Statement<unknown[]> {
    let statement = this.#prepared.get(sql);
    if (!statement) this.#prepared.set(sql, (statement = this.#db.prepare<unknown[]>(sql)));
    return statement;
  }

  /** @returns the row as it stands then, with what the table gives it */
  #insert(table: RecordedTable, columns: readonly string[], values: unknown[]): Row {
    const marks = columns.map(() => '?').join(', ');
    const sql = `INSERT INTO ${table} (${columns.join(', ')}) VALUES (${marks}) RETURNING *`;
    let rows = this.#inserts.get(sql);
    if (!rows) this.#inserts.set(sql, (rows = new WideRows<unknown[], Row>(this.#db, sql)));
    return rows.get(...values)!;
  }

  #withId(table: RecordedTable, row: Row): Row {
    const next = row.id === undefined ? this.#nextIds.get(table) : undefined;
    if (next === undefined) return row;
    this.#nextIds.set(table, next + 1);
    return { ...row, id: next };
  }

  read(table: RecordedTable, id: number): Row | undefined {
    return this.#tables.get(table)!.read(id);
  }

  /** For the writer alone. */
  write(changeId: number, change: ChangeRow): number {
    const { table, rowId, before } = change;
    const after = change.before === null ? this.#withId(table, change.after!) : change.after;
    const columns = Object.keys(after ?? {});
    for (const column of columns) {
      if (!this.#tables.get(table)!.columns.has(column))
        throw new TypeError(`${table} has no column ${column}`);
    }
    let id = rowId;
    let is: Row | null = after;
    const values = columns.map((column) => after![column]!);
    if (after === null) {
      this.#statement(`DELETE FROM ${table} WHERE id = ?`).run(rowId);
    } else if (before === null) {
      is = this.#insert(table, columns, values);
      id = Number(is.id);
    } else {
      const set = columns.map((column) => `${column} = ?`).join(', ');
      this.#statement(`UPDATE ${table} SET ${set} WHERE id = ?`).run([...values, rowId]);
    }
    // Of a task that is changed what differs is enough, and a tenth of the whole; rows of others are asked whose they are.
    const isPart = table === 'task' && before !== null && after !== null;
    const was = isPart ? only(columns, before) : before;
    if (before !== null && after !== null && !isPart) is = this.read(table, id)!;
    this.#insertRow.run(changeId, table, id, was && JSON.stringify(was), is && JSON.stringify(is));
    return id;
  }
}

function only(columns: readonly string[], row: Row): Row {
  const part: Row = {};
  for (const column of columns) part[column] = row[column]!;
  return part;
}
