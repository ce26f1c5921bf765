import type { AttachedFile } from '../../core/message/attached.ts';
import type { Importance } from '../../core/rule/model.ts';
import type { Db } from '../db/open.ts';

export interface NewMessage {
  readerId: number;
  messageId: string;
  leavesAt: number;
  subject: string;
  text: string;
  html: string;
  /** Absent: ordinary. */
  importance?: Importance;
  /** Absent: none. */
  attachments?: readonly AttachedFile[];
  /** Carries a link that lets somebody in: its text is not kept once the delivery has ended. */
  secret?: boolean;
}

/** Whom a message goes to, through which channel. */
export interface Addressee {
  readerId: number;
  channel: string;
  address: string;
}

/** A delivery with what a channel needs to make an attempt. */
export interface LeasedDelivery extends Required<Omit<NewMessage, 'secret'>> {
  id: number;
  channel: string;
  address: string;
  attempt: number;
  readerName: string;
  /** Everybody to whom the message goes: more than one where it goes to all together. */
  to: { name: string; address: string }[];
}

export interface FailedDelivery {
  id: number;
  address: string;
  subject: string;
  leavesAt: number;
  state: string;
  attempt: number;
  lastAnswer: string | null;
  nextAttemptAt: number;
}

/** Messages and their deliveries. Waits and leases are on the machine clock. */
export class OutboxStore {
  readonly #addMessage;
  readonly #link;
  readonly #addDelivery;
  readonly #claimable;
  readonly #lease;
  readonly #details;
  readonly #settle;
  readonly #expired;
  readonly #noticesOf;
  readonly #nextAttempt;
  readonly #unfinished;
  readonly #failing;
  readonly #giveBack;
  readonly #hurry;
  readonly #forgetSecret;
  readonly #sentTo;

  constructor(db: Db) {
    this.#addMessage = db.prepare<
      [Omit<NewMessage, 'secret' | 'attachments'> & { secret: number; attachments: string }]
    >(
      `INSERT INTO message (reader_id, message_id, leaves_at, subject, text, html, importance, attachments, secret)
       VALUES (@readerId, @messageId, @leavesAt, @subject, @text, @html, @importance, @attachments, @secret)`
    );
    this.#link = db.prepare<[number, number]>(
      'INSERT INTO message_notice (message_id, notice_id) VALUES (?, ?)'
    );
    this.#addDelivery = db.prepare<[number, string, string, number, number]>(
      `INSERT INTO delivery (message_id, channel, address, state, reader_id, next_attempt_at)
       VALUES (?, ?, ?, 'queued', ?, ?) ON CONFLICT DO NOTHING`
    );
    this.#claimable = db.prepare<[number, number], { id: number }>(
      `SELECT d.id FROM delivery d JOIN message m ON m.id = d.message_id WHERE d.state = 'queued' AND d.next_attempt_at <= ?
       ORDER BY m.leaves_at, d.id LIMIT ?`
    );
    this.#lease = db.prepare<[number, number]>(
      `UPDATE delivery SET state = 'leased', attempt = attempt + 1, lease_until = ? WHERE id = ? AND state = 'queued'`
    );
    const name = (
      delivery: string
    ) => `coalesce((SELECT p.name FROM person p WHERE p.id = ${delivery}.reader_id),
      (SELECT o.name FROM outside o WHERE o.id = -${delivery}.reader_id), '')`;
    this.#details = db.prepare<
      [number],
      Omit<LeasedDelivery, 'to' | 'attachments'> & { to: string; attachments: string }
    >(
      `SELECT d.id, d.channel, d.address, d.attempt, m.reader_id AS readerId, ${name('d')} AS readerName,
       m.message_id AS messageId, m.leaves_at AS leavesAt, m.subject, m.text, m.html, m.importance, m.attachments,
       (SELECT json_group_array(json_object('name', ${name('a')}, 'address', a.address) ORDER BY a.id)
        FROM delivery a WHERE a.message_id = m.id AND a.channel = d.channel) AS "to"
       FROM delivery d JOIN message m ON m.id = d.message_id WHERE d.id = ?`
    );
    this.#settle = db.prepare<[string, number, string | null, number | null, number, number]>(
      `UPDATE delivery SET state = ?, next_attempt_at = ?, last_answer = ?, ended_at = ?, lease_until = NULL
       WHERE id = ? AND attempt = ? AND state = 'leased'`
    );
    this.#expired = db.prepare<[number]>(
      `UPDATE delivery SET state = 'queued', in_doubt = 1, lease_until = NULL WHERE state = 'leased' AND lease_until <= ?`
    );
    this.#noticesOf = db.prepare<[number], { noticeId: number }>(
      `SELECT mn.notice_id AS noticeId FROM delivery d JOIN message_notice mn ON mn.message_id = d.message_id
       JOIN notice n ON n.id = mn.notice_id
       WHERE d.id = ? AND (d.reader_id IS NULL OR coalesce(n.reader_id, n.recipient_id) = d.reader_id)`
    );
    this.#nextAttempt = db.prepare<[], { at: number | null }>(
      `SELECT min(next_attempt_at) AS at FROM delivery WHERE state = 'queued'`
    );
    this.#unfinished = db.prepare<[], { count: number }>(
      `SELECT count(*) AS count FROM delivery WHERE state IN ('queued', 'leased')`
    );
    this.#failing = db.prepare<[number], FailedDelivery>(
      `SELECT d.id, d.address, m.subject, m.leaves_at AS leavesAt, d.state, d.attempt, d.last_answer AS lastAnswer,
       d.next_attempt_at AS nextAttemptAt FROM delivery d JOIN message m ON m.id = d.message_id
       WHERE d.state = 'failed' OR (d.state IN ('queued', 'leased') AND d.attempt > 0) ORDER BY m.leaves_at DESC LIMIT ?`
    );
    this.#giveBack = db.prepare(
      `UPDATE delivery SET state = 'queued', lease_until = NULL, in_doubt = 1 WHERE state = 'leased'`
    );
    this.#sentTo = db.prepare<[number, number, number], { count: number }>(
      `SELECT count(*) AS count FROM message m WHERE m.reader_id = ? AND m.leaves_at >= ? AND m.leaves_at < ? AND m.secret = 0
       AND EXISTS (SELECT 1 FROM message_notice mn WHERE mn.message_id = m.id)`
    );
    this.#forgetSecret = db.prepare<[number]>(
      `UPDATE message SET text = 'The link in this message is not kept.', html = ''
       WHERE secret = 1 AND id = (SELECT message_id FROM delivery WHERE id = ?)`
    );
    this.#hurry = db.prepare<[number]>(`UPDATE delivery SET next_attempt_at = ? WHERE state = 'queued'`);
  }

  /** Queues one message for its readers, one delivery for each. */
  queue(
    message: NewMessage,
    noticeIds: readonly number[],
    addressees: readonly Addressee[],
    machineNow: number
  ): void {
    const row = {
      importance: 'ordinary' as const,
      ...message,
      attachments: JSON.stringify(message.attachments ?? []),
      secret: message.secret ? 1 : 0
    };
    const id = Number(this.#addMessage.run(row).lastInsertRowid);
    for (const noticeId of noticeIds) this.#link.run(id, noticeId);
    for (const { readerId, channel, address } of addressees)
      this.#addDelivery.run(id, channel, address, readerId, machineNow);
  }

  claimable(machineNow: number, limit: number): number[] {
    return this.#claimable.all(machineNow, limit).map(({ id }) => id);
  }

  /** @returns the delivery with its attempt counted, or null when someone else has it */
  lease(id: number, leaseUntil: number): LeasedDelivery | null {
    if (this.#lease.run(leaseUntil, id).changes !== 1) return null;
    const row = this.#details.get(id)!;
    return {
      ...row,
      to: JSON.parse(row.to) as LeasedDelivery['to'],
      attachments: JSON.parse(row.attachments) as AttachedFile[]
    };
  }

  /** Fenced by attempt. @returns false when the lease was lost meanwhile */
  settle(
    id: number,
    attempt: number,
    state: 'accepted' | 'failed' | 'queued',
    nextAttemptAt: number,
    answer: string | null,
    endedAt: number | null
  ): boolean {
    return this.#settle.run(state, nextAttemptAt, answer, endedAt, id, attempt).changes === 1;
  }

  /** Puts deliveries whose lease has run out back into the queue, marked in doubt. */
  releaseExpired(machineNow: number): number {
    return this.#expired.run(machineNow).changes;
  }

  /** At start nobody else holds a lease: whatever is leased was cut off. */
  releaseAll(): number {
    return this.#giveBack.run().changes;
  }

  noticesOf(deliveryId: number): number[] {
    return this.#noticesOf.all(deliveryId).map(({ noticeId }) => noticeId);
  }

  /** Messages of notices that have left to somebody in `[from, until)`, workspace clock. */
  sentTo(personId: number, from: number, until: number): number {
    return this.#sentTo.get(personId, from, until)!.count;
  }

  /** Takes the text out of a message that let somebody in. */
  forgetSecret(deliveryId: number): void {
    this.#forgetSecret.run(deliveryId);
  }

  nextAttemptAt(): number | null {
    return this.#nextAttempt.get()!.at;
  }

  unfinished(): number {
    return this.#unfinished.get()!.count;
  }

  /** Deliveries that failed, or were tried and wait for another try. */
  failing(limit: number): FailedDelivery[] {
    return this.#failing.all(limit);
  }

  /** Makes all waiting deliveries due now. */
  hurry(machineNow: number): void {
    this.#hurry.run(machineNow);
  }
}
