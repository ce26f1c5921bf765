import type { Row } from '../db/row.ts';
import type { RecordedTable } from './recorded-tables.ts';

/** Who or what made a change. */
export type ChangeSource =
  'person' | 'link' | 'api' | 'import' | 'bulk' | 'rule' | 'sweep' | 'renewal' | 'undo' | 'set-up';

export interface ChangeHead {
  /** Workspace clock. */
  at: number;
  actorId: number | null;
  source: ChangeSource;
  /** What was done, in words: “Task ‘Renew permit’ added”. */
  title: string;
  /** What a rule did: which rule, in which run, and the change that set it off. */
  ruleId?: number;
  runId?: number;
  causedBy?: number | null;
  /** The message whose link was pressed. */
  messageId?: number | null;
}

/** A row that a change wrote: null before it was made, and after it was removed. */
export interface ChangeRow {
  table: RecordedTable;
  rowId: number;
  before: Row | null;
  after: Row | null;
}

/** An edit made after a change that was undone: it stays. */
export interface KeptEdit {
  table: RecordedTable;
  rowId: number;
  actorId: number | null;
  title: string;
}

/** A change that was made. */
export interface ChangeMade {
  id: number;
  /** Workspace clock. */
  at: number;
  actorId: number | null;
  source: ChangeSource;
  title: string;
  undoneBy: number | null;
  causedBy: number | null;
  ruleId: number | null;
  runId: number | null;
}
