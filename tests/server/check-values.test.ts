import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import type { RuleDefinition } from '../../src/lib/core/rule/model.ts';
import {
  SEES_ALL,
  lead,
  openWorkspace,
  received,
  ruleOf,
  ruleOn,
  taskInput,
  type TestWorkspace
} from '../support/workspace.ts';

/** Facts of the trade that need a rule and an engine; common practice, no source. What is ours of several practices is said beside each. */
let workspace: TestWorkspace;

async function open(at: string): Promise<void> {
  workspace = await openWorkspace(at);
}
beforeEach(() => open('2026-06-08T08:00:00Z'));
afterEach(() => workspace.close());

const at = (iso: string) => Date.parse(iso);

const turnOn = (definition: RuleDefinition) => ruleOn(workspace, definition);

const add = (name: string, patch: object) =>
  workspace.container.tasks.add(
    workspace.coordinator,
    taskInput({ name, ownerId: workspace.people.Ines!, ...patch })
  ).result;

const mail = async () =>
  (await received(workspace)).map(({ subject, date }) => [
    subject,
    new Date(date).toISOString().slice(0, 16)
  ]);

describe('a task that comes in late', () => {
  it('made on 8 June, due on the 10th, with a lead of seven days: its latest lead is caught at the next opening, once', async () => {
    turnOn(ruleOf([lead(-7, 'day'), lead(-5, 'day')]));
    await workspace.container.engine.tick();
    // 09:00 in Lisbon: at work.
    add('Permit', { dueDate: '2026-06-10' });
    await workspace.container.engine.moveClock(at('2026-06-12T00:00Z'));
    expect(await mail()).toEqual([['Permit is due in 2 days', '2026-06-08T08:00']]);
    expect(workspace.container.stores.notices.ofTask(1).map(({ state, reason }) => [state, reason])).toEqual([
      ['unrung', 'overtaken'],
      ['sent', null]
    ]);
  });

  it('due today, made at 09:00, with a rule at midnight: rings once, at 09:00, late', async () => {
    turnOn(ruleOf([lead(0, 'day', { time: '00:00' })]));
    await workspace.container.engine.tick();
    add('Report', { dueDate: '2026-06-08' });
    await workspace.container.engine.moveClock(at('2026-06-10T00:00Z'));
    expect(await mail()).toEqual([['Report is due today', '2026-06-08T08:00']]);
  });
});

describe('a reminder on a task at 14:00', () => {
  it.each([
    [0, 'minute', '2026-06-12T13:00'],
    [-5, 'minute', '2026-06-12T12:55'],
    [-10, 'minute', '2026-06-12T12:50'],
    [-15, 'minute', '2026-06-12T12:45'],
    [-30, 'minute', '2026-06-12T12:30'],
    [-1, 'hour', '2026-06-12T12:00'],
    [-2, 'hour', '2026-06-12T11:00'],
    // A day before keeps the time of the date itself.
    [-1, 'day', '2026-06-11T13:00'],
    [-2, 'day', '2026-06-10T13:00'],
    [-5, 'workday', '2026-06-05T13:00']
  ] as const)('%i %s from it rings at %s', async (n, unit, expected) => {
    await workspace.close();
    await open('2026-06-01T08:00:00Z');
    const id = add('Call', { dueDate: '2026-06-12', dueTime: '14:00' });
    workspace.container.taskActs.remind(workspace.coordinator, id, {
      whose: 'mine',
      timing: { anchor: 'due', n, unit }
    });
    await workspace.container.engine.moveClock(at('2026-06-13T00:00Z'));
    expect((await mail()).map(([, when]) => when)).toEqual([expected]);
  });
});

describe('the boundary of overdue', () => {
  it('due today is not overdue, due yesterday is by one day, and what is finished is not', () => {
    const rows = () =>
      workspace.container.taskLists
        .page(
          workspace.container.taskLists.read(new URLSearchParams('show=all')),
          null,
          { zone: workspace.container.source.facts.workspace.zone, personId: null },
          SEES_ALL
        )
        .rows.map(({ name, overdue, left }) => [name, overdue, left]);
    // Tuesday 9 June 2026.
    workspace.container.clock.set(at('2026-06-09T08:00Z'), false);
    add('Today', { dueDate: '2026-06-09' });
    add('Yesterday', { dueDate: '2026-06-08' });
    add('Done', { dueDate: '2026-06-08', statusId: 3 });
    add('Tomorrow', { dueDate: '2026-06-10' });
    expect(rows()).toEqual([
      ['Yesterday', true, '1 working day overdue'],
      ['Done', false, null],
      ['Today', false, 'due today'],
      ['Tomorrow', false, 'due tomorrow']
    ]);
  });
});

describe('three open, one under way, two closed', () => {
  it('are four for a rule that watches what is open: open is what is not finished and not closed', async () => {
    for (const name of ['One', 'Two', 'Three']) add(name, { dueDate: '2026-06-10', statusId: 1 });
    add('Four', { dueDate: '2026-06-10', statusId: 2 });
    for (const name of ['Five', 'Six']) add(name, { dueDate: '2026-06-10', statusId: 3 });
    turnOn(ruleOf([lead(-1, 'day', { time: '11:00' })]));
    await workspace.container.engine.moveClock(at('2026-06-12T00:00Z'));
    expect((await mail()).map(([subject]) => subject).sort()).toEqual(
      ['Four', 'One', 'Three', 'Two'].map((name) => `${name} is due tomorrow`)
    );
  });
});

describe('a rule that is turned off with one notice sent and two that wait', () => {
  it('withdraws the two, keeps the one in the record, and makes up for nothing when it is on again', async () => {
    const { engine, rules, stores } = workspace.container;
    const definition = ruleOf([lead(-1, 'day', { time: '11:00' }), lead(-1, 'hour')]);
    const id = turnOn(definition);
    add('Sent', { dueDate: '2026-06-09' });
    // Ten in the evening in Lisbon: both are held to the next morning's opening.
    add('Waits', { dueDate: '2026-06-09', dueTime: '23:00' });
    add('Waits too', { dueDate: '2026-06-09', dueTime: '23:30' });
    await engine.moveClock(at('2026-06-09T22:45Z'));
    const states = () =>
      [1, 2, 3].map((task) =>
        stores.notices
          .ofTask(task)
          .map(({ leadId, state }) => `${leadId} ${state}`)
          .sort()
      );
    const before = states();
    expect(before.flat().filter((line) => line.endsWith('held')).length).toBeGreaterThanOrEqual(2);
    rules.turnOff(workspace.coordinator, id);
    await engine.tick();
    const off = states();
    expect(off).toEqual(before.map((lines) => lines.map((line) => line.replace('held', 'withdrawn'))));
    rules.turnOn(workspace.coordinator, id, { name: 'Rule', description: '', definition });
    await engine.moveClock(at('2026-06-12T00:00Z'));
    expect(states()).toEqual(off);
  });
});
