import type { Unanswered } from '../../core/sweep/model.ts';
import type { Db } from '../db/open.ts';

/** How a question came to its end: by its owner, because it was moot, or without an answer. */
export type SweepAnswer = Unanswered | 'moot' | 'none';

/** Whether a task is still needed, asked of its owner; instants on the workspace clock. */
export interface SweepQuestion {
  id: number;
  runId: number;
  taskId: number;
  personId: number;
  askedAt: number;
  untilAt: number;
  otherwise: Unanswered;
  answer: SweepAnswer | null;
  answeredAt: number | null;
}

const QUESTION = `SELECT id, run_id AS runId, task_id AS taskId, person_id AS personId, asked_at AS askedAt, until_at AS untilAt, otherwise,
  answer, answered_at AS answeredAt FROM sweep_question`;

/** Questions whether tasks are still needed, and what came of them. */
export class SweepQuestionStore {
  readonly #ask;
  readonly #byId;
  readonly #openOf;
  readonly #openAmong;
  readonly #openFor;
  readonly #due;
  readonly #nextAt;
  readonly #answer;
  readonly #counts;
  readonly #withdraw;

  constructor(db: Db) {
    this.#ask = db.prepare<[number, number, number, number, number, string]>(
      `INSERT INTO sweep_question (run_id, task_id, person_id, asked_at, until_at, otherwise) VALUES (?, ?, ?, ?, ?, ?)
       ON CONFLICT DO NOTHING`
    );
    this.#byId = db.prepare<[number], SweepQuestion>(`${QUESTION} WHERE id = ?`);
    this.#openOf = db.prepare<[number], SweepQuestion>(`${QUESTION} WHERE task_id = ? AND answer IS NULL`);
    this.#openAmong = db.prepare<[string], SweepQuestion>(
      `${QUESTION} WHERE task_id IN (SELECT value FROM json_each(?)) AND answer IS NULL ORDER BY id`
    );
    this.#openFor = db.prepare<[number], SweepQuestion>(
      `${QUESTION} WHERE person_id = ? AND answer IS NULL ORDER BY until_at, id`
    );
    this.#due = db.prepare<[number, number], SweepQuestion>(
      `${QUESTION} WHERE answer IS NULL AND until_at <= ? ORDER BY until_at, id LIMIT ?`
    );
    this.#nextAt = db.prepare<[], { at: number | null }>(
      'SELECT min(until_at) AS at FROM sweep_question WHERE answer IS NULL'
    );
    this.#answer = db.prepare<[string, number, number | null, number]>(
      'UPDATE sweep_question SET answer = ?, answered_at = ?, answered_by = ? WHERE id = ? AND answer IS NULL'
    );
    this.#counts = db.prepare<[number], { answer: SweepAnswer | null; count: number }>(
      'SELECT answer, count(*) AS count FROM sweep_question WHERE run_id = ? GROUP BY answer'
    );
    this.#withdraw = db.prepare<[number, number, number]>(
      `UPDATE sweep_question SET answer = 'moot', answered_at = ?, answered_by = ? WHERE run_id = ? AND answer IS NULL`
    );
  }

  /** @returns whether it was asked: of a task one question at a time is open */
  ask({
    runId,
    taskId,
    personId,
    askedAt,
    untilAt,
    otherwise
  }: Omit<SweepQuestion, 'id' | 'answer' | 'answeredAt'>): boolean {
    return this.#ask.run(runId, taskId, personId, askedAt, untilAt, otherwise).changes === 1;
  }

  byId(id: number): SweepQuestion | null {
    return this.#byId.get(id) ?? null;
  }

  openOf(taskId: number): SweepQuestion | null {
    return this.#openOf.get(taskId) ?? null;
  }

  /** Those open about any of some tasks. */
  openAmong(taskIds: readonly number[]): SweepQuestion[] {
    return this.#openAmong.all(JSON.stringify(taskIds));
  }

  /** What waits for somebody's answer, the most urgent first. */
  openFor(personId: number): SweepQuestion[] {
    return this.#openFor.all(personId);
  }

  /** Those whose time has come to its end. */
  due(at: number, most: number): SweepQuestion[] {
    return this.#due.all(at, most);
  }

  nextAt(): number | null {
    return this.#nextAt.get()!.at;
  }

  /** @returns false where it has an answer already */
  answer(id: number, answer: SweepAnswer, at: number, personId: number | null): boolean {
    return this.#answer.run(answer, at, personId, id).changes === 1;
  }

  /** How many of a run's questions came to which end; null is still open. */
  counts(runId: number): { answer: SweepAnswer | null; count: number }[] {
    return this.#counts.all(runId);
  }

  /** What a run asked is asked no more. */
  withdraw(runId: number, at: number, personId: number): void {
    this.#withdraw.run(at, personId, runId);
  }
}
