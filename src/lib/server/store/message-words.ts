import type { Db } from '../db/open.ts';

/** Letting go of what messages said; that they left, to whom and how that ended stays. */
export class MessageWordsStore {
  readonly #forgetSecret;
  readonly #drop;

  constructor(db: Db) {
    this.#forgetSecret = db.prepare<[number]>(
      `UPDATE message SET text = 'The link in this message is not kept.', html = ''
       WHERE secret = 1 AND id = (SELECT message_id FROM delivery WHERE id = ?)`
    );
    this.#drop = db.prepare<[number, number]>(
      `UPDATE message SET text = 'The words of a message are kept for a year.', html = '', attachments = '[]', words_kept = 0
       WHERE id IN (SELECT id FROM message m WHERE words_kept = 1 AND leaves_at <= ?
         AND NOT EXISTS (SELECT 1 FROM delivery d WHERE d.message_id = m.id AND d.state IN ('queued', 'leased'))
         ORDER BY leaves_at LIMIT ?)`
    );
  }

  /** Takes the text out of a message that let somebody in. */
  forgetSecret(deliveryId: number): void {
    this.#forgetSecret.run(deliveryId);
  }

  /**
   * Takes the words out of messages that left at or before an instant of the workspace clock, and are under way no more.
   * @returns of how many, at most as many as asked for
   */
  drop(until: number, most: number): number {
    return this.#drop.run(until, most).changes;
  }
}
