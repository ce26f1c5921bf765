import type { Db } from '../db/open.ts';

/** What has come of a run. */
export interface CameTo {
  /** Messages that have left, and how many different people they went to. */
  messages: number;
  people: number;
  /** Notices that wait. */
  waiting: number;
  /** Notices that are not sent, by why. */
  unsent: { reason: string; count: number }[];
  changes: number;
  /** Tasks that it found and that were written since a moment before it. */
  changedSince: number;
}

/** Counts what has come of runs: messages that left, notices that wait or are not sent, changes. */
export class RunCountStore {
  readonly #cameTo;
  readonly #unsent;
  readonly #changedBy;
  readonly #changedSince;

  constructor(db: Db) {
    const own = 'FROM run u WHERE u.id = @runId OR u.parent_id = @runId';
    const told = `FROM notice n WHERE n.ring_id IN (SELECT u.ring_id ${own})`;
    const left = `n.state IN ('sending', 'sent', 'in doubt')`;
    this.#cameTo = db.prepare<[{ runId: number }], { messages: number; people: number; waiting: number }>(
      `SELECT (SELECT count(DISTINCT mn.message_id) FROM message_notice mn WHERE mn.notice_id IN (SELECT n.id ${told} AND ${left})) AS messages,
       (SELECT count(DISTINCT coalesce(n.reader_id, n.recipient_id)) ${told} AND ${left}) AS people,
       (SELECT count(*) ${told} AND n.state IN ('planned', 'held', 'folded')) AS waiting`
    );
    this.#unsent = db.prepare<[{ runId: number }], { reason: string; count: number }>(
      `SELECT coalesce(n.reason, n.state) AS reason, count(*) AS count ${told} AND n.state IN ('unrung', 'withdrawn', 'failed')
       GROUP BY 1 ORDER BY 2 DESC, 1`
    );
    this.#changedBy = db.prepare<[{ runId: number }], { count: number }>(
      `SELECT count(*) AS count FROM change WHERE run_id IN (SELECT u.id ${own})`
    );
    this.#changedSince = db.prepare<[{ runId: number; since: number }], { count: number }>(
      `SELECT count(DISTINCT g.subject_id) AS count FROM run u JOIN ring g ON g.id = u.ring_id AND g.subject_kind = 'task'
       JOIN change_row r ON r.table_name = 'task' AND r.row_id = g.subject_id
       JOIN change c ON c.id = r.change_id AND c.at >= @since AND c.at < u.started_at WHERE u.parent_id = @runId`
    );
  }

  /** What has come of a run and of those under it, by now. @param since counts the tasks that were written from then on until it began */
  cameTo(runId: number, since: number): CameTo {
    const { messages, people, waiting } = this.#cameTo.get({ runId })!;
    return {
      ...{ messages, people, waiting },
      unsent: this.#unsent.all({ runId }),
      changes: this.#changedBy.get({ runId })!.count,
      changedSince: this.#changedSince.get({ runId, since })!.count
    };
  }
}
