import { describe, expect, it } from 'vitest';
import { ORDINARY_TASK, type TaskFacts } from '../forecast/facts/facts.ts';
import type { DigestTable } from './model.ts';
import type { DigestRow } from './row.ts';
import { tableRows, type TableAsked } from './table-rows.ts';

const HOUR = 3_600_000;
const named = (...names: string[]) => new Map(names.map((name, i) => [i + 1, { name }]));
const statusOf = new Map([
  [1, 20],
  [2, 10],
  [3, 20],
  [4, 10]
]);
const asked: TableAsked = {
  names: { people: named('Ines Moura', 'Ada Brandt'), projects: named('Survey 10', 'Survey 9') },
  detailsOf: (id) => ({ statusId: statusOf.get(id)! }),
  statuses: new Map([
    [20, 'Waiting'],
    [10, 'Running']
  ]),
  seenBy: 1
};

const row = (id: number, dueAt: number | null, patch: Partial<TaskFacts>): DigestRow => ({
  task: { ...ORDINARY_TASK, id, name: `Task ${id}`, priority: 'ordinary', ...patch } as TaskFacts,
  dueAt,
  workdays: 0
});
const ROWS = [
  row(1, null, { projectId: 1, ownerId: 1, name: 'b' }),
  row(2, 2 * HOUR, { projectId: 2, ownerId: 2, name: 'A', priority: 'pressing' }),
  row(3, HOUR, { projectId: null, ownerId: null, name: 'c' }),
  row(4, 3 * HOUR, { projectId: 2, ownerId: 2, name: 'of her own', private: true })
];
const laid = (table: Partial<DigestTable>) =>
  tableRows(ROWS, { order: 'due', group: 'none', ...table }, asked);
const order = (table: Partial<DigestTable>) => laid(table).rows.map(({ task: { id } }) => id);
const headings = (group: DigestTable['group']) =>
  laid({ group }).groups.map(({ heading, from, count }) => [heading, from, count]);

describe('the table of a digest', () => {
  it('stands in the chosen order; what has no date, owner or project comes last', () => {
    expect(order({ order: 'due' })).toEqual([3, 2, 4, 1]);
    expect(order({ order: 'priority' })).toEqual([2, 3, 4, 1]);
    expect(order({ order: 'owner' })).toEqual([2, 4, 1, 3]);
    // Numbers in names as they are counted: 9 before 10.
    expect(order({ order: 'project' }).slice(0, 2)).toEqual([2, 1]);
  });

  it('orders names as people look them up, and a private task of somebody else by none', () => {
    expect(order({ order: 'task' })).toEqual([2, 1, 3, 4]);
  });

  it('says no project of a private task that its reader does not see', () => {
    expect(headings('project')).toEqual([
      ['Survey 9', 0, 1],
      ['Survey 10', 1, 1],
      ['No project', 2, 2]
    ]);
    const own = tableRows(ROWS, { order: 'due', group: 'project' }, { ...asked, seenBy: 2 });
    expect(own.groups[0]).toEqual({ heading: 'Survey 9', from: 0, count: 2 });
  });

  it('has its groups by owner, status and priority, each with its rows in order', () => {
    expect(headings('owner')).toEqual([
      ['Ada Brandt', 0, 2],
      ['Ines Moura', 2, 1],
      ['No owner', 3, 1]
    ]);
    expect(headings('status').map(([words]) => words)).toEqual(['Waiting', 'Running']);
    expect(order({ group: 'status' })).toEqual([3, 1, 2, 4]);
    expect(headings('priority')).toEqual([
      ['pressing priority', 0, 1],
      ['ordinary priority', 1, 3]
    ]);
  });
});
