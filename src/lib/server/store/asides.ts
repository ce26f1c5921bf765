import type { SetAside } from '../../core/task/model.ts';
import type { Db } from '../db/open.ts';
import type { Row } from '../db/row.ts';

/** Where a task stands: among the others (null), or apart from them since an instant of the workspace clock. */
export interface Aside extends Row {
  set_aside: SetAside | null;
  set_aside_at: number | null;
}

/** What is asked of a task that was set aside by whatever reacts to that. */
export interface AsideRow extends Aside {
  id: number;
  parent_id: number | null;
  rhythm: string | null;
}

export const ASIDE_COLUMNS = ['set_aside', 'set_aside_at'] as const;

const THOSE = 'id IN (SELECT value FROM json_each(@ids))';

/** Sets very many tasks aside, or among the others again, in a few statements, and writes down what each of them was. */
export class AsideStore {
  readonly #rows;
  readonly #record;
  readonly #move;

  constructor(db: Db) {
    this.#rows = db.prepare<[{ ids: string }], AsideRow>(
      `SELECT id, parent_id, rhythm, set_aside, set_aside_at FROM task WHERE ${THOSE} ORDER BY id`
    );
    this.#record = db.prepare<[{ ids: string; changeId: number } & Aside]>(
      `INSERT INTO change_row (change_id, table_name, row_id, before, after)
       SELECT @changeId, 'task', id, json_object('set_aside', set_aside, 'set_aside_at', set_aside_at),
         json_object('set_aside', @set_aside, 'set_aside_at', @set_aside_at)
       FROM task WHERE ${THOSE} ORDER BY id`
    );
    this.#move = db.prepare<[{ ids: string } & Aside]>(
      `UPDATE task SET set_aside = @set_aside, set_aside_at = @set_aside_at WHERE ${THOSE}`
    );
  }

  /** Where tasks stand, by id; those that are not there are left out. */
  of(ids: readonly number[]): AsideRow[] {
    return this.#rows.all({ ids: JSON.stringify(ids) });
  }

  /**
   * For the writer of a change alone.
   * @returns those that stood elsewhere, as they were
   */
  write(changeId: number, ids: readonly number[], to: Aside): AsideRow[] {
    const moved = this.of(ids).filter((row) => !isSameAside(row, to));
    const parameters = { ids: JSON.stringify(moved.map(({ id }) => id)), ...to };
    this.#record.run({ ...parameters, changeId });
    this.#move.run(parameters);
    return moved;
  }
}

export function isSameAside(one: Aside, other: Aside): boolean {
  return ASIDE_COLUMNS.every((column) => one[column] === other[column]);
}
