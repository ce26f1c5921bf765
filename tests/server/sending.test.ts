import { describe, expect, it } from 'vitest';
import { hasPostRoom, postRoomMessage, postRoomPage } from '../../src/lib/server/message/post-room-views.ts';
import { frameView } from '../../src/lib/server/workspace/frame.ts';
import { zoneNamed } from '../../src/lib/core/time/zone.ts';
import { CERTIFICATE, KEY } from '../support/certificate.ts';
import {
  anotherServer,
  deliveries,
  eachWithEveryChannel,
  mailRoute,
  reach,
  rung,
  save,
  workspace
} from '../support/channels.ts';
import { lead, received, ruleOf, taskInput } from '../support/workspace.ts';

eachWithEveryChannel();

const LOGIN = { key: KEY, cert: CERTIFICATE, user: 'bell', password: 'a long one' };
const secured = async () => (await anotherServer(LOGIN)).smtpPort;

/** Sends a test message as somebody who presses the button, and what the screen then says. */
async function tested(): Promise<{ arrived: boolean; words: string }> {
  const { channelTest, outbox } = workspace.container;
  const answer = channelTest.sendAndWait(workspace.people.Ines!, 'mail');
  await outbox.drain();
  return answer;
}

describe('a test message waits for the server’s answer, and each refusal has its sentence', () => {
  it('taken', async () => {
    expect(await tested()).toMatchObject({ arrived: true });
    expect(workspace.container.health.of('mail')).toEqual({ state: 'works' });
    expect(workspace.container.stores.deliveries.tests(5)).toMatchObject([
      { state: 'accepted', channel: 'mail' }
    ]);
  });

  it('nothing listens there', async () => {
    save({ mail: [mailRoute(1)] });
    const { arrived, words } = await tested();
    expect({ arrived, words }).toEqual({
      arrived: false,
      words: 'No mail server answers at 127.0.0.1, port 1. Check the name and the port.'
    });
    expect(workspace.container.health.whyNothingLeaves()).toBeNull();
  });

  it('there is no server of that name', async () => {
    save({ mail: [mailRoute(25, { host: 'nowhere.invalid' })] });
    expect((await tested()).words).toBe('No server is called nowhere.invalid. Check the name.');
  });

  it('its certificate is not trusted', async () => {
    save({ mail: [mailRoute(await secured(), { tls: 'starttls' })] });
    expect((await tested()).words).toMatch(/^The certificate of 127\.0\.0\.1 is not trusted/);
  });

  it('it offers no encryption', async () => {
    save({ mail: [mailRoute(workspace.standIn.smtpPort, { tls: 'starttls' })] });
    expect((await tested()).words).toMatch(/offers no such encryption on port/);
    save({ mail: [mailRoute(workspace.standIn.smtpPort, { tls: 'tls' })] });
    expect((await tested()).words).toMatch(/offers no such encryption on port/);
  });

  it('it refuses the sign-in', async () => {
    const wrong = { tls: 'starttls' as const, user: 'bell', password: 'a wrong one', ca: CERTIFICATE };
    save({ mail: [mailRoute(await secured(), wrong)] });
    expect((await tested()).words).toMatch(/refused the sign-in as “bell”\. Check user name and password\./);
  });

  it('it wants a sign-in', async () => {
    save({ mail: [mailRoute(await secured(), { tls: 'starttls', ca: CERTIFICATE })] });
    expect((await tested()).words).toMatch(/wants a sign-in/);
  });

  it('it refuses the sender', async () => {
    await workspace.container.postRoom.setFault('sender');
    expect((await tested()).words).toMatch(/does not send for bell@.*Change the sender in Settings/);
  });

  it('it refuses the address', async () => {
    reach({}, { email: 'nobody-there@tidewatch.example' });
    expect((await tested()).words).toMatch(/does not take mail for nobody-there@tidewatch\.example/);
  });

  it('it asks to try later', async () => {
    await workspace.container.postRoom.setFault('try-later');
    expect((await tested()).words).toMatch(/does not take messages at the moment\. They are tried again\./);
  });
});

describe('while nothing can leave', () => {
  const alone = () => {
    const { text, chat } = { text: null, chat: { does: 'none' as const } };
    save({ mail: [mailRoute(1)], text, chat });
  };

  it('every page of those who make rules says so, until it works again', async () => {
    const { container, people } = workspace;
    const { health, stores } = container;
    const open = health.whyNothingLeaves.bind(health);
    alone();
    await health.probe();
    // Text and chat are still as the server was started with: something leaves.
    expect(health.of('mail')).toMatchObject({ state: 'fails' });
    expect(open()).toBeNull();
    for (const channel of ['text', 'chat'] as const)
      health.note(channel, { kind: 'try-later', detail: 'no connection', unreached: true });
    expect(open()).toContain('No mail server answers at 127.0.0.1, port 1.');
    expect(frameView(container, stores.people.byId(people.Ines!)!).sending?.why).toBe(open());
    const owner = stores.people.all().find(({ role }) => role === 'owner')!;
    expect(frameView(container, owner).sending).toBeNull();

    save({ mail: [] });
    expect(await health.probe()).toEqual({ state: 'works' });
    expect(open()).toBeNull();
  });

  it('what a server says to one message is no failure of the channel', async () => {
    await workspace.container.postRoom.setFault('refuse');
    await rung();
    expect(deliveries()[0]).toMatchObject({ channel: 'mail', state: 'failed' });
    expect(workspace.container.health.of('mail')).toEqual({ state: 'works' });
  });
});

describe('mail that is kept here', () => {
  it('is taken at once, read in the Post room, and sent again when that is asked for', async () => {
    const { container, coordinator } = workspace;
    const lisbon = zoneNamed('Europe/Lisbon');
    container.channelSettings.keepMail(coordinator, true);
    expect(hasPostRoom(container)).toBe(true);
    expect(await tested()).toEqual({ arrived: true, words: 'The test message is in the Post room here.' });
    await rung();
    expect(deliveries().map(({ channel, state }) => `${channel} ${state}`)).toContain('mail accepted');
    const query = { channel: 'mail' as const, readerId: null, search: '', offset: 0 };
    const { messages } = await postRoomPage(container, lisbon, query);
    const kept = messages.filter(({ key }) => key.startsWith('kept-'));
    expect(kept.map(({ subject }) => subject)).toContain('A test message');
    const opened = await postRoomMessage(container, lisbon, kept[0]!.key);
    expect(opened?.text).toContain('Hello Ines');
    expect((await container.postRoom.list('', 0, 10)).total).toBe(0);
    expect(await postRoomMessage(container, lisbon, 'kept-99999')).toBeNull();

    container.channelSettings.keepMail(coordinator, false);
    expect(await tested()).toMatchObject({ arrived: true });
    expect((await container.postRoom.list('', 0, 10)).total).toBe(1);
  });

  it('keeps no link that lets somebody in', async () => {
    const { container, coordinator, people } = workspace;
    container.channelSettings.keepMail(coordinator, true);
    container.accounts.invite(people.Meera!, 'Ines');
    await container.outbox.drain();
    const { messages } = container.stores.keptMail.search('', '', 10);
    expect(messages).toHaveLength(1);
    expect(messages.every(({ text }) => !text.includes('/password/'))).toBe(true);
  });
});

describe('what a workspace begins with', () => {
  const lines = () =>
    Object.fromEntries(workspace.container.begin.view().lines.map(({ key, done }) => [key, done]));

  it('ticks itself, line by line', async () => {
    const { container, coordinator } = workspace;
    expect(lines()).toMatchObject({
      week: false,
      mail: false,
      people: true,
      tasks: false,
      rule: false,
      message: false
    });
    container.begin.confirmWeek(coordinator);
    await container.health.probe();
    expect(lines()).toMatchObject({ week: true, mail: true });
    await rung();
    await container.outbox.drain();
    expect(Object.values(lines()).every(Boolean)).toBe(true);
  });

  it('can be put away, and found again', () => {
    const { begin } = workspace.container;
    begin.putAway(workspace.coordinator, true);
    expect(begin.view().away).toBe(true);
    begin.putAway(workspace.coordinator, false);
    expect(begin.view().away).toBe(false);
  });
});

describe('what a rule will say is sent to whoever tries it, before it rings for the first time', () => {
  const definition = ruleOf([lead(-1, 'workday')]);
  const written = { name: 'Day before', description: '', definition };
  const viewer = { zone: zoneNamed('Europe/Lisbon'), personId: 1 };
  const message = (taskId: number) =>
    workspace.container.trials.tryOn(0, written, taskId, viewer).parts[0]!.entries[0]!.message!;
  const open = () =>
    workspace.container.tasks.add(
      workspace.coordinator,
      taskInput({ name: 'Renew it', dueDate: '2026-03-20', ownerId: workspace.people.Ines! })
    ).result;

  it('the mail says what stood on the screen, and whom it is for and when; Begin has its first message', async () => {
    const { channelTest, outbox, trials, begin, stores } = workspace.container;
    const taskId = open();
    const shown = message(taskId);
    const first = () => begin.view().lines.find(({ key }) => key === 'message');
    expect(first()).toMatchObject({ done: false });
    const answer = channelTest.sendAndWait(1, 'mail', trials.copyOf(0, written, taskId, shown.key, viewer));
    await outbox.drain();
    expect(await answer).toMatchObject({
      arrived: true,
      words: expect.stringMatching(/^The message was taken/)
    });
    const mails = await received(workspace);
    const [mail] = mails;
    expect(mail!.subject).toBe('Tried: Renew it is due tomorrow');
    const { httpPort } = workspace.standIn;
    const kept = await fetch(`http://127.0.0.1:${httpPort}/messages/${mail!.id}`);
    const { text, html } = (await kept.json()) as { text: string; html: string };
    // All of it but for the note above it, and nothing in it that could act.
    expect(
      html
        .replace(/<p style="[^"]*dashed[^>]*>.*?<\/p>/, '')
        .replaceAll('\r\n', '\n')
        .trimEnd()
    ).toBe(shown.html.trimEnd());
    const links = [...html.matchAll(/href="http:\/\/[^/]*([^"]*)"/g)].map(([, to]) => to);
    expect(new Set(links)).toEqual(new Set([`/tasks/${taskId}`, '/act/a-copy']));
    expect(() => workspace.container.actLinks.view('a-copy')).toThrow(
      'a button of a copy, which does nothing'
    );
    expect(text).toContain(shown.text.trimEnd());
    expect(text).toContain(
      'Only you get this. You tried the rule “Day before” on the task “Renew it”. From the rule itself it goes to Ines'
    );
    expect(mails).toHaveLength(1);
    expect(stores.deliveries.tests(5)).toMatchObject([{ state: 'accepted' }]);
    expect(stores.notices.anySent()).toBe(false);
    expect(first()).toMatchObject({
      done: true,
      now: expect.stringContaining('no rule has told anybody yet')
    });
  });

  it('another text than the one that was read is not sent, nor is the task of somebody else that is private', () => {
    const { trials, tasks } = workspace.container;
    const taskId = open();
    const { key } = message(taskId);
    tasks.edit(workspace.coordinator, taskId, { name: 'Renew it all' });
    expect(() => trials.copyOf(0, written, taskId, key, viewer)).toThrow('What it would say has changed');
    expect(() => trials.copyOf(0, written, 999, key, viewer)).toThrow('not found');
  });
});
