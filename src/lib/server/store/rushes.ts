import type { Db } from '../db/open.ts';

export type RushAnswer = 'send' | 'gather' | 'do not ring';

/** A rule that was about to send far more than was foreseen. */
export interface Rush {
  id: number;
  ruleId: number;
  at: number;
  /** Messages that it was about to send. */
  count: number;
  /** Messages that were foreseen for the whole day. */
  expected: number;
}

export class RushStore {
  readonly #open;
  readonly #byId;
  readonly #add;
  readonly #keep;
  readonly #answer;
  readonly #release;
  readonly #gather;
  readonly #drop;

  constructor(db: Db) {
    const select = 'SELECT id, rule_id AS ruleId, at, count, expected FROM rush WHERE answer IS NULL';
    this.#open = db.prepare<[], Rush>(`${select} ORDER BY at, id`);
    this.#byId = db.prepare<[number], Rush>(`${select} AND id = ?`);
    this.#add = db.prepare<[number, number, number, number]>(
      'INSERT INTO rush (rule_id, at, count, expected) VALUES (?, ?, ?, ?)'
    );
    this.#keep = db.prepare<[number, string]>(
      'UPDATE notice SET rush_id = ? WHERE id IN (SELECT value FROM json_each(?))'
    );
    this.#answer = db.prepare<[string, number, number | null, number]>(
      'UPDATE rush SET answer = ?, answered_at = ?, answered_by = ? WHERE id = ? AND answer IS NULL'
    );
    const waiting = `rush_id = ? AND state IN ('planned', 'held', 'folded')`;
    this.#release = db.prepare<[number, number]>(
      `UPDATE notice SET rush_id = NULL, leaves_at = ? WHERE ${waiting}`
    );
    this.#gather = db.prepare<[number, number]>(
      `UPDATE notice SET rush_id = NULL, state = 'folded', leaves_at = ? WHERE ${waiting}`
    );
    this.#drop = db.prepare<[number, number]>(
      `UPDATE notice SET rush_id = NULL, state = 'unrung', reason = 'stopped in a rush', ended_at = ? WHERE ${waiting}`
    );
  }

  /** Those that nobody has answered. */
  open(): Rush[] {
    return this.#open.all();
  }

  openById(id: number): Rush | null {
    return this.#byId.get(id) ?? null;
  }

  /** Keeps some notices back until somebody has said what becomes of them. */
  stop(ruleId: number, at: number, count: number, expected: number, noticeIds: readonly number[]): void {
    const id = Number(this.#add.run(ruleId, at, count, expected).lastInsertRowid);
    this.#keep.run(id, JSON.stringify(noticeIds));
  }

  /** @returns whether it was still open */
  answer(id: number, answer: RushAnswer, at: number, by: number | null): boolean {
    if (this.#answer.run(answer, at, by, id).changes !== 1) return false;
    if (answer === 'send') this.#release.run(at, id);
    else if (answer === 'gather') this.#gather.run(at, id);
    else this.#drop.run(at, id);
    return true;
  }
}
