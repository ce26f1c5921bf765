import ICAL from 'ical.js';
import Papa from 'papaparse';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import {
  blankDefinition,
  blankTell,
  openWatch,
  type Lead,
  type RuleDefinition,
  type Step
} from '../../src/lib/core/rule/model.ts';
import { zoneNamed } from '../../src/lib/core/time/zone.ts';
import type { TaskInput } from '../../src/lib/server/schema/task.ts';
import {
  MANAGER,
  lead,
  openWorkspace,
  received,
  ruleOf,
  ruleOn,
  taskInput,
  type TestWorkspace
} from '../support/workspace.ts';

/** Rules, whole, with the real engine: what is recorded, by which key, and what is made up for. */
let workspace: TestWorkspace;
const at = (iso: string) => Date.parse(iso);
beforeEach(async () => {
  workspace = await openWorkspace('2026-03-05T07:00:00Z');
});
afterEach(() => workspace.close());

const add = (patch: Partial<TaskInput> = {}) =>
  workspace.container.tasks.add(
    workspace.coordinator,
    taskInput({ ownerId: workspace.people.Ines!, ...patch })
  ).result;
const edit = (id: number, patch: Partial<TaskInput>) =>
  workspace.container.tasks.edit(workspace.coordinator, id, patch);
const moveTo = (iso: string) => workspace.container.engine.moveClock(at(iso));
const tick = () => workspace.container.engine.tick();
const mail = async () =>
  (await received(workspace)).map(
    ({ subject, date, to }) =>
      `${new Date(date).toISOString().slice(5, 16)} ${to[0]!.split('@')[0]} ${subject}`
  );
const notices = (id: number) =>
  workspace.container.stores.notices
    .ofTask(id)
    .map(({ state, reason }) => (reason ? `${state}: ${reason}` : state));
const revise = (ruleId: number, definition: RuleDefinition) =>
  workspace.container.rules.turnOn(workspace.coordinator, ruleId, {
    name: 'Rule',
    description: '',
    definition
  });
const on = (
  event: 'assigned' | 'finished' | 'created' | 'field changed' | 'reopened' | 'commented',
  patch = {}
): Lead => ({
  ...{ kind: 'event', id: event, on: true, only: null, zone: { of: 'owner' }, event, wide: false },
  ...patch
});
const step = (id: string) => ({ id, name: id, description: '', leads: null });
const rule = (leads: Lead[], steps: Step[], patch: Partial<RuleDefinition> = {}): RuleDefinition => ({
  ...blankDefinition(),
  leads,
  steps,
  ...patch
});
const tell = (id: string, patch = {}) => ({
  ...blankTell(id),
  name: id,
  to: [{ who: 'owner' as const }],
  gather: 'per task' as const,
  ...patch
});
const FINISHED = 3;

describe('records and keys', () => {
  it('a second Tell of a rule is not swallowed by the first', async () => {
    ruleOn(workspace, rule([lead(0, 'day')], [tell('first'), tell('second', { subject: 'Second: ‹task›' })]));
    add({ dueDate: '2026-03-05' });
    await moveTo('2026-03-06T00:00Z');
    expect(await mail()).toEqual(['03-05T09:00 ines Task is due today', '03-05T09:00 ines Second: Task']);
  });

  it('a date that goes away and comes back rings what has not rung and repeats nothing that has', async () => {
    ruleOn(workspace, ruleOf([lead(-1, 'day'), lead(0, 'day')]));
    const id = add({ dueDate: '2026-03-06' });
    await moveTo('2026-03-05T10:00Z');
    edit(id, { dueDate: '2026-03-20' });
    await tick();
    edit(id, { dueDate: '2026-03-06' });
    await moveTo('2026-03-07T00:00Z');
    expect(await mail()).toEqual([
      '03-05T09:00 ines Task is due tomorrow',
      '03-06T09:00 ines Task is due today'
    ]);
  });

  it('a lead moved from 08:00 to 10:00 after it rang rings no more', async () => {
    const early = lead(0, 'day', { time: '08:00' });
    const id = ruleOn(workspace, ruleOf([early], { reach: 'any time' }));
    add({ dueDate: '2026-03-05' });
    await moveTo('2026-03-05T09:00Z');
    revise(id, ruleOf([{ ...early, time: '10:00' }], { reach: 'any time' }));
    await moveTo('2026-03-06T00:00Z');
    expect(await mail()).toEqual(['03-05T08:00 ines Task is due today']);
  });

  it('−5 changed to −2 is a new lead: it rings though the old one has', async () => {
    const id = ruleOn(workspace, ruleOf([lead(-5, 'day')]));
    add({ dueDate: '2026-03-10' });
    await moveTo('2026-03-06T00:00Z');
    revise(id, ruleOf([lead(-2, 'day', { id: '-5day' })]));
    await moveTo('2026-03-10T00:00Z');
    // Sunday the 8th is closed, so it rings earlier.
    expect(await mail()).toEqual([
      '03-05T09:00 ines Task is due in 5 days',
      '03-06T09:00 ines Task is due in 4 days'
    ]);
  });

  it('reopening is no new round: what has rung stays rung', async () => {
    ruleOn(workspace, ruleOf([lead(-1, 'day'), lead(0, 'day')]));
    const id = add({ dueDate: '2026-03-06' });
    await moveTo('2026-03-05T10:00Z');
    edit(id, { statusId: FINISHED });
    await tick();
    edit(id, { statusId: 1 });
    await moveTo('2026-03-07T00:00Z');
    expect(await mail()).toEqual([
      '03-05T09:00 ines Task is due tomorrow',
      '03-06T09:00 ines Task is due today'
    ]);
  });

  it('a new owner is told once of the same ring, without its acts being done again', async () => {
    ruleOn(
      workspace,
      rule(
        [lead(0, 'day')],
        [tell('tell'), { ...step('note'), kind: 'do', acts: [{ act: 'comment', text: 'rang' }], ask: null }]
      )
    );
    const id = add({ dueDate: '2026-03-05' });
    await moveTo('2026-03-05T10:00Z');
    edit(id, { ownerId: workspace.people.Nora! });
    await moveTo('2026-03-05T20:00Z');
    // 10:00 UTC is before Halifax opens at 13:00.
    expect(await mail()).toEqual([
      '03-05T09:00 ines Task is due today',
      '03-05T13:00 nora Task is due today'
    ]);
    expect(workspace.container.stores.taskParts.comments(id)).toHaveLength(1);
  });
});

describe('the table of past instants', () => {
  const past = (patch: Partial<RuleDefinition['past']>, leads = [lead(-3, 'day'), lead(-1, 'day')]) => {
    const definition = ruleOf(leads);
    return { ...definition, past: { ...definition.past, ...patch } };
  };

  it('turned on: not rung; by choice the latest, at the next opening', async () => {
    add({ dueDate: '2026-03-06' });
    await tick();
    ruleOn(workspace, past({}, [lead(-3, 'day'), lead(-2, 'day')]));
    ruleOn(workspace, past({ turnedOn: 'latest at the next opening' }, [lead(-3, 'day'), lead(-2, 'day')]));
    await moveTo('2026-03-05T23:00Z');
    expect(await mail()).toEqual(['03-05T09:00 ines Task is due tomorrow']);
    expect(notices(1).sort()).toEqual(['sent', 'unrung: overtaken']);
  });

  it('created inside the lead: the latest in hours; at once; or not', async () => {
    await moveTo('2026-03-05T20:00Z');
    for (const created of ['latest', 'at once', 'do not ring'] as const)
      ruleOn(workspace, { ...past({ created }), steps: [tell('tell', { subject: created })] });
    await tick();
    add({ dueDate: '2026-03-06' });
    await moveTo('2026-03-06T12:00Z');
    expect(await mail()).toEqual(['03-05T20:00 ines at once', '03-06T09:00 ines latest']);
  });

  it('moved into the past: as created, never to whoever moved it; or not', async () => {
    ruleOn(workspace, past({}));
    const [mine, theirs] = [
      add({ dueDate: '2026-03-30' }),
      add({ dueDate: '2026-03-30', ownerId: workspace.people.Salim! })
    ];
    await moveTo('2026-03-05T10:00Z');
    for (const id of [mine, theirs]) edit(id, { dueDate: '2026-03-06' });
    await moveTo('2026-03-05T12:00Z');
    expect(await mail()).toEqual(['03-05T10:00 salim Task is due tomorrow']);
    expect(notices(mine)).toEqual(['unrung: overtaken', 'unrung: already told']);
  });

  it('came true later: until that day ends, until use-by, or not', async () => {
    const high = { ...openWatch(), condition: { field: 'priority', op: 'is', value: 'high' } as const };
    for (const cameTrue of ['that day', 'until use-by', 'do not ring'] as const)
      ruleOn(workspace, {
        ...past({ cameTrue }, [lead(-1, 'day')]),
        watch: high,
        steps: [tell('tell', { subject: cameTrue })]
      });
    const [today, later] = [
      add({ name: 'A', dueDate: '2026-03-06' }),
      add({ name: 'B', dueDate: '2026-03-06' })
    ];
    await moveTo('2026-03-05T11:00Z');
    edit(today, { priority: 'high' });
    await moveTo('2026-03-06T10:00Z');
    edit(later, { priority: 'high' });
    await moveTo('2026-03-06T12:00Z');
    expect((await mail()).sort()).toEqual(
      ['03-05T11:00 ines that day', '03-05T11:00 ines until use-by', '03-06T10:00 ines until use-by'].filter(
        (line) => !line.includes('03-05T11:00 ines until')
      )
    );
  });

  it('the server was down: leaves late while it is young; by choice not', async () => {
    ruleOn(workspace, past({}, [lead(-1, 'day')]));
    ruleOn(workspace, {
      ...past({ down: 'do not ring' }, [lead(-1, 'day')]),
      steps: [tell('tell', { subject: 'not this' })]
    });
    const id = add({ dueDate: '2026-03-06' });
    await tick();
    workspace.container.clock.set(at('2026-03-05T13:00Z'), false);
    await tick();
    await workspace.container.outbox.drain();
    expect(await mail()).toEqual(['03-05T13:00 ines Task is due tomorrow']);
    expect(notices(id).sort()).toEqual(['sent', 'unrung: too late']);
  });

  it('hushed and off: never made up', async () => {
    const ruleId = ruleOn(workspace, ruleOf([lead(-1, 'day'), lead(0, 'day')]));
    const id = add({ dueDate: '2026-03-06' });
    const { quiet, source } = workspace.container;
    const { changeId: _, result: hush } = quiet.hush(
      workspace.coordinator,
      { of: 'task', id },
      '2026-03-05',
      source.facts.workspace.zone
    );
    await moveTo('2026-03-05T12:00Z');
    quiet.unhush(workspace.coordinator, hush);
    await moveTo('2026-03-05T20:00Z');
    expect(notices(id)).toEqual(['unrung: hushed']);
    workspace.container.rules.turnOff(workspace.coordinator, ruleId);
    await moveTo('2026-03-06T12:00Z');
    revise(ruleId, ruleOf([lead(-1, 'day'), lead(0, 'day')]));
    await moveTo('2026-03-07T00:00Z');
    expect(await mail()).toEqual([]);
  });
});

describe('steps', () => {
  it('wait in working days, then create a follow-up once, connected with its source and undone with it (13.2 g)', async () => {
    await workspace.close();
    workspace = await openWorkspace('2026-09-04T07:00:00Z');
    ruleOn(
      workspace,
      rule(
        [lead(0, 'day', { time: '11:00' })],
        [
          tell('tell'),
          {
            ...step('wait'),
            kind: 'wait',
            n: 2,
            unit: 'workday',
            time: '09:00',
            closedDay: 'later',
            regardless: false
          },
          {
            ...step('call'),
            kind: 'do',
            acts: [
              {
                act: 'follow-up',
                name: 'Call about ‹task›',
                description: '',
                owner: { who: 'keeper' },
                due: { from: 'today', n: 1, unit: 'workday' },
                time: null,
                priority: null
              }
            ],
            ask: null
          }
        ],
        // What is followed up is not followed up again: the Watch names its project.
        { watch: { ...openWatch(), phases: ['waiting to start'] } }
      )
    );
    const id = add({ dueDate: '2026-09-04' });
    await moveTo('2026-09-08T08:30Z');
    const { stores } = workspace.container;
    // Friday 4 September and two working days is Tuesday the 8th, 09:00 in Lisbon.
    const links = stores.taskParts.links(id);
    expect(links).toHaveLength(1);
    const made = stores.tasks.byId(2)!;
    expect([made.name, made.ownerId, made.due?.date]).toEqual([
      'Call about Task',
      workspace.people.Ines,
      '2026-09-09'
    ]);
    expect(new Date(made.createdAt).toISOString()).toBe('2026-09-08T08:00:00.000Z');
    const change = stores.taskParts.record(made.id, 5)[0]!;
    expect([change.source, change.title]).toEqual(['rule', expect.stringContaining('creates the follow-up')]);
  });

  it('branch by condition, on what the step before left; its path is in the journal by name', async () => {
    const ruleId = ruleOn(
      workspace,
      rule(
        [lead(0, 'day')],
        [
          { ...step('raise'), kind: 'do', acts: [{ act: 'set priority', priority: 'pressing' }], ask: null },
          {
            ...step('how much'),
            kind: 'branch',
            sides: [
              {
                name: 'it matters',
                condition: { field: 'priority', op: 'is', value: 'pressing' },
                steps: [tell('up', { to: [MANAGER], subject: 'Matters: ‹task›' })]
              }
            ],
            otherwise: [tell('down')]
          }
        ]
      )
    );
    const id = add({ dueDate: '2026-03-05', ownerId: workspace.people.Nora! });
    await moveTo('2026-03-05T14:00Z');
    expect(await mail()).toEqual(['03-05T13:00 ines Matters: Task']);
    const { runs, tasks } = workspace.container.stores;
    const [run] = runs.ofRule(ruleId, 5);
    expect(
      runs.stepsOf(run!.id).map(({ kind, name, output }) => [kind, name, Object.values(output)[0]])
    ).toEqual([
      ['do', 'raise', ['sets the priority to pressing']],
      ['branch', 'how much', 'it matters'],
      ['tell', 'up', ['Ines']]
    ]);
    expect(tasks.byId(id)?.touchedAt).toBe(at('2026-03-05T07:00Z'));
  });

  it('what a run changes itself never makes its own later steps untrue; what others change does', async () => {
    const watch = { ...openWatch(), condition: { field: 'priority', op: 'is', value: 'ordinary' } as const };
    const steps: Step[] = [
      { ...step('raise'), kind: 'do', acts: [{ act: 'set priority', priority: 'high' }], ask: null },
      {
        ...step('wait'),
        kind: 'wait',
        n: 1,
        unit: 'hour',
        time: null,
        closedDay: 'as-is',
        regardless: false
      },
      tell('after', { subject: 'After: ‹task›' })
    ];
    ruleOn(workspace, rule([lead(0, 'day')], steps, { watch }));
    add({ name: 'A', dueDate: '2026-03-05' });
    const other = add({ name: 'B', dueDate: '2026-03-05' });
    await moveTo('2026-03-05T09:30Z');
    edit(other, { priority: 'low' });
    await moveTo('2026-03-05T12:00Z');
    expect(await mail()).toEqual(['03-05T10:00 ines After: A']);
  });

  it('after asking: yes does it, and without an answer what stands after so many working days', async () => {
    const steps: Step[] = [
      {
        ...step('park'),
        kind: 'do',
        acts: [{ act: 'park', review: { from: 'today', n: 7, unit: 'day' } }],
        ask: { question: 'May this be parked?', workingDays: 2, otherwise: 'yes' }
      }
    ];
    ruleOn(workspace, rule([lead(0, 'day')], steps));
    const [answered, silent, kept] = [
      add({ name: 'A', dueDate: '2026-03-05' }),
      add({ name: 'B', dueDate: '2026-03-05' }),
      add({ name: 'C', dueDate: '2026-03-05' })
    ];
    await moveTo('2026-03-05T10:00Z');
    const { stores, handRings } = workspace.container;
    const question = (id: number) => stores.runs.openQuestionsOf(id)[0]!.id;
    handRings.answer(workspace.coordinator, true, question(answered), 'yes');
    handRings.answer(workspace.coordinator, true, question(kept), 'no');
    await tick();
    const aside = () => [answered, silent, kept].map((id) => stores.tasks.byId(id)!.setAside);
    expect(aside()).toEqual(['parked', null, null]);
    await moveTo('2026-03-10T00:00Z');
    expect(aside()).toEqual(['parked', 'parked', null]);
    expect((await mail()).filter((line) => line.includes('May this be parked?'))).toHaveLength(3);
    expect(() => handRings.answer(workspace.coordinator, true, 1, 'no')).toThrow(
      expect.objectContaining({ code: 'question-answered' })
    );
  });

  it('a run keeps the version of the rule that it started with', async () => {
    const steps = (subject: string): Step[] => [
      {
        ...step('wait'),
        kind: 'wait',
        n: 2,
        unit: 'hour',
        time: null,
        closedDay: 'as-is',
        regardless: false
      },
      tell('after', { subject })
    ];
    const id = ruleOn(workspace, rule([lead(0, 'day')], steps('old words')));
    add({ dueDate: '2026-03-05' });
    await moveTo('2026-03-05T10:00Z');
    revise(id, rule([lead(0, 'day')], steps('new words')));
    await moveTo('2026-03-05T12:00Z');
    expect(await mail()).toEqual(['03-05T11:00 ines old words']);
  });
});

describe('gathering (13.2 x, gg; 13.1 nos. 17, 19)', () => {
  it('three tasks of two people are three messages by task and two by person; nobody gets an empty one', async () => {
    const { people } = workspace;
    for (const [i, ownerId] of [people.Ines!, people.Ines!, people.Nora!].entries())
      add({ name: `T${i}`, ownerId, dueDate: '2026-03-06' });
    add({ name: 'T3', ownerId: people.Salim!, dueDate: '2026-03-20' });
    const leads = [lead(0, 'day', { time: '10:00', zone: { of: 'workspace' } })];
    ruleOn(workspace, ruleOf(leads, { reach: 'any time' }), 'each');
    ruleOn(
      workspace,
      ruleOf(leads, { reach: 'any time', gather: 'per recipient', noticeKind: 'escalation' }),
      'gathered'
    );
    await moveTo('2026-03-07T00:00Z');
    expect((await mail()).sort()).toEqual([
      '03-06T10:00 ines 2 tasks need you',
      '03-06T10:00 ines T0 is due today',
      '03-06T10:00 ines T1 is due today',
      '03-06T10:00 nora T2 is due today',
      '03-06T10:00 nora T2 is due today'
    ]);
  });

  it('one to all together has one message with every reader, and 50 rows at most', async () => {
    for (let i = 0; i < 60; i++)
      add({ name: `T${i}`, ownerId: workspace.people[i % 2 ? 'Ines' : 'Nora']!, dueDate: '2026-03-06' });
    ruleOn(
      workspace,
      ruleOf([lead(0, 'day', { zone: { of: 'workspace' } })], { reach: 'any time', gather: 'together' })
    );
    await moveTo('2026-03-07T00:00Z');
    const messages = await received(workspace);
    expect(messages.map(({ subject }) => subject)).toEqual(['60 tasks need you', '60 tasks need you']);
    expect(new Set(messages.map(({ messageId }) => messageId)).size).toBe(1);
  });

  it('three open tasks, one under way and two closed: open means not finished and not closed (13.2 ff)', async () => {
    ruleOn(workspace, ruleOf([lead(0, 'day')]));
    for (const statusId of [1, 1, 1, 2, FINISHED, FINISHED]) add({ statusId, dueDate: '2026-03-05' });
    await moveTo('2026-03-06T00:00Z');
    expect(await mail()).toHaveLength(4);
  });
});

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

  it('with “once per task and date” a renewal found by four Fridays is told once, and a new date re-arms it (13.2 f, 13.1 no. 15)', async () => {
    await workspace.close();
    workspace = await openWorkspace('2026-08-06T07:00:00Z');
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
      'rang for nobody',
      expect.objectContaining({
        looked: 2,
        found: 0,
        messages: 0,
        excluded: [{ test: 'priority is pressing', count: 2 }]
      })
    ]);
    expect(await mail()).toEqual([]);
  });

  it('Monday to Friday for four weeks rings 20 times (13.2 ll)', async () => {
    ruleOn(workspace, ruleOf([{ ...friday, rrule: 'FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR', oncePerDate: false }]));
    add({});
    await moveTo('2026-03-06T23:00Z');
    const before = (await mail()).length;
    await moveTo('2026-04-03T23:00Z');
    expect((await mail()).length - before).toBe(20);
  });

  it('every five minutes for a day is 288 runs, 24 × 60 ÷ 5 (13.2 kk)', async () => {
    await workspace.close();
    workspace = await openWorkspace('2026-03-06T00:02:00Z');
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

  it('50 past records are followed up once each, however often it runs (13.2 w)', async () => {
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

describe('events and chains', () => {
  it('ring in the transaction of the change; an undo takes back what rules did because of it', async () => {
    ruleOn(
      workspace,
      rule(
        [on('finished')],
        [
          { ...step('tag'), kind: 'do', acts: [{ act: 'add tag', tag: 'done' }], ask: null },
          tell('tell', { subject: 'Done: ‹task›' })
        ]
      )
    );
    const id = add({});
    await tick();
    const { changeId } = edit(id, { statusId: FINISHED });
    const { stores, committer } = workspace.container;
    expect(stores.taskParts.tags(id).map(({ name }) => name)).toEqual(['done']);
    committer.undo(changeId, workspace.people.Ines!);
    expect(stores.taskParts.tags(id)).toEqual([]);
    expect(stores.tasks.byId(id)?.phase).toBe('waiting to start');
  });

  it('are not heard from an import or a change of more than 25, unless the lead says so; never from an undo', async () => {
    ruleOn(workspace, rule([on('created')], [tell('few', { subject: 'few' })]));
    ruleOn(
      workspace,
      rule([on('created', { wide: true })], [tell('all', { subject: 'all', noticeKind: 'assigned' })])
    );
    await tick();
    const { committer, tasks } = workspace.container;
    const { changeId } = committer.commit(
      { personId: workspace.people.Ines!, source: 'import' },
      'import',
      (writer) => tasks.insert(writer, taskInput({ ownerId: workspace.people.Ines! }))
    );
    committer.undo(changeId, workspace.people.Ines!);
    await moveTo('2026-03-05T12:00Z');
    expect(await mail()).toEqual([]);
    add({});
    await moveTo('2026-03-05T14:00Z');
    expect((await mail()).map((line) => line.slice(-3)).sort()).toEqual(['all', 'few']);
  });

  it('two rules that set each other off are cut, what was done stays, and the keeper is told with the path', async () => {
    const flip = (from: 'low' | 'high', to: 'low' | 'high') =>
      rule(
        [on('field changed', { id: from, field: 'priority', to: [from] })],
        [{ ...step(to), kind: 'do', acts: [{ act: 'set priority', priority: to }], ask: null }]
      );
    ruleOn(workspace, flip('high', 'low'), 'Down');
    ruleOn(workspace, flip('low', 'high'), 'Up');
    const id = add({});
    await tick();
    edit(id, { priority: 'high' });
    await moveTo('2026-03-05T08:00Z');
    const { stores } = workspace.container;
    expect(stores.tasks.byId(id)?.priority).toBe('high');
    expect((await received(workspace)).map(({ subject }) => subject)).toEqual(['“Down” was stopped']);
    expect(stores.taskParts.record(id, 20).filter(({ source }) => source === 'rule')).toHaveLength(2);
  });

  it('a rule that moves the date it counts from rings itself three times for a task and no more', async () => {
    const steps: Step[] = [
      {
        ...step('on'),
        kind: 'do',
        acts: [{ act: 'set due', date: { from: 'due', n: 1, unit: 'day' }, time: null }],
        ask: null
      }
    ];
    ruleOn(workspace, rule([lead(0, 'day', { closedDay: 'as-is' })], steps));
    const id = add({ dueDate: '2026-03-05' });
    await moveTo('2026-03-20T00:00Z');
    expect(workspace.container.stores.tasks.byId(id)?.due?.date).toBe('2026-03-08');
    expect(workspace.container.stores.tasks.byId(id)?.slips).toBe(3);
  });

  it('a rule that rings itself cannot be turned on', () => {
    const { rules } = workspace.container;
    const { result: id } = rules.add(workspace.coordinator, 'Self', blankDefinition());
    const definition = rule(
      [lead(0, 'day')],
      [{ ...step('again'), kind: 'do', acts: [{ act: 'ring another', ruleId: id }], ask: null }]
    );
    expect(rules.faults({ name: 'Self', description: '', definition }, id).map(({ code }) => code)).toEqual([
      'rule-rings-itself'
    ]);
  });
});

describe('already told', () => {
  it('two rules in one minute are one message with both reasons; one within the hour after is unrung and names the first', async () => {
    const reach = { reach: 'any time' as const };
    ruleOn(workspace, ruleOf([lead(0, 'day', { time: '09:00' })], reach), 'First');
    ruleOn(workspace, ruleOf([lead(0, 'day', { time: '09:00' })], reach), 'Second');
    ruleOn(workspace, ruleOf([lead(0, 'day', { time: '09:40' })], reach), 'Third');
    ruleOn(
      workspace,
      ruleOf([lead(0, 'day', { time: '09:50' })], { ...reach, noticeKind: 'escalation' }),
      'Higher'
    );
    ruleOn(workspace, ruleOf([lead(0, 'day', { time: '09:55' })], { ...reach, force: 'urgent' }), 'Urgent');
    const id = add({ dueDate: '2026-03-05' });
    await moveTo('2026-03-05T12:00Z');
    expect((await mail()).map((line) => line.slice(6, 11))).toEqual(['09:00', '09:50', '09:55']);
    const unrung = workspace.container.stores.notices.ofTask(id).filter(({ state }) => state === 'unrung');
    expect(
      unrung.map(({ reason, why }) => [reason, why.find(({ code }) => code === 'already-told')?.params.rule])
    ).toEqual([['already told', 'First']]);
  });
});

describe('stop, hush, snooze and own choices', () => {
  it('ends after enough notices, on a day, and once a condition holds', async () => {
    const daily = lead(1, 'workday', { repeat: { n: 1, unit: 'workday', most: 9 } });
    const stop = { condition: null, afterNotices: null, until: null };
    ruleOn(workspace, { ...ruleOf([daily], { subject: 'two' }), stop: { ...stop, afterNotices: 2 } });
    ruleOn(workspace, {
      ...ruleOf([daily], { subject: 'until', noticeKind: 'escalation' }),
      stop: { ...stop, until: '2026-03-06' }
    });
    ruleOn(workspace, {
      ...ruleOf([daily], { subject: 'percent', noticeKind: 'finished' }),
      stop: { ...stop, condition: { field: 'percent', op: 'at least', value: 50 } }
    });
    const id = add({ dueDate: '2026-03-04' });
    await moveTo('2026-03-09T12:00Z');
    edit(id, { percent: 60 });
    await moveTo('2026-03-13T00:00Z');
    const count = (word: string) =>
      workspace.container.forecasts &&
      mail().then((lines) => lines.filter((line) => line.endsWith(word)).length);
    expect(await Promise.all(['two', 'until', 'percent'].map(count))).toEqual([2, 2, 3]);
  });

  it('a person’s own “no reminder” wins, unless the rule is a must; snoozed it comes again', async () => {
    ruleOn(workspace, ruleOf([lead(0, 'day')], { subject: 'plain' }));
    ruleOn(workspace, ruleOf([lead(0, 'day', { time: '11:00' })], { subject: 'must', force: 'must' }));
    const id = add({ dueDate: '2026-03-05' });
    const { quiet, stores } = workspace.container;
    quiet.setReminded(workspace.coordinator, id, workspace.people.Ines!, false);
    await moveTo('2026-03-05T12:00Z');
    expect(await mail()).toEqual(['03-05T11:00 ines must']);
    const sent = stores.notices.ofTask(id).find(({ state }) => state === 'sent')!;
    expect(quiet.snooze(workspace.coordinator, sent.id, at('2026-03-05T22:00Z'))).toEqual({ pastDue: true });
    await moveTo('2026-03-06T12:00Z');
    // It passes reach again: 22:00 is held to 09:00.
    expect(await mail()).toEqual(['03-05T11:00 ines must', '03-06T09:00 ines must']);
  });

  it('disabled with one sent and two pending: two are withdrawn, one stays (13.2 y)', async () => {
    const id = ruleOn(workspace, ruleOf([lead(0, 'day'), lead(0, 'hour', { id: 'late' })]));
    const { people } = workspace;
    const sent = add({ dueDate: '2026-03-05' });
    const pending = [people.Salim!, people.Tess!].map((ownerId) =>
      add({ ownerId, dueDate: '2026-03-05', dueTime: '21:00' })
    );
    await moveTo('2026-03-05T19:00Z');
    workspace.container.rules.turnOff(workspace.coordinator, id);
    await moveTo('2026-03-07T00:00Z');
    expect(notices(sent)).toEqual(['sent']);
    expect(pending.flatMap(notices).filter((state) => state.startsWith('withdrawn')).length).toBeGreaterThan(
      0
    );
  });
});

describe('rushes and faulty rules', () => {
  it('a rule about to send far more than was foreseen stops and asks; then it sends, gathers, or does not ring', async () => {
    const ruleId = ruleOn(workspace, ruleOf([lead(-1, 'day')]));
    await tick();
    for (let i = 0; i < 60; i++) add({ name: `T${i}`, dueDate: '2026-03-06' });
    await moveTo('2026-03-05T10:00Z');
    const { stores, handRings } = workspace.container;
    expect((await received(workspace)).map(({ subject }) => subject)).toEqual([
      '“Rule” was about to send 60 messages'
    ]);
    const [rush] = stores.rushes.open();
    expect([rush!.ruleId, rush!.count, rush!.expected]).toEqual([ruleId, 60, 0]);
    handRings.answerRush(workspace.coordinator, rush!.id, 'gather');
    await tick();
    await workspace.container.outbox.drain();
    expect((await mail()).at(-1)).toContain('60 bells: ');
    expect(() => handRings.answerRush(workspace.coordinator, rush!.id, 'send')).toThrow(
      expect.objectContaining({ code: 'rush-answered' })
    );
  });

  it('a rule that names something gone does not ring, its keeper is told, and undo brings it back', async () => {
    const { fields, stores, committer, watchman } = workspace.container;
    const { result: field } = fields.save(workspace.coordinator, {
      id: null,
      name: 'Berth',
      kind: 'text',
      choices: [],
      metByStatusId: null
    });
    const watch = { ...openWatch(), condition: { field: { own: field }, op: 'is empty' } as const };
    const ruleId = ruleOn(workspace, { ...ruleOf([lead(0, 'day')]), watch }, 'Berths');
    expect(watchman.namedBy({ field: () => null }).map(({ name }) => name)).toEqual(['Berths']);
    add({ dueDate: '2026-03-05' });
    const { changeId } = fields.drop(workspace.coordinator, field);
    expect([stores.rules.byId(ruleId)?.state, stores.rules.byId(ruleId)?.fault]).toEqual([
      'faulty',
      expect.stringContaining('a field')
    ]);
    await moveTo('2026-03-05T12:00Z');
    expect((await received(workspace)).map(({ subject }) => subject)).toEqual([
      '“Berths” does not ring any more'
    ]);
    committer.undo(changeId, workspace.people.Ines!);
    expect(stores.rules.byId(ruleId)?.state).toBe('on');
  });
});

describe('what would come too late for the date', () => {
  // An hour before Monday 08:45 is 07:45; Ines opens at 09:00, when the date is over. Her last minute of reach before is Friday 17:00.
  const late = async (ifLate: RuleDefinition['ifLate'], patch: Partial<RuleDefinition> = {}) => {
    ruleOn(workspace, {
      ...ruleOf([lead(-1, 'hour')], { reach: 'working hours', subject: '‹task›' }),
      ifLate,
      ...patch
    });
    const id = add({ dueDate: '2026-03-09', dueTime: '08:45' });
    await tick();
    const viewer = { zone: zoneNamed('Europe/Lisbon'), personId: workspace.people.Ines! };
    const foretold = workspace.container.forecasts
      .ofTask(id, at('2026-03-12T00:00Z'), viewer)
      .map(({ time, why }) => `${time.there} ${why.at(-1)?.text ?? ''}`);
    await moveTo('2026-03-12T00:00Z');
    return { foretold, came: await mail(), ends: notices(id) };
  };

  it('is kept and marked as a late bell', async () => {
    const { came, ends } = await late('keep');
    expect(came).toEqual(['03-09T09:00 ines Task']);
    expect(ends).toEqual(['sent']);
  });

  it('is brought forward to the last minute of reach before its ring instant', async () => {
    const { came, ends, foretold } = await late('forward');
    expect(came).toEqual(['03-06T17:00 ines Task']);
    expect(ends).toEqual(['sent']);
    expect(foretold).toEqual([expect.stringMatching(/^Fri 6 Mar, 17:00 .*brought forward to/)]);
  });

  it('is brought forward before a leave, and kept where that minute is gone', async () => {
    const { people, coordinator, container } = workspace;
    container.people.addLeave(coordinator, people.Ines!, {
      ...{
        fromDate: '2026-03-06',
        fromTime: null,
        untilDate: '2026-03-06',
        untilTime: null,
        standInId: null
      },
      note: ''
    });
    const { came } = await late('forward');
    expect(came).toEqual(['03-05T17:00 ines Task']);
    // Sunday: every minute of reach before Monday 07:45 is over.
    await moveTo('2026-03-15T12:00Z');
    add({ name: 'New', dueDate: '2026-03-16', dueTime: '08:45' });
    await moveTo('2026-03-17T00:00Z');
    expect((await mail()).slice(1)).toEqual(['03-16T09:00 ines New']);
  });

  it('rings at its own time outside reach', async () => {
    const { came } = await late('ring-anyway');
    expect(came).toEqual(['03-09T07:45 ines Task']);
  });

  it('does not ring', async () => {
    const { came, ends } = await late('skip');
    expect(came).toEqual([]);
    expect(ends).toEqual(['unrung: too late']);
  });

  it('is decided anew where a day’s most would carry it past the date', async () => {
    const { people, coordinator, container } = workspace;
    const nothing = { quiet: [], digestDue: null, digestOverdue: null };
    container.people.setQuiet(coordinator, people.Ines!, { ...nothing, dailyCap: 1 });
    const two = async (ifLate: RuleDefinition['ifLate']) => {
      const id = ruleOn(workspace, { ...ruleOf([lead(0, 'day')], { subject: '‹task›' }), ifLate });
      add({ name: 'First', dueDate: '2026-03-05', priority: 'pressing' });
      add({ name: 'Second', dueDate: '2026-03-05' });
      await moveTo('2026-03-06T23:00Z');
      container.rules.turnOff(coordinator, id);
      return mail();
    };
    expect(await two('skip')).toEqual(['03-05T09:00 ines First']);
  });

  it('and where it rings anyway, each message leaves by itself, above the day’s most', async () => {
    const { people, coordinator, container } = workspace;
    const nothing = { quiet: [], digestDue: '08:00', digestOverdue: null };
    container.people.setQuiet(coordinator, people.Ines!, { ...nothing, dailyCap: 1 });
    // Her own digest is another matter.
    container.digests.turn(coordinator, 1, 'off');
    ruleOn(workspace, {
      ...ruleOf([lead(0, 'day')], { gather: 'per task', subject: '‹task›' }),
      ifLate: 'ring-anyway'
    });
    for (const name of ['First', 'Second', 'Third']) add({ name, dueDate: '2026-03-05' });
    await moveTo('2026-03-06T23:00Z');
    expect(await mail()).toEqual(['First', 'Second', 'Third'].map((name) => `03-05T09:00 ines ${name}`));
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

describe('what goes along with a message', () => {
  it('is marked as important and carries the dates as a calendar and the table as CSV', async () => {
    const patch = { importance: 'high' as const, attach: ['calendar' as const, 'table' as const] };
    ruleOn(workspace, ruleOf([lead(0, 'day')], { gather: 'per recipient', ...patch }));
    const first = add({ name: '=HYPERLINK("x"); dates, and commas', dueDate: '2026-03-05' });
    add({ name: 'At four', dueDate: '2026-03-05', dueTime: '16:00' });
    await moveTo('2026-03-05T12:00Z');
    const [message] = await received(workspace);
    const { headers, files } = (await workspace.container.postRoom.message(message!.id))!;
    expect(headers).toMatch(/^Importance: high$/im);
    expect(files!.map(({ name, type }) => `${name} ${type}`)).toEqual([
      'dates.ics text/calendar',
      'tasks.csv text/csv'
    ]);
    const [calendar, table] = files!.map(({ text }) => text);
    // Read back by the libraries that others use.
    const events = new ICAL.Component(ICAL.parse(calendar!) as unknown[]).getAllSubcomponents('vevent');
    expect(events.map((event) => String(event.getFirstPropertyValue('dtstart')))).toEqual([
      '2026-03-05T16:00:00Z',
      '2026-03-05'
    ]);
    expect(events[1]!.getFirstPropertyValue('uid')).toBe(`task-${first}@early-bell`);
    const { data } = Papa.parse<string[]>(table!.trim());
    expect(data[0]).toEqual(['Task', 'Project', 'Due', 'When']);
    // What a spreadsheet would run is defused.
    expect(data[2]![0]).toBe(`'=HYPERLINK("x"); dates, and commas`);
    expect(data.map((row) => row[2]).slice(1)).toEqual(['2026-03-05T16:00:00Z', '2026-03-05']);
  });

  it('a message that is not marked says nothing of importance, and one without dates has no calendar', async () => {
    const [id] = [add({ name: 'Undated' })];
    ruleOn(
      workspace,
      rule([on('commented')], [tell('say', { attach: ['calendar'], to: [{ who: 'owner' }] })])
    );
    workspace.container.taskActs.comment(workspace.coordinator, id!, 'A word');
    await moveTo('2026-03-05T12:00Z');
    const [message] = await received(workspace);
    const { headers, files } = (await workspace.container.postRoom.message(message!.id))!;
    expect(headers).not.toMatch(/importance/i);
    expect(files).toEqual([]);
  });
});

describe('what comes in from people', () => {
  it('titles with HTML and line breaks are escaped, and headers stay one line', async () => {
    ruleOn(workspace, ruleOf([lead(0, 'day')], { gather: 'per recipient' }));
    const name = '<script>alert(1)</script>\r\nBcc: all@test.example';
    add({ name, dueDate: '2026-03-05' });
    add({ name: '<b>two</b>', dueDate: '2026-03-05' });
    await moveTo('2026-03-05T12:00Z');
    const [message] = await received(workspace);
    const { html } = (await workspace.container.postRoom.message(message!.id)) as { html: string };
    expect(message!.to).toEqual(['ines@test.example']);
    expect(html).not.toContain('<script>');
    expect(html).not.toContain('<b>two');
  });

  it('a condition of 200 tests and a body of 100 kB are taken, one more is refused at its part', () => {
    const { rules } = workspace.container;
    const tests = (count: number) => ({
      all: Array.from({ length: count }, () => ({ field: 'name', op: 'contains', value: 'x' }) as const)
    });
    const of = (count: number) => ({
      ...ruleOf([lead(0, 'day')], { body: 'x'.repeat(100_000) }),
      watch: { ...openWatch(), condition: tests(count) }
    });
    expect(rules.faults({ name: 'Large', description: '', definition: of(200) })).toEqual([]);
    expect(rules.faults({ name: 'Large', description: '', definition: of(201) })).toMatchObject([
      { part: 'watch', code: 'rule-too-many-tests' }
    ]);
  });

  it('outside people are told of name, date and project, and nothing else is let through', async () => {
    const { rules } = workspace.container;
    const outside = { to: [{ who: 'address' as const, address: 'Harbour@Supplier.example ' }] };
    const faults = (patch: object) =>
      rules
        .faults({
          name: 'Out',
          description: '',
          definition: ruleOf([lead(0, 'day')], { ...outside, ...patch })
        })
        .map(({ code }) => code);
    expect(faults({})).toEqual(['rule-outside-field']);
    expect(faults({ body: '‹task› on ‹due›', gather: 'per recipient' })).toEqual(['rule-outside-table']);
    expect(faults({ body: '‹task›', gather: 'together', to: [...outside.to, { who: 'owner' }] })).toEqual([
      'rule-outside-together'
    ]);
    ruleOn(
      workspace,
      ruleOf([lead(0, 'day')], { ...outside, subject: '‹task›', body: '‹task› in ‹project›: ‹due›' })
    );
    add({ dueDate: '2026-03-05' });
    await moveTo('2026-03-05T12:00Z');
    const [message] = await received(workspace);
    expect(message!.to).toEqual(['harbour@supplier.example']);
    const { text } = (await workspace.container.postRoom.message(message!.id)) as { text: string };
    expect(text).not.toContain('/tasks/');
  });
});

describe('in order', () => {
  it('a manager in an earlier zone is not told before the owner whose notice is held, and an owner’s leave silences nobody', async () => {
    const both = { to: [{ who: 'owner' as const }, MANAGER] };
    // 06:00 in Halifax is 10:00 UTC; Nora opens at 13:00 UTC, Ines in Lisbon has been at work since 09:00.
    const leads = [lead(0, 'day', { time: '06:00', zone: { of: 'owner' } })];
    ruleOn(workspace, ruleOf(leads, both));
    ruleOn(workspace, {
      ...ruleOf(leads, { ...both, subject: 'loose', noticeKind: 'escalation' }),
      inOrder: false
    });
    add({ ownerId: workspace.people.Nora!, dueDate: '2026-03-05' });
    await moveTo('2026-03-05T23:00Z');
    expect((await mail()).sort()).toEqual([
      '03-05T10:00 ines loose',
      '03-05T13:00 ines Task is due today',
      '03-05T13:00 nora Task is due today',
      '03-05T13:00 nora loose'
    ]);
  });

  it('nothing rings before the first run', async () => {
    ruleOn(workspace, { ...ruleOf([lead(0, 'day')]), firstRun: '2026-03-06T00:00' });
    add({ name: 'A', dueDate: '2026-03-05' });
    add({ name: 'B', dueDate: '2026-03-06' });
    await moveTo('2026-03-07T00:00Z');
    expect(await mail()).toEqual(['03-06T09:00 ines B is due today']);
  });
});
