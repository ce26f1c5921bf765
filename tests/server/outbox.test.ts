import { afterEach, beforeEach, describe, expect, it } from 'vitest';
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
      expect(workspace.container.stores.outbox.failing(1)).toMatchObject([{ attempt, state: 'queued' }]);
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
    const [id] = stores.outbox.claimable(machine.at, 1);
    const first = stores.outbox.lease(id!, machine.at + 60_000)!;
    expect(stores.outbox.lease(id!, machine.at + 60_000)).toBeNull();
    machine.at += 61_000;
    expect(stores.outbox.releaseExpired(machine.at)).toBe(1);
    const second = stores.outbox.lease(id!, machine.at + 60_000)!;
    expect(stores.outbox.settle(id!, first.attempt, 'accepted', 0, null, machine.at)).toBe(false);
    expect(stores.outbox.settle(id!, second.attempt, 'accepted', 0, null, machine.at)).toBe(true);
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
    expect(stores.outbox.failing(1)).toMatchObject([{ state: 'queued', attempt: 1 }]);
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
      expect(
        messageIdOf({ ...key, [part]: `${key[part]}x` } as typeof key, 'mail', 'bell@test.example')
      ).not.toBe(id);
    expect(messageIdOf(key, 'chat', 'bell@test.example')).not.toBe(id);
  });
});
