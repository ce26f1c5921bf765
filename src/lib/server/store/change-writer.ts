import type { Row, SqlValue } from '../db/row.ts';
import { ASIDE_COLUMNS, type Aside, type AsideStore } from './asides.ts';
import type { ChangeHead, ChangeRow } from './change-model.ts';
import type { RecordedTable } from './recorded-tables.ts';

/** Where a change writes its rows. */
export interface RowStore {
  readonly asides: AsideStore;
  read(table: RecordedTable, id: number): Row | undefined;
  /** @returns the id of the row */
  write(changeId: number, change: ChangeRow): number;
}

/** One change being made: writes rows and remembers what they were. */
export class ChangeWriter {
  readonly id: number;
  readonly head: ChangeHead;
  /** What has been written so far, for whoever must react to it. */
  readonly written: {
    table: RecordedTable;
    rowId: number;
    kind: 'insert' | 'update' | 'remove';
    columns: string[];
    /** As it is now; a removed one as it was. */
    row: Row;
    /** As it was, where it was changed. */
    before?: Row;
  }[] = [];
  readonly #store: RowStore;

  constructor(store: RowStore, id: number, head: ChangeHead) {
    this.#store = store;
    this.id = id;
    this.head = head;
  }

  /** @returns the id of the new row */
  insert(table: RecordedTable, row: Row): number {
    const rowId = this.#store.write(this.id, { table, rowId: 0, before: null, after: row });
    this.written.push({ table, rowId, kind: 'insert', columns: Object.keys(row), row });
    return rowId;
  }

  /**
   * Writes the columns that differ.
   * @param before the row as it stands, where it has just been read
   * @param along columns that are written with them, and not by themselves
   * @returns whether anything did
   */
  update(
    table: RecordedTable,
    id: number,
    patch: Record<string, SqlValue>,
    before: Row | undefined = this.#store.read(table, id),
    along: Record<string, SqlValue> = {}
  ): boolean {
    if (!before) return false;
    const differing = (of: Record<string, SqlValue>) =>
      Object.keys(of).filter((column) => before[column] !== of[column]);
    const own = differing(patch);
    if (own.length === 0) return false;
    const columns = [...own, ...differing(along)];
    const after: Row = {};
    for (const column of columns) after[column] = (column in patch ? patch : along)[column]!;
    this.#store.write(this.id, { table, rowId: id, before, after });
    this.written.push({ table, rowId: id, kind: 'update', columns, row: { ...before, ...after }, before });
    return true;
  }

  /**
   * Sets tasks aside, or among the others again: for very many of them, where one by one would take long.
   * @returns those that stood elsewhere
   */
  setAside(taskIds: readonly number[], to: Aside): number[] {
    const moved = this.#store.asides.write(this.id, taskIds, to);
    const columns = [...ASIDE_COLUMNS];
    for (const before of moved)
      this.written.push({
        ...{ table: 'task', rowId: before.id, kind: 'update', columns },
        ...{ row: { ...before, ...to }, before }
      });
    return moved.map(({ id }) => id);
  }

  remove(table: RecordedTable, id: number): boolean {
    const before = this.#store.read(table, id);
    if (!before) return false;
    this.#store.write(this.id, { table, rowId: id, before, after: null });
    this.written.push({ table, rowId: id, kind: 'remove', columns: [], row: before });
    return true;
  }
}
