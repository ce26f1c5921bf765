import { describe, expect, it } from 'vitest';
import { lead, ruleOf, ruleOn, taskInput } from '../support/workspace.ts';
import {
  workspace,
  eachOnAMonday,
  move,
  hours,
  add,
  digestOn,
  digestsTo,
  textOf,
  at,
  finish,
  finishedStatus
} from '../support/digests.ts';

eachOnAMonday();

describe('a person’s own digest', () => {
  it('leaves at their hour on their working days, on their own wall, and gathers what concerns them', async () => {
    hours('Meera', '08:00');
    add('Late one', 'Meera', { dueDate: '2026-02-26' });
    add('For today', 'Meera', { dueDate: '2026-03-03' });
    add('Soon', 'Meera', { dueDate: '2026-03-05' });
    add('Someday', 'Meera');
    add('Not hers', 'Salim', { dueDate: '2026-03-03' });
    await move('2026-03-03T12:00:00Z');
    const [first, ...more] = await digestsTo('Meera');
    expect(more).toEqual([]);
    // 08:00 in Kolkata (UTC+5:30, no summer time).
    expect(at(first!)).toBe('2026-03-03T02:30:00.000Z');
    expect(first!.subject).toBe('Your day: 1 overdue, 1 due today');
    const text = await textOf(first!);
    // 26 February was a Thursday; her week has six days: Friday, Saturday, Monday, Tuesday.
    expect(text).toMatch(/OVERDUE \(1\)\s+• Late one[^•]*4 working days overdue/);
    expect(text).toMatch(/DUE TODAY \(1\)\s+• For today/);
    expect(text).toMatch(/DUE IN THE NEXT 3 WORKING DAYS, UNTIL FRI 6 MAR \(1\)\s+• Soon/);
    expect(text).toMatch(/NEWLY ASSIGNED \(1\)\s+• Someday/);
    expect(text).not.toContain('Not hers');
  });

  it('08:00 is another instant in each zone, and closed days and leave are left out', async () => {
    hours('Tess', '08:00');
    hours('Salim', '08:00');
    add('Due there', 'Tess', { dueDate: '2026-03-06' });
    add('Due here', 'Salim', { dueDate: '2026-03-05' });
    const { container, coordinator, people } = workspace;
    const leave = { fromDate: '2026-03-04', fromTime: null, untilDate: '2026-03-04', untilTime: null };
    container.people.addLeave(coordinator, people.Tess!, { ...leave, standInId: null, note: '' });
    await move('2026-03-09T00:00:00Z');
    // Hobart is at UTC+11 in March: 21:00Z of the day before. Wednesday the 4th is her leave, the weekend is closed.
    expect((await digestsTo('Tess')).map(at)).toEqual([
      '2026-03-02T21:00:00.000Z',
      '2026-03-04T21:00:00.000Z',
      '2026-03-05T21:00:00.000Z',
      '2026-03-08T21:00:00.000Z'
    ]);
    // Muscat is at UTC+4 and works from Sunday to Thursday; on Monday the 2nd 08:00 had passed.
    expect((await digestsTo('Salim')).map(at)).toEqual([
      '2026-03-03T04:00:00.000Z',
      '2026-03-04T04:00:00.000Z',
      '2026-03-05T04:00:00.000Z',
      '2026-03-08T04:00:00.000Z'
    ]);
  });

  it('two digests where the hours differ, one where they are equal, none where there is nothing to say', async () => {
    hours('Ines', '08:00', '16:00');
    hours('Nora', '08:00');
    hours('Meera', '08:00');
    add('Late', 'Ines', { dueDate: '2026-02-27' });
    add('Today', 'Ines', { dueDate: '2026-03-02' });
    add('Two', 'Nora', { dueDate: '2026-03-02' });
    add('Rows', 'Nora', { dueDate: '2026-03-02' });
    add('Tomorrow is not today', 'Meera', { dueDate: '2026-04-30' });
    workspace.container.db.prepare('UPDATE task SET assigned_at = 0').run();
    workspace.container.source.invalidate();
    await move('2026-03-02T23:00:00Z');
    const ines = await digestsTo('Ines');
    expect(ines.map(({ subject }) => subject)).toEqual(['Your day: 1 due today', 'Your day: 1 overdue']);
    expect((await digestsTo('Nora')).map(({ subject }) => subject)).toEqual(['Your day: 2 due today']);
    await move('2026-03-03T12:00:00Z');
    expect(await digestsTo('Meera')).toEqual([]);
    const runs = workspace.container.stores.digests.newest(1, 20);
    expect(runs.find(({ readerId }) => readerId === workspace.people.Meera)?.state).toBe('empty');
  });

  it('does not list what was finished, but says that it was, once', async () => {
    hours('Ines', '08:00');
    const id = add('To be done', 'Ines', { dueDate: '2026-03-03' });
    await move('2026-03-02T12:00:00Z');
    finish(id);
    await move('2026-03-03T12:00:00Z');
    await move('2026-03-04T12:00:00Z');
    const [first, second, ...more] = await digestsTo('Ines');
    expect(await textOf(first!)).toMatch(/DUE IN THE NEXT/);
    expect(await textOf(second!)).toMatch(/FINISHED SINCE THE LAST DIGEST \(1\)\s+• To be done/);
    expect(await textOf(second!)).not.toMatch(/DUE/);
    expect(more).toEqual([]);
  });

  it('carries what was folded or lay above the day’s most, and that leaves nowhere else', async () => {
    hours('Ines', '11:00', '11:00', 1);
    ruleOn(workspace, ruleOf([lead(-1, 'day', { time: '09:00' })], { subject: 'Bell: ‹task›' }));
    add('First', 'Ines', { dueDate: '2026-03-04' });
    add('Second', 'Ines', { dueDate: '2026-03-04' });
    await move('2026-03-03T12:00:00Z');
    const messages = await digestsTo('Ines');
    // On Monday at 11:00 the two were due soon; on Tuesday one rang by itself and the other came with the digest.
    expect(messages.map(({ subject }) => subject)).toEqual([
      'Your day: 2 items to look at',
      'Bell: First',
      'Your day: 3 items to look at'
    ]);
    const text = await textOf(messages[2]!);
    expect(text).toMatch(/KEPT FOR THIS DIGEST \(1\)\s+• Bell: Second/);
    const states = workspace.container.db.prepare('SELECT state FROM notice').all();
    expect(states).toEqual([{ state: 'sent' }, { state: 'sent' }]);
  });

  it('done and another date are links in each row of its own', async () => {
    hours('Ines', '08:00');
    const id = add('Pressable', 'Ines', { dueDate: '2026-03-03' });
    await move('2026-03-03T08:00:00Z');
    const text = await textOf((await digestsTo('Ines')).at(-1)!);
    const token = /Done: \S+\/act\/(\S+)/.exec(text)![1]!;
    const { actLinks, stores } = workspace.container;
    expect(actLinks.view(token)).toMatchObject({ act: 'done', task: 'Pressable', reader: 'Ines' });
    expect(actLinks.perform(token, '').words).toBe('“Pressable” is finished.');
    expect(stores.tasks.byId(id)!.phase).toBe('finished');
    expect(() => actLinks.perform(token, '')).toThrow('used');
  });

  it('is made once: a clock that is set back sends none again', async () => {
    hours('Ines', '08:00');
    add('Today', 'Ines', { dueDate: '2026-03-04' });
    await move('2026-03-03T10:00:00Z');
    await move('2026-03-02T07:00:00Z');
    await move('2026-03-03T10:00:00Z');
    expect((await digestsTo('Ines')).map(at)).toEqual([
      '2026-03-02T08:00:00.000Z',
      '2026-03-03T08:00:00.000Z'
    ]);
  });
});

describe('a digest about others’ work', () => {
  it('leaves on its schedule in its own zone, over the change of clocks too, and compares with the last', async () => {
    digestOn({ sections: ['overdue'] });
    add('One', 'Nora', { dueDate: '2026-03-26' });
    add('Two', 'Tess', { dueDate: '2026-03-27' });
    await move('2026-03-27T12:00:00Z');
    await move('2026-03-30T23:00:00Z');
    const messages = (await digestsTo('Ines')).slice(-2);
    // Summer time begins in Lisbon on 29 March 2026: 19:00 is 19:00Z on Friday and 18:00Z on Monday.
    expect(messages.map(at)).toEqual(['2026-03-27T19:00:00.000Z', '2026-03-30T18:00:00.000Z']);
    const [friday, monday] = await Promise.all(messages.map(textOf));
    // Hobart's Friday ended at 13:00Z; Nora's Thursday in Halifax at 03:00Z.
    expect(friday).toContain('• all: 2 overdue');
    expect(monday).toContain('Hello Ines,');
    // On Friday each was in the first band: no working day had begun after Tess's, one after Nora's.
    expect(friday).toMatch(/Tess: 1 overdue[^\n]*\n\s+overdue by under 1 working day: 1/);
    expect(monday).toMatch(/Tess: 1 overdue[^\n]*\n\s+overdue by 1–2 working days: 1/);
  });

  it('for a manager is about everybody below, private work counted and not named; its numbers are those of the tasks', async () => {
    const { container, coordinator, people } = workspace;
    hours('Ines', null);
    const id = digestOn({ to: [{ who: 'managers' }], about: 'reports' }, 'Your team');
    for (const [i, owner] of (['Nora', 'Nora', 'Salim', 'Meera', 'Tess', 'Ines'] as const).entries())
      add(`Task ${i}`, owner, { dueDate: `2026-02-${16 + i * 2}` });
    const secret = { name: 'Secret', ownerId: people.Nora!, dueDate: '2026-02-24', private: true };
    container.tasks.add({ personId: people.Nora!, source: 'person' }, taskInput(secret));
    add('Done', 'Salim', { dueDate: '2026-02-20', statusId: finishedStatus() });
    await move('2026-03-02T23:00:00Z');
    const text = await textOf((await digestsTo('Ines')).at(-1)!);
    // Counted by a query of its own: open work past its date (all dates lie far enough behind in every zone) of others than herself.
    const [{ n }] = container.db
      .prepare(
        `SELECT count(*) AS n FROM task t JOIN status s ON s.id = t.status_id WHERE s.phase NOT IN ('finished', 'closed')
         AND t.due_date < '2026-03-01' AND t.owner_id <> ${people.Ines}`
      )
      .all() as [{ n: number }];
    expect(n).toBe(6);
    expect(text).toContain(`• all: ${n} overdue`);
    expect(text).toContain('• Nora: 3 overdue');
    expect(text).toContain('a private task');
    expect(text).not.toContain('Secret');
    expect(text).not.toContain('Task 5');
    // Nobody’s rows but one’s own can be acted on.
    expect(text).not.toContain('/act/');
    const made = container.digests.preview(coordinator, id, people.Ines!, Date.parse('2026-03-02T19:00Z'));
    expect(made.stages.found).toBe(6);
    expect(made.text.replace(/\/act\/\S+/g, '')).toBe(text);
  });

  it('one to all is one message with each reader named', async () => {
    const { people } = workspace;
    digestOn({
      to: [
        { who: 'person', id: people.Ines! },
        { who: 'person', id: people.Nora! }
      ],
      gather: 'together'
    });
    add('One', 'Tess', { dueDate: '2026-02-27' });
    await move('2026-03-02T23:00:00Z');
    const [mine, ...more] = await digestsTo('Ines');
    expect(more).toEqual([]);
    const [hers] = await digestsTo('Nora');
    expect(hers!.messageId).toBe(mine!.messageId);
    expect(hers!.subject).toBe('Overseers: 1 overdue');
  });

  it('says “all clear” where that is asked for', async () => {
    digestOn({ empty: 'all clear', sections: ['overdue'] });
    await move('2026-03-02T23:00:00Z');
    expect((await digestsTo('Ines')).map(({ subject }) => subject)).toEqual(['Overseers: all clear']);
  });

  it('shows fifty rows of a section and two hundred in all, of five thousand, and counts the rest', async () => {
    const { container, people } = workspace;
    const insert = container.db.prepare(
      `INSERT INTO task (name, owner_id, status_id, due_date, created_at, touched_at, assigned_at) VALUES (?, ?, 1, ?, 0, 0, 0)`
    );
    container.work.run(() => {
      for (let i = 0; i < 5_000; i++)
        insert.run(`Row ${i}`, people.Nora, i % 2 ? '2026-02-27' : '2026-03-02');
    });
    container.source.invalidate();
    digestOn({ attach: ['table'] });
    await move('2026-03-02T23:00:00Z');
    const [mine] = await digestsTo('Ines');
    const text = await textOf(mine!);
    expect(text).toContain('OVERDUE (2500)');
    expect(text).toContain('and 2450 more');
    expect(text.match(/• Row/g)).toHaveLength(100);
  });
});

describe('who cannot read it', () => {
  it('gets none, and the record says why: deactivated, hushed, an empty list; a circle of managers ends', async () => {
    const { container, coordinator, people } = workspace;
    const { result: list } = container.shared.saveReaders(coordinator, null, 'Nobody yet', []);
    const id = digestOn({ to: [{ who: 'readers', id: list }] });
    expect(container.stores.digests.nextOf(id).at).toBeNull();
    const managed = digestOn({ to: [{ who: 'managers' }], about: 'reports', empty: 'all clear' }, 'Circle');
    container.db.prepare('UPDATE person SET manager_id = ? WHERE id = ?').run(people.Nora, people.Ines);
    container.db.prepare('UPDATE person SET manager_id = ? WHERE id = ?').run(people.Ines, people.Nora);
    container.source.invalidate();
    container.quiet.hush(
      coordinator,
      { of: 'person', id: people.Nora! },
      '2026-03-04',
      container.source.facts.workspace.zone
    );
    await move('2026-03-02T23:00:00Z');
    const runs = container.stores.digests.newest(managed, 9);
    expect(runs.map(({ readerId, state, reason }) => [readerId, state, reason])).toContainEqual([
      people.Nora,
      'skipped',
      'hushed'
    ]);
    expect(await digestsTo('Ines')).toHaveLength(1);
    expect(await digestsTo('Nora')).toEqual([]);
  });
});

describe('facts of the trade (common practice, no source)', () => {
  it('19:00 from Monday to Friday at UTC−3 is 22:00Z on the same days; the weekday is that of the place', async () => {
    const when = {
      ...{ by: 'schedule' as const, rrule: 'FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR', start: '2026-03-02' },
      ...{ time: '19:00', zone: 'America/Sao_Paulo', closedDay: 'as-is' as const }
    };
    digestOn({ when, empty: 'all clear' });
    await move('2026-03-10T12:00:00Z');
    // Friday 22:00Z is still Friday there; nothing leaves on Saturday, which begins at 21:00 there by UTC's calendar.
    expect((await digestsTo('Ines')).map(at).sort()).toEqual(
      ['02', '03', '04', '05', '06', '09'].map((day) => `2026-03-${day}T22:00:00.000Z`)
    );
  });

  it('due tomorrow, due today, a day late: what the same task is called on three mornings', async () => {
    hours('Ines', '08:00');
    const id = add('Berth plan', 'Ines', { dueDate: '2026-03-04' });
    await move('2026-03-06T07:00:00Z');
    const texts = await Promise.all((await digestsTo('Ines')).sort((a, b) => a.date - b.date).map(textOf));
    const said = texts.map((text) => /Berth plan\n.*?(due \w+|\d working days? overdue)/s.exec(text)?.[1]);
    expect(said).toEqual(['due in', 'due tomorrow', 'due today', '1 working day overdue']);
    finish(id);
    const after = (await digestsTo('Ines')).length;
    await move('2026-03-10T12:00:00Z');
    // Finished, it is said once that it was, and is late no more.
    const last = (await digestsTo('Ines')).sort((a, b) => a.date - b.date).slice(after);
    expect(last.map(({ subject }) => subject)).toEqual(['Your day: 1 item to look at']);
  });
});
