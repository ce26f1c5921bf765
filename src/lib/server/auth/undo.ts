import type { Deed } from '../../core/access/deeds.ts';
import { entryOf, tablesWhere, type RecordedTable } from '../store/recorded-tables.ts';
import type { ChangeRow } from '../store/change-model.ts';

/** Tables of which a row is looked at before it is taken back: what hangs on the task alone is asked of the task. */
export const TABLES_OF_DEEDS = [...tablesWhere(({ of, deed }) => deed !== null || of === 'workspace')];

/** By what is hushed; a task by whoever may change it. */
const HUSH_DEED: Readonly<Record<string, Deed | null>> = {
  task: null,
  project: 'look after projects',
  person: 'look after people',
  rule: 'make rules'
};

/** What everybody may change of themselves on their own page, and so take back. */
const OWN_TABLES: ReadonlySet<RecordedTable> = new Set(['person_zone', 'leave']);
const OWN_COLUMNS: ReadonlySet<string> = new Set([
  ...['phone', 'zone', 'quiet', 'daily_cap', 'digest_due', 'digest_overdue', 'chat', 'channels']
]);

/** Of whom a change is taken back, and what may be done to them. */
export interface UndoRights {
  /** Who takes it back. */
  personId: number;
  /** Whether they may change how a person comes in. */
  mayTouch: (personId: number) => boolean;
}

/** What somebody must be allowed to do, besides undoing, to take these rows back. */
export function deedsToUndo(rows: readonly ChangeRow[], { personId, mayTouch }: UndoRights): Deed[] {
  const deeds = new Set<Deed>();
  for (const { table, rowId, before, after } of rows) {
    const deed = table === 'hush' ? HUSH_DEED[String((after ?? before)?.subject_kind)] : entryOf(table).deed;
    if (deed && !isOwn({ table, rowId, before, after }, personId)) deeds.add(deed);
    if (table !== 'person' || !before || !after) continue;
    if (before.role !== after.role || before.active !== after.active) deeds.add('give access');
    if (before.email !== after.email && !mayTouch(rowId)) deeds.add('give access');
  }
  return [...deeds];
}

function isOwn({ table, rowId, before, after }: ChangeRow, personId: number): boolean {
  if (OWN_TABLES.has(table)) return (after ?? before)?.person_id === personId;
  if (table !== 'person' || rowId !== personId || !before || !after) return false;
  return Object.keys(after).every((column) => OWN_COLUMNS.has(column) || after[column] === before[column]);
}
