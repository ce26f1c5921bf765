import { describe, expect, it } from 'vitest';
import { openWatch, type RuleDefinition } from '../../src/lib/core/rule/model.ts';
import type { Step } from '../../src/lib/core/rule/step-model.ts';
import type { Lead } from '../../src/lib/core/rule/lead-model.ts';
import { lead, ruleOf, ruleOn } from '../support/workspace.ts';
import {
  add,
  anotherWorkspace,
  eachInAWorkspace,
  edit,
  mail,
  moveTo,
  rule,
  step,
  workspace
} from '../support/rules.ts';

/** Rules on a schedule, and over a saved list. */
eachInAWorkspace();

describe('schedules', () => {
  const friday: Lead = {
    kind: 'schedule',
    id: 'fri',
    on: true,
    only: null,
    zone: { of: 'workspace' },
    rrule: 'FREQ=WEEKLY;BYDAY=FR',
    start: '2026-01-02',
    time: '11:00',
    closedDay: 'skip',
    oncePerDate: true
  };

  it('with “once per task and date” a renewal found by four Fridays is told once, and a new date re-arms it', async () => {
    await anotherWorkspace('2026-08-06T07:00:00Z');
    const watch = {
      ...openWatch(),
      condition: { field: 'due', op: 'within the next days', value: 30 } as const
    };
    const ruleId = ruleOn(workspace, { ...ruleOf([friday], { reach: 'any time' }), watch });
    const id = add({ name: 'Renewal', dueDate: '2026-09-07' });
    await moveTo('2026-09-06T00:00Z');
    // The window opens on 8 August; the first Friday in it is the 14th.
    expect(await mail()).toEqual(['08-14T10:00 ines Renewal is due in 24 days']);
    edit(id, { dueDate: '2026-09-30' });
    await moveTo('2026-09-12T00:00Z');
    expect(await mail()).toHaveLength(2);
    const { runs } = workspace.container.stores;
    const rings = runs.ofRule(ruleId, 20);
    expect(rings.every(({ taskId }) => taskId === null)).toBe(true);
    expect(rings.filter(({ stages }) => stages!.found > 0)).toHaveLength(2);
  });

  it('“up to today and not yet told” tells a reminder date on a Saturday or a holiday at the next look, once', async () => {
    const remind = { oncePerDate: true, onceFor: { date: 'remind on' as const }, since: '2026-03-05' };
    const each = { ...friday, ...remind, rrule: 'FREQ=DAILY' } as Lead;
    ruleOn(workspace, ruleOf([each], { reach: 'any time', subject: '‹task›' }));
    const { container, coordinator } = workspace;
    const { id: west } = container.stores.calendars.all().find(({ name }) => name === 'Monday to Friday')!;
    container.committer.commit(coordinator, 'holiday', (writer) =>
      writer.insert('calendar_day', {
        calendar_id: west,
        date: '2026-03-09',
        name: 'Holiday',
        intervals: '[]'
      })
    );
    add({ name: 'Saturday', remindDate: '2026-03-07' });
    add({ name: 'Holiday', remindDate: '2026-03-09' });
    add({ name: 'Wednesday', remindDate: '2026-03-11' });
    add({ name: 'Before', remindDate: '2026-03-04' });
    const moved = add({ name: 'Moved', remindDate: '2026-03-06' });
    add({ name: 'Without' });
    await moveTo('2026-03-06T23:00Z');
    edit(moved, { remindDate: '2026-03-08' });
    await moveTo('2026-03-20T00:00Z');
    expect(await mail()).toEqual([
      '03-06T11:00 ines Moved',
      ...['03-10T11:00 ines Saturday', '03-10T11:00 ines Holiday', '03-10T11:00 ines Moved'],
      '03-11T11:00 ines Wednesday'
    ]);
  });

  it('once for a date of the workspace’s own, by the end of its range', async () => {
    const { container, coordinator } = workspace;
    const { result: field } = container.fields.save(coordinator, {
      id: null,
      name: 'Hire',
      kind: 'date range',
      choices: [],

      metByStatusId: null
    });
    const onceFor = { date: 'own date' as const, field: { id: field, end: 'until' as const } };
    const each = { ...friday, oncePerDate: true, onceFor, since: '2026-03-05', rrule: 'FREQ=DAILY' } as Lead;
    ruleOn(workspace, ruleOf([each], { reach: 'any time' }));
    add({ fields: { [field]: { from: '2026-03-01', until: '2026-03-08' } } });
    await moveTo('2026-03-20T00:00Z');
    expect(await mail()).toEqual(['03-09T11:00 ines Task is without a due date']);
  });

  it('that finds nobody says so, with the test that kept most out', async () => {
    const watch = {
      ...openWatch(),
      condition: { all: [{ field: 'priority', op: 'is', value: 'pressing' } as const] }
    };
    const ruleId = ruleOn(workspace, { ...ruleOf([{ ...friday, oncePerDate: false }]), watch });
    add({});
    add({});
    await moveTo('2026-03-07T00:00Z');
    const [run] = workspace.container.stores.runs.ofRule(ruleId, 1);
    expect([run!.outcome, run!.stages]).toEqual([
      'no task matched',
      expect.objectContaining({
        looked: 2,
        found: 0,
        excluded: [{ test: 'priority is pressing', count: 2 }]
      })
    ]);
    const came = workspace.container.stores.runCounts.cameTo(run!.id, run!.startedAt);
    expect(came).toMatchObject({ messages: 0, waiting: 0, changes: 0 });
    expect(await mail()).toEqual([]);
  });

  it('Monday to Friday for four weeks rings 20 times', async () => {
    ruleOn(workspace, ruleOf([{ ...friday, rrule: 'FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR', oncePerDate: false }]));
    add({});
    await moveTo('2026-03-06T23:00Z');
    const before = (await mail()).length;
    await moveTo('2026-04-03T23:00Z');
    expect((await mail()).length - before).toBe(20);
  });

  it('every five minutes for a day is 288 runs, 24 × 60 ÷ 5', async () => {
    await anotherWorkspace('2026-03-06T00:02:00Z');
    const often = { rrule: 'FREQ=MINUTELY;INTERVAL=5', time: '00:00', closedDay: 'as-is' } as const;
    const ruleId = ruleOn(workspace, ruleOf([{ ...friday, ...often, oncePerDate: false }]));
    add({});
    await moveTo('2026-03-07T00:02Z');
    const count = workspace.container.db
      .prepare<[number]>('SELECT count(*) FROM run WHERE rule_id = ?')
      .pluck();
    // A run for the schedule, and in it one for the task that it found.
    const schedules = workspace.container.db
      .prepare<[number]>('SELECT count(DISTINCT started_at) FROM run WHERE rule_id = ?')
      .pluck();
    expect([schedules.get(ruleId), Number(count.get(ruleId)) % 288]).toEqual([288, 0]);
  });

  it('50 past records are followed up once each, however often it runs', async () => {
    const steps: Step[] = [
      {
        ...step('call'),
        kind: 'do',
        acts: [
          {
            act: 'follow-up',
            name: 'Follow up: ‹task›',
            description: '',
            owner: null,
            due: { none: true },
            time: null,
            priority: null
          }
        ],
        ask: null
      }
    ];
    const watch = { ...openWatch(), condition: { field: 'days overdue', op: 'at least', value: 1 } as const };
    ruleOn(
      workspace,
      rule(
        [{ ...friday, rrule: 'FREQ=DAILY', closedDay: 'as-is', time: '00:00', oncePerDate: false }],
        steps,
        { watch }
      )
    );
    for (let i = 0; i < 50; i++) add({ name: `T${i}`, dueDate: '2026-03-01' });
    await moveTo('2026-03-06T12:00Z');
    expect(workspace.container.stores.tasks.count()).toBe(100);
    await moveTo('2026-03-08T12:00Z');
    expect(workspace.container.stores.tasks.count()).toBe(100);
  });
});

describe('a saved list as the scope of a rule', () => {
  const keep = (query: string) =>
    workspace.container.savedLists.save(
      { personId: workspace.people.Ines!, source: 'person' },
      { name: 'Mine', query, shared: true, counted: false }
    ).result;
  const watching = (list: number): RuleDefinition => ({
    ...ruleOf([lead(0, 'day')]),
    watch: { ...openWatch(), list }
  });

  it('is narrowed by what the list asks, and follows the list when that is changed', async () => {
    ruleOn(workspace, watching(keep('priority=pressing&due=7')));
    add({ name: 'Pressing', dueDate: '2026-03-06', priority: 'pressing' });
    add({ name: 'Low', dueDate: '2026-03-06', priority: 'low' });
    await moveTo('2026-03-06T12:00Z');
    expect(await mail()).toEqual(['03-06T09:00 ines Pressing is due today']);
    keep('priority=low&owner=none');
    add({ name: 'Nobody’s', dueDate: '2026-03-09', priority: 'low', ownerId: null });
    add({ name: 'Later', dueDate: '2026-03-09', priority: 'low' });
    await moveTo('2026-03-10T00:00Z');
    // One without an owner has nobody to be told; the other is not in the list any more.
    expect(await mail()).toHaveLength(1);
    keep('priority=low');
    add({ name: 'Last', dueDate: '2026-03-10', priority: 'low' });
    await moveTo('2026-03-10T12:00Z');
    expect((await mail()).slice(1)).toEqual(['03-10T09:00 ines Last is due today']);
  });

  it('one that asks what no task tells by itself is refused with why; one that is dropped leaves the rule faulty', () => {
    const { rules, savedLists, stores } = workspace.container;
    const faults = (query: string) =>
      rules
        .faults({ name: 'R', description: '', definition: watching(keep(query)) })
        .map(({ part, message }) => `${part}: ${message}`);
    for (const [query, why] of [
      ['text=gauge', 'words'],
      ['due=week', 'this week'],
      ['show=out+of+earshot', 'earshot']
    ])
      expect(faults(query!)[0]).toMatch(new RegExp(`^watch: .*${why}`));
    expect(faults('show=overdue&recurring=yes&tag=buoy&from=2026-03-01&until=2026-03-09')).toEqual([]);
    const list = keep('due=past');
    const id = ruleOn(workspace, watching(list));
    savedLists.drop({ personId: workspace.people.Ines!, source: 'person' }, list);
    expect(stores.rules.byId(id)?.state).toBe('faulty');
  });
});
