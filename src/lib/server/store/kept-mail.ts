import type { Db } from '../db/open.ts';

/** A mail that is kept here instead of sent. */
export interface KeptMail {
  id: number;
  readerId: number;
  address: string;
  subject: string;
  text: string;
  html: string;
  messageId: string;
  /** Workspace clock. */
  leavesAt: number;
}

interface Sought {
  /** An address; empty for all. */
  to: string;
  search: string;
}

/** Mail that is kept in the Post room here. */
export class KeptMailStore {
  readonly #any;
  readonly #byId;
  readonly #search;
  readonly #count;

  constructor(db: Db) {
    const from = 'FROM delivery d JOIN message m ON m.id = d.message_id WHERE d.kept = 1';
    const entry = `SELECT d.id, d.reader_id AS readerId, d.address, m.subject, m.text, m.html, m.message_id AS messageId, d.leaves_at AS leavesAt ${from}`;
    const sought = `(@to = '' OR lower(d.address) = lower(@to)) AND instr(lower(m.subject || m.text), lower(@search)) > 0`;
    this.#any = db.prepare<[], { id: number }>('SELECT id FROM delivery WHERE kept = 1 LIMIT 1');
    this.#byId = db.prepare<[number], KeptMail>(`${entry} AND d.id = ?`);
    this.#search = db.prepare<[Sought & { limit: number }], KeptMail>(
      `${entry} AND ${sought} ORDER BY d.leaves_at DESC, d.id DESC LIMIT @limit`
    );
    this.#count = db.prepare<[Sought], { count: number }>(`SELECT count(*) AS count ${from} AND ${sought}`);
  }

  any(): boolean {
    return this.#any.get() !== undefined;
  }

  byId(id: number): KeptMail | null {
    return this.#byId.get(id) ?? null;
  }

  /** Newest first. @param to an address; empty for everybody's */
  search(to: string, search: string, limit: number): { total: number; messages: KeptMail[] } {
    return {
      total: this.#count.get({ to, search })!.count,
      messages: this.#search.all({ to, search, limit })
    };
  }
}
