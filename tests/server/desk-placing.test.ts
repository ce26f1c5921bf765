import { describe, expect, it } from 'vitest';
import {
  eachWithDesks,
  as,
  give,
  move,
  person,
  place,
  placeOf,
  task,
  undo,
  view,
  workspace
} from '../support/desk.ts';
import { lead, ruleOf, ruleOn, taskInput } from '../support/workspace.ts';

/** Placing tasks on a Desk, over the whole application. */
eachWithDesks();

describe('what came in', () => {
  it('waits to be placed by whoever it was given to; their own dated task does not', () => {
    const given = give('Nora', { dueDate: '2026-03-06' });
    const own = workspace.container.tasks.add(
      as('Nora'),
      taskInput({ ownerId: person('Nora'), dueDate: '2026-03-06' })
    ).result;
    const undated = workspace.container.tasks.add(
      as('Nora'),
      taskInput({ ownerId: person('Nora'), dueDate: null })
    ).result;
    expect([given, own, undated].map((id) => placeOf('Nora', id))).toEqual(['to-place', 'rest', 'to-place']);
  });

  it('is placed by leaving it, by its owner’s act on its date, and by starting it; by nobody else’s', () => {
    const [left, dated, started, others] = [1, 2, 3, 4].map(() =>
      give('Nora', { dueDate: '2026-03-20' })
    ) as [number, number, number, number];
    const { container } = workspace;
    place('Nora', left, 'leave');
    container.tasks.edit(as('Nora'), dated, { dueDate: '2026-03-12' });
    const underWay = container.stores.projects.statuses().find(({ phase }) => phase === 'under way')!;
    container.tasks.edit(as('Nora'), started, { statusId: underWay.id });
    container.tasks.edit(workspace.coordinator, others, { dueDate: '2026-03-12' });
    expect([left, dated, started, others].map((id) => placeOf('Nora', id))).toEqual([
      'further',
      'after',
      'further',
      'to-place'
    ]);
  });

  it('is unplaced for a new owner, and again for one who had it before', () => {
    const { container } = workspace;
    const id = give('Nora', { dueDate: '2026-03-06' });
    place('Nora', id, 'leave');
    container.tasks.edit(workspace.coordinator, id, { ownerId: person('Tess') });
    expect([placeOf('Nora', id), placeOf('Tess', id)]).toEqual([undefined, 'to-place']);
    container.tasks.edit(workspace.coordinator, id, { ownerId: person('Nora') });
    expect(placeOf('Nora', id)).toBe('to-place');
  });

  it('is placed by each of two owners for themselves', () => {
    const id = give('Nora', { dueDate: '2026-03-20', otherOwnerIds: [person('Tess')] });
    place('Nora', id, 'today');
    expect([placeOf('Nora', id), placeOf('Tess', id)]).toEqual(['today', 'to-place']);
    place('Tess', id, 'after');
    expect([placeOf('Nora', id), placeOf('Tess', id)]).toEqual(['today', 'after']);
  });

  it('keeps its place when the coordinator takes a change back that had given it away', () => {
    const { container } = workspace;
    const id = give('Nora', { dueDate: '2026-03-20' });
    place('Nora', id, 'today');
    const { changeId } = container.tasks.edit(workspace.coordinator, id, { ownerId: person('Tess') });
    undo(changeId, 'Ines');
    expect(placeOf('Nora', id)).toBe('today');
  });

  it('says who gave it', () => {
    const id = give('Nora', { dueDate: '2026-03-20' });
    const [row] = view('Nora').toPlace.rows;
    expect(row).toMatchObject({ id, from: 'given by Ines, Thu 5 Mar, 05:00' });
  });
});

describe('a planned day', () => {
  it('is of one person and never the due date; its notices stay', async () => {
    const { container } = workspace;
    ruleOn(workspace, ruleOf([lead(-2, 'day')]), 'Ahead');
    const id = give('Nora', { dueDate: '2026-03-20' });
    await container.engine.tick();
    const before = container.stores.plan.ofTask(id);
    place('Nora', id, 'day', { day: '2026-03-10' });
    await container.engine.tick();
    expect([task(id).due?.date, task(id).slips, placeOf('Nora', id)]).toEqual(['2026-03-20', 0, 'after']);
    expect(container.stores.plan.ofTask(id)).toEqual(before);
  });

  it('goes its way by itself: the week after, the rest of the week, Today, and back to be placed', async () => {
    const id = give('Nora', { dueDate: '2026-04-30' });
    place('Nora', id, 'after');
    const seen: (string | undefined)[] = [];
    for (const at of ['2026-03-06T12:00Z', '2026-03-09T12:00Z', '2026-03-13T12:00Z', '2026-03-14T12:00Z']) {
      await move(at);
      seen.push(placeOf('Nora', id));
    }
    expect(seen).toEqual(['after', 'rest', 'today', 'to-place']);
    expect(view('Nora').toPlace.rows[0]!.from).toMatch(/^planned for 9–13 March/);
  });

  it('ends with a new date, whoever gives it', () => {
    const id = give('Nora', { dueDate: '2026-04-30' });
    place('Nora', id, 'today');
    workspace.container.tasks.edit(workspace.coordinator, id, { dueDate: '2026-04-29' });
    expect(placeOf('Nora', id)).toBe('further');
  });

  it('after the due date asks for a new one, and that is a slip', () => {
    const id = give('Nora', { dueDate: '2026-03-06' });
    expect(() => place('Nora', id, 'day', { day: '2026-03-10' })).toThrow('would be late');
    const { result, changeId } = place('Nora', id, 'day', { day: '2026-03-10', newDue: '2026-03-10' });
    expect([task(id).due?.date, task(id).slips, result]).toEqual([
      '2026-03-10',
      1,
      `“${taskInput({}).name}”: due Tue 10 Mar now`
    ]);
    undo(changeId, 'Nora');
    expect([task(id).due?.date, task(id).slips, placeOf('Nora', id)]).toEqual(['2026-03-06', 0, 'to-place']);
  });

  it('after the due date may keep it: it comes to Today on that date', async () => {
    const id = give('Nora', { dueDate: '2026-03-06' });
    place('Nora', id, 'after', { keepDue: true });
    expect([task(id).due?.date, placeOf('Nora', id)]).toEqual(['2026-03-06', 'after']);
    await move('2026-03-06T12:00Z');
    expect(placeOf('Nora', id)).toBe('today');
  });

  it('of work that has begun holds against its start, until it is due; leaving it brings it back to its start', async () => {
    const id = give('Nora', { startDate: '2026-03-02', dueDate: '2026-03-20' });
    place('Nora', id, 'leave');
    expect(placeOf('Nora', id)).toBe('today');
    place('Nora', id, 'day', { day: '2026-03-10' });
    expect(placeOf('Nora', id)).toBe('after');
    await move('2026-03-10T12:00Z');
    expect(placeOf('Nora', id)).toBe('today');
    place('Nora', id, 'leave');
    expect(placeOf('Nora', id)).toBe('today');
  });

  it('made before work begins gives way to its start', async () => {
    const id = give('Nora', { startDate: '2026-03-06', dueDate: '2026-03-20' });
    place('Nora', id, 'day', { day: '2026-03-10' });
    expect(placeOf('Nora', id)).toBe('after');
    await move('2026-03-06T12:00Z');
    expect(placeOf('Nora', id)).toBe('today');
  });

  it('cannot keep a due date that is reached: it would stand in Today whatever is said', () => {
    const id = give('Nora', { dueDate: '2026-03-05' });
    expect(() => place('Nora', id, 'day', { day: '2026-03-10', keepDue: true })).toThrow('would be late');
  });

  it('of an undated task is its due date only where that is said', () => {
    const [planned, dated] = [give('Nora', { dueDate: null }), give('Nora', { dueDate: null })];
    place('Nora', planned, 'day', { day: '2026-03-10' });
    place('Nora', dated, 'day', { day: '2026-03-10', asDue: true });
    expect([task(planned).due?.date, task(dated).due?.date]).toEqual([undefined, '2026-03-10']);
    expect([placeOf('Nora', planned), placeOf('Nora', dated)]).toEqual(['after', 'after']);
  });

  it('of many tasks at once gives a new date to those that are late, in one change', () => {
    const [late, ahead] = [give('Nora', { dueDate: '2026-03-04' }), give('Nora', { dueDate: '2026-03-20' })];
    const { changeId } = place('Nora', [late, ahead], 'day', { day: '2026-03-09', newDue: '2026-03-09' });
    expect([task(late).due?.date, task(ahead).due?.date]).toEqual(['2026-03-09', '2026-03-20']);
    expect([placeOf('Nora', late), placeOf('Nora', ahead)]).toEqual(['after', 'after']);
    undo(changeId, 'Nora');
    expect([task(late).due?.date, placeOf('Nora', ahead)]).toEqual(['2026-03-04', 'to-place']);
  });

  it('is refused for a day that is past, and for a task that somebody has given away meanwhile', () => {
    const id = give('Nora', { dueDate: '2026-03-20' });
    expect(() => place('Nora', id, 'day', { day: '2026-03-03' })).toThrow('is past');
    workspace.container.tasks.edit(workspace.coordinator, id, { ownerId: person('Tess') });
    expect(() => place('Nora', id, 'today')).toThrow('not on your Desk any more');
  });
});

describe('not mine, and parked', () => {
  it('goes back to whoever gave it, with a word, and waits to be placed there', () => {
    const { container } = workspace;
    const id = give('Nora', { dueDate: '2026-03-20' });
    const { result } = container.placing.giveBack(as('Nora'), id, 'Not my field.');
    expect(result.to).toBe('Ines');
    expect([placeOf('Nora', id), placeOf('Ines', id)]).toEqual([undefined, 'to-place']);
    expect(container.stores.taskParts.comments(id).map(({ text }) => text)).toEqual(['Not my field.']);
  });

  it('that somebody else leads stays with them', () => {
    const { container } = workspace;
    const id = give('Nora', { dueDate: '2026-03-20', otherOwnerIds: [person('Tess')] });
    expect(container.placing.giveBack(as('Tess'), id, '').result.to).toBe('Nora');
    expect([placeOf('Nora', id), placeOf('Tess', id)]).toEqual(['to-place', undefined]);
  });

  it('that is parked comes back to whoever gave it', async () => {
    const { container } = workspace;
    const id = give('Nora', { dueDate: '2026-03-20' });
    container.placing.park(as('Nora'), id, '2026-03-09');
    await move('2026-03-09T04:30:00Z');
    expect(container.placing.giveBack(as('Nora'), id, '').result.to).toBe('Ines');
    expect([placeOf('Nora', id), placeOf('Ines', id)]).toEqual([undefined, 'to-place']);
  });

  it('says of one who came to a task besides its first owner who brought them', () => {
    const { container } = workspace;
    const id = give('Nora', { dueDate: '2026-03-20' });
    container.tasks.edit(as('Nora'), id, { otherOwnerIds: [person('Tess')] });
    expect(view('Tess').toPlace.rows[0]!.from).toMatch(/^given by Nora/);
  });

  it('stands with whoever parked it, and is to be placed from the first instant of its review date', async () => {
    const { container } = workspace;
    const id = give('Nora', { dueDate: '2026-03-20' });
    container.placing.park(as('Nora'), id, '2026-03-09');
    expect(placeOf('Nora', id)).toBe('parked');
    // Midnight in Halifax; the notice time there, at which the task comes back by itself, is hours away.
    await move('2026-03-09T03:30:00Z');
    expect([placeOf('Nora', id), container.stores.tasks.byId(id)!.setAside]).toEqual(['to-place', 'parked']);
    await move('2026-03-09T18:00:00Z');
    expect([placeOf('Nora', id), container.stores.tasks.byId(id)!.setAside]).toEqual(['to-place', null]);
  });
});
