import type { ChannelName } from '../../core/channel/channels.ts';
import type { Db } from '../db/open.ts';

export interface LookedUpDelivery {
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

const LOOKED_UP = `SELECT d.id, d.channel, d.address, m.subject, d.leaves_at AS leavesAt, d.state, d.attempt, d.in_doubt AS inDoubt,
       d.last_answer AS lastAnswer, d.next_attempt_at AS nextAttemptAt FROM delivery d JOIN message m ON m.id = d.message_id`;

/** Test messages are known by how their Message-ID begins; those that say what a rule would say begin so. */
export const TRIED = 'test-tried-';

/** What people look up of messages and their deliveries. */
export class DeliveryStore {
  readonly #failing;
  readonly #ofMessage;
  readonly #tests;
  readonly #tried;
  readonly #leftAt;
  readonly #inDoubt;

  constructor(db: Db) {
    this.#failing = db.prepare<[number], LookedUpDelivery>(
      `${LOOKED_UP}
       WHERE d.state = 'failed' OR (d.state IN ('queued', 'leased') AND d.attempt > 0) ORDER BY d.leaves_at DESC LIMIT ?`
    );
    this.#inDoubt = db.prepare<[number], { id: number }>(
      `SELECT d.id FROM message_notice mn JOIN delivery d ON d.message_id = mn.message_id WHERE mn.notice_id = ? AND d.in_doubt = 1 LIMIT 1`
    );
    this.#ofMessage = db.prepare<[string], LookedUpDelivery>(`${LOOKED_UP} WHERE m.message_id = ?`);
    this.#tests = db.prepare<[number], LookedUpDelivery>(
      `${LOOKED_UP} WHERE m.message_id >= '<test-' AND m.message_id < '<test.' ORDER BY d.id DESC LIMIT ?`
    );
    this.#tried = db.prepare<[], { id: number }>(
      `SELECT d.id FROM message m JOIN delivery d ON d.message_id = m.id
       WHERE m.message_id >= '<${TRIED}' AND m.message_id < '<${TRIED.slice(0, -1)}.' AND d.state = 'accepted' LIMIT 1`
    );
    this.#leftAt = db.prepare<[string], { at: number }>(
      'SELECT leaves_at AS at FROM message WHERE message_id = ?'
    );
  }

  /** Deliveries that failed, or were tried and wait for another try. */
  failing(limit: number): LookedUpDelivery[] {
    return this.#failing.all(limit);
  }

  /** The delivery of a message that goes to one; null where there is none of that Message-ID. */
  ofMessage(messageId: string): LookedUpDelivery | null {
    return this.#ofMessage.get(messageId) ?? null;
  }

  /** Whether anybody has been sent what a rule would say. */
  anyTried(): boolean {
    return this.#tried.get() !== undefined;
  }

  /** Test messages that people sent themselves, the last first. */
  tests(limit: number): LookedUpDelivery[] {
    return this.#tests.all(limit);
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
