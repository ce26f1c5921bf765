import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { deskView, moreDeskRows, type RowsAsked } from '../../src/lib/server/desk/desk-views.ts';
import { deskOf } from '../../src/lib/server/desk/desk-of.ts';
import { roundView } from '../../src/lib/server/desk/round-views.ts';
import type { PlaceInput } from '../../src/lib/server/desk/schema.ts';
import type { TaskInput } from '../../src/lib/server/task/schema.ts';
import { adoption } from '../../src/lib/server/desk/adoption.ts';
import { askNow, myPeople } from '../../src/lib/server/desk/my-people.ts';
import type { ScheduleLead } from '../../src/lib/core/rule/lead-model.ts';
import { signedInAs } from '../../src/lib/server/workspace/signed-in.ts';
import { sightOf } from '../../src/lib/server/auth/sight.ts';
import { formatDay, parseDay } from '../../src/lib/core/time/day.ts';
import type { Actor } from '../../src/lib/server/workspace/commit.ts';
import {
  lead,
  openWorkspace,
  received,
  ruleOf,
  ruleOn,
  taskInput,
  type TestWorkspace
} from '../support/workspace.ts';

/** The Desk over the whole application. It is Thursday 5 March 2026, 09:00 in Lisbon; Ines coordinates, Tess works in Hobart, Salim Sunday to Thursday. */
let workspace: TestWorkspace;
beforeEach(async () => (workspace = await openWorkspace('2026-03-05T09:00:00Z')));
afterEach(() => workspace.close());

const person = (name: string) => workspace.people[name]!;
const as = (name: string): Actor => ({ personId: person(name), source: 'person' });
const give = (name: string, input: Partial<TaskInput>) =>
  workspace.container.tasks.add(workspace.coordinator, taskInput({ ownerId: person(name), ...input })).result;
const entryOf = (name: string, id: number) =>
  deskOf(workspace.container, person(name)).entries.find(({ row }) => row.id === id);
const placeOf = (name: string, id: number) => entryOf(name, id)?.place;
const place = (name: string, id: number | number[], to: PlaceInput['to'], rest: Partial<PlaceInput> = {}) =>
  workspace.container.placing.place(as(name), {
    ...{ taskIds: [id].flat(), to, day: null, newDue: null, keepDue: false, asDue: false },
    ...rest
  });
const due = (id: number) => workspace.container.stores.tasks.byId(id)!.due?.date ?? null;
const slips = (id: number) => workspace.container.stores.tasks.byId(id)!.slips;
const move = (at: string) => workspace.container.engine.moveClock(Date.parse(at));
const undo = (changeId: number, name: string) => workspace.container.committer.undo(changeId, person(name));
const view = (name: string, reader = name) =>
  deskView(workspace.container, {
    personId: person(name),
    sight: sightOf(workspace.container.stores.people.byId(person(reader))!, workspace.container.stores),
    rhythm: null
  });
const rows = (name: string, asked: RowsAsked, from = 0) =>
  moreDeskRows(
    workspace.container,
    {
      personId: person(name),
      sight: sightOf(workspace.container.stores.people.byId(person(name))!, workspace.container.stores),
      rhythm: null
    },
    asked,
    from
  );

describe('what came in', () => {
  it('waits to be placed by whoever it was given to; their own dated task does not', () => {
    const given = give('Nora', { dueDate: '2026-03-06' });
    const own = workspace.container.tasks.add(
      as('Nora'),
      taskInput({ ownerId: person('Nora'), dueDate: '2026-03-06' })
    ).result;
    const undated = workspace.container.tasks.add(
      as('Nora'),
      taskInput({ ownerId: person('Nora'), dueDate: null })
    ).result;
    expect([given, own, undated].map((id) => placeOf('Nora', id))).toEqual(['to-place', 'rest', 'to-place']);
  });

  it('is placed by leaving it, by its owner’s act on its date, and by starting it; by nobody else’s', () => {
    const [left, dated, started, others] = [1, 2, 3, 4].map(() =>
      give('Nora', { dueDate: '2026-03-20' })
    ) as [number, number, number, number];
    const { container } = workspace;
    place('Nora', left, 'leave');
    container.tasks.edit(as('Nora'), dated, { dueDate: '2026-03-12' });
    const underWay = container.stores.projects.statuses().find(({ phase }) => phase === 'under way')!;
    container.tasks.edit(as('Nora'), started, { statusId: underWay.id });
    container.tasks.edit(workspace.coordinator, others, { dueDate: '2026-03-12' });
    expect([left, dated, started, others].map((id) => placeOf('Nora', id))).toEqual([
      'further',
      'after',
      'further',
      'to-place'
    ]);
  });

  it('is unplaced for a new owner, and again for one who had it before', () => {
    const { container } = workspace;
    const id = give('Nora', { dueDate: '2026-03-06' });
    place('Nora', id, 'leave');
    container.tasks.edit(workspace.coordinator, id, { ownerId: person('Tess') });
    expect([placeOf('Nora', id), placeOf('Tess', id)]).toEqual([undefined, 'to-place']);
    container.tasks.edit(workspace.coordinator, id, { ownerId: person('Nora') });
    expect(placeOf('Nora', id)).toBe('to-place');
  });

  it('is placed by each of two owners for themselves', () => {
    const id = give('Nora', { dueDate: '2026-03-20', otherOwnerIds: [person('Tess')] });
    place('Nora', id, 'today');
    expect([placeOf('Nora', id), placeOf('Tess', id)]).toEqual(['today', 'to-place']);
    place('Tess', id, 'after');
    expect([placeOf('Nora', id), placeOf('Tess', id)]).toEqual(['today', 'after']);
  });

  it('keeps its place when the coordinator takes a change back that had given it away', () => {
    const { container } = workspace;
    const id = give('Nora', { dueDate: '2026-03-20' });
    place('Nora', id, 'today');
    const { changeId } = container.tasks.edit(workspace.coordinator, id, { ownerId: person('Tess') });
    undo(changeId, 'Ines');
    expect(placeOf('Nora', id)).toBe('today');
  });

  it('says who gave it', () => {
    const id = give('Nora', { dueDate: '2026-03-20' });
    const [row] = view('Nora').toPlace.rows;
    expect(row).toMatchObject({ id, from: 'given by Ines, Thu 5 Mar, 05:00' });
  });
});

describe('a planned day', () => {
  it('is of one person and never the due date; its notices stay', async () => {
    const { container } = workspace;
    ruleOn(workspace, ruleOf([lead(-2, 'day')]), 'Ahead');
    const id = give('Nora', { dueDate: '2026-03-20' });
    await container.engine.tick();
    const before = container.stores.plan.ofTask(id);
    place('Nora', id, 'day', { day: '2026-03-10' });
    await container.engine.tick();
    expect([due(id), slips(id), placeOf('Nora', id)]).toEqual(['2026-03-20', 0, 'after']);
    expect(container.stores.plan.ofTask(id)).toEqual(before);
  });

  it('goes its way by itself: the week after, the rest of the week, Today, and back to be placed', async () => {
    const id = give('Nora', { dueDate: '2026-04-30' });
    place('Nora', id, 'after');
    const seen: (string | undefined)[] = [];
    for (const at of ['2026-03-06T12:00Z', '2026-03-09T12:00Z', '2026-03-13T12:00Z', '2026-03-14T12:00Z']) {
      await move(at);
      seen.push(placeOf('Nora', id));
    }
    expect(seen).toEqual(['after', 'rest', 'today', 'to-place']);
    expect(view('Nora').toPlace.rows[0]!.from).toMatch(/^planned for 9–13 March/);
  });

  it('ends with a new date, whoever gives it', () => {
    const id = give('Nora', { dueDate: '2026-04-30' });
    place('Nora', id, 'today');
    workspace.container.tasks.edit(workspace.coordinator, id, { dueDate: '2026-04-29' });
    expect(placeOf('Nora', id)).toBe('further');
  });

  it('after the due date asks for a new one, and that is a slip', () => {
    const id = give('Nora', { dueDate: '2026-03-06' });
    expect(() => place('Nora', id, 'day', { day: '2026-03-10' })).toThrow('would be late');
    const { result, changeId } = place('Nora', id, 'day', { day: '2026-03-10', newDue: '2026-03-10' });
    expect([due(id), slips(id), result.words]).toEqual([
      '2026-03-10',
      1,
      `“${taskInput({}).name}”: due Tue 10 Mar now.`
    ]);
    undo(changeId, 'Nora');
    expect([due(id), slips(id), placeOf('Nora', id)]).toEqual(['2026-03-06', 0, 'to-place']);
  });

  it('after the due date may keep it: it comes to Today on that date', async () => {
    const id = give('Nora', { dueDate: '2026-03-06' });
    place('Nora', id, 'after', { keepDue: true });
    expect([due(id), placeOf('Nora', id)]).toEqual(['2026-03-06', 'after']);
    await move('2026-03-06T12:00Z');
    expect(placeOf('Nora', id)).toBe('today');
  });

  it('of an undated task is its due date only where that is said', () => {
    const [planned, dated] = [give('Nora', { dueDate: null }), give('Nora', { dueDate: null })];
    place('Nora', planned, 'day', { day: '2026-03-10' });
    place('Nora', dated, 'day', { day: '2026-03-10', asDue: true });
    expect([due(planned), due(dated)]).toEqual([null, '2026-03-10']);
    expect([placeOf('Nora', planned), placeOf('Nora', dated)]).toEqual(['after', 'after']);
  });

  it('of many tasks at once gives a new date to those that are late, in one change', () => {
    const [late, ahead] = [give('Nora', { dueDate: '2026-03-04' }), give('Nora', { dueDate: '2026-03-20' })];
    const { changeId } = place('Nora', [late, ahead], 'day', { day: '2026-03-09', newDue: '2026-03-09' });
    expect([due(late), due(ahead)]).toEqual(['2026-03-09', '2026-03-20']);
    expect([placeOf('Nora', late), placeOf('Nora', ahead)]).toEqual(['after', 'after']);
    undo(changeId, 'Nora');
    expect([due(late), placeOf('Nora', ahead)]).toEqual(['2026-03-04', 'to-place']);
  });

  it('is refused for a day that is past, and for a task that somebody has given away meanwhile', () => {
    const id = give('Nora', { dueDate: '2026-03-20' });
    expect(() => place('Nora', id, 'day', { day: '2026-03-03' })).toThrow('is past');
    workspace.container.tasks.edit(workspace.coordinator, id, { ownerId: person('Tess') });
    expect(() => place('Nora', id, 'today')).toThrow('not on your Desk any more');
  });
});

describe('not mine, and parked', () => {
  it('goes back to whoever gave it, with a word, and waits to be placed there', () => {
    const { container } = workspace;
    const id = give('Nora', { dueDate: '2026-03-20' });
    const { result } = container.placing.giveBack(as('Nora'), id, 'Not my field.');
    expect(result.to?.name).toBe('Ines');
    expect([placeOf('Nora', id), placeOf('Ines', id)]).toEqual([undefined, 'to-place']);
    expect(container.stores.taskParts.comments(id).map(({ text }) => text)).toEqual(['Not my field.']);
  });

  it('that somebody leads with others goes to whoever gave it, and stays with the others', () => {
    const { container } = workspace;
    const id = give('Nora', { dueDate: '2026-03-20', otherOwnerIds: [person('Tess')] });
    container.placing.giveBack(as('Tess'), id, '');
    expect([placeOf('Nora', id), placeOf('Tess', id)]).toEqual(['to-place', undefined]);
  });

  it('stands with whoever parked it, and is to be placed from the first instant of its review date', async () => {
    const { container } = workspace;
    const id = give('Nora', { dueDate: '2026-03-20' });
    container.placing.park(as('Nora'), id, '2026-03-09');
    expect(placeOf('Nora', id)).toBe('parked');
    // Midnight in Halifax; the notice time there, at which the task comes back by itself, is hours away.
    await move('2026-03-09T03:30:00Z');
    expect([placeOf('Nora', id), container.stores.tasks.byId(id)!.setAside]).toEqual(['to-place', 'parked']);
    await move('2026-03-09T18:00:00Z');
    expect([placeOf('Nora', id), container.stores.tasks.byId(id)!.setAside]).toEqual(['to-place', null]);
  });
});

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
    const stores = workspace.container.stores;
    const sight = sightOf(stores.people.byId(person(name))!, stores);
    return roundView(workspace.container, person(name), id, sight, 'placing').choices.find(
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
  const signedIn = (name: string) => {
    const { stores } = workspace.container;
    return signedInAs(stores.people.byId(person(name))!, stores);
  };

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
