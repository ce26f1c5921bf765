import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { openWatch, type RuleDefinition } from '../../src/lib/core/rule/model.ts';
import type { Lead } from '../../src/lib/core/rule/lead-model.ts';
import { starters } from '../../src/lib/core/rule/starters/starters.ts';
import { zoneNamed } from '../../src/lib/core/time/zone.ts';
import type { TaskInput } from '../../src/lib/server/task/schema.ts';
import { ruleBasis } from '../../src/lib/server/rule/rule-basis.ts';
import { startersOf } from '../../src/lib/server/rule/rule-starters.ts';
import { RuleConflict, type RuleInput } from '../../src/lib/server/rule/rules.ts';
import { lead, openWorkspace, ruleOf, ruleOn, taskInput, type TestWorkspace } from '../support/workspace.ts';

/** What an author learns of a rule before it rings, and what becomes of its versions and copies. */
let workspace: TestWorkspace;
beforeEach(async () => {
  workspace = await openWorkspace('2026-03-05T07:00:00Z');
});
afterEach(() => workspace.close());

const viewer = { zone: zoneNamed('Europe/Lisbon'), personId: 1 };
const add = (patch: Partial<TaskInput> = {}) =>
  workspace.container.tasks.add(
    workspace.coordinator,
    taskInput({ ownerId: workspace.people.Ines!, ...patch })
  ).result;
const input = (definition: RuleDefinition, name = 'Rule'): RuleInput => ({
  ...{ name, description: '', definition }
});
const counts = () =>
  ['notice', 'ring', 'run', 'message', 'change', 'task'].map(
    (table) => workspace.container.db.prepare(`SELECT count(*) FROM ${table}`).pluck().get() as number
  );

describe('tried on one task', () => {
  const tried = (definition: RuleDefinition, taskId: number) =>
    workspace.container.trials.tryOn(0, input(definition), taskId, viewer);

  it('shows each message as it would be received, at its moment, with why; and changes nothing', () => {
    const id = add({ name: 'Renew it', dueDate: '2026-03-09' });
    const before = counts();
    const trial = tried(ruleOf([lead(-1, 'workday'), lead(0, 'day')], { importance: 'high' }), id);
    expect(trial.against).toEqual([]);
    const [part] = trial.parts;
    expect(part!.entries.map(({ at, is, message }) => [at.there, is, message?.subject])).toEqual([
      ['Fri 6 Mar, 09:00', 'message', 'Renew it is due in 3 days'],
      ['Mon 9 Mar, 09:00', 'message', 'Renew it is due today']
    ]);
    expect(part!.entries[0]!.message).toMatchObject({ to: ['ines@test.example'], important: true });
    expect(part!.entries[0]!.why[0]!).toContain('Monday 9 March 2026');
    expect(counts()).toEqual(before);
  });

  it('of a ring time that waits for something says what would come if that happened now, step by step', () => {
    const id = add({ name: 'Ask', priority: 'pressing' });
    const commented: Lead = {
      ...{ kind: 'event', id: 'said', on: true, only: null, zone: { of: 'owner' }, wide: false },
      event: 'commented'
    };
    const blank = ruleOf([commented], { reach: 'any time', subject: 'Said: ‹task›' });
    const trial = tried(
      {
        ...blank,
        steps: [
          ...blank.steps,
          {
            ...{ id: 'b', kind: 'branch', name: '', description: '', leads: null, otherwise: [] },
            sides: [
              {
                name: 'pressing',
                condition: { field: 'priority', op: 'is', value: 'pressing' },
                steps: [
                  {
                    ...{ id: 'd', kind: 'do', name: 'mark it', description: '', leads: null, ask: null },
                    acts: [{ act: 'add tag', tag: 'said' }]
                  }
                ]
              }
            ]
          }
        ]
      },
      id
    );
    const [part] = trial.parts;
    expect(part!.asIf).toContain('somebody comments');
    expect(part!.entries.map(({ is, words }) => [is, words])).toEqual([
      ['message', 'Ines'],
      ['change', 'mark it: add the tag “said”']
    ]);
  });

  it('names what keeps a task outside, and never shows another person’s private task', () => {
    const id = add({ priority: 'low', dueDate: '2026-03-09' });
    const trial = tried({ ...ruleOf([lead(0, 'day')]), watch: { ...openWatch(), priorities: ['high'] } }, id);
    expect(trial.against).toEqual(['its priority is low']);
    const nora = { personId: workspace.people.Nora!, source: 'person' as const };
    const own = workspace.container.tasks.add(
      nora,
      taskInput({ ownerId: nora.personId, private: true, dueDate: '2026-03-09' })
    ).result;
    expect(() => tried(ruleOf([lead(0, 'day')]), own)).toThrow('This task was not found.');
  });
});

describe('a draft beside the live version', () => {
  it('counts what comes besides, no more, and at another moment', () => {
    add({ dueDate: '2026-03-10' });
    const [first, second] = [lead(-1, 'workday', { id: 'a' }), lead(0, 'day', { id: 'b' })];
    const id = ruleOn(workspace, ruleOf([first, second]));
    const beside = (leads: Lead[]) => workspace.container.outlooks.beside(id, input(ruleOf(leads)), viewer)!;
    expect(beside([first, second])).toMatchObject({ added: 0, gone: 0, moved: 0, same: 2, rows: [] });
    const edited = beside([{ ...first, time: '11:00' }, lead(1, 'workday', { id: 'c' })]);
    expect(edited).toMatchObject({ added: 1, gone: 1, moved: 1, same: 0 });
    expect(edited.rows.map(({ how, bell, was }) => [how, bell.time.there, was?.there ?? null])).toEqual([
      ['moved', 'Mon 9 Mar, 11:00', 'Mon 9 Mar, 09:00'],
      ['gone', 'Tue 10 Mar, 09:00', null],
      ['added', 'Wed 11 Mar, 09:00', null]
    ]);
  });

  it('is nothing to be laid beside where no version is live', () => {
    const { result } = workspace.container.rules.add(
      workspace.coordinator,
      'Draft',
      ruleOf([lead(0, 'day')])
    );
    expect(workspace.container.outlooks.beside(result, input(ruleOf([lead(0, 'day')])), viewer)).toBeNull();
  });
});

describe('the check before turning on', () => {
  it('says how much leaves at once, from when on it is a rush, and what lies in the past', () => {
    for (let i = 0; i < 26; i++) add({ name: `Task ${i}`, dueDate: '2026-03-06' });
    add({ dueDate: '2026-03-02' });
    const check = (definition: RuleDefinition) =>
      workspace.container.outlooks.check(0, input(definition), viewer);
    const apart = check(ruleOf([lead(0, 'day')], { gather: 'per task' }));
    expect(apart).toMatchObject({
      ...{ rush: true, week: 26, people: 1, past: 1 },
      atOnce: { count: 26, at: 'Fri 6 Mar, 09:00' }
    });
    const together = check(ruleOf([lead(0, 'day')], { gather: 'per recipient' }));
    expect(together).toMatchObject({ rush: false, week: 1, atOnce: { count: 1 } });
    expect(check(ruleOf([])).faults.map(({ code }) => code)).toContain('rule-no-lead');
  });

  it('says whose words are not sent because it tells the same within the hour before, and that is what happens', async () => {
    const { container, coordinator } = workspace;
    const halfPast = { time: '09:30', zone: { of: 'workspace' as const } };
    const ahead = ruleOn(workspace, ruleOf([lead(-1, 'day', halfPast)]), 'The day before');
    for (const name of ['One', 'Two']) add({ name, dueDate: '2026-03-10' });
    add({ name: 'Later', dueDate: '2026-03-12' });
    await container.engine.tick();
    const mondays: Lead = {
      ...{ kind: 'schedule', id: 'weekly', on: true, only: null, zone: { of: 'workspace' } },
      ...{
        rrule: 'FREQ=WEEKLY;BYDAY=MO',
        start: '2026-01-05',
        time: '09:00',
        closedDay: 'as-is',
        oncePerDate: false
      }
    };
    const weekly = { ...ruleOf([mondays], { gather: 'per recipient' }) };
    const { silences, silenced } = container.outlooks.check(0, input(weekly), viewer);
    expect({ silences, silenced }).toEqual({
      silences: [{ rule: 'The day before', notices: 2 }],
      silenced: 0
    });
    const { result } = container.rules.add(coordinator, 'Weekly', weekly);
    container.rules.turnOn(coordinator, result, input(weekly));
    // From the other side: those two of its own.
    const again = container.outlooks.check(0, input(ruleOf([lead(-1, 'day', halfPast)])), viewer);
    expect(again.silenced).toBe(3 - 1);
    await container.engine.moveClock(Date.parse('2026-03-10T00:00Z'));
    const ended = container.stores.notices.ofRule(ahead);
    expect(ended.map(({ state, reason }) => `${state}: ${reason}`)).toEqual([
      'unrung: already told',
      'unrung: already told'
    ]);
  });
});

describe('what is kept between looks', () => {
  it('is what a fresh read gives, after tasks were added, edited, taken away and brought back', () => {
    const { container, coordinator } = workspace;
    const { source, stores, tasks, committer } = container;
    const same = () => {
      expect(source.whole.tasks()).toEqual(stores.tasks.facts());
      expect(source.whole.details()).toEqual(stores.taskDetails.all());
    };
    const ids = [add({ dueDate: '2026-03-09' }), add({ tags: ['one'] }), add()];
    same();
    tasks.edit(coordinator, ids[0]!, { dueDate: '2026-03-20', priority: 'high' });
    same();
    const { changeId } = tasks.edit(coordinator, ids[1]!, { tags: ['two'], statusId: 3 });
    const child = add({ parentId: ids[2]! });
    same();
    committer.undo(changeId, coordinator.personId!);
    tasks.edit(coordinator, child, { statusId: 3 });
    container.taskActs.logTime(coordinator, ids[0]!, { minutes: 30, note: '' });
    same();
    expect(() =>
      container.work.run(() => {
        tasks.edit(coordinator, ids[0]!, { priority: 'low' });
        throw new Error('taken back');
      })
    ).toThrow('taken back');
    same();
  });
});

describe('what the browser is sent', () => {
  it('a run that waits with the version that it started with, and nothing of another person’s private task', async () => {
    const { container, coordinator, people } = workspace;
    const first = ruleOf([lead(0, 'day', { id: 'kept' })], { reach: 'any time' });
    const waits: RuleDefinition = {
      ...first,
      steps: [
        {
          ...{ id: 'w', kind: 'wait', name: '', description: '', leads: null, n: 2, unit: 'workday' },
          ...{ time: '09:00', closedDay: 'later', regardless: false }
        },
        ...first.steps
      ]
    };
    const id = ruleOn(workspace, waits);
    add({ dueDate: '2026-03-05' });
    const nora = { personId: people.Nora!, source: 'person' as const };
    const secret = taskInput({
      ownerId: nora.personId,
      private: true,
      name: 'Secret',
      description: 'Own matter'
    });
    container.tasks.add(nora, secret);
    await container.engine.moveClock(Date.parse('2026-03-05T10:00Z'));
    container.rules.turnOn(coordinator, id, input(first));
    const basis = ruleBasis(container, id, viewer)!;
    expect(basis.history.runs.map(({ definition }) => definition.steps.length)).toEqual([2]);
    expect(JSON.stringify(basis)).not.toMatch(/Secret|Own matter/);
  });
});

describe('versions and copies', () => {
  it('an older version is taken up again with the ids of its ring times: what has rung stays rung', async () => {
    const { container, coordinator } = workspace;
    const first = ruleOf([lead(0, 'day', { id: 'kept' })], { reach: 'any time' });
    const id = ruleOn(workspace, first);
    add({ dueDate: '2026-03-05' });
    await container.engine.moveClock(Date.parse('2026-03-05T10:00Z'));
    container.rules.turnOn(coordinator, id, input(ruleOf([lead(-3, 'day')])));
    const [newest, oldest] = container.ruleCopies.versions(id, viewer, container.clock.now());
    expect(newest).toMatchObject({ number: 2, stands: 'live', who: 'Ines' });
    expect(newest!.differences.find(({ part }) => part === 'Ring')).toMatchObject({
      gone: [expect.stringContaining('on the due date')],
      added: [expect.stringContaining('3 days before')]
    });
    container.ruleCopies.restore(coordinator, id, oldest!.id);
    const draft = container.rules.open(id)!.edited;
    expect(draft.definition.leads.map((one) => one.id)).toEqual(['kept']);
    container.rules.turnOn(coordinator, id, input(draft.definition));
    await container.engine.moveClock(Date.parse('2026-03-06T10:00Z'));
    expect(container.stores.notices.countsOfRule(id).sent).toBe(1);
    expect(() => container.ruleCopies.restore(coordinator, id, 999)).toThrow(
      'This version of the rule was not found.'
    );
  });

  it('a copy has ring times of its own, another lead and reader; its words follow', async () => {
    const { container, coordinator, people } = workspace;
    const both = ruleOf([lead(-5, 'day', { id: 'x' }), lead(0, 'day', { id: 'y' })]);
    const id = ruleOn(workspace, {
      ...both,
      steps: both.steps.map((step) => ({ ...step, leads: ['x', 'y'] }))
    });
    add({ ownerId: people.Nora!, dueDate: '2026-03-09' });
    const { result } = container.ruleCopies.duplicate(coordinator, id, {
      ...{ name: 'Closer', lead: { n: -1, unit: 'day' }, to: { who: 'manager', up: 1 } }
    });
    const { definition } = container.rules.open(result)!.edited;
    expect(definition.leads.map((one) => one.id)).not.toContain('x');
    expect(definition.steps[0]!.leads).toEqual(definition.leads.map((one) => one.id));
    const trial = container.trials.tryOn(result, input(definition), 1, viewer);
    expect(trial.parts[0]!.entries[0]!.message).toMatchObject({
      ...{ to: ['ines@test.example'], subject: 'Task of Nora is due in 3 days' }
    });
    const copy = { name: ' ', lead: null, to: null };
    expect(() => container.ruleCopies.duplicate(coordinator, id, copy)).toThrow('Give the rule a name');
  });

  it('whoever saves second is told who was first, and may overwrite', () => {
    const { container, coordinator, people } = workspace;
    const id = ruleOn(workspace, ruleOf([lead(0, 'day')]));
    const stamp = container.rules.stamp(id);
    const nora = { personId: people.Nora!, source: 'person' as const };
    container.rules.save(nora, id, input(ruleOf([lead(-1, 'day')])), stamp);
    const mine = input(ruleOf([lead(-2, 'day')]));
    expect(() => container.rules.save(coordinator, id, mine, stamp)).toThrow(RuleConflict);
    expect(() => container.rules.turnOn(coordinator, id, mine, stamp)).toThrow(
      'Nora saved this rule while you were editing.'
    );
    container.rules.save(coordinator, id, mine, null);
    expect(container.rules.open(id)!.edited.definition.leads).toHaveLength(1);
  });

  it('the strip shows all four weeks, however far the list of bells goes', () => {
    const { container, coordinator, people } = workspace;
    for (let i = 0; i < 40; i++) add({ name: `Task ${i}`, ownerId: people.Nora! });
    const days: Lead = {
      ...{ kind: 'schedule', id: 'daily', on: true, only: null, zone: { of: 'owner' } },
      ...{ rrule: 'FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR', start: '2026-03-05', time: '10:00' },
      ...{ closedDay: 'as-is', oncePerDate: false }
    };
    const { result: id } = container.rules.add(coordinator, 'Daily', ruleOf([days]));
    const view = container.outlooks.ofRule(id, input(ruleOf([days])), viewer);
    expect(view.more).toBeGreaterThan(400);
    const marks = view.strip.rows.flatMap((row) => row.marks);
    expect(marks.reduce((sum, { count }) => sum + count, 0)).toBe(view.counts.bells);
    const last = Math.max(...marks.map(({ atMs }) => atMs));
    expect(view.strip.untilMs - last).toBeLessThan(4 * 86_400_000);
    expect(view.peopleBelow).toBe(0);
  });

  it('moves within its group, and stays where it is at its end', () => {
    const { container, coordinator } = workspace;
    const ids = ['One', 'Two', 'Three'].map(
      (name) => container.rules.add(coordinator, name, ruleOf([lead(0, 'day')])).result
    );
    const order = () => container.stores.rules.made().map(({ name }) => name);
    container.rules.move(coordinator, ids[2]!, -1);
    expect(order()).toEqual(['One', 'Three', 'Two']);
    container.rules.move(coordinator, ids[0]!, -1);
    expect(order()).toEqual(['One', 'Three', 'Two']);
  });
});

describe('starters', () => {
  it('are seventeen where nothing can be closed, each usable as it is: no fault, and nothing doubtful in its words', () => {
    const { container } = workspace;
    const all = startersOf(container);
    expect(all).toHaveLength(17);
    expect(new Set(all.map(({ key }) => key)).size).toBe(17);
    for (const { name, definition } of all) {
      expect(container.rules.faults(input(definition, name)), name).toEqual([]);
      const { lints, broken } = container.outlooks.ofRule(0, input(definition, name), viewer);
      expect(broken, name).toEqual([]);
      expect(
        lints.map(({ code }) => code),
        name
      ).not.toContain('words against the lead');
    }
  });

  it('leave out what needs a status that the workspace has not', () => {
    const basis = { statusIn: () => null, today: '2026-03-05', noticeTime: '09:00' };
    expect(starters(basis).map(({ key }) => key)).not.toContain('begin');
  });

  it('an hour and half an hour before: 13:30 and 13:00 for 14:00, and nothing for a date without a time', async () => {
    const { container, coordinator } = workspace;
    const { definition, name } = startersOf(container).find(({ key }) => key === 'minutes')!;
    const { result } = container.rules.add(coordinator, name, definition);
    container.rules.turnOn(coordinator, result, input(definition, name));
    add({ name: 'Timed', dueDate: '2026-03-05', dueTime: '14:00' });
    add({ name: 'Dated', dueDate: '2026-03-05' });
    await container.engine.moveClock(Date.parse('2026-03-06T10:00Z'));
    const { messages } = await container.postRoom.list('', 0, 10);
    expect(messages.map(({ date }) => new Date(date!).toISOString().slice(11, 16)).sort()).toEqual([
      '13:00',
      '13:30'
    ]);
  });
});
