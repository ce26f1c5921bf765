import { describe, expect, it } from 'vitest';
import type { ChannelName } from '../../src/lib/core/channel/channels.ts';
import { received, taskInput } from '../support/workspace.ts';
import {
  workspace,
  eachWithEveryChannel,
  NINE,
  NOTHING,
  reach,
  rung,
  deliveries,
  states,
  doubts,
  notice,
  inbox,
  save
} from '../support/channels.ts';

eachWithEveryChannel();

describe('a notice by every channel that its reader chose', () => {
  it('leaves once, and arrives by each in the form that it carries', async () => {
    reach({ 'due today': ['mail', 'text', 'chat', 'in-app'] });
    await rung();
    expect(states()).toEqual(['mail accepted', 'text accepted', 'chat accepted', 'in-app accepted']);
    expect(notice()).toMatchObject({ state: 'sent' });
    expect(await received(workspace)).toHaveLength(1);
    const [text] = await inbox('text');
    expect(text).toMatchObject({ to: '+351265555010', copies: 1 });
    expect(text!.text).toMatch(/^Permit 1 is due today http:\/\/127\.0\.0\.1:\d+\/t\/\w+-[\w-]{11}$/);
    const [chat] = await inbox('chat');
    expect(chat).toMatchObject({ to: 'ines', subject: 'Permit 1 is due today' });
    const { stores, clock } = workspace.container;
    const id = workspace.people.Ines!;
    expect(stores.inApp.of(id, 10)).toMatchObject([
      { subject: 'Permit 1 is due today', tasks: 1, taskId: 1, seenAt: null }
    ]);
    expect(stores.inApp.unseen(id)).toBe(1);
    stores.inApp.see(id, null, clock.now());
    expect(stores.inApp.unseen(id)).toBe(0);
  });

  it('tells open pages of its reader, and nobody else’s', async () => {
    const { container, people } = workspace;
    const open = (id: number) => container.live.open(id, container.auth.signInAs(id))!.getReader();
    const own = open(people.Ines!);
    const others = open(people.Nora!);
    reach({ 'due today': ['in-app'] });
    await rung();
    const heard = async (reader: typeof own) => {
      let text = '';
      for (;;) {
        const next = await Promise.race([
          reader.read(),
          new Promise<null>((resolve) => setTimeout(resolve, 50, null))
        ]);
        if (next === null || next.done) return text;
        text += new TextDecoder().decode(next.value);
      }
    };
    expect(await heard(own)).toContain('event: notice');
    expect(await heard(others)).not.toContain('event: notice');
    container.live.close();
  });

  it('goes by what the rule insists on, and by another way where that is not open', async () => {
    reach({ 'due today': ['mail'] }, { phone: null });
    await rung({ channels: ['text'] });
    expect(states()).toEqual(['mail accepted']);
  });
});

describe('a text message', () => {
  it('has arrived when the gateway says so', async () => {
    reach({ 'due today': ['text'] });
    await rung();
    await expect
      .poll(() => workspace.container.db.prepare('SELECT arrived_at AS at FROM delivery').get())
      .toEqual({ at: NINE });
  });

  it('that did not arrive ends as failed, and the keeper is told', async () => {
    reach({ 'due today': ['text'] });
    await workspace.container.postRoom.setFault('bounce', 'text');
    const { container } = workspace;
    await rung();
    await expect.poll(() => notice().state).toBe('failed');
    expect(notice().reason).toMatch(/switched off/);
    await container.outbox.drain();
    const [mail] = await received(workspace);
    expect(mail!.subject).toMatch(/did not arrive/);
  });

  it('to a number that is nobody’s is refused for good, and mail that went along counts', async () => {
    reach({ 'due today': ['text', 'mail'] }, { phone: '+000 1' });
    await rung();
    // The third is what tells the keeper.
    expect(states()).toEqual(['mail accepted', 'text failed', 'mail accepted']);
    // The status alone: what else the service says may be the words of any machine.
    expect(deliveries()[1]!.answer).toBe('404 Not Found');
    expect(notice()).toMatchObject({ state: 'sent' });
  });

  it('with a wrong token waits for somebody to mend that, and the token stands in no answer', async () => {
    reach({ 'due today': ['text'] });
    const { port } = workspace.posted[0]!;
    save({ text: { url: `http://127.0.0.1:${port}/send`, from: 'Bell', token: 'another-token' } });
    await rung();
    expect(deliveries()).toMatchObject([{ state: 'queued', attempt: 1 }]);
    expect(deliveries()[0]!.answer).toMatch(/^401 /);
    expect(JSON.stringify(deliveries())).not.toContain('another-token');
  });
});

describe('a service that fails twice and then works', () => {
  for (const channel of ['text', 'chat'] as const)
    it(`gets a message by ${channel} once, and not before the wait it asked for`, async () => {
      reach({ 'due today': [channel] });
      const { container, machine } = workspace;
      await container.postRoom.setFault('try-later', channel);
      await rung();
      for (const attempt of [1, 2]) {
        expect(deliveries()).toMatchObject([{ state: 'queued', attempt }]);
        if (attempt === 2) await container.postRoom.setFault('none', channel);
        await container.outbox.drain();
        expect(deliveries()[0]!.attempt).toBe(attempt);
        machine.at += 60_000;
        await container.outbox.drain();
      }
      expect(deliveries()).toMatchObject([{ state: 'accepted', attempt: 3 }]);
      expect(await inbox(channel)).toMatchObject([{ copies: 1 }]);
    });

  it('that breaks off half-way may have it twice, under one name', async () => {
    reach({ 'due today': ['chat'] });
    const { container, machine } = workspace;
    await container.postRoom.setFault('drop', 'chat');
    await rung();
    expect(deliveries()).toMatchObject([{ state: 'queued', attempt: 1 }]);
    expect(deliveries()[0]!.answer).toMatch(/no connection/);
    await container.postRoom.setFault('none', 'chat');
    machine.at += 60_000;
    await container.outbox.drain();
    expect(await inbox('chat')).toMatchObject([{ copies: 2 }, { copies: 2 }]);
    expect(notice()).toMatchObject({ state: 'sent' });
    expect(doubts()).toEqual([1]);
  });

  it('by mail that breaks off half-way may have it twice too, and that is written down', async () => {
    const { container, machine } = workspace;
    await container.postRoom.setFault('drop');
    await rung();
    expect(deliveries()).toMatchObject([{ state: 'queued', attempt: 1 }]);
    await container.postRoom.setFault('none');
    machine.at += 60_000;
    await container.outbox.drain();
    expect(await received(workspace)).toMatchObject([{ copies: 2 }, { copies: 2 }]);
    expect(doubts()).toEqual([1]);
    // People read it where they read of the notice.
    const [left] = container.stores.notices.ofTask(1);
    const zone = container.source.facts.workspace.zone;
    expect(container.forecasts.recorded(left!, { zone, personId: null }).inDoubt).toBe(true);
  });

  it('that asks to try later, or is not there, leaves nothing in doubt', async () => {
    reach({ 'due today': ['mail', 'text'] });
    await workspace.container.postRoom.setFault('try-later', 'text');
    save({ mail: [{ host: '127.0.0.1', port: 1, tls: 'none', user: '', password: null, ca: '' }] });
    await rung();
    expect(states()).toEqual(['mail queued', 'text queued']);
    expect(doubts()).toEqual([0, 0]);
  });
});

describe('how fast', () => {
  it('a channel takes so many in any minute, in the order of their instants; another is not held up', async () => {
    reach({ 'due today': ['mail', 'chat'] });
    save({ rates: { ...NOTHING.rates, mail: { perMinute: 2, perAddress: null } } });
    await rung({}, 5);
    const mailed = async () => (await received(workspace)).map(({ subject }) => subject[7]);
    expect(await mailed()).toEqual(['1', '2']);
    expect(await inbox('chat')).toHaveLength(5);
    const { container, machine } = workspace;
    machine.at += 59_000;
    await container.outbox.drain();
    expect(await mailed()).toEqual(['1', '2']);
    machine.at += 1_000;
    await container.outbox.drain();
    expect(await mailed()).toEqual(['1', '2', '3', '4']);
    machine.at += 60_000;
    await container.outbox.drain();
    expect(await mailed()).toEqual(['1', '2', '3', '4', '5']);
    expect(deliveries().every(({ attempt }) => attempt === 1)).toBe(true);
  });

  it('an address takes so many; others are not held up by it', async () => {
    reach({});
    save({ rates: { ...NOTHING.rates, mail: { perMinute: null, perAddress: 1 } } });
    const { container, coordinator, people, machine } = workspace;
    container.tasks.add(
      coordinator,
      taskInput({ name: 'Nora’s', ownerId: people.Nora!, dueDate: '2026-03-05' })
    );
    await rung({ reach: 'any time' }, 2);
    await container.engine.moveClock(Date.parse('2026-03-05T14:00Z'));
    const to = async () => (await received(workspace)).map(({ to: [first] }) => first).sort();
    expect(await to()).toEqual(['ines@test.example', 'nora@test.example']);
    machine.at += 60_000;
    await container.outbox.drain();
    expect(await to()).toEqual(['ines@test.example', 'ines@test.example', 'nora@test.example']);
  });
});

it('the Post room has what came by every channel, in its own list', async () => {
  const channels: ChannelName[] = ['mail', 'text', 'chat', 'in-app'];
  reach({ 'due today': channels });
  await rung();
  const { postRoomPage, postRoomMessage } = await import('../../src/lib/server/message/post-room-views.ts');
  const { container, people } = workspace;
  const zone = container.source.facts.workspace.zone;
  const query = { channel: null, readerId: null, search: '', offset: 0 };
  const all = await postRoomPage(container, zone, query);
  expect(all.messages.map(({ channel, reader }) => `${channel} ${reader}`).sort()).toEqual([
    'chat Ines',
    'in-app Ines',
    'mail Ines',
    'text Ines'
  ]);
  expect((await postRoomPage(container, zone, { ...query, readerId: people.Nora! })).total).toBe(0);
  expect((await postRoomPage(container, zone, { ...query, readerId: people.Ines! })).total).toBe(4);
  expect((await postRoomPage(container, zone, { ...query, channel: 'chat' })).total).toBe(1);
  for (const { key } of all.messages)
    expect((await postRoomMessage(container, zone, key))!.text).toContain('Permit 1');
  expect(await postRoomMessage(container, zone, 'mail-99')).toBeNull();
});
