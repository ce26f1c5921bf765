import { describe, expect, it } from 'vitest';
import { received, ruleOf, ruleOn, lead } from '../support/workspace.ts';
import { add, at, eachInAWorkspace, mail, moveTo, tick, workspace } from '../support/rules.ts';

/**
 * What is parked comes back by itself. It is Thursday 5 March 2026, 07:00Z. Ines, in Lisbon, looks after everybody's work; Meera in Kochi
 * works Monday to Saturday from 09:00 (03:30Z), Salim in Muscat Sunday to Thursday from 08:00 (04:00Z).
 */
eachInAWorkspace();

const by = (name: string) => ({ personId: workspace.people[name]!, source: 'person' as const });
const park = (id: number, date: string, name = 'Ines') =>
  workspace.container.taskActs.park(by(name), id, date);
const task = (id: number) => workspace.container.stores.tasks.byId(id)!;
const mine = (id: number) =>
  Object.entries(workspace.people).find(([, one]) => one === task(id).ownerId)?.[0];

describe('on its review date', () => {
  it('comes back to whoever parked it, at the notice time on their wall, and says so', async () => {
    const id = add({ name: 'Survey', ownerId: workspace.people.Nora! });
    park(id, '2026-03-10');
    expect(task(id)).toMatchObject({ setAside: 'parked', ownerId: null, parkedBy: workspace.people.Ines });
    await moveTo('2026-03-10T08:59Z');
    expect(task(id).setAside).toBe('parked');
    await moveTo('2026-03-10T09:00Z');
    expect(task(id)).toMatchObject({ setAside: null, ownerId: workspace.people.Ines, parkedBy: null });
    expect(await mail()).toEqual(['03-10T09:00 ines No longer parked: Survey']);
    const [message] = await received(workspace);
    const { text } = (await workspace.container.postRoom.message(message!.id))!;
    expect(text).toContain('Survey: parked by you until Tue 10 Mar');
  });

  it('on a day on which they do not work, when they next do', async () => {
    const [saturday, friday] = [add({ name: 'Sat' }), add({ name: 'Fri' })];
    park(saturday, '2026-03-07');
    park(friday, '2026-03-06', 'Salim');
    await moveTo('2026-03-12T00:00Z');
    expect(await mail()).toEqual([
      '03-08T04:00 salim No longer parked: Fri',
      '03-09T09:00 ines No longer parked: Sat'
    ]);
  });

  it('several of one moment and person in one message and one change, to be undone together', async () => {
    const ids = ['A', 'B', 'C'].map((name) => add({ name }));
    const other = add({ name: 'D' });
    for (const id of ids) park(id, '2026-03-10');
    park(other, '2026-03-10', 'Meera');
    await moveTo('2026-03-10T12:00Z');
    expect(await mail()).toEqual([
      '03-10T03:30 meera No longer parked: D',
      '03-10T09:00 ines 3 tasks are no longer parked'
    ]);
    const { undo } = workspace.container;
    const changeId = workspace.container.db
      .prepare<[], { id: number }>(`SELECT id FROM change WHERE title LIKE '3 tasks are no longer parked%'`)
      .get()!.id;
    const sight = { personId: workspace.people.Ines!, all: true, reports: [] };
    undo.undo(changeId, { personId: workspace.people.Ines!, sight, may: () => true });
    expect(ids.map((id) => task(id).setAside)).toEqual(['parked', 'parked', 'parked']);
  });

  it('whoever parked it is gone: to whoever had it; gone too, to a coordinator', async () => {
    const [hers, his] = [add({ ownerId: workspace.people.Nora! }), add({ ownerId: workspace.people.Tess! })];
    park(hers, '2026-03-10', 'Salim');
    park(his, '2026-03-10', 'Salim');
    const { people } = workspace.container;
    people.deactivate(workspace.coordinator, workspace.people.Salim!);
    people.deactivate(workspace.coordinator, workspace.people.Tess!);
    await moveTo('2026-03-11T12:00Z');
    expect([mine(hers), mine(his)]).toEqual(['Nora', 'Ines']);
  });

  it('rings what is ahead then, and makes up nothing of what lay in between', async () => {
    ruleOn(
      workspace,
      ruleOf([lead(-1, 'day', { time: '10:00' }), lead(-8, 'day', { time: '10:00' })], { subject: '‹task›' })
    );
    const id = add({ name: 'Due', dueDate: '2026-03-16' });
    park(id, '2026-03-12');
    await moveTo('2026-03-17T00:00Z');
    expect((await mail()).filter((line) => !line.includes('No longer parked'))).toEqual([
      '03-13T10:00 ines Due'
    ]);
  });

  it('not before it was parked: a day that has begun is refused, and brought back by hand nothing follows', async () => {
    const id = add({ name: 'Now' });
    expect(() => park(id, '2026-03-04')).toThrow('This day is not in the future. Choose a later one.');
    await moveTo('2026-03-05T10:00Z');
    expect(() => park(id, '2026-03-05')).toThrow('This day is not in the future. Choose a later one.');
    park(id, '2026-03-06');
    workspace.container.taskActs.restore(workspace.coordinator, id);
    await moveTo('2026-03-07T00:00Z');
    expect(await mail()).toEqual([]);
  });

  it('goes by the calendar and leave of then, though they change after it was parked', async () => {
    const id = add({ name: 'Later' });
    park(id, '2026-03-10');
    workspace.container.people.addLeave(workspace.coordinator, workspace.people.Ines!, {
      ...{ fromDate: '2026-03-09', fromTime: null, untilDate: '2026-03-11', untilTime: null },
      ...{ standInId: null, note: '' }
    });
    await tick();
    await moveTo('2026-03-11T23:00Z');
    expect(task(id).setAside).toBe('parked');
    await moveTo('2026-03-12T09:00Z');
    expect(await mail()).toEqual(['03-12T09:00 ines No longer parked: Later']);
    expect(at('2026-03-12T09:00Z')).toBe(workspace.container.clock.now());
  });
});
