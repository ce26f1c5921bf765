import { describe, expect, it } from 'vitest';
import { openWatch } from '../../src/lib/core/rule/model.ts';
import type { Step } from '../../src/lib/core/rule/step-model.ts';
import type { ScheduleLead } from '../../src/lib/core/rule/lead-model.ts';
import { MANAGER, received, ruleOf, ruleOn } from '../support/workspace.ts';
import {
  add,
  anotherWorkspace,
  at,
  eachInAWorkspace,
  edit,
  mail,
  moveTo,
  revise,
  rule,
  step,
  tell,
  tick,
  workspace
} from '../support/rules.ts';

/**
 * Schedules on the clock of each owner, project or recipient. Ines is in Lisbon (UTC), Nora in Halifax (UTC−4, −3 from Sunday 8 March),
 * both Monday to Friday; Salim in Muscat (UTC+4), Sunday to Thursday; Meera in Kolkata (UTC+5:30), Monday to Saturday. It is Thursday 5 March
 * 2026, 07:00 UTC.
 */
eachInAWorkspace();

const daily = (of: 'owner' | 'project' | 'recipient' | 'workspace', patch: Partial<ScheduleLead> = {}) =>
  ({
    ...{ kind: 'schedule', id: 'daily', on: true, only: null, zone: { of } },
    ...{ rrule: 'FREQ=DAILY', start: '2026-03-02', time: '10:00', closedDay: 'skip', oncePerDate: false },
    ...patch
  }) satisfies ScheduleLead;
const told = async () => (await mail()).map((line) => line.slice(0, 16).trim());
const anyTime = { reach: 'any time' as const };
const change = (table: 'person' | 'project', id: number, patch: Record<string, string | number>) =>
  workspace.container.committer.commit(workspace.coordinator, 'set up', (writer) =>
    writer.update(table, id, patch)
  );
const enter = (table: 'calendar_day' | 'person_zone', row: Record<string, string | number>) =>
  workspace.container.committer.commit(workspace.coordinator, 'set up', (writer) =>
    writer.insert(table, row)
  );
const giveTo = (id: number, name: string) => edit(id, { ownerId: workspace.people[name]! });

describe('a schedule on the owner’s clock', () => {
  it('rings for owners in four zones at 10:00 of theirs, and on their own closed days not at all', async () => {
    ruleOn(workspace, ruleOf([daily('owner')], anyTime));
    for (const name of ['Ines', 'Nora', 'Salim', 'Meera'])
      add({ name: `For ${name}`, ownerId: workspace.people[name]! });
    await moveTo('2026-03-10T00:00Z');
    expect(await told()).toEqual([
      ...['03-05T10:00 ines', '03-05T14:00 nora'],
      ...['03-06T04:30 meer', '03-06T10:00 ines', '03-06T14:00 nora'],
      ...['03-07T04:30 meer', '03-08T06:00 sali'],
      ...['03-09T04:30 meer', '03-09T06:00 sali', '03-09T10:00 ines', '03-09T13:00 nora']
    ]);
  });

  it('rings so for a month with three clock changes: on each working day of each, once, at 10:00', async () => {
    // Halifax on 8 March, Lisbon on 29 March, Hobart on 5 April.
    ruleOn(workspace, ruleOf([daily('owner')], { ...anyTime, subject: 'Daily' }));
    const { container, people } = workspace;
    const names = ['Ines', 'Nora', 'Salim', 'Meera', 'Tess'];
    for (const name of names) add({ ownerId: people[name]! });
    await moveTo('2026-04-10T00:00Z');
    const sent = await received(workspace);
    for (const name of names) {
      const { zone, calendar } = container.source.facts.people.get(people[name]!)!;
      const hers = sent.filter(({ to }) => to[0]!.startsWith(name.toLowerCase()));
      const walls = hers.map(({ date }) => zone.localOf(date) / 86_400_000);
      expect(walls.map((wall) => Math.round((wall % 1) * 24 * 60) / 60)).toEqual(walls.map(() => 10));
      const first =
        zone.dayOf(at('2026-03-05T07:00Z')) +
        (zone.localOf(at('2026-03-05T07:00Z')) % 86_400_000 < 36_000_000 ? 0 : 1);
      const last =
        zone.dayOf(at('2026-04-10T00:00Z')) -
        (zone.localOf(at('2026-04-10T00:00Z')) % 86_400_000 < 36_000_000 ? 1 : 0);
      expect([name, walls.length]).toEqual([name, calendar.days.count(first, last + 1)]);
    }
  });

  it('is not silenced by a holiday of another country', async () => {
    const holiday = (calendar: string, date: string) => {
      const { calendars } = workspace.container.stores;
      const { id } = calendars.all().find(({ name }) => name === calendar)!;
      enter('calendar_day', { calendar_id: id, date, name: 'Holiday', intervals: '[]' });
    };
    ruleOn(workspace, ruleOf([daily('owner')], anyTime));
    add({ ownerId: workspace.people.Ines! });
    add({ ownerId: workspace.people.Meera! });
    holiday('Monday to Friday', '2026-03-06');
    await moveTo('2026-03-07T00:00Z');
    expect(await told()).toEqual(['03-05T10:00 ines', '03-06T04:30 meer']);
  });

  it('rings at once for a task that comes to a clock that is past it, and not again where it has rung', async () => {
    ruleOn(workspace, ruleOf([daily('owner')], anyTime));
    const east = add({ name: 'East', ownerId: workspace.people.Nora! });
    await moveTo('2026-03-05T08:00Z');
    // 10:00 is ahead in Halifax and over in Kolkata.
    giveTo(east, 'Meera');
    await moveTo('2026-03-05T08:01Z');
    expect(await told()).toEqual(['03-05T08:00 meer']);
    // It is 10:00 in Halifax at 14:00 UTC: the occurrence of the day has been told.
    await moveTo('2026-03-05T09:00Z');
    giveTo(east, 'Nora');
    await moveTo('2026-03-05T23:00Z');
    expect(await told()).toEqual(['03-05T08:00 meer']);
    await moveTo('2026-03-06T23:00Z');
    expect(await told()).toEqual(['03-05T08:00 meer', '03-06T14:00 nora']);
  });

  it('follows an owner who moves, at once by hand and from a date', async () => {
    ruleOn(workspace, ruleOf([daily('owner')], anyTime));
    add({ ownerId: workspace.people.Nora! });
    await moveTo('2026-03-05T08:00Z');
    change('person', workspace.people.Nora!, { zone: 'Asia/Kolkata' });
    await tick();
    enter('person_zone', { person_id: workspace.people.Nora!, from_date: '2026-03-10', zone: 'Asia/Tokyo' });
    await moveTo('2026-03-11T00:00Z');
    expect(await told()).toEqual([
      '03-05T08:00 nora',
      ...['03-06T04:30 nora', '03-09T04:30 nora', '03-10T01:00 nora']
    ]);
  });

  it('rings nothing old when an undo brings a task back to an earlier clock, and nothing twice', async () => {
    const { container, coordinator, people } = workspace;
    ruleOn(workspace, ruleOf([daily('owner')], anyTime));
    const id = add({ ownerId: people.Meera! });
    await moveTo('2026-03-05T08:00Z');
    const { changeId } = giveTo(id, 'Nora');
    await moveTo('2026-03-05T15:00Z');
    expect(await told()).toEqual(['03-05T14:00 nora']);
    container.committer.undo(changeId, coordinator.personId!);
    await moveTo('2026-03-06T05:00Z');
    expect(await told()).toEqual(['03-05T14:00 nora', '03-06T04:30 meer']);
  });

  it('keeps quiet about a clock that a new version of the rule brings', async () => {
    const ruleId = ruleOn(workspace, ruleOf([daily('recipient')], anyTime));
    add({ ownerId: workspace.people.Nora! });
    await moveTo('2026-03-05T12:00Z');
    revise(ruleId, ruleOf([daily('workspace')], anyTime));
    await moveTo('2026-03-05T23:00Z');
    expect(await told()).toEqual([]);
  });
});

describe('a schedule on the project’s clock', () => {
  it('goes by its zone and its calendar', async () => {
    const { container, people } = workspace;
    const gulf = container.stores.calendars.all().find(({ name }) => name === 'Sunday to Thursday')!;
    change('project', workspace.project, { zone: 'Asia/Muscat', calendar_id: gulf.id });
    ruleOn(workspace, ruleOf([daily('project')], anyTime));
    add({ projectId: workspace.project, ownerId: people.Nora! });
    add({ ownerId: people.Nora! });
    await moveTo('2026-03-08T12:00Z');
    expect(await told()).toEqual([
      // The task without a project goes by the workspace: Lisbon, Monday to Friday.
      ...['03-05T10:00 nora', '03-06T10:00 nora', '03-08T06:00 nora']
    ]);
  });
});

describe('a schedule on each recipient’s clock', () => {
  it('tells everybody at 10:00 of theirs; in order, nobody before the owner', async () => {
    const to = [{ who: 'owner' as const }, MANAGER];
    ruleOn(workspace, { ...ruleOf([daily('recipient')], { ...anyTime, to }), inOrder: false });
    add({ ownerId: workspace.people.Nora! });
    await moveTo('2026-03-06T00:00Z');
    expect(await told()).toEqual(['03-05T10:00 ines', '03-05T14:00 nora']);
    await anotherWorkspace('2026-03-05T07:00:00Z');
    ruleOn(workspace, ruleOf([daily('recipient')], { ...anyTime, to }));
    add({ ownerId: workspace.people.Nora! });
    await moveTo('2026-03-06T00:00Z');
    expect((await told()).sort()).toEqual(['03-05T14:00 ines', '03-05T14:00 nora']);
  });

  it('tells whoever has no clock of their own, an address outside, on the workspace’s', async () => {
    ruleOn(
      workspace,
      ruleOf([daily('recipient', { closedDay: 'as-is' })], {
        ...anyTime,
        to: [{ who: 'address', address: 'harbour@outside.example' }],
        subject: '‹task›',
        body: '‹task›',
        several: { subject: '‹task›', body: '‹task›' },
        columns: [{ field: 'task', caption: '' }]
      })
    );
    add({ name: 'Outside', ownerId: workspace.people.Tess! });
    await moveTo('2026-03-07T00:00Z');
    expect((await mail()).map((line) => line.slice(0, 11))).toEqual(['03-05T10:00', '03-06T10:00']);
  });

  it('acts on the owner’s clock, once', async () => {
    const flag: Step = {
      ...step('flag'),
      kind: 'do',
      acts: [{ act: 'comment', text: 'Looked at' }],
      ask: null
    };
    ruleOn(
      workspace,
      rule([daily('recipient')], [tell('tell', { ...anyTime, to: [{ who: 'owner' }, MANAGER] }), flag])
    );
    const id = add({ ownerId: workspace.people.Nora! });
    const comments = () => workspace.container.stores.taskParts.comments(id).length;
    await moveTo('2026-03-05T13:00Z');
    expect(comments()).toBe(0);
    await moveTo('2026-03-06T09:00Z');
    expect(comments()).toBe(1);
  });

  it('whoever comes in an owner’s place hears at once where the day’s look is over on their clock', async () => {
    ruleOn(workspace, ruleOf([daily('recipient')], anyTime));
    const id = add({ ownerId: workspace.people.Nora! });
    await moveTo('2026-03-05T12:00Z');
    giveTo(id, 'Ines');
    await moveTo('2026-03-05T12:01Z');
    expect(await told()).toEqual(['03-05T12:00 ines']);
    // Somebody else of the same zone, once it has been told: not anew.
    await moveTo('2026-03-05T20:00Z');
    expect(await told()).toEqual(['03-05T12:00 ines']);
  });

  it('“once per task and date” is once for each recipient', async () => {
    ruleOn(
      workspace,
      ruleOf([daily('recipient', { oncePerDate: true })], { ...anyTime, to: [{ who: 'owner' }, MANAGER] })
    );
    const id = add({ ownerId: workspace.people.Nora!, dueDate: '2026-03-20' });
    await moveTo('2026-03-08T00:00Z');
    expect((await told()).sort()).toEqual(['03-05T14:00 ines', '03-05T14:00 nora']);
    edit(id, { dueDate: '2026-03-27' });
    await moveTo('2026-03-10T00:00Z');
    expect(await told()).toHaveLength(4);
  });
});

describe('schedules on clocks, as they are kept', () => {
  it('outlive the clock set back and a start after which a ring is due', async () => {
    ruleOn(workspace, ruleOf([daily('owner')], anyTime));
    add({ ownerId: workspace.people.Meera! });
    await moveTo('2026-03-06T05:00Z');
    await moveTo('2026-03-06T04:00Z');
    await moveTo('2026-03-06T06:00Z');
    expect(await told()).toEqual(['03-06T04:30 meer']);
    const rows = workspace.container.stores.schedules.all();
    expect(rows.map(({ nextAt }) => nextAt)).toEqual([at('2026-03-07T04:30Z')]);
  });

  it('leave nothing behind once the rule is off', async () => {
    const ruleId = ruleOn(workspace, ruleOf([daily('owner')], anyTime));
    add({});
    await tick();
    workspace.container.rules.turnOff(workspace.coordinator, ruleId);
    await tick();
    const { schedules } = workspace.container.stores;
    expect([schedules.all(), schedules.clocks()]).toEqual([[], []]);
  });

  it('look at the tasks of their clock alone, and say so in their run', async () => {
    await anotherWorkspace('2026-03-05T07:00:00Z');
    const watch = {
      ...openWatch(),
      condition: { all: [{ field: 'priority', op: 'is', value: 'pressing' } as const] }
    };
    const ruleId = ruleOn(workspace, { ...ruleOf([daily('owner')], anyTime), watch });
    add({ ownerId: workspace.people.Ines! });
    add({ ownerId: workspace.people.Nora!, priority: 'pressing' });
    await moveTo('2026-03-05T23:00Z');
    const runs = workspace.container.stores.runs.ofRule(ruleId, 5).filter(({ stages }) => stages);
    expect(runs.map(({ stages }) => [stages!.looked, stages!.found, stages!.expected])).toEqual([
      [1, 1, null],
      [1, 0, null]
    ]);
  });

  it('rings for two hundred owners on two hundred clocks: each once, at 10:00 of theirs', async () => {
    const { container, coordinator } = workspace;
    const open = { mon: ['09:00-17:00'], fri: ['09:00-17:00'] };
    const calendars = Array.from({ length: 8 }, (_, i) => {
      const { result } = container.calendars.add(coordinator, {
        name: `Week ${i}`,
        week: open,
        weeks: [],
        days: []
      });
      return result;
    });
    // A clock is a zone and a calendar: 25 of the one, spread over the whole list of the runtime, times 8 of the other.
    const zones = Intl.supportedValuesOf('timeZone')
      .filter((_, i) => i % 16 === 0)
      .slice(0, 25);
    const owners = container.committer.commit(coordinator, 'set up', (writer) =>
      Array.from({ length: 200 }, (_, i) =>
        writer.insert('person', {
          ...{ name: `Owner ${i}`, email: `owner-${i}@test.example`, role: 'owner', active: 1 },
          ...{ zone: zones[i % 25]!, calendar_id: calendars[i % 8]! }
        })
      )
    ).result;
    for (const ownerId of owners) add({ ownerId });
    const often = daily('owner', { closedDay: 'as-is', start: '2026-03-06' });
    ruleOn(workspace, ruleOf([often], anyTime));
    // From the first midnight of the 6th anywhere to the last.
    await moveTo('2026-03-07T00:00Z');
    const sent = (await received(workspace)).filter(({ to }) => to[0]!.startsWith('owner-'));
    const walls = new Map<string, string[]>();
    for (const { to, date } of sent) {
      const zone = zones[Number(/\d+/.exec(to[0]!)![0]) % 25]!;
      const wall = new Date(date).toLocaleString('sv-SE', { timeZone: zone }).slice(0, 16);
      walls.set(to[0]!, [...(walls.get(to[0]!) ?? []), wall]);
    }
    expect(walls.size).toBe(200);
    const first = [...walls.values()].map((times) => times.filter((wall) => wall.startsWith('2026-03-06')));
    expect(first).toEqual(first.map(() => ['2026-03-06 10:00']));
    expect(new Set([...walls.values()].flat().map((wall) => wall.slice(11)))).toEqual(new Set(['10:00']));
  });
});
