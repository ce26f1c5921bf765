import { describe, expect, it } from 'vitest';
import { received } from '../support/workspace.ts';
import {
  workspace,
  eachWithSweeps,
  sweep,
  rows,
  runNow,
  undo,
  owned,
  add,
  edit,
  task,
  moveTo
} from '../support/sweeps.ts';

eachWithSweeps();

describe('acts that ask and tell', () => {
  const stale = () => sweep('still needed', { wait: { n: 5, unit: 'workday' } });

  it('“still needed?”: keep, park, close, and what is done without an answer', async () => {
    const { container, people } = workspace;
    const names = ['Keep', 'Park', 'Close', 'Silence', 'Worked on'];
    const ids = names.map((name) => add({ name, ownerId: people.Nora! }));
    await moveTo('2026-03-12T14:00:00Z');
    const runId = await runNow(stale());
    await container.outbox.drain();
    expect((await received(workspace)).map(({ subject, to }) => `${to[0]}: ${subject}`)).toEqual([
      'nora@test.example: Still needed? 5 tasks'
    ]);
    const nora = { personId: people.Nora!, source: 'person' as const };
    const asked = container.sweepQuestions.openFor(people.Nora!);
    expect(asked).toHaveLength(5);
    const question = (i: number) => asked.find(({ task }) => task.id === ids[i])!.question.id;
    container.sweepQuestions.answer(nora, false, question(0), 'keep');
    container.sweepQuestions.answer(nora, false, question(1), 'park');
    container.sweepQuestions.answer(nora, false, question(2), 'close');
    edit(ids[4]!, { priority: 'high' });
    expect(() => container.sweepQuestions.answer(nora, false, question(2), 'keep')).toThrow('answered');
    const salim = { personId: people.Salim!, source: 'person' as const };
    expect(() => container.sweepQuestions.answer(salim, false, question(3), 'keep')).toThrow();
    // Five working days of Nora’s: Thursday to Thursday, at the same time of her day.
    await moveTo('2026-03-19T13:59:00Z');
    expect(task(ids[3]!).setAside).toBeNull();
    await moveTo('2026-03-19T14:00:00Z');
    expect(ids.map((id) => task(id).setAside ?? task(id).phase)).toEqual([
      ...['waiting to start', 'parked', 'closed', 'parked', 'waiting to start']
    ]);
    const counts = Object.fromEntries(
      container.stores.sweepQuestions.counts(runId).map(({ answer, count }) => [answer, count])
    );
    expect(counts).toEqual({ keep: 1, park: 1, close: 1, none: 1, moot: 1 });
    // What was parked for want of an answer comes back with the run.
    await undo(runId);
    expect(task(ids[3]!)).toMatchObject({ setAside: null, ownerId: people.Nora });
    expect(task(ids[1]!).setAside).toBe('parked');
  });

  it('asks nobody twice, and nobody who is not there', async () => {
    add({ name: 'Owned', ownerId: workspace.people.Nora! });
    add({ name: 'Nobody’s' });
    await moveTo('2026-03-12T14:00:00Z');
    const id = stale();
    const first = await runNow(id);
    expect(rows(first, 'left')).toEqual(['nobody to ask']);
    const second = await runNow(id);
    expect(rows(second, 'left')).toEqual(['already asked, no answer yet', 'nobody to ask']);
  });

  it('brings back what whoever parked it is not there for, to them, and says so', async () => {
    const { people, container } = workspace;
    const ids = ['One', 'Two'].map((name) => owned(name));
    const salim = { personId: people.Salim!, source: 'person' as const };
    // Friday is no working day of Salim's: by itself it would come back on Sunday.
    for (const id of ids) container.taskActs.park(salim, id, '2026-03-06');
    await moveTo('2026-03-06T15:00:00Z');
    await runNow(sweep('bring back'));
    await container.outbox.drain();
    expect(ids.map((id) => task(id).ownerId)).toEqual([people.Salim, people.Salim]);
    await moveTo('2026-03-09T15:00:00Z');
    expect((await received(workspace)).map(({ subject, to }) => `${to[0]}: ${subject}`)).toEqual([
      'salim@test.example: 2 tasks are no longer parked'
    ]);
  });

  it('asks for dates, reports slips, re-dates and brings back', async () => {
    const { people, container, coordinator } = workspace;
    const late = owned('Late', { dueDate: '2026-03-04' });
    const slipping = owned('Slipping', { dueDate: '2026-03-06' });
    for (const dueDate of ['2026-03-09', '2026-03-10', '2026-04-30']) edit(slipping, { dueDate });
    const parked = owned('Parked', { dueDate: '2026-05-01' });
    container.taskActs.park(coordinator, parked, '2026-03-06');
    add({ name: 'Undated', ownerId: people.Salim! });
    await moveTo('2026-03-10T10:00:00Z');
    await runNow(sweep('ask a date'));
    await runNow(sweep('report slips'));
    const redate = await runNow(sweep('re-date'));
    await runNow(sweep('bring back'));
    await container.outbox.drain();
    expect((await received(workspace)).map(({ subject, to }) => `${to[0]}: ${subject}`)).toEqual([
      'ines@test.example: No longer parked: Parked',
      'salim@test.example: When? Undated',
      'ines@test.example: report slips: 1 task'
    ]);
    expect(task(late)).toMatchObject({ due: { date: '2026-03-11' }, slips: 1 });
    expect(task(parked)).toMatchObject({ setAside: null, ownerId: people.Ines });
    await undo(redate);
    expect(task(late)).toMatchObject({ due: { date: '2026-03-04' }, slips: 0 });
  });
});
