import type { Db } from '../db/open.ts';

export interface ImportJob {
  id: number;
  token: string;
  personId: number;
  fileName: string;
  createdAt: number;
  state: 'reading' | 'ready' | 'done' | 'refused';
  /** What was found and chosen; its shape belongs to the import itself. */
  settings: string;
  error: string | null;
}

/** Uploads on their way into tasks: rows as read from the file, nothing interpreted. */
export class ImportStore {
  readonly #add;
  readonly #byToken;
  readonly #setState;
  readonly #addRow;
  readonly #rows;
  readonly #setRow;
  readonly #countRows;
  readonly #drop;
  readonly #dropSome;
  readonly #dropOld;

  constructor(db: Db) {
    this.#add = db.prepare<[string, number, string, number]>(
      `INSERT INTO import_job (token, person_id, file_name, created_at, state, settings) VALUES (?, ?, ?, ?, 'reading', '{}')`
    );
    this.#byToken = db.prepare<[string], ImportJob>(
      `SELECT id, token, person_id AS personId, file_name AS fileName, created_at AS createdAt, state, settings, error
       FROM import_job WHERE token = ?`
    );
    this.#setState = db.prepare<[string, string, string | null, number]>(
      'UPDATE import_job SET state = ?, settings = ?, error = ? WHERE id = ?'
    );
    this.#addRow = db.prepare<[number, number, string]>(
      'INSERT INTO import_row (job_id, line, cells) VALUES (?, ?, ?)'
    );
    this.#rows = db.prepare<[number, number, number], { line: number; cells: string }>(
      'SELECT line, cells FROM import_row WHERE job_id = ? AND line > ? ORDER BY line LIMIT ?'
    );
    this.#setRow = db.prepare<[string, number, number]>(
      'UPDATE import_row SET cells = ? WHERE job_id = ? AND line = ?'
    );
    this.#countRows = db.prepare<[number], { count: number }>(
      'SELECT count(*) AS count FROM import_row WHERE job_id = ?'
    );
    this.#dropSome = db.prepare<[number, number, number]>(
      'DELETE FROM import_row WHERE job_id = ? AND line IN (SELECT line FROM import_row WHERE job_id = ? ORDER BY line LIMIT ?)'
    );
    this.#drop = db.prepare<[number]>('DELETE FROM import_row WHERE job_id = ?');
    this.#dropOld = db.prepare<[number]>('DELETE FROM import_job WHERE created_at < ?');
  }

  add(token: string, personId: number, fileName: string, createdAt: number): number {
    return Number(this.#add.run(token, personId, fileName, createdAt).lastInsertRowid);
  }

  byToken(token: string): ImportJob | null {
    return this.#byToken.get(token) ?? null;
  }

  setState(id: number, state: ImportJob['state'], settings: unknown, error: string | null = null): void {
    this.#setState.run(state, JSON.stringify(settings), error, id);
  }

  addRow(jobId: number, line: number, cells: readonly string[]): void {
    this.#addRow.run(jobId, line, JSON.stringify(cells));
  }

  /** Rows after a line of the file, in order. */
  rows(jobId: number, afterLine: number, limit: number): { line: number; cells: string[] }[] {
    return this.#rows
      .all(jobId, afterLine, limit)
      .map(({ line, cells }) => ({ line, cells: JSON.parse(cells) as string[] }));
  }

  /** Mends a row. @returns false when there is none */
  setRow(jobId: number, line: number, cells: readonly string[]): boolean {
    return this.#setRow.run(JSON.stringify(cells), jobId, line).changes === 1;
  }

  /** One row; null when there is none. */
  row(jobId: number, line: number): string[] | null {
    const [row] = this.rows(jobId, line - 1, 1);
    return row?.line === line ? row.cells : null;
  }

  countRows(jobId: number): number {
    return this.#countRows.get(jobId)!.count;
  }

  /** Drops some of the rows. @returns whether there may be more */
  dropSome(jobId: number, limit: number): boolean {
    return this.#dropSome.run(jobId, jobId, limit).changes === limit;
  }

  dropRows(jobId: number): void {
    this.#drop.run(jobId);
  }

  /** Forgets uploads made before a moment, with their rows. */
  dropBefore(createdAt: number): void {
    this.#dropOld.run(createdAt);
  }
}
