import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import type { RuleDefinition } from '../../src/lib/core/rule/model.ts';
import type { LeaveInput, QuietInput } from '../../src/lib/server/person/schema.ts';
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

/** People in the running workspace: leave and who stands in, moves, quiet hours, who is told and who is not, sheets, erasing. */
let workspace: TestWorkspace;

beforeEach(async () => {
  workspace = await openWorkspace('2026-03-05T07:40:00Z');
});
afterEach(() => workspace.close());

const at = (iso: string) => Date.parse(iso);
const NOTHING_SET: QuietInput = { quiet: [], dailyCap: null, digestDue: null, digestOverdue: null };

const turnOn = (definition: RuleDefinition) => ruleOn(workspace, definition);

function task(owner: string, dueDate: string, patch: object = {}): number {
  const { tasks } = workspace.container;
  return tasks.add(
    workspace.coordinator,
    taskInput({ name: `Of ${owner}`, ownerId: workspace.people[owner]!, dueDate, ...patch })
  ).result;
}

const leave = (fromDate: string, untilDate: string, standIn: string | null = null): LeaveInput => ({
  fromDate,
  fromTime: null,
  untilDate,
  untilTime: null,
  standInId: standIn === null ? null : workspace.people[standIn]!,
  note: ''
});
const away = (name: string, input: LeaveInput) =>
  workspace.container.people.addLeave(workspace.coordinator, workspace.people[name]!, input);

describe('leave', () => {
  it('hands a notice to the stand-in, in their hours, and the message says for whom', async () => {
    // The case of the design: the owner in Kochi is away from the 9th to the 13th, the stand-in is in Halifax, nine to five.
    turnOn(ruleOf([lead(0, 'day', { time: '09:00' })]));
    task('Meera', '2026-03-09');
    away('Meera', leave('2026-03-09', '2026-03-13', 'Nora'));
    const forecast = workspace.container.forecasts.notices(0, at('2026-03-20T00:00Z'));
    expect(forecast).toMatchObject([
      {
        recipientId: workspace.people.Meera,
        readerId: workspace.people.Nora,
        leavesAt: at('2026-03-09T12:00Z')
      }
    ]);
    await workspace.container.engine.moveClock(at('2026-03-20T00:00Z'));
    const messages = await received(workspace);
    expect(messages).toMatchObject([{ to: ['nora@test.example'], date: at('2026-03-09T12:00Z') }]);
    const { text } = workspace.container.db.prepare('SELECT text FROM message').get() as { text: string };
    expect(text).toMatch(
      /^You are the stand-in for Meera, who is on leave until Saturday 14 March 2026 at 00:00 there\./
    );
    expect(text).toContain('Meera is on leave on Monday 9 March 2026 at 09:00 in Kolkata');
  });

  it('without a stand-in goes to the manager, with “wait” to the first opening after it', async () => {
    turnOn(ruleOf([lead(0, 'day', { time: '09:00' })]));
    turnOn(ruleOf([lead(0, 'day', { time: '09:00' })], { away: 'wait' }));
    task('Salim', '2026-03-09');
    away('Salim', leave('2026-03-08', '2026-03-10'));
    await workspace.container.engine.moveClock(at('2026-03-20T00:00Z'));
    expect((await received(workspace)).map(({ to, date }) => [to[0], new Date(date).toISOString()])).toEqual([
      ['ines@test.example', '2026-03-09T09:00:00.000Z'],
      // Back on Wednesday the 11th, and at work from 08:00 in Muscat.
      ['salim@test.example', '2026-03-11T04:00:00.000Z']
    ]);
  });

  it('that is taken while a notice is held moves it, and undo moves it back', async () => {
    turnOn(ruleOf([lead(-1, 'day', { time: '20:00' })]));
    task('Nora', '2026-03-10');
    const { engine, committer, stores } = workspace.container;
    // It rings on Monday evening and is held to Tuesday morning, in Halifax.
    await engine.moveClock(at('2026-03-10T00:30Z'));
    expect(stores.notices.waiting()).toMatchObject([{ leavesAt: at('2026-03-10T12:00Z'), state: 'held' }]);
    const { changeId } = away('Nora', leave('2026-03-10', '2026-03-12', 'Tess'));
    await engine.tick();
    expect(stores.notices.waiting()).toMatchObject([{ readerId: workspace.people.Tess }]);
    committer.undo(changeId, workspace.people.Ines!);
    await engine.tick();
    expect(stores.notices.waiting()).toMatchObject([
      { leavesAt: at('2026-03-10T12:00Z'), readerId: workspace.people.Nora }
    ]);
  });

  it('is refused when it overlaps, ends before it begins, or has them stand in for themselves', () => {
    away('Nora', leave('2026-03-10', '2026-03-12'));
    const code = (input: LeaveInput) => {
      try {
        away('Nora', input);
        return 'taken';
      } catch (error) {
        return (error as { code: string; field: string }).code;
      }
    };
    expect(code(leave('2026-03-12', '2026-03-14'))).toBe('leave-overlap');
    expect(code({ ...leave('2026-03-12', '2026-03-14'), fromTime: '13:00' })).toBe('leave-overlap');
    expect(code(leave('2026-03-20', '2026-03-19'))).toBe('leave-order');
    expect(code({ ...leave('2026-03-20', '2026-03-20'), fromTime: '13:00', untilTime: '13:00' })).toBe(
      'leave-order'
    );
    expect(code(leave('2026-03-20', '2026-03-21', 'Nora'))).toBe('own-stand-in');
    expect(code(leave('2026-03-13', '2026-03-14'))).toBe('taken');
  });

  it('that leaves a team with nobody says so before it is saved', () => {
    const { people } = workspace.container;
    const warnings = (name: string, input: LeaveInput) =>
      people.leaveWarnings(workspace.people[name]!, input);
    for (const name of ['Nora', 'Salim', 'Tess']) away(name, leave('2026-03-09', '2026-03-13'));
    expect(warnings('Meera', leave('2026-03-11', '2026-03-11', 'Nora'))).toEqual([
      'Everybody in Ines’s people would be on leave.',
      'Nora is on leave too. Notices go to the manager.'
    ]);
    expect(warnings('Meera', leave('2026-03-16', '2026-03-16', 'Nora'))).toEqual([]);
  });
});

describe('a move to another zone', () => {
  it('rings at the same time of day where they are by then', async () => {
    turnOn(ruleOf([lead(0, 'day', { time: '10:00' })]));
    task('Nora', '2026-03-09');
    task('Nora', '2026-03-16');
    const { people, forecasts } = workspace.container;
    people.move(workspace.coordinator, workspace.people.Nora!, { from: '2026-03-12', zone: 'Asia/Kolkata' });
    expect(
      forecasts.notices(0, at('2026-03-20T00:00Z')).map(({ leavesAt }) => new Date(leavesAt).toISOString())
    ).toEqual(['2026-03-09T13:00:00.000Z', '2026-03-16T04:30:00.000Z']);
    people.dropMove(workspace.coordinator, workspace.people.Nora!, '2026-03-12');
    expect(forecasts.notices(0, at('2026-03-20T00:00Z'))[1]).toMatchObject({
      leavesAt: at('2026-03-16T13:00Z')
    });
  });
});

describe('quiet hours', () => {
  it('keep a notice until they end, where the rule goes by them', async () => {
    turnOn(ruleOf([lead(0, 'day', { time: '23:00' })], { reach: 'outside quiet hours' }));
    task('Nora', '2026-03-09');
    task('Tess', '2026-03-09');
    const { people, engine } = workspace.container;
    people.setQuiet(workspace.coordinator, workspace.people.Nora!, {
      ...NOTHING_SET,
      quiet: ['22:00-07:30']
    });
    await engine.moveClock(at('2026-03-12T00:00Z'));
    expect((await received(workspace)).map(({ to, date }) => [to[0], new Date(date).toISOString()])).toEqual([
      // 23:00 in Hobart, where nobody asked for quiet; 07:30 in Halifax the next morning.
      ['tess@test.example', '2026-03-09T12:00:00.000Z'],
      ['nora@test.example', '2026-03-10T10:30:00.000Z']
    ]);
  });
});

describe('a most of messages a day', () => {
  it('keeps what is more for the next opening, where it leaves as one message; the forecast says so', async () => {
    turnOn(ruleOf([lead(0, 'day', { time: '09:00' })]));
    const names = ['Alpha', 'Bravo', 'Cedar', 'Delta'];
    // The earlier date comes first; of equal ones the lower number.
    names.forEach((name) => task('Nora', '2026-03-09', { name }));
    task('Nora', '2026-03-10', { name: 'Ember' });
    const { people, forecasts, engine, stores } = workspace.container;
    people.setQuiet(workspace.coordinator, workspace.people.Nora!, { ...NOTHING_SET, dailyCap: 2 });
    const until = at('2026-03-12T00:00Z');
    const planned = forecasts
      .notices(0, until)
      .map(({ taskId, leavesAt, folded }) => [taskId, leavesAt, folded]);
    const [monday, tuesday] = [at('2026-03-09T12:00Z'), at('2026-03-10T12:00Z')];
    expect(planned).toEqual([
      [1, monday, false],
      [2, monday, false],
      [3, tuesday, true],
      [4, tuesday, true],
      [5, tuesday, false]
    ]);
    await engine.moveClock(at('2026-03-10T00:00Z'));
    expect(stores.notices.waiting()).toMatchObject([
      { taskId: 3, state: 'folded', leavesAt: tuesday },
      { taskId: 4, state: 'folded', leavesAt: tuesday }
    ]);
    // Asked again while they wait, the forecast of the rest is the same.
    expect(
      forecasts.notices(0, until).map(({ taskId, leavesAt, folded }) => [taskId, leavesAt, folded])
    ).toEqual(planned.slice(2));
    await engine.moveClock(until);
    expect((await received(workspace)).map(({ subject, date }) => [subject, date])).toEqual([
      ['Alpha is due today', monday],
      ['Bravo is due today', monday],
      ['2 notices: Cedar is overdue and 1 more', tuesday],
      ['Ember is due today', tuesday]
    ]);
    const text = workspace.container.db
      .prepare(`SELECT text FROM message WHERE subject LIKE '2 notices%'`)
      .pluck()
      .get();
    expect(text).toContain('Your limit of 2 messages a day was reached. The rest is in this message.');
    expect(text).toContain('Nora already has 2 messages on Monday 9 March 2026, the daily limit.');
  });

  it('waits for the digest hour on a working day, due and overdue apart', async () => {
    turnOn(ruleOf([lead(0, 'day', { time: '10:00' })]));
    turnOn(ruleOf([lead(1, 'workday', { time: '10:00' })]));
    // On Friday the 6th: one is due, two are over. Nora may have one message a day; her digests leave at 16:00 and at 08:30.
    task('Nora', '2026-03-06', { name: 'Alpha' });
    task('Nora', '2026-03-06', { name: 'Bravo' });
    task('Nora', '2026-03-05', { name: 'Cedar' });
    const { people, engine, digests } = workspace.container;
    // Without a digest what was put off comes as a message of its own.
    digests.turn(workspace.coordinator, 1, 'off');
    people.setQuiet(workspace.coordinator, workspace.people.Nora!, {
      quiet: [],
      dailyCap: 1,
      digestDue: '16:00',
      digestOverdue: '08:30'
    });
    await engine.moveClock(at('2026-03-09T12:00Z'));
    expect(
      (await received(workspace)).map(({ subject, date }) => [subject, new Date(date).toISOString()])
    ).toEqual([
      ['Cedar is due today', '2026-03-05T14:00:00.000Z'],
      // Cedar is over since Thursday and so comes first; Bravo waits for the afternoon of the same day.
      ['Cedar is overdue', '2026-03-06T14:00:00.000Z'],
      ['2 notices: Alpha is due today and 1 more', '2026-03-06T20:00:00.000Z']
    ]);
  });

  it('gathers three that were held and open together, whoever reads them', async () => {
    turnOn(ruleOf([lead(0, 'day', { time: '06:00' })]));
    for (const name of ['Alpha', 'Bravo', 'Cedar']) task('Tess', '2026-03-10', { name });
    for (const name of ['Delta', 'Ember']) task('Salim', '2026-03-10', { name });
    await workspace.container.engine.moveClock(at('2026-03-12T00:00Z'));
    expect((await received(workspace)).map(({ subject }) => subject)).toEqual([
      '3 notices: Alpha is due today and 2 more',
      'Delta is due today',
      'Ember is due today'
    ]);
    expect([1, 2, 3].map((id) => workspace.container.stores.notices.ofTask(id)[0]!.state)).toEqual([
      'sent',
      'sent',
      'sent'
    ]);
  });

  it('rings what the forecast says, whatever the most, the hours and the leave', async () => {
    const { people, forecasts, engine, clock, stores } = workspace.container;
    turnOn(ruleOf([lead(-1, 'day', { time: '07:00' }), lead(0, 'day', { time: '15:00' }), lead(-3, 'hour')]));
    turnOn(ruleOf([lead(-2, 'workday', { time: '16:30' })], { to: [MANAGER] }));
    const names = ['Ines', 'Nora', 'Salim', 'Meera', 'Tess'];
    for (let i = 0; i < 40; i++)
      task(
        names[i % 5]!,
        `2026-03-${String(9 + (i % 9)).padStart(2, '0')}`,
        i % 4 === 0 ? { dueTime: '11:30' } : {}
      );
    names.forEach((name, i) =>
      people.setQuiet(workspace.coordinator, workspace.people[name]!, {
        ...NOTHING_SET,
        dailyCap: i === 2 ? null : 1 + (i % 3),
        digestDue: i === 3 ? '16:00' : null,
        digestOverdue: i === 1 ? '08:15' : null
      })
    );
    away('Meera', leave('2026-03-10', '2026-03-12', 'Nora'));
    away('Nora', { ...leave('2026-03-11', '2026-03-11', 'Tess'), fromTime: '11:00' });
    const until = at('2026-03-24T00:00Z');
    const planned = forecasts
      .notices(clock.now(), until)
      .map((one) =>
        [
          one.taskId,
          one.leadId,
          one.readerId,
          one.unrung === null ? one.leavesAt : one.ringAt,
          one.unrung
        ].join(' ')
      );
    await engine.moveClock(until);
    const rung = Array.from({ length: 40 }, (_, i) => stores.notices.ofTask(i + 1))
      .flat()
      .map((one) =>
        [
          one.taskId,
          one.leadId,
          one.readerId,
          one.state === 'unrung' ? one.ringAt : one.leavesAt,
          one.reason
        ].join(' ')
      );
    expect(rung.sort()).toEqual(planned.sort());
    expect(planned.length).toBeGreaterThan(80);
  });
});

describe('a private task', () => {
  it('is seen by no rule but one that its owner keeps, and by nobody else', () => {
    const { tasks, stores, forecasts } = workspace.container;
    const nora = { personId: workspace.people.Nora!, source: 'person' as const };
    const { result: id } = tasks.add(
      nora,
      taskInput({ name: 'My own', ownerId: workspace.people.Nora!, dueDate: '2026-03-10', private: true })
    );
    turnOn(ruleOf([lead(-1, 'day')]));
    expect(forecasts.notices(0, at('2026-03-20T00:00Z'))).toEqual([]);
    const seenBy = (personId: number, all: boolean) =>
      stores.tasks.seen([id], { personId, all, reports: [] }).has(id);
    expect([seenBy(workspace.people.Nora!, false), seenBy(workspace.people.Ines!, true)]).toEqual([
      true,
      false
    ]);
    expect(() =>
      tasks.add(workspace.coordinator, taskInput({ ownerId: workspace.people.Nora!, private: true }))
    ).toThrow(expect.objectContaining({ code: 'private-not-yours' }));
  });
});

describe('somebody deactivated', () => {
  it('is told nothing, stands in for nobody and cannot sign in; the last administrator stays', async () => {
    const { people, auth, stores, committer } = workspace.container;
    turnOn(ruleOf([lead(-1, 'day')]));
    task('Nora', '2026-03-10');
    await auth.setPassword(workspace.people.Nora!, 'tide and time');
    const token = await auth.signIn('nora@test.example', 'tide and time', '198.51.100.7');
    people.deactivate(workspace.coordinator, workspace.people.Nora!);
    expect(auth.personOf(token)).toBeNull();
    await expect(auth.signIn('nora@test.example', 'tide and time', '198.51.100.7')).rejects.toMatchObject({
      code: 'sign-in-failed'
    });
    await workspace.container.engine.moveClock(at('2026-03-20T00:00Z'));
    expect(await received(workspace)).toEqual([]);
    expect(stores.notices.ofTask(1)).toMatchObject([{ state: 'unrung', reason: 'never reachable' }]);
    expect(stores.notices.ofTask(1)[0]!.why.at(-1)).toMatchObject({ code: 'deactivated' });

    committer.commit(workspace.coordinator, 'made', (writer) =>
      writer.update('person', workspace.people.Ines!, { role: 'administrator' })
    );
    expect(() => people.deactivate(workspace.coordinator, workspace.people.Ines!)).toThrow(
      expect.objectContaining({ code: 'last-administrator' })
    );
  });
});

describe('clearing the sample data', () => {
  it('leaves the person, their calendar, the settings and the statuses, and an engine that goes on', async () => {
    const { erasing, stores, engine, db, source, digests } = workspace.container;
    turnOn(ruleOf([lead(-1, 'day')]));
    task('Nora', '2026-03-10');
    const { result: digest } = digests.add(workspace.coordinator, digests.blank());
    digests.turn(workspace.coordinator, digest, 'on');
    away('Nora', leave('2026-03-20', '2026-03-21', 'Tess'));
    await engine.moveClock(at('2026-03-11T00:00Z'));
    expect(erasing.clearSample(workspace.people.Ines!)).toEqual({ tasks: 1, people: 4, rules: 1 });
    expect(stores.people.all().map(({ name }) => name)).toEqual(['Ines']);
    // The digest that was there from the start stays.
    expect(stores.digests.all().map(({ name }) => name)).toEqual(['Your day']);
    expect([stores.tasks.count(), stores.rules.made().length, stores.calendars.all().length]).toEqual([
      0, 0, 1
    ]);
    expect(stores.projects.statuses()).toHaveLength(3);
    expect(db.pragma('foreign_key_check')).toEqual([]);
    expect(source.facts.people.size).toBe(1);
    turnOn(ruleOf([lead(-1, 'day')]));
    task('Ines', '2026-03-13');
    await engine.moveClock(at('2026-03-14T00:00Z'));
    expect(stores.notices.ofTask(1)).toMatchObject([{ state: 'sent' }]);
  });
});
