import type { Db } from '../db/open.ts';
import type { ChangeSource } from './change-model.ts';
import { like } from './outbox-list.ts';
import { tablesMarked } from './recorded-tables.ts';

/** An entry of the journal, with the change that it tells of. Instants on the workspace clock. */
export interface JournalRow {
  id: number;
  at: number;
  kind: string;
  /** JSON. */
  data: string;
  changeId: number | null;
  title: string | null;
  source: ChangeSource | null;
  actorId: number | null;
  ruleId: number | null;
  rule: string | null;
  runId: number | null;
  /** The change that set it off. */
  causedBy: number | null;
  undoneBy: number | null;
  /** Whose private task or own list it touched; null where it touched none. */
  privateOf: number | null;
}

export interface JournalFilter {
  /** Entries of changes by this way; `other` for everything that is no change. */
  source: ChangeSource | 'other' | null;
  personId: number | null;
  ruleId: number | null;
  text: string;
  /** `[from, until)` */
  from: number | null;
  until: number | null;
}

/** What people keep for themselves alone, besides lists. */
const KEPT = [...tablesMarked('its keeper alone')]
  .filter((table) => table !== 'saved_list')
  .map((table) => `'${table}'`)
  .join(', ');

/**
 * A change is of a private task where one of its rows is the task, or belongs to it; of somebody’s own list where they share it with nobody; of what
 * they keep where it is theirs.
 */
const PRIVATE_OF = `coalesce((SELECT coalesce(t.owner_id, 0) FROM change_row cr JOIN task t ON t.id =
  CASE WHEN cr.table_name = 'task' THEN cr.row_id ELSE json_extract(coalesce(cr.after, cr.before), '$.task_id') END
  WHERE cr.change_id = c.id AND t.private = 1 LIMIT 1),
  (SELECT json_extract(coalesce(cr.before, cr.after), '$.person_id') FROM change_row cr
  LEFT JOIN saved_list l ON l.id = cr.row_id
  WHERE cr.change_id = c.id AND cr.table_name = 'saved_list'
  AND coalesce(l.shared, json_extract(coalesce(cr.before, cr.after), '$.shared')) = 0 LIMIT 1),
  (SELECT json_extract(coalesce(cr.before, cr.after), '$.person_id') FROM change_row cr
  WHERE cr.change_id = c.id AND cr.table_name IN (${KEPT}) LIMIT 1))`;

/** The append-only record. */
export class JournalStore {
  readonly #add;
  readonly #told;
  readonly #page;

  constructor(db: Db) {
    this.#add = db.prepare<[number, number, string, number | null, string]>(
      'INSERT INTO journal (at, machine_at, kind, change_id, data) VALUES (?, ?, ?, ?, ?)'
    );
    this.#told = db.prepare<[number], { id: number }>(
      `SELECT id FROM journal WHERE kind = 'told of an undo' AND change_id = ? LIMIT 1`
    );
    this.#page = db.prepare<
      [Omit<JournalFilter, 'text'> & { like: string; before: number | null; limit: number }],
      JournalRow
    >(
      `SELECT j.id, j.at, j.kind, j.data, j.change_id AS changeId, c.title, c.source, c.actor_id AS actorId,
       coalesce(c.rule_id, json_extract(j.data, '$.ruleId')) AS ruleId, r.name AS rule, c.run_id AS runId,
       c.caused_by AS causedBy, c.undone_by AS undoneBy, ${PRIVATE_OF} AS privateOf
       FROM journal j LEFT JOIN change c ON c.id = j.change_id
       LEFT JOIN rule r ON r.id = coalesce(c.rule_id, json_extract(j.data, '$.ruleId'))
       WHERE (@before IS NULL OR j.id < @before)
       AND (@source IS NULL OR c.source = @source OR (@source = 'other' AND c.id IS NULL))
       AND (@personId IS NULL OR c.actor_id = @personId)
       AND (@ruleId IS NULL OR coalesce(c.rule_id, json_extract(j.data, '$.ruleId')) = @ruleId)
       AND (@from IS NULL OR j.at >= @from) AND (@until IS NULL OR j.at < @until)
       AND (@like = '%%' OR (coalesce(c.title, j.data) LIKE @like ESCAPE '\\' AND ${PRIVATE_OF} IS NULL))
       ORDER BY j.id DESC LIMIT @limit`
    );
  }

  /** Whether those who had read of a change were told that it was taken back. */
  isToldOfUndo(undoId: number): boolean {
    return this.#told.get(undoId) !== undefined;
  }

  /** @param at workspace clock; @param machineAt machine clock */
  add(
    at: number,
    machineAt: number,
    kind: string,
    data: Record<string, unknown>,
    changeId: number | null = null
  ): void {
    this.#add.run(at, machineAt, kind, changeId, JSON.stringify(data));
  }

  /**
   * Entries, newest first.
   * @param before the id of the last one of the page before; null for the first page
   */
  page({ text, ...filter }: JournalFilter, before: number | null, limit: number): JournalRow[] {
    return this.#page.all({ ...filter, like: like(text), before, limit });
  }
}
