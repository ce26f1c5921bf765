import type { Db } from '../db/open.ts';

/** A message that stands in the application. */
export interface InAppMessage {
  id: number;
  subject: string;
  text: string;
  /** Workspace clock. */
  leavesAt: number;
  seenAt: number | null;
  /** The task that it is about; null for several, or for none. */
  taskId: number | null;
  /** How many tasks it is about: 0 for what no rule says of a task. */
  tasks: number;
  link: string;
}

/** One as the Post room lists it. */
export interface InAppEntry {
  id: number;
  readerId: number;
  subject: string;
  text: string;
  /** Workspace clock. */
  leavesAt: number;
}

/** What stands behind somebody's bell. */
export class InAppStore {
  readonly #of;
  readonly #unseen;
  readonly #see;
  readonly #seeAll;
  readonly #byId;
  readonly #search;
  readonly #count;

  constructor(db: Db) {
    this.#of = db.prepare<[number, number], InAppMessage>(
      `SELECT d.id, m.subject, m.text, d.leaves_at AS leavesAt, d.seen_at AS seenAt, m.link,
       count(DISTINCT g.subject_id) AS tasks, CASE WHEN count(DISTINCT g.subject_id) = 1 THEN min(g.subject_id) END AS taskId
       FROM delivery d JOIN message m ON m.id = d.message_id
       LEFT JOIN message_notice mn ON mn.message_id = m.id LEFT JOIN notice n ON n.id = mn.notice_id
       LEFT JOIN ring g ON g.id = n.ring_id AND g.subject_kind = 'task'
       WHERE d.id IN (SELECT id FROM delivery WHERE channel = 'in-app' AND reader_id = ? AND state <> 'failed' ORDER BY id DESC LIMIT ?)
       GROUP BY d.id ORDER BY d.id DESC`
    );
    this.#unseen = db.prepare<[number], { count: number }>(
      `SELECT count(*) AS count FROM delivery WHERE channel = 'in-app' AND reader_id = ? AND seen_at IS NULL AND state <> 'failed'`
    );
    const entry = `SELECT d.id, d.reader_id AS readerId, m.subject, m.text, d.leaves_at AS leavesAt
      FROM delivery d JOIN message m ON m.id = d.message_id WHERE d.channel = 'in-app'`;
    const sought = `(@readerId IS NULL OR d.reader_id = @readerId) AND instr(lower(m.subject || m.text), lower(@search)) > 0`;
    this.#byId = db.prepare<[number], InAppEntry>(`${entry} AND d.id = ?`);
    this.#search = db.prepare<[{ readerId: number | null; search: string; limit: number }], InAppEntry>(
      `${entry} AND ${sought} ORDER BY d.leaves_at DESC, d.id DESC LIMIT @limit`
    );
    this.#count = db.prepare<[{ readerId: number | null; search: string }], { count: number }>(
      `SELECT count(*) AS count FROM delivery d JOIN message m ON m.id = d.message_id WHERE d.channel = 'in-app' AND ${sought}`
    );
    this.#see = db.prepare<[number, number, number]>(
      `UPDATE delivery SET seen_at = ? WHERE id = ? AND channel = 'in-app' AND reader_id = ? AND seen_at IS NULL`
    );
    this.#seeAll = db.prepare<[number, number]>(
      `UPDATE delivery SET seen_at = ? WHERE channel = 'in-app' AND reader_id = ? AND seen_at IS NULL`
    );
  }

  /** Somebody's latest, newest first. */
  of(personId: number, limit: number): InAppMessage[] {
    return this.#of.all(personId, limit);
  }

  byId(id: number): InAppEntry | null {
    return this.#byId.get(id) ?? null;
  }

  /** Everybody's, or one person's, whose words contain `search`, newest first. */
  search(readerId: number | null, search: string, limit: number): { total: number; messages: InAppEntry[] } {
    const messages = this.#search.all({ readerId, search, limit });
    return { total: this.#count.get({ readerId, search })!.count, messages };
  }

  unseen(personId: number): number {
    return this.#unseen.get(personId)!.count;
  }

  /** @param id null for all of them; @param at workspace clock */
  see(personId: number, id: number | null, at: number): void {
    if (id === null) this.#seeAll.run(at, personId);
    else this.#see.run(at, id, personId);
  }
}
