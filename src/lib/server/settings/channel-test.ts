import { randomBytes } from 'node:crypto';
import { CHANNEL, type ChannelName } from '../../core/channel/channels.ts';
import { waysTo } from '../../core/channel/ways.ts';
import { CodedError } from '../../core/errors.ts';
import { escapeHtml } from '../../core/message/escape.ts';
import type { UnitOfWork } from '../db/unit-of-work.ts';
import type { WorkspaceClock } from '../engine/clock.ts';
import type { FactsSource } from '../engine/facts-source.ts';
import type { Outbox } from '../outbox/outbox.ts';
import type { Stores } from '../store/all.ts';

interface Parts {
  work: UnitOfWork;
  stores: Stores;
  source: FactsSource;
  clock: WorkspaceClock;
  outbox: Outbox;
}

/** Messages that people send themselves, to see that a channel works. */
export class ChannelTest {
  readonly #parts: Parts;

  constructor(parts: Parts) {
    this.#parts = parts;
  }

  /** @throws CodedError `no-address` or `no-way` */
  send(personId: number, channel: ChannelName): void {
    const { work, stores, source, clock, outbox } = this.#parts;
    const person = source.facts.people.get(personId);
    const way = person && waysTo(person).find((one) => one.channel === channel);
    if (!person || !way)
      throw channel === 'mail'
        ? new CodedError('no-address', { name: person?.name ?? 'Nobody' })
        : new CodedError('no-way', { what: CHANNEL[channel].needs });
    const domain = stores.settings.mailDomain();
    const text = `Hello ${person.name},\n\nThis is a test message. Messages from this workspace reach you.`;
    const html = `<p>${escapeHtml(text).replaceAll('\n\n', '</p><p>')}</p>`;
    const message = {
      readerId: personId,
      messageId: `<test-${randomBytes(12).toString('hex')}@${domain}>`,
      leavesAt: clock.now(),
      subject: 'A test message',
      text: `${text}\n`,
      html: `<!doctype html><html lang="en"><body>${html}</body></html>`
    };
    work.run(() => stores.outbox.queue(message, [], [{ readerId: personId, ...way }]));
    outbox.wake();
  }
}
