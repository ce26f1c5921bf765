import { describe, expect, it } from 'vitest';
import type { RuleDefinition } from '../../src/lib/core/rule/model.ts';
import {
  add,
  anotherWorkspace,
  at,
  eachInAWorkspace,
  mail,
  moveTo,
  notices,
  on,
  rule,
  step,
  tell,
  tick,
  workspace
} from '../support/rules.ts';
import { MANAGER, lead, ruleOf, ruleOn } from '../support/workspace.ts';

/**
 * A rule that cannot be computed for a task concerns that rule and that task alone: every other rule is planned, foretold and sent; the fault
 * is written down, and its keeper hears once.
 */
eachInAWorkspace();

const START = '2026-01-05T07:00:00Z';
/** Somebody whose calendar has no working time, as a file of before may have left one. */
function neverAtWork(name: string): number {
  const { container, coordinator, people } = workspace;
  return container.committer.commit(coordinator, 'no working time', (writer) => {
    const id = writer.insert('calendar', { name: 'Never', week: '{}' });
    writer.update('person', people[name]!, { calendar_id: id });
    return id;
  }).result;
}
const backAtWork = (name: string) =>
  void workspace.container.committer.commit(workspace.coordinator, 'at work', (writer) =>
    writer.update('person', workspace.people[name]!, { calendar_id: 1 })
  );
const faults = () =>
  workspace.container.stores.rules
    .made()
    .flatMap(({ id }) => workspace.container.stores.ruleFaults.ofRule(id, 100))
    .map(({ ruleId, taskId, code }) => `${ruleId}/${taskId} ${code}`);
const foretold = (until: string) => {
  const { container } = workspace;
  return container.forecasts
    .notices(container.clock.now(), at(until))
    .map(({ ruleId, leavesAt, unrung }) =>
      [ruleId, new Date(leavesAt).toISOString().slice(5, 16), unrung].filter(Boolean).join(' ')
    );
};
const named = (definition: RuleDefinition, name: string) => ruleOn(workspace, definition, name);
const ofKeeper = async () => (await mail()).filter((line) => line.includes('cannot be computed'));
const toOthers = async () => (await mail()).filter((line) => !line.includes('cannot be computed'));

describe('a rule beside one that cannot be computed', () => {
  it('rings where a series is skipped for ever: that one just never rings', async () => {
    await anotherWorkspace(START);
    // Saturday by Saturday, and closed each time.
    add({ dueDate: '2026-01-10' });
    const weekly = { n: 1, unit: 'week' as const, most: 2 };
    named(ruleOf([lead(0, 'day', { closedDay: 'skip', repeat: weekly })]), 'Never');
    const other = named(ruleOf([lead(-1, 'day', { time: '09:00' })]), 'The day before');
    expect(foretold('2026-02-01T00:00Z')).toEqual([`${other} 01-09T09:00`]);
    await moveTo('2026-02-01T00:00Z');
    expect(await mail()).toHaveLength(1);
    expect(faults()).toEqual([]);
  });

  it('rings where the owner has no working time', async () => {
    await anotherWorkspace(START);
    const { people } = workspace;
    neverAtWork('Nora');
    const tasks = [1, 2].map(() => add({ ownerId: people.Nora!, dueDate: '2026-01-09' }));
    const first = named(ruleOf([lead(-1, 'workday')]), 'A working day before');
    const other = named(ruleOf([lead(-2, 'hour')], { to: [MANAGER], reach: 'any time' }), 'Two hours before');
    // Due when Friday ends in Halifax, Saturday 04:00 UTC.
    expect(foretold('2026-02-01T00:00Z')).toEqual([`${other} 01-10T02:00`, `${other} 01-10T02:00`]);
    await moveTo('2026-02-01T00:00Z');
    expect(await toOthers()).toHaveLength(2);
    expect(faults()).toEqual(tasks.map((id) => `${first}/${id} no-working-time`));
  });

  it('says what is wrong to the keeper once, for all tasks together, and again only after all was mended', async () => {
    await anotherWorkspace(START);
    const { people, container } = workspace;
    const [id] = [1, 2, 3, 4].map((n) =>
      add({ name: `Gauge ${n}`, ownerId: people.Nora!, dueDate: '2026-01-30' })
    );
    const ruleId = named(ruleOf([lead(-1, 'workday')]), 'A working day before');
    container.committer.commit(workspace.coordinator, 'keeper', (writer) =>
      writer.update('rule', ruleId, { keeper_id: people.Ines! })
    );
    await tick();
    neverAtWork('Nora');
    await moveTo('2026-01-06T00:00Z');
    container.tasks.edit(workspace.coordinator, id!, { description: 'Again.' });
    await moveTo('2026-01-07T00:00Z');
    expect(await ofKeeper()).toHaveLength(1);
    const text = container.db.prepare<[], string>('SELECT text FROM message').pluck().get()!;
    expect(text).toContain('cannot be computed for 4 tasks: “Gauge 1”, “Gauge 2”, “Gauge 3” and others');
    expect(text).toContain('Give its week at least one working interval.');
    expect(container.stores.ruleFaults.counts().get(ruleId)).toBe(4);
    backAtWork('Nora');
    await tick();
    expect(faults()).toEqual([]);
    neverAtWork('Nora');
    await moveTo('2026-01-08T00:00Z');
    expect(await ofKeeper()).toHaveLength(2);
  });

  it('rings where two rules fault one task, with offsets beyond the dates', async () => {
    await anotherWorkspace(START);
    const id = add({ dueDate: '2026-01-09' });
    const [far, farther] = [100_000, -100_000].map((n) => named(ruleOf([lead(n, 'day')]), `Far ${n}`));
    const other = named(ruleOf([lead(0, 'day', { time: '10:00' })]), 'On the day');
    expect(foretold('2026-02-01T00:00Z')).toEqual([`${other} 01-09T10:00`]);
    await moveTo('2026-02-01T00:00Z');
    expect(faults()).toEqual([`${far}/${id} date-out-of-range`, `${farther}/${id} date-out-of-range`]);
    expect(await toOthers()).toHaveLength(1);
    // The rule is off: nothing of it is wrong any more.
    workspace.container.rules.turnOff(workspace.coordinator, far!);
    await tick();
    expect(faults()).toEqual([`${farther}/${id} date-out-of-range`]);
  });
});

describe('a rule that fails as it rings', () => {
  const soon = { field: 'due' as const, op: 'within the next working days' as const, value: 3 };
  const watching = (definition: RuleDefinition): RuleDefinition => ({
    ...definition,
    watch: { ...definition.watch, condition: soon }
  });

  it('leaves a person’s own edit as it is, and its run says so', async () => {
    await anotherWorkspace(START);
    const { container, coordinator } = workspace;
    const id = add({ dueDate: '2026-01-09' });
    const date = { from: 'due' as const, n: 100_000, unit: 'day' as const };
    const acts = rule(
      [on('commented')],
      [
        {
          ...step('later'),
          kind: 'do',
          acts: [
            { act: 'add tag', tag: 'late' },
            { act: 'set due', date, time: null }
          ],
          ask: null
        }
      ]
    );
    const ruleId = named(acts, 'Far away');
    named(rule([on('commented')], [tell('say', { subject: 'Said: ‹task›' })]), 'Says');
    container.taskActs.comment(coordinator, id, 'Ask first.');
    await moveTo('2026-01-05T10:00:00Z');
    expect(container.stores.taskParts.comments(id)).toHaveLength(1);
    // What it had done by then stands; the act that cannot be done ends the run.
    expect(container.stores.tasks.byId(id)).toMatchObject({ due: { date: '2026-01-09' } });
    expect(container.source.detailsOf(id).tags).toEqual(['late']);
    expect(faults()).toEqual([`${ruleId}/${id} date-out-of-range`]);
    expect(container.db.prepare('SELECT state, outcome FROM run WHERE rule_id = ?').all(ruleId)).toEqual([
      { state: 'stopped', outcome: expect.stringMatching(/^cannot be computed: .* is outside the dates/) }
    ]);
    expect(await toOthers()).toEqual(['01-05T09:00 ines Said: Task']);
  });

  it('lets what leaves at the same instant leave, where it cannot be tested any more', async () => {
    await anotherWorkspace(START);
    const { people, container } = workspace;
    const mine = add({ name: 'Mine', dueDate: '2026-01-08' });
    const hers = add({ name: 'Hers', ownerId: people.Nora!, dueDate: '2026-01-08' });
    // Both ring at noon in Lisbon and wait until their manager is told at one instant, the next morning.
    const zone = { of: 'named' as const, zone: 'Europe/Lisbon' };
    const leads = [lead(-2, 'day', { time: '18:00', zone })];
    named(watching(ruleOf(leads, { to: [{ who: 'person', id: people.Ines! }] })), 'Soon');
    await moveTo('2026-01-06T20:00:00Z');
    expect([notices(mine), notices(hers)]).toEqual([['held'], ['held']]);
    neverAtWork('Nora');
    await moveTo('2026-01-07T12:00:00Z');
    expect(await toOthers()).toEqual(['01-07T09:00 ines Mine is due tomorrow']);
    expect([notices(mine), notices(hers)]).toEqual([['sent'], ['unrung: faulty']]);
    expect(container.stores.notices.ofTask(hers)[0]!.why.at(-1)).toMatchObject({ code: 'faulty' });
  });

  it('lets a schedule ring for everything else that it finds, and other schedules of the moment', async () => {
    await anotherWorkspace(START);
    const { people } = workspace;
    neverAtWork('Nora');
    add({ name: 'Mine', dueDate: '2026-01-08' });
    const hers = add({ name: 'Hers', ownerId: people.Nora!, dueDate: '2026-01-08' });
    const weekly = {
      ...{
        kind: 'schedule' as const,
        id: 'weekly',
        on: true,
        only: null,
        zone: { of: 'workspace' as const }
      },
      ...{ rrule: 'FREQ=WEEKLY;BYDAY=TU', start: '2026-01-05', time: '10:00', closedDay: 'skip' as const },
      oncePerDate: false
    };
    const ines = { to: [{ who: 'person' as const, id: people.Ines! }] };
    const first = named(watching(rule([weekly], [tell('a', { ...ines, subject: 'A: ‹task›' })])), 'A');
    named(rule([weekly], [tell('b', { ...ines, subject: 'B: ‹task›', reach: 'any time' })]), 'B');
    await moveTo('2026-01-06T12:00:00Z');
    // Of the first both rules speak in one message.
    expect(await toOthers()).toEqual(['01-06T10:00 ines A: Mine', '01-06T10:00 ines B: Hers']);
    expect(faults()).toEqual([`${first}/${hers} no-working-time`]);
  });

  it('goes on with its series once it can be computed again', async () => {
    await anotherWorkspace(START);
    const { people } = workspace;
    const id = add({ ownerId: people.Nora!, dueDate: '2026-01-14' });
    const repeat = { n: 1, unit: 'day' as const, most: 5 };
    const definition = ruleOf([lead(-7, 'day', { time: '12:00', closedDay: 'as-is', repeat })], {
      to: [MANAGER],
      reach: 'any time'
    });
    const notYet = { none: [{ ...soon, value: 1 }] };
    const ruleId = named({ ...definition, watch: { ...definition.watch, condition: notYet } }, 'Not yet');
    await moveTo('2026-01-07T18:00:00Z');
    expect(notices(id)).toEqual(['sent']);
    neverAtWork('Nora');
    await moveTo('2026-01-08T18:00:00Z');
    expect(faults()).toEqual([`${ruleId}/${id} no-working-time`]);
    backAtWork('Nora');
    await moveTo('2026-01-09T18:00:00Z');
    expect(notices(id)).toEqual(['sent', 'sent']);
    expect(faults()).toEqual([]);
  });
});
