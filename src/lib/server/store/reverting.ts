import { CodedError } from '../../core/errors.ts';
import type { Db } from '../db/open.ts';
import type { Row } from '../db/row.ts';
import { ASIDE_COLUMNS, isSameAside, type Aside } from './asides.ts';
import type { ChangeRow } from './change-model.ts';
import type { ChangeWriter, RowStore } from './change-writer.ts';
import { KeptFacets, type UndoneRow } from './facets.ts';

/** Puts back rows that a change wrote. */
export class Reverting {
  readonly #db: Db;
  readonly #rows: Pick<RowStore, 'asides' | 'read'>;

  constructor(db: Db, rows: Pick<RowStore, 'asides' | 'read'>) {
    this.#db = db;
    this.#rows = rows;
  }

  /**
   * @param rows the last first
   * @param writer of the change that puts them back
   * @returns those that were edited later, and stay in part or as a whole
   * @throws CodedError `undo-held`
   */
  revert(rows: readonly UndoneRow[], writer: ChangeWriter): UndoneRow[] {
    const alone = this.#revertAsides(rows, writer);
    const facets = new KeptFacets(this.#db, alone, (taskId) => this.#rows.read('task', taskId));
    return alone.filter((row) => this.#revert(row, facets, writer) > 0);
  }

  /**
   * Tasks that were only set aside, and stand as they were set, go back together.
   * @returns the rows that are looked at one by one
   */
  #revertAsides<R extends ChangeRow>(rows: readonly R[], writer: ChangeWriter): R[] {
    const times = new Map<number, number>();
    for (const { table, rowId } of rows) if (table === 'task') times.set(rowId, (times.get(rowId) ?? 0) + 1);
    // Whether what was parked goes back depends on whose it is by now.
    const goesBack = (row: R) =>
      isMove(row) && row.before!.set_aside !== 'parked' && times.get(row.rowId) === 1;
    const moves = rows.filter(goesBack);
    const now = new Map(this.#rows.asides.of(moves.map(({ rowId }) => rowId)).map((row) => [row.id, row]));
    const back = new Map<string, { to: Aside; ids: number[] }>();
    const done = new Set<R>();
    for (const row of moves) {
      const current = now.get(row.rowId);
      if (!current || !isSameAside(current, row.after as Aside)) continue;
      const key = JSON.stringify(row.before);
      let group = back.get(key);
      if (!group) back.set(key, (group = { to: row.before as Aside, ids: [] }));
      group.ids.push(row.rowId);
      done.add(row);
    }
    for (const { to, ids } of back.values()) writer.setAside(ids, to);
    return rows.filter((row) => !done.has(row));
  }

  #revert(row: UndoneRow, facets: KeptFacets, writer: ChangeWriter): number {
    const { table, rowId, before, after } = row;
    // What it belongs to stays, and is listed.
    if (facets.keeps(row)) return 0;
    const current = this.#rows.read(table, rowId);
    if (after === null) {
      if (current) return 1;
      writer.insert(table, before!);
      return 0;
    }
    if (!current) return 1;
    const untouched = (column: string) => current[column] === after[column];
    if (before === null) {
      if (!Object.keys(after).every(untouched)) return 1;
      this.#removeUnused(row, writer);
      return 0;
    }
    const changed = Object.keys(after).filter((column) => before[column] !== after[column]);
    const kept = table === 'task' ? facets.columns(row) : null;
    const back = changed.filter((column) => untouched(column) && !kept?.has(column));
    const patch = Object.fromEntries(back.map((column) => [column, before[column]!]));
    if (back.length > 0) writer.update(table, rowId, patch, current);
    return changed.length - back.length > 0 ? 1 : 0;
  }

  /** What was made goes again, unless something that came later hangs on it. @throws CodedError `undo-held` */
  #removeUnused({ table, rowId, after }: UndoneRow, writer: ChangeWriter): void {
    try {
      writer.remove(table, rowId);
    } catch (failure) {
      if ((failure as { code?: string }).code !== 'SQLITE_CONSTRAINT_FOREIGNKEY') throw failure;
      throw new CodedError('undo-held', { what: after?.name ? `“${after.name}”` : 'What it made' });
    }
  }
}

/** Whether a task was set aside, or among the others again, and nothing else. */
function isMove({ table, before, after }: ChangeRow): boolean {
  const isAside = (row: Row | null) =>
    row !== null &&
    Object.keys(row).length === ASIDE_COLUMNS.length &&
    ASIDE_COLUMNS.every((column) => column in row);
  return table === 'task' && isAside(before) && isAside(after);
}
