import type { AttachedFile } from '../../core/message/attached.ts';
import type { ChannelName } from '../../core/channel/channels.ts';
import type { TellingKind } from '../../core/notice/kinds.ts';
import type { Importance } from '../../core/rule/step-model.ts';
import type { Db } from '../db/open.ts';

export interface NewMessage {
  readerId: number;
  messageId: string;
  leavesAt: number;
  subject: string;
  text: string;
  html: string;
  /** Where it leads; absent: nowhere. */
  link?: string;
  /** Absent: ordinary. */
  importance?: Importance;
  /** Absent: none. */
  attachments?: readonly AttachedFile[];
  /** Of which kinds it is, where its reader can stop mail of them; absent: they cannot. */
  kinds?: readonly TellingKind[];
  /** Carries a link that lets somebody in: its text is not kept once the delivery has ended. */
  secret?: boolean;
}

/** Whom a message goes to, through which channel. */
export interface Addressee {
  readerId: number;
  channel: ChannelName;
  address: string;
}

/** A delivery with what a channel needs to make an attempt. */
export interface LeasedDelivery extends Required<Omit<NewMessage, 'secret'>> {
  id: number;
  channel: ChannelName;
  address: string;
  attempt: number;
  readerName: string;
  /** How many notices the message tells of. */
  notices: number;
  /** Everybody to whom the message goes: more than one where it goes to all together. */
  to: { name: string; address: string }[];
}

/** How an attempt ended. */
export interface Settled {
  state: 'accepted' | 'failed' | 'queued';
  /** Machine clock. */
  nextAttemptAt: number;
  answer: string | null;
  /** Machine clock; null while it goes on. */
  endedAt: number | null;
  /** The other side may have it all the same. */
  inDoubt: boolean;
  /** It stays here, to be read in the Post room. */
  kept: boolean;
}

/** The name of a reader, whether of the team or outside. */
const nameOf = (
  delivery: string
) => `coalesce((SELECT p.name FROM person p WHERE p.id = ${delivery}.reader_id),
  (SELECT o.name FROM outside o WHERE o.id = -${delivery}.reader_id), '')`;
/** A delivery with everything that an attempt needs. */
const DETAILS = `SELECT d.id, d.channel, d.address, d.attempt, m.reader_id AS readerId, ${nameOf('d')} AS readerName,
       m.message_id AS messageId, m.leaves_at AS leavesAt, m.subject, m.text, m.html, m.link, m.importance, m.attachments, m.kinds,
       (SELECT count(*) FROM message_notice mn WHERE mn.message_id = m.id) AS notices,
       (SELECT json_group_array(json_object('name', ${nameOf('a')}, 'address', a.address) ORDER BY a.id)
        FROM delivery a WHERE a.message_id = m.id AND a.channel = d.channel) AS "to"
       FROM delivery d JOIN message m ON m.id = d.message_id WHERE d.id = ?`;

/** A message as its row takes it. */
type MessageRow = Omit<NewMessage, 'secret' | 'attachments' | 'kinds'> & {
  secret: number;
  attachments: string;
  kinds: string;
};
const ADD_MESSAGE = `INSERT INTO message (reader_id, message_id, leaves_at, subject, text, html, link, importance, attachments, secret, kinds)
       VALUES (@readerId, @messageId, @leavesAt, @subject, @text, @html, @link, @importance, @attachments, @secret, @kinds)`;

/** Messages and their deliveries. Waits and leases are on the machine clock. */
export class OutboxStore {
  readonly #has;
  readonly #addMessage;
  readonly #link;
  readonly #addDelivery;
  readonly #claimable;
  readonly #putOff;
  readonly #arrived;
  readonly #lease;
  readonly #details;
  readonly #settle;
  readonly #expired;
  readonly #noticesOf;
  readonly #nextAttempt;
  readonly #unfinished;
  readonly #giveBack;
  readonly #hurry;
  readonly #sentTo;
  readonly #giveBackOne;
  readonly #fail;
  readonly #unfinishedNotices;
  readonly #abandon;

  constructor(db: Db) {
    this.#has = db.prepare<[string]>('SELECT 1 FROM message WHERE message_id = ?');
    this.#addMessage = db.prepare<[MessageRow]>(ADD_MESSAGE);
    this.#link = db.prepare<[number, number]>(
      'INSERT INTO message_notice (message_id, notice_id) VALUES (?, ?)'
    );
    this.#addDelivery = db.prepare<[number, string, string, number, number]>(
      `INSERT INTO delivery (message_id, channel, address, state, reader_id, next_attempt_at, leaves_at)
       VALUES (?, ?, ?, 'queued', ?, 0, ?) ON CONFLICT DO NOTHING`
    );
    this.#claimable = db.prepare<[string, number, string], { id: number; address: string }>(
      `SELECT id, address FROM delivery WHERE state = 'queued' AND channel = ? AND next_attempt_at <= ?
       AND address NOT IN (SELECT value FROM json_each(?)) ORDER BY next_attempt_at, leaves_at, id LIMIT 1`
    );
    this.#putOff = db.prepare<[number, number]>(
      `UPDATE delivery SET next_attempt_at = ? WHERE id = ? AND state = 'queued'`
    );
    this.#lease = db.prepare<[number, number]>(
      `UPDATE delivery SET state = 'leased', attempt = attempt + 1, lease_until = ? WHERE id = ? AND state = 'queued'`
    );
    this.#details = db.prepare<
      [number],
      Omit<LeasedDelivery, 'to' | 'attachments' | 'kinds'> & {
        to: string;
        attachments: string;
        kinds: string;
      }
    >(DETAILS);
    this.#settle = db.prepare<[Settled & { id: number; attempt: number; doubt: number; isKept: number }]>(
      `UPDATE delivery SET state = @state, next_attempt_at = @nextAttemptAt, last_answer = @answer, ended_at = @endedAt,
       in_doubt = max(in_doubt, @doubt), kept = @isKept, lease_until = NULL WHERE id = @id AND attempt = @attempt AND state = 'leased'`
    );
    this.#expired = db.prepare<[number]>(
      `UPDATE delivery SET state = 'queued', in_doubt = 1, lease_until = NULL WHERE state = 'leased' AND lease_until <= ?`
    );
    this.#noticesOf = db.prepare<[number], { noticeId: number }>(
      `SELECT mn.notice_id AS noticeId FROM delivery d JOIN message_notice mn ON mn.message_id = d.message_id
       JOIN notice n ON n.id = mn.notice_id
       WHERE d.id = ? AND (d.reader_id IS NULL OR coalesce(n.reader_id, n.recipient_id) = d.reader_id)`
    );
    this.#nextAttempt = db.prepare<[string], { at: number | null }>(
      `SELECT min(next_attempt_at) AS at FROM delivery WHERE state = 'queued' AND channel = ?`
    );
    this.#unfinished = db.prepare<[], { count: number }>(
      `SELECT count(*) AS count FROM delivery WHERE state IN ('queued', 'leased')`
    );
    this.#giveBack = db.prepare(
      `UPDATE delivery SET state = 'queued', lease_until = NULL, in_doubt = 1 WHERE state = 'leased'`
    );
    this.#sentTo = db.prepare<[number, number, number], { count: number }>(
      `SELECT count(*) AS count FROM message m WHERE m.reader_id = ? AND m.leaves_at >= ? AND m.leaves_at < ? AND m.secret = 0
       AND EXISTS (SELECT 1 FROM message_notice mn WHERE mn.message_id = m.id)`
    );
    this.#giveBackOne = db.prepare<[number, number]>(
      `UPDATE delivery SET state = 'queued', in_doubt = 1, lease_until = NULL WHERE id = ? AND attempt = ? AND state = 'leased'`
    );
    this.#fail = db.prepare<[string, number, number]>(
      `UPDATE delivery SET state = 'failed', last_answer = ?, ended_at = ?, lease_until = NULL WHERE id = ? AND state <> 'failed'`
    );
    this.#unfinishedNotices = db.prepare<[], { id: number }>(
      `SELECT DISTINCT n.id FROM delivery d JOIN message_notice mn ON mn.message_id = d.message_id JOIN notice n ON n.id = mn.notice_id
       WHERE d.state IN ('queued', 'leased') AND n.state = 'sending'`
    );
    this.#abandon = db.prepare<[string, number]>(
      `UPDATE delivery SET state = 'failed', in_doubt = 1, last_answer = ?, ended_at = ?, lease_until = NULL
       WHERE state IN ('queued', 'leased')`
    );
    this.#arrived = db.prepare<[number, number]>(
      `UPDATE delivery SET arrived_at = ? WHERE id = ? AND state = 'accepted' AND arrived_at IS NULL`
    );
    this.#hurry = db.prepare<[number]>(
      `UPDATE delivery SET next_attempt_at = ? WHERE state = 'queued' AND next_attempt_at > 0`
    );
  }

  /** Whether there is a message of this identity. */
  has(messageId: string): boolean {
    return this.#has.get(messageId) !== undefined;
  }

  /** Queues one message for its readers, one delivery for each and each of their channels. */
  queue(message: NewMessage, noticeIds: readonly number[], addressees: readonly Addressee[]): void {
    const row = {
      importance: 'ordinary' as const,
      link: '',
      ...message,
      attachments: JSON.stringify(message.attachments ?? []),
      kinds: JSON.stringify(message.kinds ?? []),
      secret: message.secret ? 1 : 0
    };
    const id = Number(this.#addMessage.run(row).lastInsertRowid);
    for (const noticeId of noticeIds) this.#link.run(id, noticeId);
    for (const { readerId, channel, address } of addressees)
      this.#addDelivery.run(id, channel, address, readerId, message.leavesAt);
  }

  /**
   * The next of a channel that may be tried now, first attempts before others and in the order of their instants.
   * @param full addresses that take no more just now
   */
  claimable(
    channel: ChannelName,
    machineNow: number,
    full: readonly string[]
  ): [{ id: number; address: string }] | [] {
    const next = this.#claimable.get(channel, machineNow, JSON.stringify(full));
    return next ? [next] : [];
  }

  /** Its address has enough for now. */
  putOff(id: number, until: number): void {
    this.#putOff.run(until, id);
  }

  /** What was taken has arrived. @param at workspace clock */
  arrived(id: number, at: number): void {
    this.#arrived.run(at, id);
  }

  /** @returns the delivery with its attempt counted, or null when someone else has it */
  lease(id: number, leaseUntil: number): LeasedDelivery | null {
    if (this.#lease.run(leaseUntil, id).changes !== 1) return null;
    const row = this.#details.get(id)!;
    return {
      ...row,
      to: JSON.parse(row.to) as LeasedDelivery['to'],
      attachments: JSON.parse(row.attachments) as AttachedFile[],
      kinds: JSON.parse(row.kinds) as TellingKind[]
    };
  }

  /** Fenced by attempt. @returns false when the lease was lost meanwhile */
  settle(id: number, attempt: number, settled: Settled): boolean {
    const doubt = settled.inDoubt ? 1 : 0;
    return this.#settle.run({ ...settled, id, attempt, doubt, isKept: Number(settled.kept) }).changes === 1;
  }

  /** Puts deliveries whose lease has run out back into the queue, marked in doubt. */
  releaseExpired(machineNow: number): number {
    return this.#expired.run(machineNow).changes;
  }

  /** At start nobody else holds a lease: whatever is leased was cut off. */
  releaseAll(): number {
    return this.#giveBack.run().changes;
  }

  /** An attempt was cut off: it is not known whether the other side has it. Fenced by attempt. */
  giveBack(id: number, attempt: number): void {
    this.#giveBackOne.run(id, attempt);
  }

  /** Ends a delivery as failed, whatever it was. @returns whether it had not failed before */
  fail(id: number, answer: string, machineNow: number): boolean {
    return this.#fail.run(answer, machineNow, id).changes === 1;
  }

  /** Ends every delivery that has not ended, in doubt. @returns their notices */
  abandon(answer: string, machineNow: number): number[] {
    const notices = this.#unfinishedNotices.all().map(({ id }) => id);
    this.#abandon.run(answer, machineNow);
    return notices;
  }

  noticesOf(deliveryId: number): number[] {
    return this.#noticesOf.all(deliveryId).map(({ noticeId }) => noticeId);
  }

  /** Messages of notices that have left to somebody in `[from, until)`, workspace clock. */
  sentTo(personId: number, from: number, until: number): number {
    return this.#sentTo.get(personId, from, until)!.count;
  }

  /** When the next of a channel may be tried: 0 for one that has not been. */
  nextAttemptAt(channel: ChannelName): number | null {
    return this.#nextAttempt.get(channel)!.at;
  }

  unfinished(): number {
    return this.#unfinished.get()!.count;
  }

  /** Makes all waiting deliveries due now. */
  hurry(machineNow: number): void {
    this.#hurry.run(machineNow);
  }
}
