import type { ChannelName } from '../../core/channel/channels.ts';
import type { Db } from '../db/open.ts';

/** What somebody outside stops: they have no settings, and no kind of message means anything to them. */
export const EVERYTHING = 'everything';

/** Mail that readers have stopped by a link in it. */
export class MailStopStore {
  readonly #of;
  readonly #put;
  readonly #drop;
  readonly #stopped;

  constructor(db: Db) {
    this.#of = db.prepare<[number, string], { before: string | null }>(
      'SELECT before FROM mail_stop WHERE reader_id = ? AND kind = ?'
    );
    this.#put = db.prepare<[number, string, string | null, number]>(
      `INSERT INTO mail_stop (reader_id, kind, before, at) VALUES (?, ?, ?, ?)
       ON CONFLICT DO UPDATE SET before = excluded.before, at = excluded.at`
    );
    this.#drop = db.prepare<[number, string]>('DELETE FROM mail_stop WHERE reader_id = ? AND kind = ?');
    this.#stopped = db.prepare<[string], { readerId: number }>(
      'SELECT reader_id AS readerId FROM mail_stop WHERE kind = ?'
    );
  }

  /** What somebody had chosen for a kind before they stopped it; undefined where they have not, null where nothing was chosen. */
  before(readerId: number, kind: string): ChannelName[] | null | undefined {
    const row = this.#of.get(readerId, kind);
    if (!row) return undefined;
    return row.before === null ? null : (JSON.parse(row.before) as ChannelName[]);
  }

  /** @param at workspace clock */
  put(readerId: number, kind: string, before: readonly ChannelName[] | null, at: number): void {
    this.#put.run(readerId, kind, before && JSON.stringify(before), at);
  }

  drop(readerId: number, kind: string): void {
    this.#drop.run(readerId, kind);
  }

  /** Everybody who has stopped a kind. */
  stopped(kind: string): Set<number> {
    return new Set(this.#stopped.all(kind).map(({ readerId }) => readerId));
  }
}
