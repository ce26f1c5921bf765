import type { ChannelName } from '../../core/channel/channels.ts';
import type { Db } from '../db/open.ts';

/** A delivery that ended without success, and of which rule it was. */
export interface DeadEndRecord {
  ruleId: number;
  subject: string;
  address: string;
  channel: ChannelName;
  readerName: string;
  /** What the other side said. */
  answer: string;
}

/** An address from which mail came back. */
export interface ReturnedAddress {
  address: string;
  /** Workspace clock. */
  at: number;
  reason: string;
}

/** Deliveries that reached nobody, who has been told of them, and addresses from which mail came back. */
export class DeadEndStore {
  readonly #byMessage;
  readonly #otherWay;
  readonly #deadEnd;
  readonly #told;
  readonly #tell;
  readonly #markReturned;
  readonly #returned;
  readonly #worksAgain;

  constructor(db: Db) {
    this.#byMessage = db.prepare<[string, string, string], { id: number }>(
      `SELECT d.id FROM delivery d JOIN message m ON m.id = d.message_id
       WHERE m.message_id = ? AND d.channel = ? AND d.address = ? COLLATE NOCASE`
    );
    this.#otherWay = db.prepare<[number], { id: number }>(
      `SELECT o.id FROM delivery d JOIN delivery o ON o.message_id = d.message_id AND o.reader_id IS d.reader_id AND o.id <> d.id
       WHERE d.id = ? AND o.state <> 'failed' LIMIT 1`
    );
    this.#deadEnd = db.prepare<[number], Omit<DeadEndRecord, 'answer'>>(
      `SELECT g.rule_id AS ruleId, m.subject, d.address, d.channel, coalesce((SELECT p.name FROM person p WHERE p.id = d.reader_id),
         (SELECT o.name FROM outside o WHERE o.id = -d.reader_id), '') AS readerName
       FROM delivery d JOIN message m ON m.id = d.message_id JOIN message_notice mn ON mn.message_id = m.id
       JOIN notice n ON n.id = mn.notice_id JOIN ring g ON g.id = n.ring_id WHERE d.id = ? LIMIT 1`
    );
    this.#told = db.prepare<[number], { at: number }>('SELECT at FROM dead_end_told WHERE rule_id = ?');
    this.#tell = db.prepare<[number, number]>(
      'INSERT INTO dead_end_told (rule_id, at) VALUES (?, ?) ON CONFLICT (rule_id) DO UPDATE SET at = excluded.at'
    );
    this.#markReturned = db.prepare<[string, number, string]>(
      `INSERT INTO returned_address (address, at, reason) VALUES (?, ?, ?)
       ON CONFLICT (address) DO UPDATE SET at = excluded.at, reason = excluded.reason`
    );
    this.#returned = db.prepare<[], ReturnedAddress>(
      'SELECT address, at, reason FROM returned_address ORDER BY address'
    );
    this.#worksAgain = db.prepare<[string]>('DELETE FROM returned_address WHERE address = ?');
  }

  /** The delivery of a message to an address by a channel; null when none is known. */
  byMessage(channel: ChannelName, messageId: string, address: string): number | null {
    return this.#byMessage.get(messageId, channel, address)?.id ?? null;
  }

  /** Whether the message goes to the same reader by another way that is open or was taken. */
  hasOtherWay(id: number): boolean {
    return this.#otherWay.get(id) !== undefined;
  }

  /** Of which rule a delivery is; null for what no rule sends. */
  of(id: number): Omit<DeadEndRecord, 'answer'> | null {
    return this.#deadEnd.get(id) ?? null;
  }

  /** Whether the keeper of a rule may be told of a dead end now; if so it counts as told. */
  mayTell(ruleId: number, now: number, againMs: number): boolean {
    const told = this.#told.get(ruleId);
    // A clock that was turned back is no reason to be silent.
    if (told && told.at <= now && now - told.at < againMs) return false;
    this.#tell.run(ruleId, now);
    return true;
  }

  mark(address: string, reason: string, now: number): void {
    this.#markReturned.run(address, now, reason);
  }

  /** Addresses from which mail came back. */
  returned(): ReturnedAddress[] {
    return this.#returned.all();
  }

  /** Somebody says that an address works. @returns whether it was marked */
  worksAgain(address: string): boolean {
    return this.#worksAgain.run(address).changes === 1;
  }
}
