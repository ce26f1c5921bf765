import Papa from 'papaparse';
import ICAL from 'ical.js';
import { describe, expect, it } from 'vitest';
import { openWatch } from '../../src/lib/core/rule/model.ts';
import type { Step, Tell } from '../../src/lib/core/rule/step-model.ts';
import { MANAGER, lead, received, ruleOf, ruleOn } from '../support/workspace.ts';
import {
  FINISHED,
  add,
  anotherWorkspace,
  at,
  eachInAWorkspace,
  edit,
  mail,
  moveTo,
  on,
  revise,
  rule,
  step,
  tell,
  tick,
  workspace
} from '../support/rules.ts';

/** What the steps of a rule do, and what leaves by them. */
eachInAWorkspace();

describe('steps', () => {
  it('wait in working days, then create a follow-up once, connected with its source and undone with it', async () => {
    await anotherWorkspace('2026-09-04T07:00:00Z');
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
    const question = (id: number) => stores.questions.openOf(id)[0]!.id;
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

describe('gathering', () => {
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
      '03-06T10:00 ines 2 tasks to look at',
      '03-06T10:00 ines T0 is due today',
      '03-06T10:00 ines T1 is due today',
      '03-06T10:00 nora T2 is due today',
      '03-06T10:00 nora T2 is due today'
    ]);
  });

  it('what a manager owns stands apart from the late work of others, which says whose it is', async () => {
    const { people } = workspace;
    add({ name: 'Mine', ownerId: people.Ines!, dueDate: '2026-03-06' });
    add({ name: 'Of Nora', ownerId: people.Nora!, dueDate: '2026-03-06' });
    add({ name: 'Of Nora too', ownerId: people.Nora!, dueDate: '2026-03-06' });
    const leads = [lead(0, 'day', { zone: { of: 'workspace' } })];
    const to: Tell['to'] = [{ who: 'owner' }, MANAGER];
    ruleOn(workspace, ruleOf(leads, { reach: 'any time', gather: 'per recipient', to }));
    await moveTo('2026-03-07T00:00Z');
    const messages = await received(workspace);
    const textTo = async (who: string) => {
      const { id } = messages.find(({ to }) => to.join().includes(who))!;
      const answer = await fetch(`http://127.0.0.1:${workspace.standIn.httpPort}/messages/${id}`);
      return ((await answer.json()) as { text: string }).text;
    };
    const lines = (await textTo('ines'))
      .split(/\r?\n/)
      .filter((line) => /^(•|Yours|Of others| {2}Nora)/.test(line));
    expect(lines).toEqual([
      'Yours (1)',
      '• Mine',
      'Of others (2)',
      '• Of Nora',
      expect.stringMatching(/^ {2}Nora · /),
      '• Of Nora too',
      expect.stringMatching(/^ {2}Nora · /)
    ]);
    expect(await textTo('nora')).not.toMatch(/Yours|Of others|· Nora/);
  });

  it('a task of somebody else is named with its owner, one’s own without', async () => {
    const { people } = workspace;
    add({ name: 'Tide tables', ownerId: people.Nora!, dueDate: '2026-03-06' });
    const to: Tell['to'] = [{ who: 'owner' }, MANAGER];
    ruleOn(
      workspace,
      ruleOf([lead(0, 'day', { time: '10:00', zone: { of: 'workspace' } })], { reach: 'any time', to })
    );
    await moveTo('2026-03-07T00:00Z');
    expect((await mail()).sort()).toEqual([
      '03-06T10:00 ines Tide tables of Nora is due today',
      '03-06T10:00 nora Tide tables is due today'
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
    expect(messages.map(({ subject }) => subject)).toEqual(['60 tasks to look at', '60 tasks to look at']);
    expect(new Set(messages.map(({ messageId }) => messageId)).size).toBe(1);
  });

  it('three open tasks, one under way and two closed: open means not finished and not closed', async () => {
    ruleOn(workspace, ruleOf([lead(0, 'day')]));
    for (const statusId of [1, 1, 1, 2, FINISHED, FINISHED]) add({ statusId, dueDate: '2026-03-05' });
    await moveTo('2026-03-06T00:00Z');
    expect(await mail()).toHaveLength(4);
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
    workspace.container.taskActs.comment(workspace.coordinator, id, 'A word');
    await moveTo('2026-03-05T12:00Z');
    const [message] = await received(workspace);
    const { headers, files } = (await workspace.container.postRoom.message(message!.id))!;
    expect(headers).not.toMatch(/importance/i);
    expect(files).toEqual([]);
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
      '03-05T13:00 ines Task of Nora is due today',
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
