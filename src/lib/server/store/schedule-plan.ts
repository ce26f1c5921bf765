import type { Db } from '../db/open.ts';

/** When a schedule rings next on one clock. */
export interface ScheduleRow {
  ruleId: number;
  leadId: string;
  /** The key of the clock; empty for the one clock of a schedule that rings on the workspace’s or a named place’s. */
  clock: string;
  nextAt: number;
}

/** On which clock a schedule rings for a task, or for one of whom it tells; person 0 is the run. */
export interface SeatRow {
  ruleId: number;
  leadId: string;
  personId: number;
  /** The version of the rule by which it is there. */
  versionId: number;
  clock: string;
}

/** A ring that is owed to a task since it came to a clock that was past it. */
export interface OwedRow {
  ruleId: number;
  leadId: string;
  clock: string;
  taskId: number;
  at: number;
}

/** The next rings of schedules, and which tasks are on which of their clocks. */
export class SchedulePlanStore {
  readonly #all;
  readonly #clear;
  readonly #put;
  readonly #has;
  readonly #drop;
  readonly #next;
  readonly #clocks;
  readonly #seatsOf;
  readonly #unseat;
  readonly #seat;
  readonly #onClock;
  readonly #dropSeats;
  readonly #owe;
  readonly #owed;
  readonly #settle;
  readonly #unowe;

  constructor(db: Db) {
    this.#all = db.prepare<[], ScheduleRow>(
      `SELECT s.rule_id AS ruleId, s.lead_id AS leadId, s.clock, s.next_at AS nextAt FROM schedule_plan s
       JOIN rule r ON r.id = s.rule_id ORDER BY s.next_at, r.position, s.rule_id, s.lead_id, s.clock`
    );
    this.#clear = db.prepare('DELETE FROM schedule_plan');
    this.#put = db.prepare<[ScheduleRow]>(
      `INSERT INTO schedule_plan (rule_id, lead_id, clock, next_at) VALUES (@ruleId, @leadId, @clock, @nextAt)
       ON CONFLICT DO UPDATE SET next_at = excluded.next_at`
    );
    this.#has = db.prepare<[Omit<ScheduleRow, 'nextAt'>], { known: number }>(
      'SELECT 1 AS known FROM schedule_plan WHERE rule_id = @ruleId AND lead_id = @leadId AND clock = @clock'
    );
    this.#drop = db.prepare<[ScheduleRow]>(
      'DELETE FROM schedule_plan WHERE rule_id = @ruleId AND lead_id = @leadId AND clock = @clock'
    );
    this.#next = db.prepare<[], { at: number | null }>(
      'SELECT min(at) AS at FROM (SELECT min(next_at) AS at FROM schedule_plan UNION ALL SELECT min(at) FROM schedule_owed)'
    );
    this.#clocks = db.prepare<[], Omit<ScheduleRow, 'nextAt'>>(
      'SELECT DISTINCT rule_id AS ruleId, lead_id AS leadId, clock FROM schedule_seat'
    );
    this.#seatsOf = db.prepare<[number], SeatRow>(
      `SELECT rule_id AS ruleId, lead_id AS leadId, person_id AS personId, version_id AS versionId, clock
       FROM schedule_seat WHERE task_id = ?`
    );
    this.#unseat = db.prepare<[number]>('DELETE FROM schedule_seat WHERE task_id = ?');
    this.#seat = db.prepare<[SeatRow & { taskId: number }]>(
      `INSERT INTO schedule_seat (task_id, rule_id, lead_id, person_id, version_id, clock)
       VALUES (@taskId, @ruleId, @leadId, @personId, @versionId, @clock)`
    );
    this.#onClock = db.prepare<[Omit<ScheduleRow, 'nextAt'>], { taskId: number }>(
      `SELECT DISTINCT task_id AS taskId FROM schedule_seat WHERE rule_id = @ruleId AND lead_id = @leadId AND clock = @clock
       ORDER BY task_id`
    );
    this.#dropSeats = db.prepare<[string]>(
      `DELETE FROM schedule_seat WHERE rule_id || '/' || lead_id NOT IN (SELECT value FROM json_each(?))`
    );
    this.#owe = db.prepare<[OwedRow]>(
      `INSERT INTO schedule_owed (rule_id, lead_id, clock, task_id, at) VALUES (@ruleId, @leadId, @clock, @taskId, @at)
       ON CONFLICT DO NOTHING`
    );
    this.#owed = db.prepare<[number], OwedRow>(
      'SELECT rule_id AS ruleId, lead_id AS leadId, clock, task_id AS taskId, at FROM schedule_owed WHERE at <= ? ORDER BY at, rule_id, lead_id, clock, task_id'
    );
    this.#settle = db.prepare<[OwedRow]>(
      'DELETE FROM schedule_owed WHERE rule_id = @ruleId AND lead_id = @leadId AND clock = @clock AND task_id = @taskId'
    );
    this.#unowe = db.prepare('DELETE FROM schedule_owed');
  }

  /** The next ring of each schedule on each of its clocks, in the order in which they ring. */
  all(): ScheduleRow[] {
    return this.#all.all();
  }

  /** Makes these the schedules' next rings. */
  set(rows: readonly ScheduleRow[]): void {
    this.#clear.run();
    for (const row of rows) this.put(row);
  }

  put(row: ScheduleRow): void {
    this.#put.run(row);
  }

  /** Whether a clock of a schedule is planned. */
  has(row: Omit<ScheduleRow, 'nextAt'>): boolean {
    return this.#has.get(row) !== undefined;
  }

  drop(row: ScheduleRow): void {
    this.#drop.run(row);
  }

  /** When the next schedule rings; null when none does. */
  nextAt(): number | null {
    return this.#next.get()!.at;
  }

  /** The clocks on which tasks are. */
  clocks(): Omit<ScheduleRow, 'nextAt'>[] {
    return this.#clocks.all();
  }

  /** On which clocks one task is. */
  seatsOf(taskId: number): SeatRow[] {
    return this.#seatsOf.all(taskId);
  }

  /** Makes these the clocks of a task. */
  seat(taskId: number, seats: readonly SeatRow[]): void {
    this.#unseat.run(taskId);
    for (const seat of seats) this.#seat.run({ ...seat, taskId });
  }

  /** The tasks for which a schedule rings on a clock. */
  onClock({ ruleId, leadId, clock }: Omit<ScheduleRow, 'nextAt'>): number[] {
    return this.#onClock.all({ ruleId, leadId, clock }).map(({ taskId }) => taskId);
  }

  /** Takes every task off the clocks of schedules that are no longer among these. */
  keepOnly(leads: readonly { ruleId: number; leadId: string }[]): void {
    this.#dropSeats.run(JSON.stringify(leads.map(({ ruleId, leadId }) => `${ruleId}/${leadId}`)));
  }

  owe(row: OwedRow): void {
    this.#owe.run(row);
  }

  /** What is owed by an instant. */
  owed(until: number): OwedRow[] {
    return this.#owed.all(until);
  }

  settled(row: OwedRow): void {
    this.#settle.run(row);
  }

  /** Nothing is owed any more. */
  forgive(): void {
    this.#unowe.run();
  }
}
