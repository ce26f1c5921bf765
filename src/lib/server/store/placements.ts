import type { Phase, Priority, SetAside } from '../../core/task/model.ts';
import type { Db } from '../db/open.ts';
import type { ChangeSource } from './change-model.ts';

/** How somebody has placed a task of theirs. */
export interface PlacementRecord {
  id: number;
  taskId: number;
  personId: number;
  placedAt: number;
  plan: 'today' | 'days' | null;
  planFirst: string | null;
  planLast: string | null;
  position: number | null;
}

/** What of a task decides where it stands on the Desk of one person, as it is stored. */
export interface DeskRow {
  id: number;
  name: string;
  phase: Phase;
  priority: Priority;
  projectId: number | null;
  dueDate: string | null;
  dueTime: string | null;
  dueZone: string | null;
  startDate: string | null;
  startTime: string | null;
  startZone: string | null;
  setAside: SetAside | null;
  reviewDate: string | null;
  /** A `StoredRhythm` as JSON: a Desk holds thousands of rows, and few come back. */
  rhythm: string | null;
  /** When it came to its first owner, workspace clock. */
  assignedAt: number;
  private: 0 | 1;
  placedAt: number | null;
  plan: 'today' | 'days' | null;
  planFirst: string | null;
  planLast: string | null;
  /** When it was planned, workspace clock; null without a plan. */
  plannedAt: number | null;
  position: number | null;
}

/** How a task came to somebody. */
export interface Given {
  taskId: number;
  /** Workspace clock. */
  at: number;
  actorId: number | null;
  source: ChangeSource;
  ruleId: number | null;
}

const PLACEMENT = `SELECT id, task_id AS taskId, person_id AS personId, placed_at AS placedAt, plan, plan_first AS planFirst,
  plan_last AS planLast, position FROM placement`;

const DESK_ROW = `SELECT t.id, t.name, s.phase, t.priority, t.project_id AS projectId, t.due_date AS dueDate, t.due_time AS dueTime, t.due_zone AS dueZone,
  t.start_date AS startDate, t.start_time AS startTime, t.start_zone AS startZone, t.set_aside AS setAside,
  t.review_date AS reviewDate, t.rhythm, t.assigned_at AS assignedAt, t.private,
  p.placed_at AS placedAt, p.plan, p.plan_first AS planFirst, p.plan_last AS planLast, p.planned_at AS plannedAt, p.position
  FROM task t JOIN status s ON s.id = t.status_id LEFT JOIN project j ON j.id = t.project_id
  LEFT JOIN placement p ON p.task_id = t.id AND p.person_id = @personId`;

/**
 * Work of somebody that is not done with; things with dates but no work are none, and what is called off or closed is nobody's.
 * The plus: it is reached by whose it is; an index of all that is in the list would be walked through from end to end.
 */
const WORK = `+t.set_aside IS NULL AND s.phase <> 'closed' AND coalesce(j.state, 'open') = 'open' AND coalesce(j.register, 0) = 0`;

/** Whose a parked task is meanwhile: whoever parked it; gone, whoever had it; gone too, the first coordinator. */
const PARKED_BY = `coalesce(
  (SELECT id FROM person WHERE id = t.parked_by AND active = 1), (SELECT id FROM person WHERE id = t.former_owner_id AND active = 1),
  (SELECT min(id) FROM person WHERE active = 1 AND role IN ('coordinator', 'administrator')))`;

/** Where people have placed tasks on their Desks, and which tasks a Desk holds. */
export class PlacementStore {
  readonly #one;
  readonly #ofTask;
  readonly #desk;
  readonly #among;
  readonly #unplaced;
  readonly #given;
  readonly #withoutTime;

  constructor(db: Db) {
    this.#one = db.prepare<[number, number], PlacementRecord>(
      `${PLACEMENT} WHERE task_id = ? AND person_id = ?`
    );
    this.#ofTask = db.prepare<[number], PlacementRecord>(`${PLACEMENT} WHERE task_id = ?`);
    const own = `t.id IN (SELECT id FROM task WHERE owner_id = @personId UNION SELECT task_id FROM co_owner WHERE person_id = @personId)`;
    const parked = `t.set_aside = 'parked' AND ${PARKED_BY} = @personId`;
    this.#desk = db.prepare<[{ personId: number }], DeskRow>(
      `${DESK_ROW} WHERE ${own} AND ${WORK} UNION ALL ${DESK_ROW} WHERE ${parked}`
    );
    this.#among = db.prepare<[{ personId: number; ids: string }], DeskRow>(
      `${DESK_ROW} WHERE t.id IN (SELECT value FROM json_each(@ids)) AND ((${own} AND ${WORK}) OR (${parked}))`
    );
    this.#unplaced = db.prepare<[{ personId: number; before: number }], { count: number }>(
      `SELECT count(*) AS count FROM task t JOIN status s ON s.id = t.status_id LEFT JOIN project j ON j.id = t.project_id
       WHERE t.owner_id = @personId AND ${WORK} AND s.phase <> 'finished' AND t.assigned_at < @before
       AND NOT EXISTS (SELECT 1 FROM placement p WHERE p.task_id = t.id AND p.person_id = t.owner_id)`
    );
    this.#withoutTime = db.prepare<[{ personId: number }], { id: number; name: string }>(
      `SELECT t.id, t.name FROM task t JOIN status s ON s.id = t.status_id LEFT JOIN project j ON j.id = t.project_id
       WHERE t.owner_id = @personId AND t.log_time = 1 AND s.phase = 'finished' AND ${WORK}
       AND NOT EXISTS (SELECT 1 FROM time_entry e WHERE e.task_id = t.id) ORDER BY t.finished_at, t.id`
    );
    const given = 'c.at, c.actor_id AS actorId, c.source, c.rule_id AS ruleId';
    this.#given = db.prepare<[{ personId: number; ids: string }], Given>(
      `SELECT r.row_id AS taskId, ${given}, r.id AS nth FROM change_row r JOIN change c ON c.id = r.change_id
       WHERE r.table_name = 'task' AND r.row_id IN (SELECT value FROM json_each(@ids))
       AND json_extract(r.after, '$.owner_id') = @personId AND c.undone_by IS NULL
       UNION ALL SELECT o.task_id, ${given}, r.id FROM co_owner o
       JOIN change_row r ON r.table_name = 'co_owner' AND r.row_id = o.id AND r.before IS NULL
       JOIN change c ON c.id = r.change_id
       WHERE o.person_id = @personId AND o.task_id IN (SELECT value FROM json_each(@ids)) AND c.undone_by IS NULL ORDER BY nth`
    );
  }

  of(taskId: number, personId: number): PlacementRecord | null {
    return this.#one.get(taskId, personId) ?? null;
  }

  ofTask(taskId: number): PlacementRecord[] {
    return this.#ofTask.all(taskId);
  }

  /** Everything that can stand on the Desk of somebody. */
  desk(personId: number): DeskRow[] {
    return this.#desk.all({ personId });
  }

  /** Those of some tasks that can. */
  deskAmong(personId: number, ids: readonly number[]): DeskRow[] {
    return this.#among.all({ personId, ids: JSON.stringify(ids) });
  }

  /** Finished work of somebody whose time is to be logged, and is not yet. */
  withoutTime(personId: number): { id: number; name: string }[] {
    return this.#withoutTime.all({ personId });
  }

  /** How many tasks somebody has had, as their first owner, since before an instant and has not placed: workspace clock. */
  unplacedBefore(personId: number, before: number): number {
    return this.#unplaced.get({ personId, before })!.count;
  }

  /** By whom and when tasks were given to somebody, alone or with others: the last time of each that stands. */
  givenTo(personId: number, taskIds: readonly number[]): Map<number, Given> {
    const rows = this.#given.all({ personId, ids: JSON.stringify(taskIds) });
    return new Map(rows.map((row) => [row.taskId, row]));
  }
}
