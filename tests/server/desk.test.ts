import { blankDigest, type DigestDefinition } from '../../src/lib/core/digest/model.ts';
import { describe, expect, it } from 'vitest';
import type { ScheduleLead } from '../../src/lib/core/rule/lead-model.ts';
import { formatDay, parseDay } from '../../src/lib/core/time/day.ts';
import { adoption } from '../../src/lib/server/desk/adoption.ts';
import { askNow, myPeople } from '../../src/lib/server/desk/my-people.ts';
import { roundView } from '../../src/lib/server/desk/round-views.ts';
import { waitingFor } from '../../src/lib/server/desk/waiting.ts';
import {
  eachWithDesks,
  as,
  give,
  move,
  person,
  place,
  placeOf,
  rows,
  sight,
  signedIn,
  task,
  undo,
  view,
  workspace
} from '../support/desk.ts';
import { received, ruleOf, ruleOn, taskInput } from '../support/workspace.ts';

/** What a Desk shows, and to whom, over the whole application. */
eachWithDesks();

describe('the page', () => {
  it('shows days of the person’s own week, with holidays and leave', () => {
    const days = view('Salim').weeks.map(({ days: of }) =>
      of.map(({ words, closed }) => `${words}${closed ? ' closed' : ''}`)
    );
    expect(days[0]).toEqual(['Fri 6 closed', 'Sat 7 closed']);
    expect(days[1]!.slice(0, 2)).toEqual(['Sun 8', 'Mon 9']);
  });

  it('has each open task in exactly one place', () => {
    for (const dueDate of [null, '2026-03-01', '2026-03-05', '2026-03-06', '2026-03-12', '2026-05-01']) {
      give('Nora', { dueDate });
      place('Nora', give('Nora', { dueDate }), 'leave');
    }
    const desk = view('Nora');
    const counted =
      desk.toPlace.count +
      desk.tasks.count +
      desk.undated +
      desk.weeks[0]!.count +
      desk.weeks[1]!.count +
      desk.further.count;
    expect(counted).toBe(12);
    expect(desk.weeks[1]!.days.find(({ date }) => date === '2026-03-12')).toMatchObject({ count: 1 });
    expect(rows('Nora', { of: 'day', day: parseDay('2026-03-12') }).count).toBe(1);
    expect(rows('Nora', { of: 'month', month: '2026-05' }).count).toBe(1);
  });

  it('sends at most 120 rows at first, also of 5,000 that come in at once, and the rest part by part', () => {
    const { container } = workspace;
    container.committer.commit(workspace.coordinator, 'many', (writer) => {
      for (let i = 0; i < 5_000; i++)
        container.tasks.insert(
          writer,
          taskInput({ name: `Task ${i}`, ownerId: person('Nora'), dueDate: '2026-03-05' })
        );
    });
    const desk = view('Nora');
    expect(desk.toPlace.count).toBe(5_000);
    expect(desk.toPlace.rows.length + desk.tasks.rows.length).toBeLessThanOrEqual(120);
    const more = rows('Nora', { of: 'to-place' }, 60);
    expect([more.count, more.rows.length]).toEqual([5_000, 60]);
    place(
      'Nora',
      more.rows.map(({ id }) => id),
      'leave'
    );
    expect(view('Nora').tasks.count).toBe(60);
  });

  it('leaves out what is no work, what is called off, and what is closed', () => {
    const { container } = workspace;
    const register = container.committer.commit(workspace.coordinator, 'register', (writer) =>
      writer.insert('project', { name: 'Certificates', register: 1 })
    ).result;
    const entry = give('Nora', { dueDate: '2026-03-05', projectId: register });
    const off = give('Nora', { dueDate: '2026-03-05', projectId: workspace.project });
    container.committer.commit(
      workspace.coordinator,
      'off',
      (writer) => void writer.update('project', workspace.project, { state: 'called off' })
    );
    expect([placeOf('Nora', entry), placeOf('Nora', off)]).toEqual([undefined, undefined]);
  });

  it('says when the first task changes its place by itself', () => {
    place('Nora', give('Nora', { dueDate: '2026-03-06' }), 'leave');
    // Friday begins in Halifax at 04:00Z.
    expect(view('Nora').changesInMs).toBe(
      Date.parse('2026-03-06T04:00:00Z') - Date.parse('2026-03-05T09:00:00Z')
    );
  });

  it('shows no private task to anybody else', () => {
    const { container } = workspace;
    const own = taskInput({
      name: 'A secret',
      ownerId: person('Nora'),
      dueDate: '2026-03-05',
      private: true
    });
    container.tasks.add(as('Nora'), own);
    expect(view('Nora').tasks.rows.map(({ name }) => name)).toEqual(['A secret']);
    expect(JSON.stringify(view('Nora', 'Ines'))).not.toContain('secret');
    expect(view('Nora', 'Ines').readOnly).toBe(true);
  });

  it('stands in the order of its person, as far as they have put it into one', () => {
    const ids = [1, 2, 3].map((i) => give('Nora', { name: `Task ${i}`, dueDate: '2026-03-05' }));
    place('Nora', ids, 'leave');
    workspace.container.placing.order(as('Nora'), [ids[2]!, ids[0]!, ids[1]!]);
    expect(view('Nora').tasks.rows.map(({ id }) => id)).toEqual([ids[2], ids[0], ids[1]]);
  });
});

describe('a round', () => {
  const choice = (name: string, id: number, key: string) => {
    return roundView(workspace.container, person(name), id, sight(name), 'placing').choices.find(
      (one) => one.key === key
    );
  };

  it('counts dates on the person’s own calendar, with leave', () => {
    const { container } = workspace;
    const id = give('Nora', { dueDate: '2026-03-20' });
    expect(choice('Nora', id, 'N')).toMatchObject({ when: 'Fri 6 Mar', day: '2026-03-06', asksDue: false });
    container.committer.commit(workspace.coordinator, 'leave', (writer) => {
      writer.insert('leave', {
        person_id: person('Nora'),
        from_at: '2026-03-06',
        until_at: '2026-03-06',
        stand_in_id: null,
        note: ''
      });
    });
    expect(choice('Nora', id, 'N')).toMatchObject({ when: 'Mon 9 Mar', day: '2026-03-09' });
    expect(choice('Salim', give('Salim', { dueDate: '2026-03-20' }), 'N')).toMatchObject({
      when: 'Sun 8 Mar'
    });
    expect(choice('Salim', give('Salim', { dueDate: '2026-03-20' }), 'W')).toMatchObject({
      when: '8–12 March'
    });
  });

  it('has its keys on the days on which each would put the task, and on none where nobody works', () => {
    const id = give('Nora', { startDate: '2026-03-10', dueDate: '2026-03-30' });
    const keysOn = (kind: 'placing' | 'evening') =>
      roundView(workspace.container, person('Nora'), id, sight('Nora'), kind)
        .days.filter(({ keys }) => keys.length > 0)
        .map(({ words, keys }) => `${words} ${keys.join('')}`);
    expect(keysOn('placing')).toEqual([
      ...['Thu 5 T', 'Fri 6 N', 'Mon 9 W', 'Tue 10 LW'],
      ...['Wed 11 W', 'Thu 12 W', 'Fri 13 W']
    ]);
    expect(keysOn('evening')[0]).toBe('Thu 5 L');
  });

  it('asks for a new due date where the day is after it, and whether it is one where there is none', () => {
    const [late, undated] = [give('Nora', { dueDate: '2026-03-04' }), give('Nora', { dueDate: null })];
    expect(choice('Nora', late, 'T')).toMatchObject({
      asksDue: true,
      newDue: formatDay(parseDay('2026-03-05'))
    });
    expect(choice('Nora', late, 'W')).toMatchObject({ asksDue: true, newDue: '2026-03-13' });
    expect(choice('Nora', undated, 'N')).toMatchObject({
      asksDue: false,
      asksAsDue: true,
      newDue: '2026-03-06'
    });
    expect(choice('Nora', late, 'B')).toMatchObject({ when: 'back to Ines' });
  });
});

describe('those who answer for others', () => {
  it('read the Desk of somebody as they do: that is written down once an hour, and said to them', () => {
    const { container } = workspace;
    expect(() => container.deskReader.view(signedIn('Nora'), person('Tess'), null)).toThrow(
      'Only coordinators'
    );
    container.deskReader.view(signedIn('Ines'), person('Nora'), null);
    container.deskReader.view(signedIn('Ines'), person('Nora'), null);
    const read = container.db.prepare("SELECT count(*) AS n FROM journal WHERE kind = 'desk read'").get();
    expect(read).toEqual({ n: 1 });
    expect(view('Nora').readBy).toBe('Ines read your Desk, Thu 5 Mar, 05:00.');
  });

  it('see their people, and ask one now about a task, once a day', async () => {
    const { container, coordinator } = workspace;
    const late = give('Nora', { name: 'Send the log', dueDate: '2026-03-03' });
    place('Nora', late, 'leave');
    container.committer.commit(coordinator, 'set up', (writer) => {
      writer.update('person', person('Salim'), { role: 'manager' });
      writer.update('person', person('Nora'), { manager_id: person('Salim') });
    });
    const [nora] = myPeople(container, signedIn('Salim'));
    expect(nora).toMatchObject({ name: 'Nora', late: 1, today: 1, toPlace: 0 });
    const said = askNow(container, signedIn('Salim'), late);
    // 13:01 in Muscat is a minute from now: a reminder for a moment waits for nobody’s working time.
    expect(said.message).toBe('Nora is asked about “Send the log”, Thu 5 Mar, 13:01.');
    expect(() => askNow(container, signedIn('Salim'), late)).toThrow('today already');
    await move('2026-03-05T09:01:00Z');
    const mails = (await received(workspace)).filter(({ to }) => to.includes('nora@test.example'));
    expect(mails.map(({ subject }) => subject)).toEqual([expect.stringContaining('Send the log')]);
  });

  it('are told whose tasks are not placed for over two working days, and who does not look', async () => {
    const { container } = workspace;
    give('Nora', { dueDate: '2026-04-20' });
    container.placing.look(person('Nora'));
    const of = () => adoption(container, signedIn('Ines').viewer);
    expect(of().unplaced).toEqual([]);
    // Given on Thursday: Friday, Monday and Tuesday have begun.
    await move('2026-03-09T22:00:00Z');
    expect(of().unplaced).toEqual([]);
    await move('2026-03-10T12:00:00Z');
    expect(of()).toMatchObject({ unplaced: [{ name: 'Nora', count: 1 }], tasks: 1, away: [] });
    await move('2026-03-20T12:00:00Z');
    expect(of().away.map(({ name, last }) => [name, last])).toEqual([['Nora', 'last on Thu 5 Mar']]);
  });

  it('can be told in a digest of what its owner has not placed', async () => {
    const { container, coordinator } = workspace;
    const definition: DigestDefinition = {
      ...blankDigest(),
      when: {
        ...{ by: 'schedule', rrule: 'FREQ=DAILY', start: '2026-03-05' },
        ...{ time: '12:00', zone: 'UTC', closedDay: 'as-is' }
      },
      to: [{ who: 'person', id: person('Ines') }],
      about: 'everybody',
      sections: ['not placed']
    };
    const digest = container.digests.add(coordinator, { name: 'Waits', description: '', definition });
    container.digests.turn(coordinator, digest.result, 'on');
    give('Nora', { name: 'Grease the winch', dueDate: '2026-04-20' });
    place('Nora', give('Nora', { name: 'Wash the deck', dueDate: '2026-04-20' }), 'leave');
    await move('2026-03-09T22:00:00Z');
    expect(await received(workspace)).toEqual([]);
    await move('2026-03-10T12:01:00Z');
    const [mail, ...others] = await received(workspace);
    expect(others).toEqual([]);
    const { text } = (await container.postRoom.message(mail!.id))!;
    expect(text).toContain('NOT PLACED BY ITS OWNER FOR OVER 2 WORKING DAYS (1)');
    expect(text).toContain('Grease the winch');
    expect(text).not.toContain('Wash the deck');
  });

  it('can be told by a rule of what its owner has not placed', async () => {
    const { container } = workspace;
    const daily: ScheduleLead = {
      ...{ kind: 'schedule', id: 'daily', on: true, only: null, zone: { of: 'owner' } },
      ...{ rrule: 'FREQ=DAILY', start: '2026-03-02', time: '10:00', closedDay: 'skip', oncePerDate: false }
    };
    const watch = { field: 'working days not placed', op: 'at least', value: 2 } as const;
    ruleOn(
      workspace,
      { ...ruleOf([daily]), watch: { ...ruleOf([daily]).watch, condition: watch } },
      'Not placed'
    );
    const [waits, placed] = [
      give('Nora', { name: 'Waits', dueDate: '2026-04-20' }),
      give('Nora', { name: 'Placed', dueDate: '2026-04-20' })
    ];
    place('Nora', placed, 'leave');
    await move('2026-03-09T23:00:00Z');
    const told = container.db
      .prepare(
        "SELECT DISTINCT g.subject_id AS id, date(g.ring_at / 1000, 'unixepoch') AS day FROM notice n JOIN ring g ON g.id = n.ring_id WHERE n.state = 'sent'"
      )
      .all();
    expect(told).toEqual([{ id: waits, day: '2026-03-09' }]);
  });
});

describe('what waits for a word', () => {
  it('names a promise that ends today, as long as its task is open', () => {
    const { container } = workspace;
    const id = give('Nora', { dueDate: '2026-03-04' });
    const nora = container.source.facts.people.get(person('Nora'))!;
    container.promises.acknowledge(as('Nora'), container.stores.tasks.byId(id)!, nora, '2026-03-05');
    const who = signedIn('Nora');
    expect(waitingFor(container, who).map(({ kind, taskId }) => [kind, taskId])).toEqual([['promise', id]]);
    const finished = container.stores.projects.statuses().find(({ phase }) => phase === 'finished')!;
    container.tasks.edit(as('Nora'), id, { statusId: finished.id });
    expect(waitingFor(container, who)).toEqual([]);
  });
});
describe('what is kept besides tasks', () => {
  it('a line is nobody else’s, becomes a task, and comes back with undo', () => {
    const { container } = workspace;
    const { result: id, changeId } = container.deskThings.keep(as('Nora'), 'Ask about the paint');
    expect(container.deskThings.view(signedIn('Ines')).captures).toEqual([]);
    expect(() => container.deskThings.discard(as('Ines'), id)).toThrow('not there any more');
    const by = { personId: person('Ines'), sight: sight('Ines'), may: signedIn('Ines').may };
    expect(() => container.undo.undo(changeId, by)).toThrow();
    const made = container.deskThings.makeTask(as('Nora'), id);
    expect([task(made.result).name, placeOf('Nora', made.result)]).toEqual([
      'Ask about the paint',
      'to-place'
    ]);
    undo(made.changeId, 'Nora');
    expect(container.deskThings.view(signedIn('Nora')).captures.map(({ text }) => text)).toEqual([
      'Ask about the paint'
    ]);
  });

  it('a task that is typed begins as its person has set it, and the line says so before', () => {
    const { container } = workspace;
    container.deskThings.setHabit(as('Salim'), { private: true, mine: true, dueDays: 2, dueUnit: 'workday' });
    // Sunday and Monday are the next two working days in Muscat.
    expect(container.quickAdd.read('Send the log', person('Salim')).sentence).toBe(
      '“Send the log”, due Monday 9 March 2026, as you have set it, yours, private, as you have set it.'
    );
    const { result } = container.quickAdd.add(as('Salim'), 'Send the log');
    expect(task(result.id)).toMatchObject({ private: true, due: { date: '2026-03-09' } });
    const { result: given } = container.quickAdd.add(as('Salim'), 'Send the log, for Nora, tomorrow');
    expect(task(given.id)).toMatchObject({ private: false, due: { date: '2026-03-06' } });
  });

  it('a list is counted on the Desks of a group by whoever coordinates, where it is everybody’s', () => {
    const { container, coordinator } = workspace;
    const group = container.committer.commit(coordinator, 'group', (writer) => {
      const id = writer.insert('team_group', { name: 'Harbour' });
      writer.insert('group_member', { group_id: id, person_id: person('Nora') });
      return id;
    }).result;
    const save = (shared: boolean) =>
      container.savedLists.save(coordinator, { name: `L${shared}`, query: '', shared, counted: false })
        .result;
    const [own, shared] = [save(false), save(true)];
    give('Nora', { dueDate: '2026-03-20' });
    expect(() => container.deskThings.pin(coordinator, own, group)).toThrow('Share it');
    expect(() => container.deskThings.pin(as('Nora'), shared, group)).toThrow();
    container.deskThings.pin(coordinator, shared, group);
    expect(container.deskThings.view(signedIn('Nora')).tallies).toMatchObject([
      { count: 1, group: 'Harbour' }
    ]);
    expect(container.deskThings.view(signedIn('Tess')).tallies).toEqual([]);
  });
});
