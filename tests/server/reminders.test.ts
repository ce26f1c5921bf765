import { expect, it } from 'vitest';
import { LEAD_ANCHORS, TASK_DATES } from '../../src/lib/core/anchor/anchors.ts';
import { read } from '../../src/lib/server/input/fields.ts';
import { reminderSchema } from '../../src/lib/server/task/schema.ts';
import { add, at, eachInAWorkspace, edit, mail, moveTo, notices, workspace } from '../support/rules.ts';

/** Reminders that people set on a task. Thursday 5 March 2026, 07:00Z; Ines is in Lisbon (09:00 is 09:00Z), the notice time is 09:00. */
eachInAWorkspace();

const remind = (id: number, n: number, unit: 'minute' | 'hour' | 'day') =>
  workspace.container.taskActs.remind(workspace.coordinator, id, {
    whose: 'owner',
    timing: { anchor: 'due', n, unit }
  });
const ringsAt = (id: number) => workspace.container.stores.plan.ofTask(id).map(({ ringAt }) => ringAt);

it('“at due” of a day rings on that day at the notice time, and says that it is due, not that it is late', async () => {
  const id = add({ dueDate: '2026-03-10' });
  remind(id, 0, 'minute');
  await moveTo('2026-03-05T08:00Z');
  expect(ringsAt(id)).toContain(at('2026-03-10T09:00Z'));
  await moveTo('2026-03-11T12:00Z');
  expect((await mail()).filter((line) => / Task/.test(line))).toEqual(['03-10T09:00 ines Task: due today']);
});

it('on a closed day it is that day all the same, and waits for working hours as every notice does', async () => {
  const id = add({ dueDate: '2026-03-08' });
  remind(id, 0, 'minute');
  await moveTo('2026-03-05T08:00Z');
  expect(ringsAt(id)).toContain(at('2026-03-08T09:00Z'));
});

it('at a time it rings at that time; a date that gains one, or loses it, moves the reminder', async () => {
  const id = add({ dueDate: '2026-03-10', dueTime: '15:00' });
  remind(id, 0, 'minute');
  await moveTo('2026-03-05T08:00Z');
  expect(ringsAt(id)).toContain(at('2026-03-10T15:00Z'));
  edit(id, { dueDate: '2026-03-10', dueTime: null });
  await moveTo('2026-03-05T08:01Z');
  expect(ringsAt(id)).toContain(at('2026-03-10T09:00Z'));
  edit(id, { dueDate: '2026-03-10', dueTime: '11:00' });
  await moveTo('2026-03-10T10:00Z');
  expect(notices(id)).toEqual([]);
  await moveTo('2026-03-10T11:30Z');
  expect((await mail()).filter((line) => / Task/.test(line))).toHaveLength(1);
});

it('minutes and hours before a day still count from the moment at which it ends', async () => {
  const id = add({ dueDate: '2026-03-10' });
  remind(id, -2, 'hour');
  await moveTo('2026-03-05T08:00Z');
  expect(ringsAt(id)).toContain(at('2026-03-10T22:00Z'));
});

it('one whose moment has passed is taken on work that comes again, and rings in the next round', async () => {
  const weekly = { rhythm: { n: 1, unit: 'week' as const }, renewFrom: 'due' as const };
  const once = add({ dueDate: '2026-03-06' });
  expect(() => remind(once, -2, 'day')).toThrow(expect.objectContaining({ code: 'reminder-past' }));
  const id = add({ dueDate: '2026-03-06', ...weekly });
  await moveTo('2026-03-05T07:05Z');
  remind(id, -2, 'day');
  await moveTo('2026-03-06T10:00Z');
  expect((await mail()).filter((line) => / Task/.test(line))).toEqual([]);
  edit(id, { statusId: workspace.container.stores.projects.statuses().at(-1)!.id });
  await moveTo('2026-03-11T12:00Z');
  expect((await mail()).filter((line) => / Task/.test(line))).toEqual([
    '03-11T09:00 ines Task: due in 2 days'
  ]);
});

it('is counted from the dates that stand on the task, and from nothing that only rules count from', () => {
  const counted = (anchor: string) =>
    read(reminderSchema, { whose: 'mine', timing: { anchor, n: -1, unit: 'day' } }).ok;
  expect(LEAD_ANCHORS.filter(counted)).toEqual(TASK_DATES);
});
