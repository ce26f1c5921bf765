import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import type { RuleDefinition } from '../../src/lib/core/rule/model.ts';
import { zoneNamed } from '../../src/lib/core/time/zone.ts';
import { hindsight } from '../../src/lib/server/rule/hindsight.ts';
import { lead, openWorkspace, ruleOf, ruleOn, taskInput, type TestWorkspace } from '../support/workspace.ts';

/** What a rule would have done, from the change records: beside what it did where it was on. */
let workspace: TestWorkspace;
beforeEach(async () => {
  workspace = await openWorkspace('2026-03-02T07:00:00Z');
});
afterEach(() => workspace.close());

const viewer = { zone: zoneNamed('Europe/Lisbon'), personId: 1 };
const back = (id: number, definition: RuleDefinition, signal?: AbortSignal) =>
  hindsight(workspace.container, id, { name: 'Rule', description: '', definition }, viewer, signal);
const move = (to: string) => workspace.container.engine.moveClock(Date.parse(to));
const add = (name: string, dueDate: string, owner = 'Ines') =>
  workspace.container.tasks.add(
    workspace.coordinator,
    taskInput({ name, dueDate, ownerId: workspace.people[owner]! })
  ).result;
const edit = (id: number, patch: Record<string, string | number | null>) =>
  workspace.container.committer.commit(workspace.coordinator, 'edited', (writer) =>
    writer.update('task', id, patch)
  );
const everything = () =>
  ['notice', 'ring', 'run', 'message', 'delivery', 'change', 'task', 'task_tag', 'journal'].map((table) =>
    workspace.container.db.prepare(`SELECT count(*) FROM ${table}`).pluck().get()
  );

/** Two weeks in a team: dates move, work is finished, somebody is away, a day is closed. */
async function twoWeeks(): Promise<void> {
  const { committer } = workspace.container;
  const [permit, gauge] = [add('Permit', '2026-03-09'), add('Gauge', '2026-03-11', 'Salim')];
  add('Undone', '2026-03-06', 'Nora');
  await move('2026-03-03T15:00:00Z');
  edit(permit, { due_date: '2026-03-12' });
  await move('2026-03-05T10:30:00Z');
  committer.commit(workspace.coordinator, 'closed', (writer) =>
    writer.insert('calendar_day', { calendar_id: 1, date: '2026-03-11', name: 'Patron day' })
  );
  const late = add('Late comer', '2026-03-13', 'Meera');
  await move('2026-03-10T13:00:00Z');
  edit(gauge, { status_id: 3 });
  edit(late, { owner_id: workspace.people.Tess! });
  await move('2026-03-16T18:00:00Z');
}

describe('hindsight', () => {
  it('of a rule that was on says what it did', async () => {
    const definition = ruleOf([
      lead(-2, 'workday'),
      lead(0, 'day', { id: 'day' }),
      lead(1, 'workday', { id: 'after' })
    ]);
    const id = ruleOn(workspace, definition);
    await twoWeeks();
    const done = workspace.container.stores.notices
      .ofRule(id)
      .filter(({ state }) => state === 'sent')
      .map(({ taskId, readerId, leavesAt }) => [taskId, readerId, leavesAt]);
    expect(done.length).toBeGreaterThan(5);
    const before = everything();
    const seen = (await back(id, definition))!;
    expect(everything()).toEqual(before);
    const people = new Map(workspace.container.stores.people.all().map(({ id: one, name }) => [name, one]));
    const told = seen.rows
      .filter(({ unrung }) => unrung === null)
      .map(({ taskId, reader, at }) => [taskId, people.get(reader), at.atMs]);
    expect(told.sort()).toEqual(done.sort());
    expect(seen).toMatchObject({ sent: done.length, really: done.length, short: true });
  });

  it('of a rule that was written today rings for what was open then, and lets it change what it would have changed', async () => {
    await twoWeeks();
    const blank = ruleOf([lead(0, 'day')]);
    const definition: RuleDefinition = {
      ...blank,
      steps: [
        ...blank.steps,
        {
          ...{ id: 'mark', kind: 'do', name: '', description: '', leads: null, ask: null },
          acts: [{ act: 'add tag', tag: 'seen' }]
        }
      ]
    };
    const { result } = workspace.container.rules.add(workspace.coordinator, 'Today', definition);
    const before = everything();
    const seen = (await back(result, definition))!;
    expect(everything()).toEqual(before);
    // Gauge was finished before its date; Permit rings on the date that it was moved to.
    expect(seen.rows.filter(({ unrung }) => unrung === null).map(({ task, at }) => [task, at.there])).toEqual(
      [
        ['Undone', 'Fri 6 Mar, 09:00'],
        ['Permit', 'Thu 12 Mar, 09:00'],
        ['Late comer', 'Fri 13 Mar, 09:00']
      ]
    );
    expect(seen).toMatchObject({ sent: 3, tasks: 3, people: 3, changes: 3, really: 0 });
  });

  it('stops when nobody waits for it any more', async () => {
    await twoWeeks();
    const { result } = workspace.container.rules.add(
      workspace.coordinator,
      'Today',
      ruleOf([lead(0, 'day')])
    );
    expect(await back(result, ruleOf([lead(0, 'day')]), AbortSignal.abort())).toBeNull();
  });
});
