import type { Db } from '../db/open.ts';
import type { SecretStore } from './secrets.ts';

/** When a link in a message did what it does. */
export interface UsedLink {
  at: number;
  act: string;
  personId: number;
  /** The change that it made; null where it made none that is kept. */
  changeId: number | null;
}

/** The key that signs links in messages, and the links that have been used. */
export class ActLinkStore {
  readonly #secrets: SecretStore;
  readonly #ofNotice;
  readonly #ofDigest;
  readonly #used;
  readonly #use;
  readonly #made;
  #key: Buffer | null = null;

  constructor(db: Db, secrets: SecretStore) {
    this.#secrets = secrets;
    this.#ofNotice = db.prepare<[number], { id: number }>(
      'SELECT message_id AS id FROM message_notice WHERE notice_id = ? ORDER BY message_id DESC LIMIT 1'
    );
    this.#ofDigest = db.prepare<[number], { id: number | null }>(
      'SELECT message_id AS id FROM digest_run WHERE id = ?'
    );
    this.#used = db.prepare<[Buffer], UsedLink>(
      'SELECT at, act, person_id AS personId, change_id AS changeId FROM act_used WHERE token_hash = ?'
    );
    this.#use = db.prepare<[Buffer, number, number | null, string, number, number]>(
      `INSERT INTO act_used (token_hash, notice_id, digest_run_id, act, person_id, at) VALUES (?, ?, ?, ?, ?, ?)
       ON CONFLICT DO NOTHING`
    );
    this.#made = db.prepare<[number, Buffer]>('UPDATE act_used SET change_id = ? WHERE token_hash = ?');
  }

  /** The message in which a link stood. @param of the notice, or the digest, that it was of */
  messageOf({
    noticeId,
    digestRunId
  }: {
    noticeId: number | null;
    digestRunId: number | null;
  }): number | null {
    const row = noticeId === null ? this.#ofDigest.get(digestRunId ?? 0) : this.#ofNotice.get(noticeId);
    return row?.id ?? null;
  }

  /** Made the first time that it is asked for; call inside a transaction. */
  key(): Buffer {
    this.#key ??= Buffer.from(this.#secrets.made('act links'));
    return this.#key;
  }

  used(tokenHash: Buffer): UsedLink | null {
    return this.#used.get(tokenHash) ?? null;
  }

  /**
   * @param of the notice, or the digest, in which it stood
   * @returns false when it was used before
   */
  use(
    tokenHash: Buffer,
    of: { noticeId: number | null; digestRunId: number | null },
    by: { act: string; personId: number; at: number }
  ): boolean {
    const { act, personId, at } = by;
    return this.#use.run(tokenHash, of.noticeId ?? 0, of.digestRunId, act, personId, at).changes === 1;
  }

  /** Which change a link made. */
  made(tokenHash: Buffer, changeId: number): void {
    this.#made.run(changeId, tokenHash);
  }
}
