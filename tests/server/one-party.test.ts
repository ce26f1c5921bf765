import { createServer, type Server, type Socket } from 'node:net';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { NO_RATE } from '../../src/lib/core/delivery/rate.ts';
import type { ChannelName } from '../../src/lib/core/channel/channels.ts';
import { AttemptFailed, type Channel } from '../../src/lib/server/channel/channel.ts';
import { mailChannel } from '../../src/lib/server/channel/mail.ts';
import type { MailRoute } from '../../src/lib/server/channel/mail-route.ts';
import { OutgoingReach } from '../../src/lib/server/channel/reach.ts';
import { MACHINE_CLOCK } from '../../src/lib/server/engine/clock.ts';
import { Outbox } from '../../src/lib/server/outbox/outbox.ts';
import { Pace } from '../../src/lib/server/outbox/pace.ts';
import { openWorkspace, type TestWorkspace } from '../support/workspace.ts';

/** One party that does not answer, or never stops answering, holds nobody else. On the machine's own clock: what hangs does so in real time. */
let workspace: TestWorkspace;
beforeEach(async () => {
  workspace = await openWorkspace('2026-03-05T10:00:00Z', { machine: MACHINE_CLOCK as never });
});
afterEach(() => workspace.close());

/** Queues messages, each to one address by one channel. */
function queue(channel: ChannelName, ...addresses: string[]): void {
  const { work, stores } = workspace.container;
  work.run(() => {
    for (const [i, address] of addresses.entries())
      stores.outbox.queue(
        {
          ...{ readerId: workspace.people.Nora!, messageId: `<${channel}-${i}-${address}>`, leavesAt: i },
          ...{ subject: 'S', text: 'T', html: '' }
        },
        [],
        [{ readerId: workspace.people.Nora!, channel, address }]
      );
  });
}

/** A channel that takes what `send` lets through, and what it took. */
function channelOf(name: ChannelName, send: (address: string, signal: AbortSignal) => Promise<void>) {
  const taken: string[] = [];
  const channel: Channel = {
    name,
    async send({ address }, signal) {
      await send(address, signal);
      taken.push(address);
    },
    close() {}
  };
  return { channel, taken };
}

const outboxOf = (...channels: Channel[]) => {
  const { work, stores, clock } = workspace.container;
  const faults: unknown[] = [];
  const outbox = new Outbox(
    ...([work, stores, clock, channels, new Pace(() => NO_RATE), () => 0.5] as const),
    (error) => faults.push(error)
  );
  return { outbox, faults };
};
const never = () => new Promise<void>(() => {});
const atOnce = () => Promise.resolve();
const states = () =>
  workspace.container.db
    .prepare<[], { address: string; state: string; doubt: number }>(
      'SELECT address, state, in_doubt AS doubt FROM delivery ORDER BY id'
    )
    .all();

describe('a channel that hangs', () => {
  it('holds no other channel, nor whoever waits for all of them', async () => {
    const mail = channelOf('mail', never);
    const chat = channelOf('chat', atOnce);
    const { outbox } = outboxOf(mail.channel, chat.channel);
    queue('mail', 'a@x.example');
    queue('chat', 'room');
    await outbox.drain(50);
    expect([mail.taken, chat.taken]).toEqual([[], ['room']]);
    // What is slow already is waited for no more.
    queue('chat', 'another room');
    await outbox.drain(50);
    expect(chat.taken).toEqual(['room', 'another room']);
    await outbox.stop();
  });

  it('is left when the application stops: what hung is tried again, in doubt', async () => {
    const mail = channelOf('mail', (address) => (address.startsWith('slow') ? never() : atOnce()));
    const { outbox, faults } = outboxOf(mail.channel);
    queue('mail', 'slow@x.example', 'b@x.example');
    outbox.start();
    await expect.poll(() => mail.taken).toEqual(['b@x.example']);
    await outbox.stop();
    expect(states()).toEqual([
      { address: 'slow@x.example', state: 'queued', doubt: 1 },
      { address: 'b@x.example', state: 'accepted', doubt: 0 }
    ]);
    expect(faults).toEqual([]);
  });
});

describe('an address that hangs', () => {
  it('takes one place of a channel, whatever waits for it; the others get theirs', async () => {
    let most = 0;
    let now = 0;
    const chat = channelOf('chat', async (address) => {
      if (address !== 'stuck') return;
      most = Math.max(most, ++now);
      await never();
    });
    const { outbox } = outboxOf(chat.channel);
    queue('chat', ...Array.from({ length: 50 }, () => 'stuck'), 'one', 'two', 'three');
    outbox.start();
    await expect.poll(() => chat.taken).toEqual(['one', 'two', 'three']);
    expect(most).toBe(1);
    await outbox.stop();
  });

  it('ten of them keep an eleventh waiting a few seconds at most', async () => {
    const chat = channelOf('chat', (address) => (address.startsWith('stuck') ? never() : atOnce()));
    const { outbox } = outboxOf(chat.channel);
    queue('chat', ...Array.from({ length: 10 }, (_, i) => `stuck ${i}`), 'free');
    outbox.start();
    await expect.poll(() => chat.taken, { timeout: 20_000 }).toEqual(['free']);
    expect(outbox.standing()).toBeNull();
    await outbox.stop();
  });
});

/** A mail server that says what it is told to, phase by phase (RFC 5321 §4.3.2). */
const GREETING = '(somebody comes)';
type Says = (line: string, socket: Socket) => string | null;
const GOOD: Says = (line) => {
  if (line === GREETING) return '220 here\r\n';
  if (/^DATA/i.test(line)) return '354 go on\r\n';
  return line === '.' || /^(EHLO|HELO|MAIL|RCPT|QUIT)/i.test(line) ? '250 ok\r\n' : null;
};

describe('a mail server', () => {
  let servers: Server[] = [];
  let sockets: Socket[] = [];
  afterEach(() => {
    for (const socket of sockets) socket.destroy();
    for (const server of servers) server.close();
    [servers, sockets] = [[], []];
  });

  /** @param says its words, asked first as somebody comes */
  async function served(says: Says): Promise<MailRoute & { heard: string[] }> {
    const heard: string[] = [];
    const server = createServer((socket) => {
      sockets.push(socket);
      socket.on('error', () => {});
      const answer = (line: string) => {
        const words = says(line, socket);
        if (words !== null && !socket.destroyed) socket.write(words);
      };
      answer(GREETING);
      let rest = '';
      socket.on('data', (chunk) => {
        const lines = (rest + chunk.toString()).split('\r\n');
        rest = lines.pop()!;
        for (const line of lines) {
          heard.push(line);
          answer(line);
        }
      });
    });
    servers.push(server);
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    return { host: '127.0.0.1', port: (server.address() as { port: number }).port, heard };
  }

  /** Hands one message to the servers. @returns how that ended, and what the channel says of it */
  async function handed(routes: MailRoute[], withinMs = 400): Promise<string> {
    const channel = mailChannel(
      () => routes,
      () => ({ name: 'Bell', address: 'bell@x.example' }),
      () => '',
      new OutgoingReach([])
    );
    const message = {
      ...{ id: 1, readerId: 1, readerName: 'Nora', address: 'nora@x.example', to: [], link: '', notices: 0 },
      ...{ messageId: '<m@x.example>', leavesAt: 0, subject: 'S', text: 'T', html: '<p>T</p>' },
      ...{ importance: 'ordinary' as const, attachments: [], kinds: [] }
    };
    try {
      await channel.send(message, AbortSignal.timeout(withinMs));
      return 'taken';
    } catch (error) {
      const { outcome } = error as AttemptFailed;
      const { kind, unknown } = outcome as { kind: string; unknown?: boolean };
      return `${kind}${unknown ? ', in doubt' : ''}: ${(error as Error).message}`;
    } finally {
      channel.close();
    }
  }

  it.each<[string, Says, string]>([
    ['drips its answer after the message', (line, socket) => drips(line, socket), 'try-later, in doubt'],
    [
      'says nothing after the message',
      (line) => (line === '.' ? null : GOOD(line, null!)),
      'try-later, in doubt'
    ],
    ['never greets', () => null, 'try-later:'],
    ['drips its greeting', (line, socket) => (line === GREETING ? dripOn(socket) : null), 'try-later:'],
    ['refuses the reader', (line) => (/^RCPT/i.test(line) ? '550 nobody\r\n' : GOOD(line, null!)), 'refused']
  ])('that %s is left when the time is over', async (_, says, ends) => {
    const route = await served(says);
    expect(await handed([route])).toMatch(new RegExp(`^${ends}`));
    // Its line is closed from here: nothing goes on behind our back.
    await expect
      .poll(() => sockets.every(({ destroyed, readableEnded }) => destroyed || readableEnded))
      .toBe(true);
  });

  it.each<[string, Says]>([
    ['closes before it greets', (_, socket) => (socket.destroy(), null)],
    ['greets with a refusal', (line) => (line === GREETING ? '554 not now\r\n' : null)],
    ['closes at EHLO', (line, socket) => closes(/^EHLO|^HELO/i, line, socket)],
    ['closes at MAIL', (line, socket) => closes(/^MAIL/i, line, socket)],
    ['closes at RCPT', (line, socket) => closes(/^RCPT/i, line, socket)],
    ['closes at DATA', (line, socket) => closes(/^DATA/i, line, socket)]
  ])('that %s has not taken the message: the next one gets it', async (_, says) => {
    const [first, second] = [await served(says), await served(GOOD)];
    expect(await handed([first, second], 5_000)).toBe('taken');
    expect(second.heard.filter((line) => line === '.')).toHaveLength(1);
    // Where there is no other it is tried again, and no repeat is feared.
    expect(await handed([first], 5_000)).toMatch(/^try-later:/);
  });

  it('that closes after the message may have taken it: no other gets it', async () => {
    const [first, second] = [
      await served((line, socket) => closes(/^\.$/, line, socket)),
      await served(GOOD)
    ];
    expect(await handed([first, second], 5_000)).toMatch(/^try-later, in doubt/);
    expect(second.heard).toEqual([]);
  });
});

function closes(at: RegExp, line: string, socket: Socket): string | null {
  if (!at.test(line)) return GOOD(line, socket);
  socket.destroy();
  return null;
}

/** Something of an answer every 20 ms, and never its end. */
function dripOn(socket: Socket): null {
  const timer = setInterval(() => socket.write('250-still\r\n'), 20);
  socket.once('close', () => clearInterval(timer));
  return null;
}
function drips(line: string, socket: Socket): string | null {
  return line === '.' ? dripOn(socket) : GOOD(line, socket);
}
