import type { Db } from '../db/open.ts';

export interface Question {
  id: number;
  runId: number;
  stepId: string;
  taskId: number;
  /** Whom it waits for, after whatever was handed over. */
  personId: number | null;
  text: string;
  askedAt: number;
  answerBy: number;
  otherwise: 'yes' | 'no';
  answer: 'yes' | 'no' | 'change' | null;
  answeredAt: number | null;
  answeredBy: number | null;
}

const WAITS_FOR = `coalesce((SELECT p.person_id FROM question_passed p JOIN change c ON c.id = p.change_id
  WHERE p.question_id = question.id AND c.undone_by IS NULL ORDER BY p.id DESC LIMIT 1), question.person_id)`;
const QUESTION = `SELECT id, run_id AS runId, step_id AS stepId, task_id AS taskId, ${WAITS_FOR} AS personId, text, asked_at AS askedAt,
  answer_by AS answerBy, otherwise, answer, answered_at AS answeredAt, answered_by AS answeredBy FROM question`;

/** What runs ask before they act, and what was answered. */
export class QuestionStore {
  readonly #ask;
  readonly #question;
  readonly #openOf;
  readonly #openAmong;
  readonly #openFor;
  readonly #pass;
  readonly #ofRun;
  readonly #answer;
  readonly #hurry;

  constructor(db: Db) {
    this.#ask = db.prepare<[Omit<Question, 'id' | 'answer' | 'answeredAt' | 'answeredBy'>]>(
      `INSERT INTO question (run_id, step_id, task_id, person_id, text, asked_at, answer_by, otherwise)
       VALUES (@runId, @stepId, @taskId, @personId, @text, @askedAt, @answerBy, @otherwise)`
    );
    this.#question = db.prepare<[number], Question>(`${QUESTION} WHERE id = ?`);
    const open = `answer IS NULL AND run_id IN (SELECT id FROM run WHERE state = 'asking') ORDER BY id`;
    this.#openOf = db.prepare<[number], Question>(`${QUESTION} WHERE task_id = ? AND ${open}`);
    this.#openAmong = db.prepare<[string], Question>(
      `${QUESTION} WHERE task_id IN (SELECT value FROM json_each(?)) AND ${open}`
    );
    this.#openFor = db.prepare<[number], Question>(`${QUESTION} WHERE ${WAITS_FOR} = ? AND ${open}`);
    this.#pass = db.prepare<[number, number, number]>(
      'INSERT INTO question_passed (question_id, person_id, change_id) VALUES (?, ?, ?)'
    );
    this.#ofRun = db.prepare<[number, string], Question>(
      `${QUESTION} WHERE run_id = ? AND step_id = ? ORDER BY id DESC LIMIT 1`
    );
    this.#answer = db.prepare<[string, number, number | null, number]>(
      'UPDATE question SET answer = ?, answered_at = ?, answered_by = ? WHERE id = ? AND answer IS NULL'
    );
    this.#hurry = db.prepare<[number, number]>(
      `UPDATE run SET next_at = min(next_at, ?) WHERE id = ? AND state = 'asking'`
    );
  }

  ask(question: Omit<Question, 'id' | 'answer' | 'answeredAt' | 'answeredBy'>): void {
    this.#ask.run(question);
  }

  byId(id: number): Question | null {
    return this.#question.get(id) ?? null;
  }

  /** Questions about a task that nobody has answered; those of a run that was stopped are asked no more. */
  openOf(taskId: number): Question[] {
    return this.#openOf.all(taskId);
  }

  /** The same about any of some tasks. */
  openAmong(taskIds: readonly number[]): Question[] {
    return this.#openAmong.all(JSON.stringify(taskIds));
  }

  /** The same that wait for somebody. */
  openFor(personId: number): Question[] {
    return this.#openFor.all(personId);
  }

  /** From now on it waits for somebody else, as long as the change is not taken back. */
  pass(id: number, personId: number, changeId: number): void {
    this.#pass.run(id, personId, changeId);
  }

  ofRun(runId: number, stepId: string): Question | null {
    return this.#ofRun.get(runId, stepId) ?? null;
  }

  /** @returns whether it was still open */
  answer(id: number, answer: 'yes' | 'no' | 'change', at: number, by: number | null): boolean {
    return this.#answer.run(answer, at, by, id).changes === 1;
  }

  /** A run that waits for an answer has it: it goes on now. */
  hurry(id: number, now: number): void {
    this.#hurry.run(now, id);
  }
}
