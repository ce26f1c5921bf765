import type { Db } from '../db/open.ts';

/** Stands for “no task”: the rule by itself cannot be computed, its schedule for one. */
export const NO_TASK = 0;

/** A rule that cannot be computed for a task. */
export interface RuleFaultRecord {
  ruleId: number;
  /** 0 where it is the rule by itself. */
  taskId: number;
  /** When its rings were planned, or when one was to ring or to leave. */
  found: 'planning' | 'ringing';
  /** Of the error; “unknown” where it has none. */
  code: string;
  /** The sentence that says what is wrong. */
  message: string;
  /** Workspace clock. */
  at: number;
}

const SELECT = 'SELECT rule_id AS ruleId, task_id AS taskId, found, code, message, at FROM rule_fault';

/** Rules that cannot be computed for some tasks, and whose keepers have heard of it. */
export class RuleFaultStore {
  readonly #put;
  readonly #drop;
  readonly #dropOfRule;
  readonly #ofTask;
  readonly #ofRule;
  readonly #ofItself;
  readonly #counts;
  readonly #untold;
  readonly #tell;
  readonly #forgetTold;

  constructor(db: Db) {
    // What was found first stands: a ring that fails again and again is one fault.
    this.#put = db.prepare<[RuleFaultRecord]>(
      `INSERT INTO rule_fault (rule_id, task_id, found, code, message, at) VALUES (@ruleId, @taskId, @found, @code, @message, @at)
       ON CONFLICT DO UPDATE SET found = excluded.found, code = excluded.code, message = excluded.message`
    );
    this.#drop = db.prepare<[number, number]>('DELETE FROM rule_fault WHERE rule_id = ? AND task_id = ?');
    this.#dropOfRule = db.prepare<[number]>('DELETE FROM rule_fault WHERE rule_id = ?');
    this.#ofTask = db.prepare<[number], RuleFaultRecord>(`${SELECT} WHERE task_id = ?`);
    this.#ofRule = db.prepare<[number, number], RuleFaultRecord>(
      `${SELECT} WHERE rule_id = ? ORDER BY at, task_id LIMIT ?`
    );
    this.#ofItself = db.prepare<[number], RuleFaultRecord>(
      `${SELECT} WHERE rule_id = ? AND task_id = ${NO_TASK}`
    );
    this.#counts = db.prepare<[], { ruleId: number; count: number }>(
      'SELECT rule_id AS ruleId, count(*) AS count FROM rule_fault GROUP BY rule_id'
    );
    this.#untold = db.prepare<[], { ruleId: number }>(
      'SELECT DISTINCT rule_id AS ruleId FROM rule_fault WHERE rule_id NOT IN (SELECT rule_id FROM rule_fault_told)'
    );
    this.#tell = db.prepare<[number]>(
      'INSERT INTO rule_fault_told (rule_id) VALUES (?) ON CONFLICT DO NOTHING'
    );
    this.#forgetTold = db.prepare(
      'DELETE FROM rule_fault_told WHERE rule_id NOT IN (SELECT rule_id FROM rule_fault)'
    );
  }

  put(fault: RuleFaultRecord): void {
    this.#put.run(fault);
  }

  drop(ruleId: number, taskId: number): void {
    this.#drop.run(ruleId, taskId);
  }

  dropOfRule(ruleId: number): void {
    this.#dropOfRule.run(ruleId);
  }

  ofTask(taskId: number): RuleFaultRecord[] {
    return this.#ofTask.all(taskId);
  }

  /** Those of a rule, the oldest first. */
  ofRule(ruleId: number, limit: number): RuleFaultRecord[] {
    return this.#ofRule.all(ruleId, limit);
  }

  /** What is wrong with a rule by itself; null where nothing is. */
  ofItself(ruleId: number): RuleFaultRecord | null {
    return this.#ofItself.get(ruleId) ?? null;
  }

  /** For how many tasks each rule cannot be computed; rules that can be for all are left out. */
  counts(): Map<number, number> {
    return new Map(this.#counts.all().map(({ ruleId, count }) => [ruleId, count]));
  }

  /** Rules whose keeper has not heard yet. */
  untold(): number[] {
    return this.#untold.all().map(({ ruleId }) => ruleId);
  }

  /** Their keeper has heard. */
  tell(ruleId: number): void {
    this.#tell.run(ruleId);
  }

  /** Where nothing is left the next fault is a new one, and is told again. */
  forgetTold(): void {
    this.#forgetTold.run();
  }
}
