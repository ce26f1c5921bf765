import fc from 'fast-check';
import { expect, it } from 'vitest';
import { sentRow, wholeRow } from './sent-rows.ts';
import type { Priority } from '../core/task/model.ts';
import type { TaskRowView } from './tasks.ts';

const USUAL_ROW: TaskRowView = {
  ...{ id: 1, name: 'Check the eyewash bottles', projectId: 6, project: 'Station safety', section: null },
  ...{
    ownerId: 1,
    owner: 'Tess Whitlam',
    ownerPlace: 'Hobart',
    otherOwners: 0,
    statusId: 1,
    status: 'To do'
  },
  ...{ phase: 'under way', priority: 'ordinary', due: null, dueHere: null, dueDate: null, dueTime: null },
  ...{ overdue: false, left: null, start: null, slips: 0, percent: null, tags: [], bell: null },
  ...{ subtasks: { all: 0, done: 0 }, recurring: false, created: 'Mon 2 Mar', touched: 'Mon 2 Mar' },
  ...{ private: false, setAside: null, asideUntil: null, editable: true, group: null }
};

it('a row comes out of the page as it went in, whatever of it is as usual', () => {
  const row = fc.record(
    {
      due: fc.option(fc.string()),
      overdue: fc.boolean(),
      slips: fc.nat(3),
      percent: fc.option(fc.nat(100)),
      editable: fc.boolean(),
      priority: fc.constantFrom<Priority>('low', 'ordinary', 'high', 'pressing'),
      group: fc.option(fc.string())
    },
    { requiredKeys: [] }
  );
  fc.assert(
    fc.property(row, (patch) => {
      const whole: TaskRowView = { ...USUAL_ROW, ...patch };
      expect(wholeRow(sentRow(whole))).toEqual(whole);
    })
  );
});

it('what is as usual is not sent', () => {
  expect(Object.keys(sentRow(USUAL_ROW))).toHaveLength(12);
  expect(sentRow({ ...USUAL_ROW, overdue: true })).toHaveProperty('overdue', true);
});
