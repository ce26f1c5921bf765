import type { ChannelName } from '../../core/channel/channels.ts';
import type { Db } from '../db/open.ts';

export interface FailedDelivery {
  id: number;
  channel: ChannelName;
  address: string;
  subject: string;
  leavesAt: number;
  state: string;
  attempt: number;
  /** Whether it may have arrived all the same. */
  inDoubt: 0 | 1;
  lastAnswer: string | null;
  nextAttemptAt: number;
}

/** What people look up of messages and their deliveries. */
export class DeliveryStore {
  readonly #failing;
  readonly #leftAt;
  readonly #inDoubt;

  constructor(db: Db) {
    this.#failing = db.prepare<[number], FailedDelivery>(
      `SELECT d.id, d.channel, d.address, m.subject, d.leaves_at AS leavesAt, d.state, d.attempt, d.in_doubt AS inDoubt, d.last_answer AS lastAnswer,
       d.next_attempt_at AS nextAttemptAt FROM delivery d JOIN message m ON m.id = d.message_id
       WHERE d.state = 'failed' OR (d.state IN ('queued', 'leased') AND d.attempt > 0) ORDER BY d.leaves_at DESC LIMIT ?`
    );
    this.#inDoubt = db.prepare<[number], { id: number }>(
      `SELECT d.id FROM message_notice mn JOIN delivery d ON d.message_id = mn.message_id WHERE mn.notice_id = ? AND d.in_doubt = 1 LIMIT 1`
    );
    this.#leftAt = db.prepare<[string], { at: number }>(
      'SELECT leaves_at AS at FROM message WHERE message_id = ?'
    );
  }

  /** Deliveries that failed, or were tried and wait for another try. */
  failing(limit: number): FailedDelivery[] {
    return this.#failing.all(limit);
  }

  /** Whether an attempt at a notice ended without our knowing how. */
  isInDoubt(noticeId: number): boolean {
    return this.#inDoubt.get(noticeId) !== undefined;
  }

  /** Under which instant of the workspace clock a message left; null when none is of that Message-ID. */
  leftAt(messageId: string): number | null {
    return this.#leftAt.get(messageId)?.at ?? null;
  }
}
