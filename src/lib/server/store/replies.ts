import type { Answered } from '../../core/delivery/answer.ts';
import type { Db } from '../db/open.ts';

/** What came back as an answer to a message. */
interface NewReply extends Omit<Answered, 'about'> {
  /** Workspace clock. */
  at: number;
}

interface Reply extends NewReply {
  noticeId: number;
}

/** Answers to messages, from people and from their mail programs. They are shown, and never acted upon. */
export class ReplyStore {
  readonly #message;
  readonly #add;
  readonly #count;
  readonly #ofNotices;

  constructor(db: Db) {
    this.#message = db.prepare<[string], { id: number }>(
      `SELECT m.id FROM message m WHERE m.message_id IN (SELECT value FROM json_each(?)) AND m.secret = 0
       ORDER BY m.id DESC LIMIT 1`
    );
    this.#add = db.prepare<[Omit<NewReply, 'automatic'> & { automatic: 0 | 1; message: number }]>(
      `INSERT INTO reply (message_id, own_id, from_name, from_address, automatic, text, at)
       VALUES (@message, @ownId, @fromName, @fromAddress, @automatic, @text, @at) ON CONFLICT DO NOTHING`
    );
    this.#count = db.prepare<[number], number>('SELECT count(*) FROM reply WHERE message_id = ?').pluck();
    this.#ofNotices = db.prepare<[string], Omit<Reply, 'automatic'> & { automatic: number }>(
      `SELECT mn.notice_id AS noticeId, r.own_id AS ownId, r.from_name AS fromName, r.from_address AS fromAddress, r.automatic, r.text, r.at
       FROM message_notice mn JOIN reply r ON r.message_id = mn.message_id
       WHERE mn.notice_id IN (SELECT value FROM json_each(?)) ORDER BY r.at, r.id`
    );
  }

  /** The message of ours that an answer names, by any of the ids that it carries; null where it names none. */
  messageOf(ids: readonly string[]): number | null {
    return this.#message.get(JSON.stringify(ids))?.id ?? null;
  }

  countOf(messageId: number): number {
    return this.#count.get(messageId)!;
  }

  /** The same answer twice is one. */
  add(messageId: number, reply: NewReply): void {
    this.#add.run({ ...reply, automatic: reply.automatic ? 1 : 0, message: messageId });
  }

  /** Answers to the messages of some notices. */
  ofNotices(ids: readonly number[]): Reply[] {
    return this.#ofNotices
      .all(JSON.stringify(ids))
      .map(({ automatic, ...reply }) => ({ ...reply, automatic: automatic === 1 }));
  }
}
