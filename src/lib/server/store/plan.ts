import type { Db } from '../db/open.ts';

export interface PlanRow {
  taskId: number;
  ruleId: number;
  leadId: string;
  recipientId: number;
  ringAt: number;
  originDay: number;
  anchorValue: string;
  /** Due moment of the task, for the order of rings at one instant; the largest integer without a due date. */
  dueAt: number;
}

export type ReplanCause = 'created' | 'date moved' | 'other';

/** A task whose plan is stale. */
export interface StaleTask {
  taskId: number;
  cause: ReplanCause;
  /** The change that made it stale; 0 when it was none. */
  changeId: number;
  /** Who made that change. */
  actorId: number | null;
}

/** Stands for “no due moment” where an integer is needed to sort by. */
export const NO_DUE_MOMENT = Number.MAX_SAFE_INTEGER;

/** The kept plan, and the tasks whose part of it is stale. */
export class PlanStore {
  readonly #insert;
  readonly #clear;
  readonly #nextInstant;
  readonly #at;
  readonly #drop;
  readonly #enqueue;
  readonly #enqueueAll;
  readonly #stale;
  readonly #settled;
  readonly #count;
  readonly #all;
  readonly #nextOf;
  readonly #tasksBy;

  constructor(db: Db) {
    const columns = `p.task_id AS taskId, p.rule_id AS ruleId, p.lead_id AS leadId, p.recipient_id AS recipientId,
      p.ring_at AS ringAt, p.origin_day AS originDay, p.anchor_value AS anchorValue, p.due_at AS dueAt`;
    this.#insert = db.prepare<[PlanRow]>(
      `INSERT INTO plan (task_id, rule_id, lead_id, recipient_id, ring_at, origin_day, anchor_value, due_at)
       VALUES (@taskId, @ruleId, @leadId, @recipientId, @ringAt, @originDay, @anchorValue, @dueAt)`
    );
    this.#clear = db.prepare<[number]>('DELETE FROM plan WHERE task_id = ?');
    this.#nextInstant = db.prepare<[], { at: number | null }>('SELECT min(ring_at) AS at FROM plan');
    // Order at one instant: rule order, rule id, due moment, task id.
    this.#at = db.prepare<[number, number], PlanRow>(
      `SELECT ${columns} FROM plan p JOIN rule r ON r.id = p.rule_id WHERE p.ring_at = ?
       ORDER BY r.position, p.rule_id, p.due_at, p.task_id, p.lead_id, p.recipient_id LIMIT ?`
    );
    this.#drop = db.prepare<[PlanRow]>(
      'DELETE FROM plan WHERE task_id = @taskId AND rule_id = @ruleId AND lead_id = @leadId AND recipient_id = @recipientId'
    );
    this.#enqueue = db.prepare<[StaleTask]>(
      `INSERT INTO replan (task_id, cause, change_id, actor_id) VALUES (@taskId, @cause, @changeId, @actorId)
       ON CONFLICT (task_id) DO UPDATE SET cause = excluded.cause, change_id = excluded.change_id, actor_id = excluded.actor_id
       WHERE cause = 'other'`
    );
    this.#enqueueAll = db.prepare(
      `INSERT INTO replan (task_id, cause, change_id) SELECT id, 'other', 0 FROM task WHERE true ON CONFLICT DO NOTHING`
    );
    this.#stale = db.prepare<[number], StaleTask>(
      'SELECT task_id AS taskId, cause, change_id AS changeId, actor_id AS actorId FROM replan ORDER BY task_id LIMIT ?'
    );
    this.#settled = db.prepare<[number]>('DELETE FROM replan WHERE task_id = ?');
    this.#count = db.prepare<[], { count: number }>('SELECT count(*) AS count FROM replan');
    this.#tasksBy = db.prepare<[number], { taskId: number }>(
      'SELECT DISTINCT task_id AS taskId FROM plan WHERE ring_at <= ?'
    );
    this.#nextOf = db.prepare<[string], { taskId: number; at: number }>(
      `SELECT task_id AS taskId, min(ring_at) AS at FROM plan
       WHERE task_id IN (SELECT value FROM json_each(?)) GROUP BY task_id`
    );
    this.#all = db.prepare<[], PlanRow>(
      `SELECT ${columns} FROM plan p ORDER BY p.ring_at, p.task_id, p.rule_id, p.lead_id`
    );
  }

  /** Tasks that ring at or before an instant. */
  tasksBy(until: number): number[] {
    return this.#tasksBy.all(until).map(({ taskId }) => taskId);
  }

  /** The next ring instant of each of some tasks that has one. */
  nextOf(taskIds: readonly number[]): Map<number, number> {
    const rows = this.#nextOf.all(JSON.stringify(taskIds));
    return new Map(rows.map(({ taskId, at }) => [taskId, at]));
  }

  add(row: PlanRow): void {
    this.#insert.run(row);
  }

  clear(taskId: number): void {
    this.#clear.run(taskId);
  }

  /** The earliest ring instant planned; null when nothing is. */
  nextInstant(): number | null {
    return this.#nextInstant.get()!.at;
  }

  /** The rows that ring at an instant, in the order in which they ring, at most `limit`. */
  at(instant: number, limit: number): PlanRow[] {
    return this.#at.all(instant, limit);
  }

  drop(row: PlanRow): void {
    this.#drop.run(row);
  }

  all(): PlanRow[] {
    return this.#all.all();
  }

  /** Marks a task's plan as stale; a cause that owes past rings something is kept over one that does not. */
  enqueue(stale: StaleTask): void {
    this.#enqueue.run(stale);
  }

  enqueueAll(): void {
    this.#enqueueAll.run();
  }

  stale(limit: number): StaleTask[] {
    return this.#stale.all(limit);
  }

  settled(taskId: number): void {
    this.#settled.run(taskId);
  }

  staleCount(): number {
    return this.#count.get()!.count;
  }
}
