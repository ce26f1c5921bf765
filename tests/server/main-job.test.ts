import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import type { RuleDefinition } from '../../src/lib/core/rule/model.ts';
import { shownAt } from '../../src/lib/core/forecast/simulate/plain-rules.ts';
import {
  tasksOf,
  lead,
  openWorkspace,
  received,
  ruleOf,
  ruleOn,
  taskInput,
  type TestWorkspace
} from '../support/workspace.ts';

/** The main job without a browser: import, rule, forecast, clock, message. */
let workspace: TestWorkspace;

beforeEach(async () => {
  workspace = await openWorkspace('2026-03-05T07:40:00Z');
});

afterEach(() => workspace.close());

async function importCsv(
  csv: string | Uint8Array
): Promise<{ created: number; updated: number; changeId: number }> {
  const { imports } = workspace.container;
  const token = await upload(csv);
  const { changeId, result } = await imports.confirm(workspace.coordinator, token);
  return { changeId, ...result };
}

async function upload(csv: string | Uint8Array): Promise<string> {
  const bytes = typeof csv === 'string' ? new TextEncoder().encode(csv) : csv;
  async function* body() {
    yield bytes;
  }
  return workspace.container.imports.upload(workspace.people.Ines!, 'tasks.csv', body());
}

const turnOn = (name: string, definition: RuleDefinition) => ruleOn(workspace, definition, name);

const at = (iso: string) => Date.parse(iso);

describe('the main job', () => {
  it('sends what the forecast says, to the minute, in five zones', async () => {
    await importCsv(
      'Task,Owner,Due,Due time,Project\n' +
        'Tide table,ines@test.example,2026-03-10,,Permits\n' +
        'Buoy 7,Nora,2026-03-10,,Permits\n' +
        'Dive permit,Salim,2026-03-10,,Permits\n' +
        'Gauge log,meera@test.example,2026-03-10,16:00,Permits\n' +
        'Sample box,Tess,2026-03-10,,Permits\n'
    );
    turnOn('Two leads', ruleOf([lead(-2, 'workday', { time: '08:00' }), lead(-1, 'hour')]));
    const { container } = workspace;
    await container.engine.tick();

    const until = at('2026-03-20T00:00:00Z');
    const planned = container.forecasts.notices(container.clock.now(), until);
    await container.engine.moveClock(until);

    const messages = await received(workspace);
    const rung = planned.filter(({ unrung }) => unrung === null);
    expect(messages.map(({ date }) => date)).toEqual(rung.map(shownAt));
    expect(messages.map(({ to }) => to[0])).toEqual(
      rung.map(({ recipientId }) => container.stores.people.byId(recipientId)!.email)
    );

    // Written by hand. Two working days before Tue 10 March is Fri 6 in the west, Thu 5 + Sun 8 in Muscat, Sat 7 in Kochi;
    // 08:00 is before the western and Kochi openings, so it is held to 09:00. An hour before the end of the day is
    // outside everybody's hours and comes late. Halifax changes its clocks on Sunday the 8th.
    const seen = messages.map(
      ({ date, to, subject }) =>
        `${new Date(date).toISOString().slice(0, 16)} ${to[0]!.split('@')[0]} ${subject}`
    );
    expect(seen).toEqual([
      '2026-03-05T22:00 tess Sample box is due in 4 days',
      '2026-03-06T09:00 ines Tide table is due in 4 days',
      '2026-03-06T13:00 nora Buoy 7 is due in 4 days',
      '2026-03-07T03:30 meera Gauge log is due in 3 days',
      '2026-03-08T04:00 salim Dive permit is due in 2 days',
      '2026-03-10T09:30 meera Gauge log is due today',
      '2026-03-10T22:00 tess Sample box is overdue',
      '2026-03-11T04:00 salim Dive permit is overdue',
      '2026-03-11T09:00 ines Tide table is overdue',
      '2026-03-11T12:00 nora Buoy 7 is overdue'
    ]);
    expect(rung.filter(({ lateBell }) => lateBell)).toHaveLength(4);
  });

  it('makes up for the latest past ring of an imported task, and for no other', async () => {
    turnOn('Reminders', ruleOf([lead(-7, 'day'), lead(-1, 'day'), lead(0, 'day', { time: '15:00' })]));
    await workspace.container.engine.tick();
    // Lisbon, Thursday 07:40: before opening, so the caught one leaves at 09:00. Kochi, 13:10: in reach, so at once.
    await importCsv('Task,Owner,Due\nIn Lisbon,Ines,2026-03-05\nIn Kochi,Meera,2026-03-05\n');
    await workspace.container.engine.moveClock(at('2026-03-06T12:00:00Z'));
    const messages = await received(workspace);
    expect(messages.map(({ subject, date }) => [subject, new Date(date).toISOString()])).toEqual([
      ['In Kochi is due today', '2026-03-05T07:40:00.000Z'],
      ['In Lisbon is due today', '2026-03-05T09:00:00.000Z'],
      ['In Kochi is due today', '2026-03-05T09:30:00.000Z'],
      ['In Lisbon is due today', '2026-03-05T15:00:00.000Z']
    ]);
    const ended = workspace.container.stores.notices.ended(0, Infinity);
    expect(ended).toContainEqual({ state: 'unrung', reason: 'overtaken', count: 2 });
  });

  it('does not make up for anything when a rule is turned on', async () => {
    await importCsv('Task,Owner,Due\nIn Kochi,Meera,2026-03-05\n');
    turnOn('Late rule', ruleOf([lead(-1, 'day'), lead(0, 'day', { time: '12:00' })]));
    await workspace.container.engine.moveClock(at('2026-03-06T00:00:00Z'));
    expect(await received(workspace)).toEqual([]);
  });

  it('merges rings that end at the same instant into the one with the latest date', async () => {
    await importCsv('Task,Owner,Due\nWeekend,Ines,2026-03-09\n');
    // Saturday and Sunday both move to Friday 6 March, 09:00.
    turnOn('Both', ruleOf([lead(-2, 'day'), lead(-1, 'day')]));
    await workspace.container.engine.moveClock(at('2026-03-10T00:00:00Z'));
    const messages = await received(workspace);
    expect(messages.map(({ date }) => date)).toEqual([at('2026-03-06T09:00:00Z')]);
    const [task] = tasksOf(workspace, 1);
    const notices = workspace.container.stores.notices.ofTask(task!.id);
    expect(notices.map(({ state, reason }) => `${state} ${reason}`).sort()).toEqual([
      'sent null',
      'unrung same moment'
    ]);
    expect(notices.find(({ state }) => state === 'sent')!.originDay).toBeGreaterThan(
      notices.find(({ state }) => state === 'unrung')!.originDay
    );
  });

  it('rings nothing for what is finished, and withdraws what waits when a date moves', async () => {
    await importCsv('Task,Owner,Due\nDone soon,Ines,2026-03-09\nMoved,Ines,2026-03-09\n');
    // 22:00 on Friday is outside working hours: held until Monday 09:00.
    turnOn('Evening', ruleOf([lead(-3, 'day', { time: '22:00' })]));
    const { engine, stores, tasks } = workspace.container;
    await engine.moveClock(at('2026-03-06T23:00:00Z'));
    const [done, moved] = tasksOf(workspace, 2);
    const input = (task: typeof done) =>
      taskInput({
        name: task!.name,
        ownerId: task!.ownerId,
        statusId: task!.statusId,
        dueDate: '2026-03-09'
      });
    tasks.edit(workspace.coordinator, done!.id, { ...input(done), statusId: 3 });
    tasks.edit(workspace.coordinator, moved!.id, { ...input(moved), dueDate: '2026-04-20' });
    await engine.moveClock(at('2026-03-12T00:00:00Z'));
    expect(await received(workspace)).toEqual([]);
    expect(stores.notices.ofTask(done!.id)).toMatchObject([
      { state: 'withdrawn', reason: 'outside the Watch' }
    ]);
    expect(stores.notices.ofTask(moved!.id)).toMatchObject([{ state: 'withdrawn', reason: 're-dated' }]);
    expect(stores.tasks.byId(moved!.id)).toMatchObject({ slips: 1, originalDue: { date: '2026-03-09' } });
  });

  it('repeats nothing when the clock is set back, or a date goes away and comes back', async () => {
    await importCsv('Task,Owner,Due\nOnce,Ines,2026-03-09\n');
    turnOn('Friday', ruleOf([lead(-3, 'day')]));
    const { engine, tasks } = workspace.container;
    await engine.moveClock(at('2026-03-06T10:00:00Z'));
    expect(await received(workspace)).toHaveLength(1);
    await engine.moveClock(at('2026-03-05T08:00:00Z'));
    const [task] = tasksOf(workspace, 1);
    const input = taskInput({
      name: 'Once',
      ownerId: task!.ownerId,
      statusId: task!.statusId,
      dueDate: '2026-03-30'
    });
    tasks.edit(workspace.coordinator, task!.id, input);
    tasks.edit(workspace.coordinator, task!.id, { ...input, dueDate: '2026-03-09' });
    expect(workspace.container.forecasts.notices(0, at('2026-03-20T00:00:00Z'))).toEqual([]);
    await engine.moveClock(at('2026-03-20T00:00:00Z'));
    expect(await received(workspace)).toHaveLength(1);
  });

  it('keeps trying while the stand-in refuses for now, and gives up on a refusal for good', async () => {
    await importCsv('Task,Owner,Due\nTry,Meera,2026-03-06\n');
    turnOn('Now', ruleOf([lead(0, 'day', { time: '09:00' })]));
    const { engine, outbox, stores, postRoom } = workspace.container;
    await postRoom.setFault('try-later');
    await engine.moveClock(at('2026-03-06T06:00:00Z'));
    expect(stores.deliveries.failing(10)).toMatchObject([{ state: 'queued', attempt: 1 }]);
    workspace.machine.at += 10_000;
    await outbox.drain();
    expect(stores.deliveries.failing(10)).toMatchObject([{ state: 'queued', attempt: 2 }]);
    await postRoom.setFault('none');
    workspace.machine.at += 60_000;
    await outbox.drain();
    expect(stores.deliveries.failing(10)).toEqual([]);
    // However late it was delivered, it carries the moment at which it was due to leave.
    expect((await received(workspace)).map(({ date, copies }) => [date, copies])).toEqual([
      [at('2026-03-06T03:30:00Z'), 1]
    ]);

    await importCsv('Task,Owner,Due\nRefused,Meera,2026-03-07\n');
    await postRoom.setFault('refuse');
    await engine.moveClock(at('2026-03-07T06:00:00Z'));
    const [task] = tasksOf(workspace, 1, { text: 'Refused' });
    expect(stores.notices.ofTask(task!.id)).toMatchObject([{ state: 'failed' }]);
  });

  it('does not send to somebody without an address, and says so', async () => {
    const { committer, engine, stores, forecasts } = workspace.container;
    committer.commit(workspace.coordinator, 'no address', (writer) =>
      writer.update('person', workspace.people.Tess!, { email: null })
    );
    await importCsv('Task,Owner,Due\nSilent,Tess,2026-03-09\n');
    turnOn('Reminder', ruleOf([lead(-1, 'workday')]));
    await engine.tick();
    expect(forecasts.notices(0, at('2026-03-20T00:00:00Z'))).toMatchObject([{ unrung: 'never reachable' }]);
    await engine.moveClock(at('2026-03-20T00:00:00Z'));
    const [task] = tasksOf(workspace, 1);
    expect(stores.notices.ofTask(task!.id)).toMatchObject([
      {
        state: 'unrung',
        reason: 'never reachable',
        why: expect.arrayContaining([expect.objectContaining({ code: 'no-address' })])
      }
    ]);
  });
});

describe('undo', () => {
  it('takes an import back whole, with what it would have rung', async () => {
    const { stores, committer, engine, forecasts } = workspace.container;
    turnOn('Reminder', ruleOf([lead(-1, 'workday')]));
    const { changeId } = await importCsv(
      'Task,Owner,Due,Project\nA,Ines,2026-03-09,New place\nB,Nora,2026-03-10,New place\n'
    );
    await engine.tick();
    expect(forecasts.notices(0, at('2026-03-20T00:00:00Z'))).toHaveLength(2);
    committer.undo(changeId, workspace.people.Ines!);
    await engine.tick();
    expect(stores.tasks.count()).toBe(0);
    expect(stores.projects.all().map(({ name }) => name)).toEqual(['Permits']);
    expect(stores.plan.all()).toEqual([]);
    expect(() => committer.undo(changeId, workspace.people.Ines!)).toThrow(
      expect.objectContaining({ code: 'undo-done' })
    );
  });

  it('keeps what somebody edited later', async () => {
    const { stores, committer, tasks } = workspace.container;
    await importCsv('Task,Owner,Due\nA,Ines,2026-03-09\n');
    const [task] = tasksOf(workspace, 1);
    const input = taskInput({
      name: 'A',
      ownerId: task!.ownerId,
      statusId: task!.statusId,
      dueDate: '2026-03-12'
    });
    const first = tasks.edit(workspace.coordinator, task!.id, { ...input, priority: 'high' });
    tasks.edit(workspace.coordinator, task!.id, { ...input, priority: 'pressing' });
    const { result } = committer.undo(first.changeId, workspace.people.Ines!);
    expect(result.kept).toHaveLength(1);
    expect(stores.tasks.byId(task!.id)).toMatchObject({
      priority: 'pressing',
      due: { date: '2026-03-09' },
      slips: 0
    });
  });
});

describe('import', () => {
  it('updates by key and does not double', async () => {
    await importCsv('Key,Task,Owner,Due\n7,First,Ines,2026-03-09\n');
    const second = await importCsv(
      'Key,Task,Owner,Due\n7,First again,Nora,2026-03-10\n8,New,Nora,2026-03-10\n'
    );
    expect(second).toMatchObject({ created: 1, updated: 1 });
    expect(
      tasksOf(workspace, 9)
        .map(({ name }) => name)
        .sort()
    ).toEqual(['First again', 'New']);
  });

  it('brings reminders and tags along, once however often it is read, and rings them', async () => {
    const csv = 'Key,Task,Owner,Due,Tags,Reminder\n7,First,Ines,2026-03-12,"reef, quay",2 days\n';
    await importCsv(csv);
    await importCsv(csv);
    const { stores } = workspace.container;
    const [task] = tasksOf(workspace, 1);
    expect(stores.taskParts.tags(task!.id).map(({ name }) => name)).toEqual(['quay', 'reef']);
    expect(stores.taskParts.reminders(task!.id)).toMatchObject([
      { personId: null, timing: { anchor: 'due', n: -2, unit: 'day' } }
    ]);
    await workspace.container.engine.tick();
    expect(stores.plan.all().map(({ leadId }) => leadId)).toEqual([expect.stringMatching(/^reminder/)]);
    // A file without these columns leaves them as they are.
    await importCsv('Key,Task,Owner,Due\n7,First again,Ines,2026-03-12\n');
    expect(stores.taskParts.tags(task!.id)).toHaveLength(2);
  });

  it('finds day-first from the column, and asks when nothing decides', async () => {
    const { imports } = workspace.container;
    const decided = await imports.review(
      await upload('Task;Owner;Due\nA;Ines;03/04/2026\nB;Ines;25/04/2026\n'),
      workspace.people.Ines!
    );
    expect(decided).toMatchObject({
      delimiter: ';',
      ambiguousDate: null,
      preview: [{ task: { dueDate: '2026-04-03' } }, {}]
    });
    const token = await upload('Task,Owner,Due\nA,Ines,03/04/2026\n');
    expect(await imports.review(token, workspace.people.Ines!)).toMatchObject({
      ambiguousDate: '03/04/2026'
    });
    await expect(imports.confirm(workspace.coordinator, token)).rejects.toMatchObject({
      code: 'import-dates-ambiguous'
    });
    await imports.review(token, workspace.people.Ines!, { dateOrder: 'month-first' });
    await imports.confirm(workspace.coordinator, token);
    expect(tasksOf(workspace, 1)).toMatchObject([{ due: { date: '2026-03-04' } }]);
  });

  it('names every problem row by its line', async () => {
    const { imports } = workspace.container;
    const csv =
      'Task,Owner,Due,Status,Priority\nGood,Ines,2026-03-09,,\n,Ines,2026-03-09,,\nB,Innes,2026-03-09,,\nC,Ines,2026-02-30,,\nD,Ines,soon,,\nE,Ines,,Almost,\nF,Ines,,,pressng\n';
    const review = await imports.review(await upload(csv), workspace.people.Ines!);
    expect(review).toMatchObject({
      good: 1,
      problemCount: 6,
      names: [{ text: 'Innes' }, { text: 'Almost' }, { text: 'pressng' }]
    });
    expect(review.problems.map(({ line, faults }) => [line, faults[0]!.reason])).toEqual([
      [3, 'There is no task name.'],
      [4, 'No person is named “Innes”. Did you mean Ines?'],
      [5, '2026-02-30 is not a date: February 2026 has 28 days.'],
      [6, '“soon” is not a date. Write year-month-day, like 2026-03-05.'],
      [7, 'There is no status “Almost”. There are To do, Under way, Finished.'],
      [8, 'There is no priority “pressng”. Did you mean pressing?']
    ]);
  });

  it.each([
    ['UTF-8 with a mark', Buffer.from('\uFEFFTask,Owner\nÉtalonner,Ines\n', 'utf8'), 'UTF-8'],
    ['Latin-1', Buffer.from('Task,Owner\nÉtalonner,Ines\n', 'latin1'), 'Latin-1'],
    [
      'UTF-16',
      Buffer.concat([Buffer.from([0xff, 0xfe]), Buffer.from('Task,Owner\nÉtalonner,Ines\n', 'utf16le')]),
      'UTF-16'
    ]
  ])('reads %s', async (_, bytes, encoding) => {
    const review = await workspace.container.imports.review(await upload(bytes), workspace.people.Ines!);
    expect(review).toMatchObject({ encoding, preview: [{ task: { name: 'Étalonner' } }] });
  });

  it.each([
    ['a picture', Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 0, 0]), 'import-not-text'],
    ['nothing', Buffer.from(''), 'import-empty'],
    ['a header alone', Buffer.from('Task,Owner\n'), 'import-header-only'],
    ['too much', Buffer.alloc(20 * 2 ** 20 + 1, 'a'), 'import-too-large'],
    ['too many rows', Buffer.from(`Task\n${'x\n'.repeat(100_001)}`), 'import-too-many-rows']
  ])('refuses %s', async (_, bytes, code) => {
    await expect(upload(bytes)).rejects.toMatchObject({ code });
    expect(workspace.container.stores.tasks.count()).toBe(0);
  });

  it('asks for the column that is missing', async () => {
    const { imports } = workspace.container;
    const token = await upload('What is it,Owner\nA,Ines\n');
    expect(await imports.review(token, workspace.people.Ines!)).toMatchObject({ missing: ['name'], good: 0 });
    await expect(imports.confirm(workspace.coordinator, token)).rejects.toMatchObject({
      code: 'import-column-missing'
    });
    expect(
      await imports.review(token, workspace.people.Ines!, { mapping: { name: 0, owner: 1 } })
    ).toMatchObject({ missing: [], good: 1 });
  });
});

describe('a clock that was put back', () => {
  it('does not send the other of two that rang at one moment', async () => {
    const { container, people } = workspace;
    // Sunday is closed for Meera: the day itself and a working day before it are both Saturday at nine (03:30 UTC).
    const id = container.tasks.add(
      workspace.coordinator,
      taskInput({ name: 'Renew it', ownerId: people.Meera!, dueDate: '2026-03-08' })
    ).result;
    ruleOn(workspace, ruleOf([lead(0, 'day'), lead(-1, 'workday')]));
    await container.engine.moveClock(Date.parse('2026-03-07T12:00:00Z'));
    expect(await received(workspace)).toHaveLength(1);
    await container.engine.moveClock(Date.parse('2026-03-06T12:00:00Z'));
    // A change plans the task anew: what the other spoke for is not ahead again.
    container.tasks.edit(workspace.coordinator, id, { description: 'Ask first.' });
    await container.engine.moveClock(Date.parse('2026-03-07T12:00:00Z'));
    expect(await received(workspace)).toHaveLength(1);
    const states = container.stores.notices.ofTask(id).map(({ state, reason }) => `${state} ${reason ?? ''}`);
    expect(states.sort()).toEqual(['sent ', 'unrung same moment']);
  });
});
