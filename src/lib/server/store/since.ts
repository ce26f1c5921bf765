import { groupBy } from '../../core/group-by.ts';
import type { Db } from '../db/open.ts';

/** How far the tables had grown at a moment of a unit. */
export interface Mark {
  messageId: number;
  changeId: number;
  rushId: number;
}

/** A message that was queued since. */
export interface QueuedMessage {
  id: number;
  subject: string;
  /** Everybody whom it goes to. */
  readerIds: number[];
  ruleIds: number[];
  taskIds: number[];
}

interface QueuedRow {
  messageId: number;
  subject: string;
  readerId: number;
  ruleId: number | null;
  taskId: number | null;
}

/** What was written since a mark: for whoever tries something out, to say what would come of it. */
export class SinceStore {
  readonly #standing;
  readonly #mark;
  readonly #queued;
  readonly #arrived;
  readonly #acts;
  readonly #made;
  readonly #rushes;

  constructor(db: Db) {
    this.#mark = db.prepare<[], Mark>(
      `SELECT (SELECT coalesce(max(id), 0) FROM message) AS messageId, (SELECT coalesce(max(id), 0) FROM change) AS changeId,
       (SELECT coalesce(max(id), 0) FROM rush) AS rushId`
    );
    this.#standing = db.prepare<[], { standing: string }>(
      `SELECT coalesce((SELECT max(id) FROM change), 0) || '/' || coalesce((SELECT max(id) FROM notice), 0) || '/' ||
       coalesce((SELECT max(id) FROM message), 0) AS standing`
    );
    this.#queued = db.prepare<[number], QueuedRow>(
      `SELECT m.id AS messageId, m.subject, d.reader_id AS readerId, g.rule_id AS ruleId, g.subject_id AS taskId
       FROM message m JOIN delivery d ON d.message_id = m.id LEFT JOIN message_notice mn ON mn.message_id = m.id
       LEFT JOIN notice n ON n.id = mn.notice_id LEFT JOIN ring g ON g.id = n.ring_id AND g.subject_kind = 'task'
       WHERE m.id > ? ORDER BY m.id, n.id`
    );
    this.#arrived = db.prepare<[number], { count: number }>(
      `SELECT count(DISTINCT message_id) AS count FROM delivery WHERE message_id > ? AND state = 'accepted'`
    );
    this.#acts = db.prepare<[number], { title: string }>(
      `SELECT title FROM change WHERE id > ? AND source = 'rule' ORDER BY id`
    );
    this.#made = db.prepare<[number], { id: number }>(
      `SELECT DISTINCT r.row_id AS id FROM change_row r WHERE r.change_id > ? AND r.table_name = 'task' AND r.before IS NULL ORDER BY r.row_id`
    );
    this.#rushes = db.prepare<[number], { ruleId: number; count: number }>(
      'SELECT rule_id AS ruleId, count FROM rush WHERE id > ? ORDER BY id'
    );
  }

  /** By which it is known that nothing was changed, rang or left between two looks. */
  standing(): string {
    return this.#standing.get()!.standing;
  }

  mark(): Mark {
    return this.#mark.get()!;
  }

  /** Messages in the order in which they were queued. */
  queued({ messageId }: Mark): QueuedMessage[] {
    const byMessage = groupBy(this.#queued.all(messageId), ({ messageId: id }) => id);
    return [...byMessage].map(([id, rows]) => ({
      id,
      subject: rows[0]!.subject,
      readerIds: [...new Set(rows.map(({ readerId }) => readerId))],
      ruleIds: [...new Set(rows.flatMap(({ ruleId }) => ruleId ?? []))],
      taskIds: [...new Set(rows.flatMap(({ taskId }) => taskId ?? []))]
    }));
  }

  /** How many messages have reached somebody, by whatever channel. */
  arrived({ messageId }: Mark): number {
    return this.#arrived.get(messageId)!.count;
  }

  /** What rules did, in words. */
  acts({ changeId }: Mark): string[] {
    return this.#acts.all(changeId).map(({ title }) => title);
  }

  /** Tasks that were made. */
  made({ changeId }: Mark): number[] {
    return this.#made.all(changeId).map(({ id }) => id);
  }

  /** Rules that were stopped before they sent. */
  rushes({ rushId }: Mark): { ruleId: number; count: number }[] {
    return this.#rushes.all(rushId);
  }
}
