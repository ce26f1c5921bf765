import ICAL from 'ical.js';
import fc from 'fast-check';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { parseDay, formatDay } from '../../src/lib/core/time/day.ts';
import { writeCalendarFile } from '../../src/lib/server/in-out/write/calendar-ics.ts';
import type { WeekSpec } from '../../src/lib/core/calendar/spec.ts';
import { readCalendarFile } from '../../src/lib/server/in-out/read/calendar-ics.ts';
import type { CalendarInput } from '../../src/lib/server/calendar/schema.ts';
import { calendarSchema } from '../../src/lib/server/calendar/schema.ts';
import { read } from '../../src/lib/server/input/fields.ts';
import {
  lead,
  openWorkspace,
  received,
  ruleOf,
  ruleOn,
  taskInput,
  type TestWorkspace
} from '../support/workspace.ts';
import { drawn } from '../support/drawn.ts';

/** Calendars in the running workspace, and as files. */

describe('a calendar file that would take long', () => {
  const file = (...events: string[]) =>
    `BEGIN:VCALENDAR\r\nVERSION:2.0\r\n${events.join('')}END:VCALENDAR\r\n`;
  const event = (rule: string, start = '20250101', rest = '') =>
    `BEGIN:VEVENT\r\nDTSTART;VALUE=DATE:${start}\r\n${rest}RRULE:${rule}\r\nEND:VEVENT\r\n`;
  const read = (text: string) => readCalendarFile(text, 2025, 2031);

  it('by rules of seconds, minutes or hours of a day without a time: these close nothing', () => {
    const good = event('FREQ=YEARLY');
    for (const frequency of ['SECONDLY', 'MINUTELY', 'HOURLY'])
      expect(read(file(good, event(`FREQ=${frequency}`)))).toMatchObject({ left: 1, days: { length: 7 } });
  });

  it.each([
    [
      'goes back too far, too often',
      file(...Array.from({ length: 200 }, () => event('FREQ=DAILY', '19000101')))
    ],
    ['closes a year with each of its days', file(event('FREQ=DAILY', '20250101', 'DURATION:P370D\r\n'))],
    [
      'repeats what never comes',
      file(...Array.from({ length: 9 }, () => event('FREQ=DAILY;BYMONTH=2;BYMONTHDAY=30')))
    ],
    ['is too long', file(`X-WR-CALNAME:${'x'.repeat(3_000_000)}\r\n`)],
    [
      'lists too much',
      file(event('FREQ=YEARLY', '20250101', `EXDATE;VALUE=DATE:${'20250101,'.repeat(90_000)}20250101\r\n`))
    ]
  ])('and %s, is refused in words', (_, text) => {
    expect(() => read(text)).toThrow(expect.objectContaining({ code: 'ics-too-long' }));
  });

  it('is read where it goes back a century all the same', () => {
    expect(read(file(event('FREQ=DAILY;INTERVAL=7', '19000101'))).days).toHaveLength(365);
  });
});

describe('a calendar file', () => {
  const event = (...lines: string[]) => `BEGIN:VEVENT\r\nUID:x\r\n${lines.join('\r\n')}\r\nEND:VEVENT\r\n`;
  const file = (...events: string[]) =>
    `BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//test//EN\r\n${events.join('')}END:VCALENDAR\r\n`;
  const dates = (text: string) => readCalendarFile(text, 2026, 2028).days.map(({ date }) => date);

  it('closes the days of its all-day events; DTEND is not included (RFC 5545 §3.6.1)', () => {
    // The two all-day events printed in §3.6.1, given from memory: an anniversary on 2 November from 1997 on, every year.
    expect(dates(file(event('DTSTART;VALUE=DATE:19971102', 'RRULE:FREQ=YEARLY')))).toEqual([
      '2026-11-02',
      '2027-11-02',
      '2028-11-02'
    ]);
    // And a festival from 28 June to 8 July 2007, DTEND 9 July.
    expect(dates(file(event('DTSTART;VALUE=DATE:20070628', 'DTEND;VALUE=DATE:20070709')))).toHaveLength(11);
    expect(dates(file(event('DTSTART;VALUE=DATE:20261224', 'DURATION:P3D')))).toEqual([
      '2026-12-24',
      '2026-12-25',
      '2026-12-26'
    ]);
    expect(
      dates(file(event('DTSTART;VALUE=DATE:20260101', 'RRULE:FREQ=YEARLY', 'EXDATE;VALUE=DATE:20270101')))
    ).toEqual(['2026-01-01', '2028-01-01']);
  });

  it('reads names with what RFC 5545 §3.3.11 escapes, and long lines that are folded', () => {
    const text = file(
      event('DTSTART;VALUE=DATE:20260714', 'SUMMARY:Sea\\, wind\\; and a very\r\n  long name')
    );
    expect(readCalendarFile(text, 2026, 2026).days[0]!.name).toBe('Sea, wind; and a very long name');
  });

  it('leaves out what has a time of day, is cancelled, or cannot be read, and says how many', () => {
    const text = file(
      event('DTSTART;VALUE=DATE:20260714'),
      event('DTSTART:20260715T090000Z', 'DTEND:20260715T100000Z'),
      event('DTSTART;VALUE=DATE:20260716', 'STATUS:CANCELLED'),
      event('SUMMARY:no date'),
      event('DTSTART;VALUE=DATE:20260717', 'RRULE:FREQ=DAILY;BYYEARDAY=3')
    );
    expect(readCalendarFile(text, 2026, 2026)).toMatchObject({ days: [{ date: '2026-07-14' }], left: 4 });
  });

  it.each([
    ['is no calendar', 'hello', 'ics-format'],
    ['is cut off', 'BEGIN:VCALENDAR\r\nBEGIN:VEVENT\r\nDTSTART', 'ics-format'],
    ['has no dates', file(event('DTSTART:20260715T090000Z')), 'ics-no-dates'],
    ['has 20,000 events', file(event('DTSTART;VALUE=DATE:20260714').repeat(20_000)), 'ics-too-many']
  ])('is refused when it %s', (_, text, code) => {
    expect(() => readCalendarFile(text, 2026, 2028)).toThrow(expect.objectContaining({ code }));
  });

  it('that was written is read back the same, and is one that another reader understands', () => {
    const day = fc.record({
      date: fc.integer({ min: parseDay('2000-01-01'), max: parseDay('2040-12-31') }).map(formatDay),
      name: fc.option(
        fc
          .string({ unit: 'grapheme', minLength: 1, maxLength: 90 })
          .map((name) => name.replaceAll(/[\s\p{C}]+/gu, ' ').trim() || 'Day')
      ),
      intervals: fc.constantFrom<string[]>([], ['09:00-13:00'], ['08:00-12:00', '22:00-06:00'])
    });
    const week = fc.constantFrom<WeekSpec>(
      { mon: ['09:00-17:00'] },
      { sun: ['22:00-06:00'], mon: ['08:00-12:00', '13:00-24:00'] }
    );
    const calendar = fc.record({
      name: fc.string({ minLength: 1, maxLength: 40 }),
      week,
      weeks: fc.array(fc.record({ from: fc.constantFrom('2026-04-01', '2027-01-01'), week }), {
        maxLength: 1
      }),
      days: fc.uniqueArray(day, { selector: ({ date }) => date, minLength: 1, maxLength: 12 })
    });
    fc.assert(
      fc.property(calendar, (one) => {
        const text = writeCalendarFile(one, new Date('2026-03-05T07:40:00Z'));
        const back = readCalendarFile(text, 2026, 2028);
        expect(back.days).toEqual([...one.days].sort((a, b) => (a.date < b.date ? -1 : 1)));
        expect(back.weeks).toEqual({ week: one.week, weeks: one.weeks });
        const events = new ICAL.Component(ICAL.parse(text) as unknown[]).getAllSubcomponents('vevent');
        expect(events.map((each) => new ICAL.Event(each).startDate.toString()).sort()).toEqual(
          one.days.map(({ date }) => date).sort()
        );
      }),
      drawn(60)
    );
  });
});

describe('a calendar of the workspace', () => {
  let workspace: TestWorkspace;
  beforeEach(async () => {
    workspace = await openWorkspace('2026-03-05T07:40:00Z');
  });
  afterEach(() => workspace.close());

  const calendarOf = (name: string): CalendarInput & { id: number } =>
    workspace.container.stores.calendars.all().find((calendar) => calendar.name === name)!;
  const closed = (date: string, name: string | null = null) => ({ date, name, intervals: [] });
  const viewer = () => ({ zone: workspace.container.source.facts.workspace.zone, personId: null });
  const effect = (id: number, input: CalendarInput) =>
    workspace.container.effects.of(
      (facts) => ({
        ...facts,
        calendars: facts.calendars.map((one) => (one.id === id ? { id, ...input } : one))
      }),
      viewer()
    );

  function prepare(): void {
    const { tasks } = workspace.container;
    ruleOn(workspace, ruleOf([lead(-2, 'workday', { time: '10:00' })]), 'Ahead');
    tasks.add(
      workspace.coordinator,
      taskInput({ name: 'Permit', ownerId: workspace.people.Meera!, dueDate: '2026-03-11' })
    );
    tasks.add(
      workspace.coordinator,
      taskInput({ name: 'Late', ownerId: workspace.people.Meera!, dueDate: '2026-03-02' })
    );
  }

  it('tells what a holiday would move before it is saved, moves it, and undo brings it back', async () => {
    prepare();
    const { calendars, committer, forecasts, engine } = workspace.container;
    const six = calendarOf('Six days');
    const before = forecasts.notices(0, Date.parse('2026-03-20'));
    expect(before).toMatchObject([{ leavesAt: Date.parse('2026-03-09T04:30Z') }]);
    const withHoliday = { ...six, days: [closed('2026-03-10', 'Harbour day'), closed('2026-03-04')] };
    expect(effect(six.id, withHoliday)).toMatchObject({
      counts: { moved: 1, added: 0, gone: 0, due: 0, ages: 1 },
      lines: [
        { kind: 'ages', task: 'Late', before: '3 working days overdue', after: '2 working days overdue' },
        {
          kind: 'moved',
          task: 'Permit',
          who: 'Meera',
          before: 'Mon 9 Mar, 10:00 Kolkata',
          after: 'Sat 7 Mar, 10:00 Kolkata'
        }
      ]
    });
    expect(forecasts.notices(0, Date.parse('2026-03-20'))).toEqual(before);
    const { changeId } = calendars.save(workspace.coordinator, six.id, withHoliday);
    expect(forecasts.notices(0, Date.parse('2026-03-20'))).toMatchObject([
      { leavesAt: Date.parse('2026-03-07T04:30Z') }
    ]);
    committer.undo(changeId, workspace.people.Ines!);
    expect(forecasts.notices(0, Date.parse('2026-03-20'))).toEqual(before);
    calendars.save(workspace.coordinator, six.id, withHoliday);
    await engine.moveClock(Date.parse('2026-03-12T00:00Z'));
    expect((await received(workspace)).map(({ date }) => date)).toEqual([Date.parse('2026-03-07T04:30Z')]);
  });

  it('has weeks from dates on, each counted in its time', () => {
    prepare();
    const { calendars, forecasts } = workspace.container;
    const six = calendarOf('Six days');
    const open = ['09:00-18:00'];
    const early = { sun: open, mon: open };
    const changed = { ...six, weeks: [{ from: '2026-03-08', week: early }] };
    // Two working days before Wed 11 March are Mon 9 and Sun 8 in the week from the 8th.
    expect(effect(six.id, changed).lines.find(({ kind }) => kind === 'moved')).toMatchObject({
      after: 'Sun 8 Mar, 10:00 Kolkata'
    });
    calendars.save(workspace.coordinator, six.id, changed);
    expect(forecasts.notices(0, Date.parse('2026-03-20'))).toMatchObject([
      { leavesAt: Date.parse('2026-03-08T04:30Z') }
    ]);
    expect(calendars.need(six.id)).toMatchObject({ weeks: [{ from: '2026-03-08', week: early }] });
  });

  it('says nothing of what a rule would make: that is another task after the change', () => {
    prepare();
    const made = ruleOf([lead(-3, 'workday', { time: '10:00' })]);
    const act = {
      ...{
        act: 'follow-up' as const,
        name: 'After ‹task›',
        description: '',
        owner: { who: 'owner' as const }
      },
      ...{ due: { from: 'due' as const, n: 0, unit: 'day' as const }, time: null, priority: null }
    };
    const step = {
      id: 'make',
      kind: 'do' as const,
      name: '',
      description: '',
      leads: null,
      acts: [act],
      ask: null
    };
    ruleOn(workspace, { ...made, steps: [step] }, 'Makes one');
    const six = calendarOf('Six days');
    const { lines } = effect(six.id, { ...six, days: [closed('2026-03-09')] });
    expect(lines.length).toBeGreaterThan(0);
    expect(lines.filter(({ task }) => task.startsWith('After'))).toEqual([]);
  });

  it('moves due moments where the workspace closes them with the business', () => {
    prepare();
    const { settings, stores, effects } = workspace.container;
    const now = stores.settings.workspace()!;
    const { counts } = effects.of(
      (facts) => ({ ...facts, settings: { ...now, endOfDay: 'close' } }),
      viewer()
    );
    expect(counts).toMatchObject({ due: 2 });
    settings.save(workspace.coordinator, { ...now, endOfDay: 'close' });
    const six = calendarOf('Six days');
    const short = { ...six, days: [{ date: '2026-03-11', name: null, intervals: ['09:00-12:00'] }] };
    expect(effect(six.id, short)).toMatchObject({
      counts: { due: 1, moved: 0 },
      lines: [{ before: 'Wed 11 Mar, 18:00 Kolkata', after: 'Wed 11 Mar, 12:00 Kolkata' }]
    });
  });

  it('without working time is refused, by hand and by a file, and one that is used stays', () => {
    const { calendars, stores } = workspace.container;
    const six = calendarOf('Six days');
    expect(() => calendars.save(workspace.coordinator, six.id, { ...six, week: {} })).toThrow(
      expect.objectContaining({
        code: 'calendar-never-open',
        message: expect.stringContaining('A week of “Six days” has no working time') as string
      })
    );
    expect(() => calendars.remove(workspace.coordinator, six.id)).toThrow(
      expect.objectContaining({ code: 'calendar-in-use' })
    );
    const { result: id } = calendars.add(workspace.coordinator, {
      name: 'Spare',
      week: { mon: ['09:00-12:00'] },
      weeks: [],
      days: [closed('2026-01-01')]
    });
    const spare = calendars.need(id);
    const shut = { ...spare, weeks: [{ from: '2026-06-01', week: { mon: [] } }] };
    const never = expect.objectContaining({ code: 'calendar-never-open' }) as Error;
    expect(() => calendars.save(workspace.coordinator, id, shut)).toThrow(never);
    expect(() => calendars.add(workspace.coordinator, { ...spare, week: {} })).toThrow(never);
    expect(() => readCalendarFile(writeCalendarFile(shut, new Date(0)), 2026, 2027)).toThrow(
      'A week of the calendar “Spare” in this file has no working time.'
    );
    calendars.remove(workspace.coordinator, id);
    expect(stores.calendars.byId(id)).toBeNull();
  });

  it.each([
    [
      'a date that does not exist',
      { days: [closed('2026-02-30')] },
      '2026-02-30 is not a date: February 2026 has 28 days.'
    ],
    ['a date twice', { days: [closed('2026-03-04'), closed('2026-03-04')] }, 'A date is there twice.'],
    [
      'two weeks from one date',
      {
        weeks: [
          { from: '2026-03-04', week: {} },
          { from: '2026-03-04', week: {} }
        ]
      },
      'Two weeks start on the same date. Change one.'
    ],
    ['an empty interval', { week: { mon: ['09:00-09:00'] } }, 'starts and ends at the same time'],
    ['no name', { name: ' ' }, 'Give the calendar a name']
  ])('refuses %s', (_, patch, sentence) => {
    const input = read(calendarSchema, { name: 'C', week: {}, weeks: [], days: [], ...patch });
    expect(input.ok ? 'taken' : Object.values(input.errors)[0]).toContain(sentence);
  });
});
