import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { messageIdOf } from '../../src/lib/server/outbox/message-id.ts';
import {
  lead,
  openWorkspace,
  received,
  ruleOf,
  taskInput,
  type TestWorkspace
} from '../support/workspace.ts';

/** What is promised of deliveries: at least one attempt until it ends, one recorded end, a repeat that is known as one. */
let workspace: TestWorkspace;

beforeEach(async () => {
  workspace = await openWorkspace('2026-03-05T07:40:00Z');
  const { tasks, rules } = workspace.container;
  const task = taskInput({ ownerId: workspace.people.Meera!, dueDate: '2026-03-06' });
  tasks.add(workspace.coordinator, task);
  const definition = ruleOf([lead(0, 'day', { time: '10:00' })]);
  const { result: id } = rules.add(workspace.coordinator, 'On the day', definition);
  rules.turnOn(workspace.coordinator, id, { name: 'On the day', description: '', definition });
  await workspace.container.engine.tick();
});
afterEach(() => workspace.close());

const LEAVES = Date.parse('2026-03-06T04:30:00Z');
const rung = () => {
  workspace.container.clock.set(LEAVES, false);
  return workspace.container.engine.tick();
};
const notice = () => workspace.container.stores.notices.ofTask(1)[0]!;

describe('a delivery', () => {
  it('that fails twice arrives at the third try, once, and ends as sent', async () => {
    const { outbox, postRoom } = workspace.container;
    await rung();
    await postRoom.setFault('try-later');
    for (let attempt = 1; attempt <= 2; attempt++) {
      await outbox.drain();
      expect(notice().state).toBe('sending');
      // Before its wait is over nothing is tried.
      await outbox.drain();
      expect(workspace.container.stores.deliveries.failing(1)).toMatchObject([{ attempt, state: 'queued' }]);
      workspace.machine.at += 60_000;
    }
    await postRoom.setFault('none');
    await outbox.drain();
    expect(notice().state).toBe('sent');
    expect(await received(workspace)).toMatchObject([{ date: LEAVES, copies: 1 }]);
  });

  it('is settled only by the attempt that holds its lease', async () => {
    await rung();
    const { stores, machine } = { stores: workspace.container.stores, machine: workspace.machine };
    const { id } = stores.outbox.claimable('mail', machine.at, [])[0]!;
    const accepted = {
      ...({ state: 'accepted', answer: null, nextAttemptAt: 0, inDoubt: false, kept: false } as const),
      endedAt: machine.at
    };
    const first = stores.outbox.lease(id, machine.at + 60_000)!;
    expect(stores.outbox.lease(id, machine.at + 60_000)).toBeNull();
    machine.at += 61_000;
    expect(stores.outbox.releaseExpired(machine.at)).toBe(1);
    const second = stores.outbox.lease(id, machine.at + 60_000)!;
    expect(stores.outbox.settle(id, first.attempt, accepted)).toBe(false);
    expect(stores.outbox.settle(id, second.attempt, accepted)).toBe(true);
  });

  it('cut off between acceptance and record leaves again under the same Message-ID, marked in doubt', async () => {
    const { outbox, stores, db } = workspace.container;
    await rung();
    await outbox.drain();
    // As a crash would leave it: accepted over there, leased here.
    db.exec("UPDATE delivery SET state = 'leased', lease_until = 0; UPDATE notice SET state = 'sending'");
    outbox.start();
    await outbox.drain();
    expect(db.prepare('SELECT in_doubt, state FROM delivery').all()).toEqual([
      { in_doubt: 1, state: 'accepted' }
    ]);
    const messages = await received(workspace);
    expect(new Set(messages.map(({ messageId }) => messageId)).size).toBe(1);
    expect(messages.map(({ copies }) => copies)).toEqual([2, 2]);
    expect(stores.notices.byId(notice().id)!.state).toBe('sent');
  });

  it('refused for good ends as failed, with what was said', async () => {
    const { outbox, postRoom, stores } = workspace.container;
    await rung();
    await postRoom.setFault('refuse');
    await outbox.drain();
    expect(notice()).toMatchObject({ state: 'failed', reason: expect.stringContaining('refuses mail') });
    expect(stores.outbox.unfinished()).toBe(0);
    // It occupies its key: the same ring does not leave again.
    expect(stores.notices.occupied({ ...notice(), recipientId: workspace.people.Meera! })).toBe(true);
  });

  it('waits when the other side is not there at all', async () => {
    const { outbox, stores } = workspace.container;
    await rung();
    await workspace.standIn.close();
    await outbox.drain();
    expect(stores.deliveries.failing(1)).toMatchObject([{ state: 'queued', attempt: 1 }]);
  });
});

describe('a dead end', () => {
  const rule = () => workspace.container.stores.rules.made()[0]!;
  const toKeeper = async () =>
    (await received(workspace)).filter(({ subject }) => subject.includes('did not arrive'));

  it('is told to the keeper of the rule, once within the hour', async () => {
    const { outbox, postRoom, tasks, engine } = workspace.container;
    for (const name of ['second', 'third'])
      tasks.add(
        workspace.coordinator,
        taskInput({ name, ownerId: workspace.people.Meera!, dueDate: '2026-03-06' })
      );
    await engine.tick();
    await rung();
    await postRoom.setFault('refuse');
    await outbox.drain();
    await postRoom.setFault('none');
    await outbox.drain();
    const told = await toKeeper();
    // The first word to the keeper was refused like everything else; it is not said again of the other two.
    expect(told).toHaveLength(0);
    expect(workspace.container.db.prepare('SELECT count(*) FROM dead_end_told').pluck().get()).toBe(1);
    expect(workspace.container.stores.rules.byId(rule().id)!.keeperId).toBe(workspace.people.Ines);
  });

  it('holds no channel when it comes twice by the same moment, as after a kill that turned the clock back', async () => {
    const { outbox, postRoom, stores, tasks, engine, db } = workspace.container;
    const task = taskInput({ name: 'second', ownerId: workspace.people.Meera!, dueDate: '2026-03-06' });
    tasks.add(workspace.coordinator, task);
    await engine.tick();
    await rung();
    vi.spyOn(stores.deadEnds, 'mayTell').mockReturnValue(true);
    await postRoom.setFault('refuse');
    await outbox.drain();
    const words = db.prepare("SELECT count(*) FROM message WHERE subject LIKE '%did not arrive%'").pluck();
    expect(words.get()).toBe(1);
    expect(db.prepare("SELECT count(*) FROM delivery WHERE state = 'leased'").pluck().get()).toBe(0);
  });

  it('of an address where nobody lives reaches the keeper, with what the other side said', async () => {
    const { outbox, committer } = workspace.container;
    committer.commit(workspace.coordinator, 'a new address', (writer) =>
      writer.update('person', workspace.people.Meera!, { email: 'nobody-here@test.example' })
    );
    await workspace.container.engine.tick();
    await rung();
    await outbox.drain();
    await outbox.drain();
    expect(notice()).toMatchObject({ state: 'failed', reason: expect.stringContaining('5.1.1') });
    const [told] = await toKeeper();
    expect(told!.to).toEqual(['ines@test.example']);
    const { text } = (await workspace.container.postRoom.message(told!.id))!;
    expect(text).toContain('nobody-here@test.example: ');
    expect(text).toContain('5.1.1 Nobody of that name lives here.');
  });
});

describe('mail that comes back', () => {
  it('ends its delivery as failed, and marks the address until somebody says that it works (RFC 3464 over SMTP)', async () => {
    const { container, standIn } = workspace;
    standIn.reportTo((await container.start())!);
    await rung();
    await container.postRoom.setFault('bounce');
    await container.outbox.drain();
    await expect.poll(() => notice().state).toBe('failed');
    expect(notice().reason).toContain('returned: 550 5.2.1 The mailbox is closed, says the stand-in.');
    const ofMeera = () =>
      container.stores.deadEnds.returned().filter(({ address }) => address === 'meera@test.example');
    expect(ofMeera()).toMatchObject([{ reason: expect.stringContaining('The mailbox is closed') }]);
    expect(container.stores.deadEnds.worksAgain('MEERA@test.example')).toBe(true);
    expect(ofMeera()).toEqual([]);
  });

  it('about a message that nobody knows changes nothing', () => {
    const { outbox, stores } = workspace.container;
    expect(outbox.returned('<unknown@test.example>', 'meera@test.example', 'gone')).toBe(false);
    expect(stores.deadEnds.returned()).toEqual([]);
  });
});

describe('a stop', () => {
  it('gives back what has not ended within seconds, and a connection that breaks is in doubt and tried again', async () => {
    const { container, machine } = workspace;
    await rung();
    await container.postRoom.setFault('slow');
    const timers: (() => void)[] = [];
    machine.setTimeout = (work?: () => void) => {
      if (work) timers.push(work);
      return null;
    };
    const draining = container.outbox.drain();
    await expect.poll(() => container.db.prepare('SELECT state FROM delivery').pluck().get()).toBe('leased');
    const stopped = container.outbox.stop();
    // The seconds of grace are over.
    for (const work of [...timers]) work();
    await Promise.all([draining, stopped]);
    expect(container.db.prepare('SELECT state, in_doubt, attempt FROM delivery').get()).toEqual({
      ...{ state: 'queued', in_doubt: 1, attempt: 1 }
    });
  });

  it('half-way through a message leaves it to be tried again under the same Message-ID', async () => {
    const { container, machine } = workspace;
    await rung();
    await container.postRoom.setFault('drop');
    await container.outbox.drain();
    expect(container.stores.deliveries.failing(1)).toMatchObject([{ state: 'queued', attempt: 1 }]);
    await container.postRoom.setFault('none');
    machine.at += 60_000;
    await container.outbox.drain();
    expect(notice().state).toBe('sent');
    const messages = await received(workspace);
    expect(messages.map(({ copies }) => copies)).toEqual([2, 2]);
  });
});

describe('what a message said', () => {
  const YEAR = 365 * 86_400_000;
  const words = () =>
    workspace.container.db
      .prepare<[], string>('SELECT text || html || attachments FROM message')
      .pluck()
      .get();
  /** The next look of a later day, with nothing else to be done then. */
  const lookAt = (instant: number) => {
    workspace.container.clock.set(instant, false);
    return workspace.container.outbox.drain();
  };

  it('is kept for a year; that it was sent, to whom and when stays', async () => {
    const { outbox, db } = workspace.container;
    await rung();
    await outbox.drain();
    const said = words();
    expect(said).toContain('Done');
    // A day is looked at once: what becomes a year old on it is let go of on the next.
    await lookAt(LEAVES + YEAR - 86_400_000);
    await lookAt(LEAVES + YEAR - 1);
    expect(words()).toBe(said);
    await lookAt(LEAVES + YEAR + 86_400_000);
    expect(words()).toBe('The words of a message are kept for a year.[]');
    expect(notice()).toMatchObject({ state: 'sent', leavesAt: LEAVES });
    const left = db.prepare(
      'SELECT address, state, subject FROM delivery d JOIN message m ON m.id = d.message_id'
    );
    expect(left.all()).toEqual([
      { address: 'meera@test.example', state: 'accepted', subject: expect.stringContaining('Task') as string }
    ]);
  });

  it('stays while it has not been delivered', async () => {
    const { outbox, postRoom } = workspace.container;
    await rung();
    await postRoom.setFault('try-later');
    await outbox.drain();
    const said = words();
    await lookAt(LEAVES + 2 * YEAR);
    expect(words()).toBe(said);
  });
});

describe('a Message-ID', () => {
  const key = {
    ruleId: 1,
    leadId: 'a',
    taskId: 2,
    anchorValue: '2026-03-06',
    round: 0,
    ordinal: 0,
    stepId: 'tell',
    recipientId: 3,
    snooze: 0
  };

  it('is the same for the same notice and differs with every part of its key (RFC 5322 §3.6.4)', () => {
    const id = messageIdOf(key, 'mail', 'bell@test.example');
    expect(id).toMatch(/^<[0-9a-f]{32}@test\.example>$/);
    expect(messageIdOf({ ...key }, 'mail', 'bell@test.example')).toBe(id);
    for (const part of Object.keys(key) as (keyof typeof key)[])
      expect(messageIdOf({ ...key, [part]: `${key[part]}x` }, 'mail', 'bell@test.example')).not.toBe(id);
    expect(messageIdOf(key, 'chat', 'bell@test.example')).not.toBe(id);
  });
});
