import { beforeEach, describe, expect, it } from 'vitest';
import type { Act } from '../../src/lib/core/rule/acts.ts';
import { openWatch, type RuleDefinition } from '../../src/lib/core/rule/model.ts';
import type { Step } from '../../src/lib/core/rule/step-model.ts';
import { forecast } from '../../src/lib/core/forecast/forecast.ts';
import { zoneNamed } from '../../src/lib/core/time/zone.ts';
import { forecastHistory } from '../../src/lib/server/engine/history.ts';
import { appliesTo } from '../../src/lib/server/rule/rule-reasons.ts';
import { taskDetail } from '../../src/lib/server/task/task-views.ts';
import { lead, ruleOf, ruleOn, SEES_ALL } from '../support/workspace.ts';
import { add, at, eachInAWorkspace, edit, FINISHED, moveTo, rule, workspace } from '../support/rules.ts';

/** Tasks that rules make of tasks. It is Thursday 5 March 2026, 07:00Z, and everybody here is Ines, in Lisbon. */
eachInAWorkspace();
beforeEach(() => workspace.container.digests.turn(workspace.coordinator, 1, 'off'));

const followUp = (name: string): Act => ({
  ...{ act: 'follow-up', name, description: '', owner: { who: 'owner' } },
  ...{ due: { from: 'today', n: 1, unit: 'workday' }, time: null, priority: null }
});
const makes = (name: string): Step => ({
  ...{ id: 'make', kind: 'do', name: '', description: '', leads: null, ask: null },
  acts: [followUp(name)]
});
/** A working day after the date, at 10:00, a task is made. */
const maker = (name: string, made = false, patch: Partial<RuleDefinition> = {}): RuleDefinition =>
  rule([lead(1, 'workday', { time: '10:00' })], [makes(name)], { watch: { ...openWatch(), made }, ...patch });
const names = () =>
  workspace.container.stores.tasks
    .facts()
    .map(({ name }) => name)
    .sort();
/** What the forecast says would be made by then, and what then was. */
async function both(until: string): Promise<{ foretold: string[]; made: string[] }> {
  const { stores, source, clock } = workspace.container;
  const before = names();
  const now = clock.now();
  const { imagined } = forecast(
    source.facts,
    source.liveRules().map(({ facts }) => facts),
    stores.tasks.facts(),
    { now, from: now, until: at(until) },
    forecastHistory({ stores, source, planner: source.planner, now })
  );
  await moveTo(until);
  const made = names();
  for (const name of before) made.splice(made.indexOf(name), 1);
  return { foretold: imagined.map(({ name }) => name).sort(), made };
}

it('that will be made is named on the page of its task: its bells are not the task’s own', () => {
  ruleOn(workspace, maker('Ask about ‹task›'), 'Ask');
  ruleOn(workspace, ruleOf([lead(0, 'day')]), 'On the day');
  const id = add({ name: 'Gauge', dueDate: '2026-03-05' });
  const { container } = workspace;
  const viewer = { zone: zoneNamed('Europe/Lisbon'), personId: workspace.people.Ines! };
  const { coming } = taskDetail(container, container.stores.tasks.byId(id)!, viewer, SEES_ALL);
  expect(coming.map(({ taskId, taskName }) => [taskId > 0, taskName])).toEqual([
    [true, 'Gauge'],
    [false, 'Ask about Gauge']
  ]);
});

describe('what a rule has made', () => {
  it('two rules follow up one late task once each, and not each other’s, as the forecast says', async () => {
    ruleOn(workspace, maker('Ask about ‹task›'), 'Ask');
    ruleOn(workspace, maker('Call about ‹task›'), 'Call');
    for (const name of ['A', 'B', 'C']) add({ name, dueDate: '2026-03-05' });
    const { foretold, made } = await both('2026-03-20T12:00Z');
    expect(made).toEqual([
      ...['Ask about A', 'Ask about B', 'Ask about C'],
      ...['Call about A', 'Call about B', 'Call about C']
    ]);
    expect(foretold).toEqual(made);
  });

  it('a rule that says so follows them up, named after the work itself, and never its own', async () => {
    ruleOn(workspace, maker('Ask about ‹task›'), 'Ask');
    ruleOn(workspace, maker('Call about ‹task›', true), 'Call');
    add({ name: 'A', dueDate: '2026-03-05' });
    const { foretold, made } = await both('2026-03-20T12:00Z');
    // One call about the task, and one about what was made to ask about it.
    expect(made).toEqual(['Ask about A', 'Call about A', 'Call about A']);
    expect(foretold).toEqual(made);
  });

  it('two rules that both say so go three deep', async () => {
    ruleOn(workspace, maker('Ask about ‹task›', true), 'Ask');
    ruleOn(workspace, maker('Call about ‹task›', true), 'Call');
    add({ name: 'A', dueDate: '2026-03-05' });
    const { foretold, made } = await both('2026-04-10T12:00Z');
    // Of each of the two a line of three.
    expect(made).toHaveLength(6);
    expect(foretold).toEqual(made);
    const depths = workspace.container.stores.tasks.facts().map((task) => task.made?.ruleIds.length ?? 0);
    expect(depths.sort()).toEqual([0, 1, 1, 2, 2, 3, 3]);
  });

  it('other rules remind of it like of any other', async () => {
    ruleOn(workspace, maker('Ask about ‹task›'), 'Ask');
    ruleOn(workspace, ruleOf([lead(0, 'day', { time: '12:00' })], { subject: '‹task›' }), 'Due');
    add({ name: 'A', dueDate: '2026-03-05' });
    await moveTo('2026-03-10T12:00Z');
    const { stores } = workspace.container;
    const [made] = stores.tasks.facts().filter((task) => task.made);
    expect(stores.notices.ofTask(made!.id).map(({ state }) => state)).toEqual(['sent']);
  });

  it('the task says why a rule that makes tasks does not look at it', async () => {
    const ask = ruleOn(workspace, maker('Ask about ‹task›'), 'Ask');
    const call = ruleOn(workspace, maker('Call about ‹task›'), 'Call');
    add({ name: 'A', dueDate: '2026-03-05' });
    await moveTo('2026-03-07T00:00Z');
    const made = workspace.container.stores.tasks.facts().find(({ name }) => name === 'Ask about A')!;
    const now = workspace.container.clock.now();
    const rules = appliesTo(workspace.container, made, now, zoneNamed('Europe/Lisbon').dayOf(now));
    expect(rules.find(({ id }) => id === ask)!.reasons).toEqual(['this rule created it']);
    expect(rules.find(({ id }) => id === call)!.reasons).toEqual([
      'a rule created it, and this rule does not watch follow-ups'
    ]);
  });
});

describe('once for task, date and round', () => {
  it('a second lateness is followed up again, once the first follow-up is finished', async () => {
    ruleOn(workspace, maker('Ask about ‹task›'), 'Ask');
    const id = add({ name: 'A', dueDate: '2026-03-05' });
    await moveTo('2026-03-06T12:00Z');
    const first = workspace.container.stores.tasks.facts().find((task) => task.made)!;
    edit(first.id, { statusId: FINISHED });
    edit(id, { dueDate: '2026-03-10' });
    const { foretold, made } = await both('2026-03-13T12:00Z');
    expect(made).toEqual(['Ask about A']);
    expect(foretold).toEqual(made);
  });

  it('while one is open no second is made, and the run says so', async () => {
    const ruleId = ruleOn(workspace, maker('Ask about ‹task›'), 'Ask');
    const id = add({ name: 'A', dueDate: '2026-03-05' });
    await moveTo('2026-03-06T12:00Z');
    edit(id, { dueDate: '2026-03-10' });
    const { foretold, made } = await both('2026-03-13T12:00Z');
    expect([foretold, made]).toEqual([[], []]);
    const { runs } = workspace.container.stores;
    const said = runs.ofRule(ruleId, 10).flatMap(({ id: runId }) => runs.stepsOf(runId));
    expect(JSON.stringify(said)).toContain('it already has an open follow-up of this rule');
  });

  it('in several repeats and by a schedule it is one for each date', async () => {
    const daily = lead(1, 'workday', { time: '10:00', repeat: { n: 1, unit: 'workday', most: 5 } });
    ruleOn(workspace, { ...maker('Ask about ‹task›'), leads: [daily] }, 'Daily');
    const id = add({ name: 'A', dueDate: '2026-03-05' });
    await moveTo('2026-03-06T12:00Z');
    const first = workspace.container.stores.tasks.facts().find((task) => task.made)!;
    edit(first.id, { statusId: FINISHED });
    const { foretold, made } = await both('2026-03-20T12:00Z');
    expect([foretold, made]).toEqual([[], []]);
    edit(id, { statusId: FINISHED });
  });
});
