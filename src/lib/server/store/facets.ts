import type { Row } from '../db/row.ts';
import type { Db } from '../db/open.ts';
import { tablesMarked, type RecordedTable } from './recorded-tables.ts';
import type { ChangeRow } from './change-model.ts';

/** What of a task says one thing together, in columns of its own and in rows that hang on it. */
const FACETS = {
  due: {
    columns: ['due_date', 'due_time', 'due_zone', 'due_since'],
    tables: ['slip']
  },
  start: { columns: ['start_date', 'start_time', 'start_zone'], tables: [] },
  reminder: { columns: ['remind_date', 'remind_time', 'remind_zone'], tables: [] },
  place: { columns: ['set_aside', 'set_aside_at', 'review_date', 'parked_by'], tables: [] },
  status: { columns: ['status_id', 'finished_at', 'round'], tables: ['status_span', 'task_round'] },
  owner: { columns: ['owner_id', 'former_owner_id', 'assigned_at'], tables: [] }
} as const satisfies Record<string, { columns: readonly string[]; tables: readonly RecordedTable[] }>;
type Facet = keyof typeof FACETS;

const ALL = Object.keys(FACETS) as Facet[];

/** Rows that hang on a task: where the task cannot go, as one that was made and then edited, they stay with it. */
const PARTS = tablesMarked('stays with its task');

/** A row of a change that is being taken back. */
export interface UndoneRow extends ChangeRow {
  changeId: number;
}

/**
 * What of the tasks of a change stays when the change is taken back: a facet of which anything was written since, by a change that still
 * stands, goes back as a whole or not at all.
 */
export class KeptFacets {
  readonly #later;
  /** By change and task: what the change wrote of the task itself. */
  readonly #written = new Map<string, UndoneRow>();
  readonly #kept = new Map<string, ReadonlySet<Facet> | 'all'>();
  readonly #read: (taskId: number) => Row | undefined;
  readonly #own: ReadonlySet<number>;

  /** @param rows everything that is taken back, by whichever change */
  constructor(db: Db, rows: readonly UndoneRow[], read: (taskId: number) => Row | undefined) {
    // An undo is no edit: of what stands later than what it takes back it leaves each facet as it is.
    this.#later = db.prepare<[number, number], { changeId: number; after: string }>(
      `SELECT c.id AS changeId, r.after FROM change_row r JOIN change c ON c.id = r.change_id
       WHERE r.table_name = 'task' AND r.row_id = ? AND c.id > ? AND r.after IS NOT NULL AND c.undone_by IS NULL
       AND c.source <> 'undo'`
    );
    this.#read = read;
    this.#own = new Set(rows.map(({ changeId }) => changeId));
    for (const row of rows)
      if (row.table === 'task') this.#written.set(`${row.changeId}/${row.rowId}`, joined(row, this.#written));
  }

  /** The columns of a task that stay. @param row of a task */
  columns({ changeId, rowId }: UndoneRow): ReadonlySet<string> {
    const kept = this.#of(changeId, rowId);
    return new Set<string>([...(kept === 'all' ? ALL : kept)].flatMap((facet) => FACETS[facet].columns));
  }

  /** Whether a row that hangs on a task stays with what it belongs to. */
  keeps({ table, changeId, before, after }: UndoneRow): boolean {
    const taskId = (after ?? before)?.task_id;
    if (!PARTS.has(table) || typeof taskId !== 'number') return false;
    const kept = this.#of(changeId, taskId);
    if (kept === 'all') return true;
    return [...kept].some((facet) => (FACETS[facet].tables as readonly string[]).includes(table));
  }

  #of(changeId: number, taskId: number): ReadonlySet<Facet> | 'all' {
    const key = `${changeId}/${taskId}`;
    let kept = this.#kept.get(key);
    if (!kept) this.#kept.set(key, (kept = this.#ofTask(changeId, taskId, this.#written.get(key))));
    return kept;
  }

  #ofTask(changeId: number, taskId: number, row: UndoneRow | undefined): ReadonlySet<Facet> | 'all' {
    const current = this.#read(taskId);
    if (!row || !current || row.after === null) return new Set();
    const { before, after } = row;
    const differing = Object.keys(after).filter((column) => current[column] !== after[column]);
    if (before === null) return differing.length > 0 ? 'all' : new Set();
    const later = this.#later
      .all(taskId, changeId)
      .filter((one) => !this.#own.has(one.changeId))
      .flatMap((one) => Object.keys(JSON.parse(one.after) as Row));
    const edited = new Set([...differing, ...later]);
    const touches = (facet: Facet, columns: Iterable<string>) =>
      [...columns].some((column) => (FACETS[facet].columns as readonly string[]).includes(column));
    const kept = new Set(ALL.filter((facet) => touches(facet, edited)));
    // Where it stands and whose it is are one where both were changed at once, as when it is parked and comes back.
    const isMoved = touches('place', Object.keys(after)) && touches('owner', Object.keys(after));
    if (isMoved && (kept.has('place') || kept.has('owner'))) return kept.add('place').add('owner');
    // What is parked is nobody's.
    const back = { ...current };
    for (const facet of ALL)
      if (!kept.has(facet))
        for (const column of FACETS[facet].columns) if (column in before) back[column] = before[column]!;
    return back.set_aside === 'parked' && back.owner_id !== null ? kept.add('place').add('owner') : kept;
  }
}

/** A change may have written a task more than once, the last row first: what it was before all of it, and after. */
function joined(row: UndoneRow, known: ReadonlyMap<string, UndoneRow>): UndoneRow {
  const last = known.get(`${row.changeId}/${row.rowId}`);
  if (!last) return row;
  const before = row.before && { ...last.before, ...row.before };
  const after = last.after && { ...row.after, ...last.after };
  return { ...row, before, after };
}
