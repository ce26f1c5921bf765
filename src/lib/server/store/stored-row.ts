import type { Row } from '../db/row.ts';
import type { RecordedTable } from './recorded-tables.ts';
import type { ChangeRow } from './change-model.ts';

/** A row of a change as it is kept. */
export interface StoredRow {
  table_name: RecordedTable;
  row_id: number;
  before: string | null;
  after: string | null;
}
export const STORED_COLUMNS = 'table_name, row_id, before, after';

export function toChangeRow(row: StoredRow): ChangeRow {
  return {
    table: row.table_name,
    rowId: row.row_id,
    before: row.before === null ? null : (JSON.parse(row.before) as Row),
    after: row.after === null ? null : (JSON.parse(row.after) as Row)
  };
}
