/** A value that SQLite stores. */
export type SqlValue = string | number | null;

/** A row by column name. */
export type Row = Record<string, SqlValue>;
