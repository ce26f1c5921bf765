import type { Db } from '../db/open.ts';

export interface PlanRow {
  taskId: number;
  ruleId: number;
  leadId: string;
  /** 0 stands for the run of the ring. */
  recipientId: number;
  /** Which repeat of the lead. */
  ordinal: number;
  /** Place of the lead in its rule. */
  leadOrder: number;
  ringAt: number;
  /** The earlier minute that it is brought forward to, at which it is taken; null when it is not. */
  forwardAt: number | null;
  originDay: number;
  anchorValue: string;
  /** Due moment of the task, for the order of rings at one instant; the largest integer without a due date. */
  dueAt: number;
}

/** What was taken back owes nothing that has passed. */
export type ReplanCause = 'created' | 'date moved' | 'other' | 'undone';

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
  readonly #turnOn;
  readonly #turnedOn;
  readonly #planned;
  readonly #stale;
  readonly #onlyOf;
  readonly #settled;
  readonly #count;
  readonly #ringsBetween;
  readonly #anyStale;
  readonly #all;
  readonly #ofTask;
  readonly #dueOf;
  readonly #taskIds;
  readonly #nextOf;
  readonly #tasksBy;
  readonly #tasksOfRule;

  constructor(db: Db) {
    const columns = `p.task_id AS taskId, p.rule_id AS ruleId, p.lead_id AS leadId, p.recipient_id AS recipientId, p.ordinal, p.lead_order AS leadOrder,
      coalesce(p.brought_from, p.ring_at) AS ringAt, CASE WHEN p.brought_from IS NOT NULL THEN p.ring_at END AS forwardAt, p.origin_day AS originDay, p.anchor_value AS anchorValue, p.due_at AS dueAt`;
    this.#insert = db.prepare<[PlanRow]>(
      `INSERT INTO plan (task_id, rule_id, lead_id, recipient_id, ordinal, lead_order, ring_at, brought_from, origin_day, anchor_value, due_at)
       VALUES (@taskId, @ruleId, @leadId, @recipientId, @ordinal, @leadOrder, coalesce(@forwardAt, @ringAt),
         CASE WHEN @forwardAt IS NOT NULL THEN @ringAt END, @originDay, @anchorValue, @dueAt)`
    );
    this.#clear = db.prepare<[number]>('DELETE FROM plan WHERE task_id = ?');
    this.#nextInstant = db.prepare<[], { at: number | null }>('SELECT min(ring_at) AS at FROM plan');
    // Order at one instant: rule order, rule id, due moment, task id, the lead's place; its steps come after what they come after.
    this.#at = db.prepare<[number, number], PlanRow>(
      `SELECT ${columns} FROM plan p JOIN rule r ON r.id = p.rule_id WHERE p.ring_at = ?
       ORDER BY r.position, p.rule_id, p.due_at, p.task_id, p.lead_order, p.recipient_id = 0, p.recipient_id LIMIT ?`
    );
    this.#drop = db.prepare<[PlanRow]>(
      'DELETE FROM plan WHERE task_id = @taskId AND rule_id = @ruleId AND lead_id = @leadId AND recipient_id = @recipientId'
    );
    this.#enqueue = db.prepare<[Omit<StaleTask, 'taskId'> & { ids: string }]>(
      `INSERT INTO replan (task_id, cause, change_id, actor_id) SELECT value, @cause, @changeId, @actorId FROM json_each(@ids) WHERE true
       ON CONFLICT (task_id) DO UPDATE SET first_at = 0, cause = excluded.cause, change_id = excluded.change_id,
         actor_id = excluded.actor_id WHERE cause IN ('other', 'undone')`
    );
    this.#enqueueAll = db.prepare(
      `INSERT INTO replan (task_id, cause, change_id, first_at)
       SELECT t.id, 'other', 0, coalesce((SELECT min(p.ring_at) FROM plan p WHERE p.task_id = t.id), ${NO_DUE_MOMENT})
       FROM task t WHERE true ON CONFLICT DO NOTHING`
    );
    this.#turnOn = db.prepare<[number]>('INSERT INTO turned_on (rule_id) VALUES (?) ON CONFLICT DO NOTHING');
    this.#turnedOn = db.prepare<[], { ruleId: number }>('SELECT rule_id AS ruleId FROM turned_on');
    this.#planned = db.prepare('DELETE FROM turned_on');
    this.#stale = db.prepare<[number], StaleTask>(
      `SELECT task_id AS taskId, cause, change_id AS changeId, actor_id AS actorId
       FROM replan ORDER BY first_at, task_id LIMIT ?`
    );
    this.#onlyOf = db.prepare<[string]>(
      'DELETE FROM replan WHERE change_id = 0 AND task_id NOT IN (SELECT value FROM json_each(?))'
    );
    this.#settled = db.prepare<[number]>('DELETE FROM replan WHERE task_id = ?');
    this.#anyStale = db.prepare('SELECT 1 FROM replan LIMIT 1');
    this.#ringsBetween = db.prepare<[number, number], { recipientId: number; ringAt: number }>(
      'SELECT recipient_id AS recipientId, ring_at AS ringAt FROM plan WHERE ring_at >= ? AND ring_at < ? AND recipient_id > 0'
    );
    this.#count = db.prepare<[], { count: number }>('SELECT count(*) AS count FROM replan');
    this.#tasksBy = db.prepare<[number], { taskId: number }>(
      'SELECT DISTINCT task_id AS taskId FROM plan WHERE ring_at <= ?'
    );
    this.#tasksOfRule = db.prepare<[{ ruleId: number }], { taskId: number }>(
      `SELECT task_id AS taskId FROM plan WHERE rule_id = @ruleId
       UNION SELECT g.subject_id FROM notice n JOIN ring g ON g.id = n.ring_id
       WHERE g.rule_id = @ruleId AND g.subject_kind = 'task' AND n.state IN ('planned', 'held', 'folded')
       UNION SELECT g.subject_id FROM run u JOIN ring g ON g.id = u.ring_id
       WHERE g.rule_id = @ruleId AND g.subject_kind = 'task' AND u.state IN ('running', 'asking')`
    );
    this.#nextOf = db.prepare<[string], { taskId: number; at: number }>(
      `SELECT task_id AS taskId, min(ring_at) AS at FROM plan
       WHERE task_id IN (SELECT value FROM json_each(?)) GROUP BY task_id`
    );
    this.#taskIds = db.prepare<[], { taskId: number }>('SELECT DISTINCT task_id AS taskId FROM plan');
    this.#ofTask = db.prepare<[number], PlanRow>(
      `SELECT ${columns} FROM plan p WHERE p.task_id = ? ORDER BY coalesce(p.brought_from, p.ring_at), p.rule_id, p.lead_order`
    );
    this.#dueOf = db.prepare<[number, number], PlanRow>(
      `SELECT ${columns} FROM plan p WHERE p.task_id = ? AND p.ring_at <= ?`
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

  /** Every task for which a ring is planned. */
  taskIds(): number[] {
    return this.#taskIds.all().map(({ taskId }) => taskId);
  }

  /** Tasks for which a rule has a ring planned, or something that waits. */
  tasksOfRule(ruleId: number): number[] {
    return this.#tasksOfRule.all({ ruleId }).map(({ taskId }) => taskId);
  }

  /** What of one task's plan has come by an instant and has not rung yet. */
  dueOf(taskId: number, now: number): PlanRow[] {
    return this.#dueOf.all(taskId, now);
  }

  /** What is planned for one task, the nearest ring first. */
  ofTask(taskId: number): PlanRow[] {
    return this.#ofTask.all(taskId);
  }

  all(): PlanRow[] {
    return this.#all.all();
  }

  /** Marks a task's plan as stale; a cause that owes past rings something is kept over one that does not. */
  enqueue(taskIds: readonly number[], why: Omit<StaleTask, 'taskId'>): void {
    this.#enqueue.run({ ids: JSON.stringify(taskIds), ...why });
  }

  enqueueAll(): void {
    this.#enqueueAll.run();
  }

  /** A rule was turned on: its rings that have passed are looked at when all is planned, in case it wants the latest of them. */
  turnOn(ruleId: number): void {
    this.#turnOn.run(ruleId);
  }

  /** Rules that were turned on since everything was last planned. */
  turnedOn(): Set<number> {
    return new Set(this.#turnedOn.all().map(({ ruleId }) => ruleId));
  }

  /** Everything is planned. */
  allPlanned(): void {
    this.#planned.run();
  }

  /** Some of the stale tasks: what has just been changed first, then what rings next. */
  stale(limit: number): StaleTask[] {
    return this.#stale.all(limit);
  }

  /** Of what is stale because of something that concerns all tasks, only some are planned anew: for whoever tries something out. */
  onlyOf(taskIds: readonly number[]): void {
    this.#onlyOf.run(JSON.stringify(taskIds));
  }

  settled(taskId: number): void {
    this.#settled.run(taskId);
  }

  /** Whether anything waits to be planned anew; asked at every slice, where counting them would cost as much as planning some. */
  get isStale(): boolean {
    return this.#anyStale.get() !== undefined;
  }

  staleCount(): number {
    return this.#count.get()!.count;
  }

  /** Rings that are planned for people in `[from, until)`: of each the next one. */
  ringsBetween(from: number, until: number): { recipientId: number; ringAt: number }[] {
    return this.#ringsBetween.all(from, until);
  }
}
