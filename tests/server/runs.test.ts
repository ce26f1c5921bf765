import { beforeEach, describe, expect, it } from 'vitest';
import { blankSweep } from '../../src/lib/core/sweep/model.ts';
import { runDetail, runsOfRule } from '../../src/lib/server/rule/run-views.ts';
import { sweepList } from '../../src/lib/server/sweep/sweep-views.ts';
import type { Step } from '../../src/lib/core/rule/step-model.ts';
import type { Lead } from '../../src/lib/core/rule/lead-model.ts';
import { outboxFilter, outboxPage } from '../../src/lib/server/record/outbox-views.ts';
import { lead, ruleOn } from '../support/workspace.ts';
import { add, eachInAWorkspace, edit, moveTo, rule, step, tell, tick, workspace } from '../support/rules.ts';

/** What the pages of runs say of them, by now. It is Thursday 5 March 2026, 07:00Z. */
eachInAWorkspace();
beforeEach(() => workspace.container.digests.turn(workspace.coordinator, 1, 'off'));

const viewer = () => ({
  zone: workspace.container.source.facts.workspace.zone,
  personId: workspace.people.Ines!
});
const daily: Lead = {
  ...{ kind: 'schedule', id: 'daily', on: true, only: null, zone: { of: 'workspace' } },
  ...{ rrule: 'FREQ=DAILY', start: '2026-01-02', time: '10:00', closedDay: 'as-is', oncePerDate: false }
};
const raises: Step = {
  ...{ ...step('raise'), kind: 'do', ask: null },
  acts: [{ act: 'set priority', priority: 'high' }]
};
const runs = (ruleId: number) => runsOfRule(workspace.container, ruleId, viewer()).runs;
const over = (ruleId: number) => {
  const { id } = runs(ruleId).find(({ task }) => task === null)!;
  return runDetail(workspace.container, id, viewer())!;
};

describe('the ring of a schedule', () => {
  it('counts what has left by message, though it was held when it rang', async () => {
    const ruleId = ruleOn(workspace, rule([daily], [tell('tell', { reach: 'working hours' })]));
    for (const name of ['Ines', 'Nora', 'Tess']) add({ name, ownerId: workspace.people[name]! });
    await moveTo('2026-03-05T10:30Z');
    // Halifax opens at 13:00Z, Hobart at 22:00Z.
    expect(over(ruleId).stages).toMatchObject({ found: 3, messages: 1, people: 1, waiting: 2 });
    await moveTo('2026-03-05T23:00Z');
    expect(over(ruleId).stages).toMatchObject({ found: 3, messages: 3, people: 3, waiting: 0, unsent: [] });
    expect(over(ruleId).outcome).toBe('3 tasks found, 3 messages sent');
  });

  it('of a rule that only acts counts what it changed, each task before and after', async () => {
    const ruleId = ruleOn(workspace, rule([daily], [raises]));
    const ids = ['One', 'Two'].map((name) => add({ name, priority: 'low' }));
    await moveTo('2026-03-05T10:30Z');
    const detail = over(ruleId);
    expect(detail.outcome).toBe('2 tasks found, 2 changes');
    expect(detail.stages).toMatchObject({ messages: 0, changes: 2 });
    expect(detail.changes.map(({ task, values }) => ({ task, values }))).toEqual(
      ids.map((id, i) => ({
        task: { id, name: ['One', 'Two'][i] },
        values: [{ field: 'priority', before: 'low', after: 'high' }]
      }))
    );
  });

  it('says why what was foreseen is not what has left', async () => {
    const ruleId = ruleOn(workspace, rule([daily], [tell('tell', { reach: 'any time' })]));
    const id = add({ name: 'Known', ownerId: workspace.people.Nora! });
    await moveTo('2026-03-06T08:00Z');
    add({ name: 'New', ownerId: workspace.people.Salim! });
    await moveTo('2026-03-06T10:30Z');
    expect(over(ruleId).stages!.expected).toBe(
      'the day’s forecast was 1: 1 task created or changed since the day began'
    );
    edit(id, { priority: 'high' });
    await moveTo('2026-03-07T10:30Z');
    expect(over(ruleId).stages!.expected).toBe('the day’s forecast was 2');
  });
});

it('a sweep’s run that is yet to come stands under what comes, not under what was last', async () => {
  const { container, coordinator } = workspace;
  add({ name: 'Undated' });
  await moveTo('2026-03-20T10:00Z');
  const definition = { ...blankSweep('ask a date'), wait: { n: 1, unit: 'day' as const } };
  const id = container.sweeps.insert(coordinator, { name: 'Dates', description: '', definition }).result;
  const row = () => sweepList(container, viewer().zone).find((one) => one.id === id)!;
  expect(row()).toMatchObject({ ahead: null, last: null });
  const runId = container.sweeps.look(id);
  await tick();
  expect(row()).toMatchObject({ ahead: { id: runId }, last: null });
  container.sweeps.run(coordinator, runId, true);
  await tick();
  expect(row()).toMatchObject({ ahead: null, last: { id: runId } });
});

it('of a notice that waits the Outbox says the moment at which it leaves, as its task does, though it is put off until then', async () => {
  const { container, coordinator, people } = workspace;
  container.committer.commit(coordinator, 'digest', (writer) =>
    writer.update('person', people.Ines!, { digest_due: '16:00', digest_overdue: '16:00' })
  );
  ruleOn(
    workspace,
    rule([lead(0, 'day', { time: '07:30' })], [tell('tell', { reach: 'working hours', fold: true })])
  );
  const id = add({ name: 'Kept', dueDate: '2026-03-05' });
  await moveTo('2026-03-05T08:00Z');
  const [row] = outboxPage(container, outboxFilter(new URLSearchParams(), viewer()), null, viewer()).next;
  const [bell] = container.forecasts.ofTask(id, Date.parse('2026-03-07T00:00Z'), viewer());
  expect([row!.at, bell!.time.there]).toEqual(['Thu 5 Mar, 16:00', 'Thu 5 Mar, 16:00']);
  await moveTo('2026-03-05T17:00Z');
  expect(
    outboxPage(container, outboxFilter(new URLSearchParams(), viewer()), null, viewer()).rows[0]
  ).toMatchObject({
    at: 'Thu 5 Mar, 16:00',
    end: 'sent'
  });
});

it('what goes out is counted by message, however many notices stand in it and by however many ways it goes', async () => {
  const { container } = workspace;
  ruleOn(workspace, rule([daily], [tell('tell', { reach: 'any time', gather: 'per recipient' })]));
  for (const name of ['One', 'Two', 'Three']) add({ name });
  const mark = container.stores.since.mark();
  await moveTo('2026-03-05T10:30Z');
  expect(container.stores.since.arrived(mark)).toBe(1);
  expect(container.stores.notices.ended(0, container.clock.now())).toContainEqual(
    expect.objectContaining({ state: 'sent', count: 3 })
  );
});
