import type { SweepDefinition, SweepRunState } from '../../core/sweep/model.ts';
import type { Db } from '../db/open.ts';
import { readSweep } from './sweeps.ts';

/** `taken` will be swept; `left` was, when it came to it, changed or no longer to be swept; `kept` was not put back by the undo. */
export type SweepRowState = 'taken' | 'unticked' | 'protected' | 'done' | 'left' | 'undone' | 'kept';

/** How many tasks the lists hold, and how long a search takes, ms of the machine. */
export interface SweepMeasure {
  listed: number;
  searchMs: number;
}

export interface SweepRun {
  id: number;
  sweepId: number;
  name: string;
  definition: SweepDefinition;
  keeperId: number | null;
  /** The instant that it is computed for, workspace clock. */
  at: number;
  /** Comes from the schedule. */
  planned: boolean;
  state: SweepRunState;
  reason: string | null;
  lookedAt: number;
  seenChange: number;
  cursor: number;
  /** All tasks that stand where it looks: in the lists, in the archive, parked. */
  standing: number;
  /** Those of the right phase, that its filter finds. */
  looked: number;
  waiting: number;
  startedAt: number | null;
  startedBy: number | null;
  endedAt: number | null;
  undoneAt: number | null;
  /** Who took it back, or asked for it. */
  undoneBy: number | null;
  before: SweepMeasure | null;
  after: SweepMeasure | null;
}

export interface SweepRow {
  taskId: number;
  state: SweepRowState;
  reason: string | null;
  since: number | null;
}

/** A row with what a list of them shows. */
export interface SweepRowShown extends SweepRow {
  name: string | null;
  private: number;
  ownerId: number | null;
  projectId: number | null;
}

type Stored = Omit<SweepRun, 'definition' | 'planned' | 'before' | 'after'> & {
  definition: string;
  planned: number;
  before: string | null;
  after: string | null;
};

const RUN = `SELECT id, sweep_id AS sweepId, name, definition, keeper_id AS keeperId, at, planned, state, reason, looked_at AS lookedAt,
  seen_change AS seenChange, cursor, standing, looked, waiting, started_at AS startedAt, started_by AS startedBy, ended_at AS endedAt,
  undone_at AS undoneAt, undone_by AS undoneBy, before, after FROM sweep_run`;

/** Runs of sweeps, their rows, and what they changed. */
export class SweepRunStore {
  readonly #begin;
  readonly #byId;
  readonly #busy;
  readonly #ready;
  readonly #planned;
  readonly #waitingForYes;
  readonly #newest;
  readonly #set;
  readonly #looked;
  readonly #addRow;
  readonly #setRow;
  readonly #setRows;
  readonly #tasksOf;
  readonly #counts;
  readonly #rows;
  readonly #next;
  readonly #unticked;
  readonly #addChunk;
  readonly #lastChunk;
  readonly #changedSince;
  readonly #touchedSince;
  readonly #history;

  constructor(db: Db) {
    this.#begin = db.prepare<[Record<string, string | number | null>]>(
      `INSERT INTO sweep_run (sweep_id, name, definition, keeper_id, at, planned, state, looked_at, seen_change)
       VALUES (@sweepId, @name, @definition, @keeperId, @at, @planned, 'looking', @lookedAt, (SELECT coalesce(max(id), 0) FROM change))`
    );
    this.#byId = db.prepare<[number], Stored>(`${RUN} WHERE id = ?`);
    this.#busy = db.prepare<[], Stored>(
      `${RUN} WHERE state IN ('looking', 'running', 'undoing') ORDER BY id`
    );
    this.#ready = db.prepare<[number], Stored>(
      `${RUN} WHERE sweep_id = ? AND state IN ('looking', 'ready') ORDER BY id`
    );
    this.#planned = db.prepare<[], Stored>(
      `${RUN} WHERE state = 'ready' AND planned = 1 AND reason IS NULL ORDER BY at, id LIMIT 1`
    );
    this.#waitingForYes = db.prepare<[], Stored>(
      `${RUN} WHERE (state = 'ready' AND planned = 1 AND reason IS NOT NULL) OR state = 'halted' ORDER BY id`
    );
    this.#newest = db.prepare<[{ sweepId: number | null; most: number }], Stored>(
      `${RUN} WHERE @sweepId IS NULL OR sweep_id = @sweepId ORDER BY id DESC LIMIT @most`
    );
    this.#set = db.prepare<[Record<string, string | number | null>]>(
      `UPDATE sweep_run SET state = @state, standing = @standing, reason = @reason, started_at = @startedAt, started_by = @startedBy, ended_at = @endedAt,
       undone_at = @undoneAt, undone_by = @undoneBy, before = @before, after = @after WHERE id = @id`
    );
    this.#looked = db.prepare<[number, number, number, number]>(
      'UPDATE sweep_run SET cursor = ?, looked = looked + ?, waiting = waiting + ? WHERE id = ?'
    );
    this.#addRow = db.prepare<[number, number, string, string | null, number | null]>(
      'INSERT INTO sweep_row (run_id, task_id, state, reason, since) VALUES (?, ?, ?, ?, ?)'
    );
    this.#setRow = db.prepare<[string, string | null, number, number]>(
      'UPDATE sweep_row SET state = ?, reason = ? WHERE run_id = ? AND task_id = ?'
    );
    this.#setRows = db.prepare<[string, number, string]>(
      `UPDATE sweep_row SET state = ?, reason = NULL WHERE run_id = ? AND task_id IN (SELECT value FROM json_each(?))`
    );
    this.#tasksOf = db
      .prepare<[number], number>(
        // The plus keeps the planner from going through all tasks that were ever changed.
        `SELECT DISTINCT row_id FROM change_row WHERE change_id = ? AND +table_name = 'task'`
      )
      .pluck();
    this.#counts = db.prepare<[number], { state: SweepRowState; reason: string | null; count: number }>(
      'SELECT state, reason, count(*) AS count FROM sweep_row WHERE run_id = ? GROUP BY state, reason ORDER BY state, count DESC'
    );
    this.#rows = db.prepare<[{ runId: number; states: string; after: number; most: number }], SweepRowShown>(
      `SELECT r.task_id AS taskId, r.state, r.reason, r.since, t.name, coalesce(t.private, 0) AS private, t.owner_id AS ownerId,
       t.project_id AS projectId FROM sweep_row r LEFT JOIN task t ON t.id = r.task_id
       WHERE r.run_id = @runId AND r.state IN (SELECT value FROM json_each(@states)) AND r.task_id > @after ORDER BY r.task_id LIMIT @most`
    );
    this.#next = db.prepare<[number, number], { taskId: number }>(
      `SELECT task_id AS taskId FROM sweep_row WHERE run_id = ? AND state = 'taken' ORDER BY task_id LIMIT ?`
    );
    this.#unticked = db.prepare<[string, number, string, string]>(
      `UPDATE sweep_row SET state = ? WHERE run_id = ? AND state = ? AND task_id IN (SELECT value FROM json_each(?))`
    );
    this.#addChunk = db.prepare<[number, number]>(
      'INSERT OR IGNORE INTO sweep_chunk (run_id, change_id) VALUES (?, ?)'
    );
    this.#lastChunk = db.prepare<[number], { changeId: number }>(
      `SELECT c.change_id AS changeId FROM sweep_chunk c JOIN change h ON h.id = c.change_id
       WHERE c.run_id = ? AND h.undone_by IS NULL ORDER BY c.change_id DESC LIMIT 1`
    );
    this.#changedSince = db.prepare<[{ runId: number; since: number }], { found: number }>(
      `SELECT EXISTS (SELECT 1 FROM change c WHERE c.id > @since
       AND NOT EXISTS (SELECT 1 FROM sweep_chunk k WHERE k.run_id = @runId AND k.change_id = c.id)) AS found`
    );
    this.#touchedSince = db.prepare<[number, number], { title: string }>(
      `SELECT c.title FROM change_row r JOIN change c ON c.id = r.change_id
       WHERE r.table_name = 'task' AND r.row_id = ? AND r.change_id > ? ORDER BY r.change_id DESC LIMIT 1`
    );
    this.#history = db.prepare<
      [number],
      { runId: number; sweepId: number; name: string; at: number; done: number }
    >(
      `SELECT n.id AS runId, n.sweep_id AS sweepId, n.name, n.started_at AS at,
       (SELECT count(*) FROM sweep_row r WHERE r.run_id = n.id AND r.state IN ('done', 'kept')) AS done
       FROM sweep_run n WHERE n.started_at > ? AND n.state IN ('done', 'halted', 'running') ORDER BY n.started_at`
    );
  }

  /** Begins to look. @returns the run */
  begin(
    run: Pick<SweepRun, 'sweepId' | 'name' | 'keeperId' | 'at' | 'planned' | 'lookedAt' | 'definition'>
  ): number {
    const { definition, planned, ...rest } = run;
    const row = { ...rest, planned: planned ? 1 : 0, definition: JSON.stringify(definition) };
    return Number(this.#begin.run(row).lastInsertRowid);
  }

  byId(id: number): SweepRun | null {
    const row = this.#byId.get(id);
    return row ? toRun(row) : null;
  }

  /** Those under way: looking, running, being undone. */
  busy(): SweepRun[] {
    return this.#busy.all().map(toRun);
  }

  /** Those of a sweep whose list is made and that have not run. */
  waitingOf(sweepId: number): SweepRun[] {
    return this.#ready.all(sweepId).map(toRun);
  }

  /** The next that runs by itself, when its instant comes; null when none does. */
  nextPlanned(): SweepRun | null {
    const row = this.#planned.get();
    return row ? toRun(row) : null;
  }

  /** Planned ones that somebody must say yes to, and those that were halted half-way. */
  waitingForYes(): SweepRun[] {
    return this.#waitingForYes.all().map(toRun);
  }

  /** The newest, of one sweep or of all. */
  newest(sweepId: number | null, most: number): SweepRun[] {
    return this.#newest.all({ sweepId, most }).map(toRun);
  }

  /** Writes what a run has come to. */
  set(run: SweepRun): void {
    const { id, state, reason, standing, startedAt, startedBy, endedAt, undoneAt, undoneBy, before, after } =
      run;
    const measured = { before: before && JSON.stringify(before), after: after && JSON.stringify(after) };
    this.#set.run({
      id,
      state,
      reason,
      standing,
      startedAt,
      startedBy,
      endedAt,
      undoneAt,
      undoneBy,
      ...measured
    });
  }

  /** Notes how far a run has looked. */
  looked(id: number, cursor: number, looked: number, waiting: number): void {
    this.#looked.run(cursor, looked, waiting, id);
  }

  addRow(runId: number, { taskId, state, reason, since }: SweepRow): void {
    this.#addRow.run(runId, taskId, state, reason, since);
  }

  setRow(runId: number, taskId: number, state: SweepRowState, reason: string | null = null): void {
    this.#setRow.run(state, reason, runId, taskId);
  }

  /** As above for many, without a reason. */
  setRows(runId: number, taskIds: readonly number[], state: SweepRowState): void {
    this.#setRows.run(state, runId, JSON.stringify(taskIds));
  }

  /** The tasks that a change wrote. */
  tasksOfChange(changeId: number): number[] {
    return this.#tasksOf.all(changeId);
  }

  /** How many rows there are of each state and reason. */
  counts(runId: number): { state: SweepRowState; reason: string | null; count: number }[] {
    return this.#counts.all(runId);
  }

  /** How many rows stand in one state. */
  count(runId: number, state: SweepRowState): number {
    return this.counts(runId).reduce((sum, one) => sum + (one.state === state ? one.count : 0), 0);
  }

  /** Rows of some states by task, after one. */
  rows(runId: number, states: readonly SweepRowState[], after: number, most: number): SweepRowShown[] {
    return this.#rows.all({ runId, states: JSON.stringify(states), after, most });
  }

  /** The next tasks to sweep. */
  next(runId: number, most: number): number[] {
    return this.#next.all(runId, most).map(({ taskId }) => taskId);
  }

  /** Leaves tasks out, or takes them again. @returns how many that was */
  tick(runId: number, taskIds: readonly number[], ticked: boolean): number {
    const [to, from] = ticked ? ['taken', 'unticked'] : ['unticked', 'taken'];
    return this.#unticked.run(to, runId, from, JSON.stringify(taskIds)).changes;
  }

  addChunk(runId: number, changeId: number): void {
    this.#addChunk.run(runId, changeId);
  }

  /** The newest change of a run that stands. */
  lastChunk(runId: number): number | null {
    return this.#lastChunk.get(runId)?.changeId ?? null;
  }

  /** Whether anybody but the run itself has changed anything since a change. */
  isChangedSince(runId: number, since: number): boolean {
    return this.#changedSince.get({ runId, since })!.found === 1;
  }

  /** What was last done to a task after a change, in words; null when nothing was. */
  touchedSince(taskId: number, since: number): string | null {
    return this.#touchedSince.get(taskId, since)?.title ?? null;
  }

  /** What each run took since an instant, in order. */
  history(since: number): { runId: number; sweepId: number; name: string; at: number; done: number }[] {
    return this.#history.all(since);
  }
}

function toRun(row: Stored): SweepRun {
  const measure = (text: string | null) => (text === null ? null : (JSON.parse(text) as SweepMeasure));
  return {
    ...row,
    definition: readSweep(row.definition),
    planned: row.planned === 1,
    before: measure(row.before),
    after: measure(row.after)
  };
}
