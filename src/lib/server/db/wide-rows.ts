import type { SqlValue } from './row.ts';
import type { Db } from './open.ts';

/**
 * A prepared SELECT of many columns, for very many rows. better-sqlite3 gives a row as a list in half the time that it takes to make an object of
 * it; the object is made here, by a function with the column names written out, so that all rows are of one shape.
 */
export class WideRows<P extends unknown[], R extends object> {
  readonly #statement;
  readonly #toRow: (values: SqlValue[]) => R;

  constructor(db: Db, sql: string) {
    this.#statement = db.prepare<P, SqlValue[]>(sql).raw();
    this.#toRow = rowMaker(this.#statement.columns().map(({ name }) => name));
  }

  all(...chosen: P): R[] {
    return this.#statement.all(...chosen).map(this.#toRow);
  }

  get(...chosen: P): R | undefined {
    const values = this.#statement.get(...chosen);
    return values && this.#toRow(values);
  }
}

function rowMaker<R>(columns: readonly string[]): (values: SqlValue[]) => R {
  const fields = columns.map((name, i) => `${JSON.stringify(name)}: values[${i}]`);
  // The names are those of our own statement, and quoted; a loop over them takes as long as it saves.
  return new Function('values', `return { ${fields.join(', ')} };`) as (values: SqlValue[]) => R;
}
