import { randomBytes } from 'node:crypto';
import { setTimeout as wait } from 'node:timers/promises';
import { CHANNEL, isLeaving, type ChannelName } from '../../core/channel/channels.ts';
import { waysTo } from '../../core/channel/ways.ts';
import { CodedError } from '../../core/errors.ts';
import type { ComposedMessage } from '../../core/message/compose.ts';
import { escapeHtml } from '../../core/message/escape.ts';
import type { UnitOfWork } from '../db/unit-of-work.ts';
import type { WorkspaceClock } from '../engine/clock.ts';
import type { FactsSource } from '../engine/facts-source.ts';
import type { ChannelHealth } from '../outbox/health.ts';
import type { Outbox } from '../outbox/outbox.ts';
import type { Stores } from '../store/all.ts';
import { TRIED } from '../store/deliveries.ts';

interface Parts {
  work: UnitOfWork;
  stores: Stores;
  source: FactsSource;
  clock: WorkspaceClock;
  outbox: Outbox;
  health: ChannelHealth;
}

/** How long an answer to a test message is waited for. */
const ANSWER_MS = 25_000;
const LOOK_MS = 150;

/** What came of a test message. */
export interface TestResult {
  arrived: boolean;
  words: string;
}

/** Messages that people send themselves: to see that a channel works, and what a rule will say. */
export class ChannelTest {
  readonly #parts: Parts;

  constructor(parts: Parts) {
    this.#parts = parts;
  }

  /**
   * Sends a test message and waits until the other side has answered.
   * @param tried what a rule would say, where that is to be read; otherwise that messages reach them
   * @throws CodedError `no-address` or `no-way`
   */
  async sendAndWait(
    personId: number,
    channel: ChannelName,
    tried: ComposedMessage | null = null
  ): Promise<TestResult> {
    const { stores } = this.#parts;
    const messageId = this.send(personId, channel, tried);
    const until = Date.now() + ANSWER_MS;
    for (;;) {
      await wait(LOOK_MS);
      const delivery = stores.deliveries.ofMessage(messageId)!;
      const { state, address, lastAnswer } = delivery;
      if (state === 'accepted')
        return {
          arrived: true,
          words: this.#takenWords(channel, address, tried ? 'message' : 'test message')
        };
      if (lastAnswer !== null) return { arrived: false, words: lastAnswer };
      if (Date.now() > until)
        return { arrived: false, words: 'No answer yet. The Outbox says when there is one.' };
    }
  }

  #takenWords(channel: ChannelName, address: string, what: string): string {
    if (!isLeaving(channel)) return 'The test notice is at the bell.';
    if (channel === 'mail' && this.#parts.health.keepsMail) return `The ${what} is in the Post room here.`;
    return `The ${what} was taken for ${address}. Look whether it has come.`;
  }

  /** @returns the Message-ID @throws CodedError `no-address` or `no-way` */
  send(personId: number, channel: ChannelName, tried: ComposedMessage | null = null): string {
    const { work, stores, source, clock, outbox } = this.#parts;
    const person = source.facts.people.get(personId);
    const way = person && waysTo(person).find((one) => one.channel === channel);
    if (!person || !way)
      throw channel === 'mail'
        ? new CodedError('no-address', { name: person?.name ?? 'Nobody' })
        : new CodedError('no-way', { what: CHANNEL[channel].needs });
    const domain = stores.settings.mailDomain();
    const words = tried ?? testWords(person.name);
    const message = {
      readerId: personId,
      messageId: `<${tried ? TRIED : 'test-'}${randomBytes(12).toString('hex')}@${domain}>`,
      leavesAt: clock.now(),
      ...words
    };
    work.run(() => stores.outbox.queue(message, [], [{ readerId: personId, ...way }]));
    outbox.wake();
    return message.messageId;
  }
}

/** What a test message says by itself. */
function testWords(name: string): ComposedMessage {
  const text = `Hello ${name},\n\nThis is a test message. Messages from this workspace reach you.`;
  const html = `<p>${escapeHtml(text).replaceAll('\n\n', '</p><p>')}</p>`;
  return {
    subject: 'A test message',
    text: `${text}\n`,
    html: `<!doctype html><html lang="en"><body>${html}</body></html>`
  };
}
