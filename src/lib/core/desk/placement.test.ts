import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { parseCalendar, weekOn, type CalendarSpec } from '../calendar/spec.ts';
import { weekSpanOf } from '../ring/week-spans.ts';
import { formatDay, parseDay, type Day } from '../time/day.ts';
import { formatZoned } from '../time/instant.ts';
import { zoneNamed } from '../time/zone.ts';
import { placeWords } from './place-words.ts';
import { placeOn, placementAt, reasonOn, type DeskPlace, type DeskTask } from './placement.ts';
import { planForDay, planForSpan, startBeside, type LaterSpan, type Plan } from './plan.ts';
import { Wall } from './wall.ts';

const weekOf = (...days: string[]): CalendarSpec => ({
  week: Object.fromEntries(days.map((day) => [day, ['09:00-17:00']]))
});
const OFFICE = weekOf('mon', 'tue', 'wed', 'thu', 'fri');
const GULF = weekOf('sun', 'mon', 'tue', 'wed', 'thu');
const wallIn = (zone: string, calendar: CalendarSpec) => new Wall(zoneNamed(zone), parseCalendar(calendar));
const LISBON = wallIn('Europe/Lisbon', OFFICE);
const MUSCAT = wallIn('Asia/Muscat', GULF);

const OPEN: DeskTask = { state: 'open', reviewOn: null, start: null, due: null, placed: true, plan: null };
const task = (written: Partial<Record<'start' | 'due', string>> & { plan?: Plan }): DeskTask => ({
  ...OPEN,
  start: written.start ? parseDay(written.start) : null,
  due: written.due ? parseDay(written.due) : null,
  plan: written.plan ?? null
});
const on = (written: DeskTask, day: string, wall = LISBON): DeskPlace =>
  placeOn(written, parseDay(day), wall);

/** The table of the design of the Desk: a Monday–Friday person in Lisbon, today Thursday 5 March 2026. */
describe('where a task stands', () => {
  it.each([
    ['2026-03-05', 'today'],
    ['2026-03-04', 'today'],
    ['2026-03-06', 'rest'],
    ['2026-03-07', 'rest'],
    ['2026-03-08', 'rest'],
    ['2026-03-09', 'after'],
    ['2026-03-15', 'after'],
    ['2026-03-16', 'further']
  ])('due %s: %s', (due, place) => {
    expect(on(task({ due }), '2026-03-05')).toBe(place);
  });

  it('goes by the start where that is earlier', () => {
    const started = task({ start: '2026-03-06', due: '2026-03-20' });
    expect(on(started, '2026-03-05')).toBe('rest');
    expect(on(started, '2026-03-06')).toBe('today');
  });

  it('comes a week ahead at the first instant of its day', () => {
    const due = task({ due: '2026-06-22' });
    expect(on(due, '2026-06-14')).toBe('further');
    expect(on(due, '2026-06-15')).toBe('after');
    const before = placementAt(due, Date.parse('2026-06-14T22:59:00Z'), LISBON);
    expect(before.place).toBe('further');
    expect(formatZoned(before.changesAt!, LISBON.zone)).toBe('2026-06-15T00:00:00+01:00[Europe/Lisbon]');
  });

  it('a date that is set to today at noon is today at once, and one of tomorrow from midnight', () => {
    const noon = Date.parse('2026-03-05T12:00Z');
    expect(placementAt(task({ due: '2026-03-05' }), noon, LISBON)).toMatchObject({
      ...{ place: 'today', changesAt: null }
    });
    expect(placementAt(task({ due: '2026-03-06' }), noon, LISBON)).toMatchObject({
      ...{ place: 'rest', changesAt: Date.parse('2026-03-06T00:00Z') }
    });
  });

  it('a day of one’s own ends with the date that is reached', () => {
    const plan = planForSpan('after', parseDay('2026-03-05'), LISBON);
    const early = task({ due: '2026-03-06', plan });
    expect(on(early, '2026-03-05')).toBe('after');
    expect(on(early, '2026-03-06')).toBe('today');
  });

  it('planned for the week after: it wanders through the weeks and comes back once they are over', () => {
    const plan = planForSpan('after', parseDay('2026-03-05'), LISBON);
    const planned = task({ due: '2026-04-30', plan });
    const walk = ['2026-03-05', '2026-03-08', '2026-03-09', '2026-03-12', '2026-03-13', '2026-03-14'];
    expect(walk.map((day) => on(planned, day))).toEqual([
      ...['after', 'after', 'rest', 'rest', 'today', 'to-place']
    ]);
    const reason = reasonOn(planned, parseDay('2026-03-14'));
    expect(placeWords(reason, parseDay('2026-03-14'))).toBe('It was planned for 9–13 March.');
  });

  it('a plan that was made when the work had begun holds against its start; one made before gives way to it', () => {
    const plan = planForDay(parseDay('2026-03-11'), parseDay('2026-03-05'));
    const [start, before, at, after] = ['2026-03-05', '2026-03-04', '2026-03-05', '2026-03-06'].map(
      parseDay
    ) as [number, number, number, number];
    expect([before, at, after, null].map((day) => startBeside(plan, day, start))).toEqual([
      start,
      null,
      null,
      start
    ]);
    expect(startBeside(null, after, start)).toBe(start);
    expect(startBeside(plan, after, null)).toBeNull();
  });

  it('planned for today stays; planned for a date stands there, and comes back after it', () => {
    const today = task({ due: '2026-04-30', plan: { kind: 'today' } });
    expect([on(today, '2026-03-05'), on(today, '2026-03-06')]).toEqual(['today', 'today']);
    const dated = task({ plan: planForDay(parseDay('2026-03-11'), parseDay('2026-03-05')) });
    const walk = ['2026-03-05', '2026-03-10', '2026-03-11', '2026-03-12'];
    expect(walk.map((day) => on(dated, day))).toEqual(['after', 'rest', 'today', 'to-place']);
  });

  it('further out has no end, and never comes to today by itself', () => {
    const far = task({ plan: planForSpan('further', parseDay('2026-03-05'), LISBON) });
    expect(['2026-03-05', '2026-03-09', '2026-03-17', '2026-09-02'].map((day) => on(far, day))).toEqual([
      ...['further', 'after', 'rest', 'rest']
    ]);
  });

  it('a Sunday–Thursday week in Muscat', () => {
    expect(on(task({ due: '2026-03-07' }), '2026-03-05', MUSCAT)).toBe('rest');
    expect(on(task({ due: '2026-03-08' }), '2026-03-05', MUSCAT)).toBe('after');
    const plan = planForSpan('after', parseDay('2026-03-05'), MUSCAT);
    expect(plan).toEqual({ kind: 'days', first: parseDay('2026-03-08'), last: parseDay('2026-03-12') });
  });

  it('what was given is to be placed; what is parked waits for its day; what is over stands apart', () => {
    const given = { ...task({ due: '2026-03-01' }), placed: false };
    expect(placementAt(given, Date.parse('2026-03-05T12:00Z'), LISBON)).toMatchObject({
      ...{ place: 'to-place', changesAt: null }
    });
    const parked: DeskTask = { ...OPEN, state: 'parked', reviewOn: parseDay('2026-03-20') };
    expect([on(parked, '2026-03-19'), on(parked, '2026-03-20')]).toEqual(['parked', 'to-place']);
    expect(on({ ...OPEN, state: 'finished' }, '2026-03-05')).toBe('finished');
    expect(on({ ...OPEN, state: 'closed' }, '2026-03-05')).toBe('none');
    expect(on(OPEN, '2026-03-05')).toBe('undated');
  });

  it('nothing is planned for days that are over', () => {
    // On a Sunday no day is left before the next Monday.
    expect(() => planForSpan('rest', parseDay('2026-03-08'), LISBON)).toThrow('No day of it is left');
    expect(() => planForDay(parseDay('2026-03-04'), parseDay('2026-03-05'))).toThrow('2026-03-04 is past');
    // A Saturday and a Sunday are all that is left: no working weekday, so the last date.
    expect(planForSpan('rest', parseDay('2026-03-06'), LISBON)).toEqual({
      ...{ kind: 'days', first: parseDay('2026-03-07'), last: parseDay('2026-03-08') }
    });
  });
});

describe('days that do not begin at midnight', () => {
  const at = (text: string) => Date.parse(text);

  it('a day that the zone skipped begins with the one after it', () => {
    // Apia went from 29 to 31 December 2011 (tz database, Pacific/Apia).
    const apia = wallIn('Pacific/Apia', OFFICE);
    const due = task({ due: '2011-12-30' });
    const before = placementAt(due, at('2011-12-30T09:00Z'), apia);
    expect(before).toMatchObject({ place: 'rest', changesAt: at('2011-12-30T10:00Z') });
    expect(placementAt(due, before.changesAt!, apia).place).toBe('today');
  });

  it('Cairo’s 24 April 2026 begins at 01:00', () => {
    const cairo = wallIn('Africa/Cairo', GULF);
    const { changesAt } = placementAt(task({ due: '2026-04-24' }), at('2026-04-23T12:00Z'), cairo);
    expect(formatZoned(changesAt!, cairo.zone)).toBe('2026-04-24T01:00:00+03:00[Africa/Cairo]');
  });

  it('a day that has begun does not end because clocks go back over midnight', () => {
    // St John’s went back at 00:01 in November 2010 (tz database, America/St_Johns).
    const stJohns = wallIn('America/St_Johns', OFFICE);
    const began = stJohns.beginningOf(parseDay('2010-11-07'));
    for (const minutes of [0, 1, 30, 61, 90])
      expect(formatDay(stJohns.todayAt(began + minutes * 60_000))).toBe('2010-11-07');
  });
});

/** The same law written without any shortcut: every day is looked at. */
function walked(written: DeskTask, today: Day, wall: Wall, calendar: CalendarSpec): DeskPlace {
  const read = parseCalendar(calendar);
  const span = (day: Day) => weekSpanOf(day, today, weekOn(read, today));
  if (written.state === 'closed') return 'none';
  if (written.state === 'finished') return 'finished';
  if (written.state === 'parked') return today < written.reviewOn! ? 'parked' : 'to-place';
  if (!written.placed) return 'to-place';
  const dates = [written.start, written.due].filter((day) => day !== null);
  const ref = dates.length > 0 ? Math.min(...dates) : null;
  if (ref !== null && ref <= today) return 'today';
  const { plan } = written;
  if (plan?.kind === 'today') return 'today';
  if (plan) {
    if (plan.last !== null && today >= plan.last) return today === plan.last ? 'today' : 'to-place';
    return span(today + 1 > plan.first ? today + 1 : plan.first);
  }
  return ref === null ? 'undated' : span(ref);
}

describe('the next change', () => {
  const FROM = parseDay('2026-01-01');
  const day = fc.integer({ min: FROM - 10, max: FROM + 250 });
  const calendars = [
    ...[OFFICE, GULF, weekOf('mon', 'tue', 'wed', 'thu', 'fri', 'sat'), weekOf('tue', 'thu', 'sat')],
    {
      ...OFFICE,
      weeks: [
        { from: '2026-03-04', week: GULF.week },
        { from: '2026-06-20', week: OFFICE.week }
      ]
    },
    { ...GULF, closed: ['2026-02-02', '2026-05-25'] }
  ];
  const mostly = <T>(usual: T, ...others: T[]) =>
    fc.oneof({ weight: 8, arbitrary: fc.constant(usual) }, ...others.map((one) => fc.constant(one)));
  const anyTask = fc.record({
    state: mostly<DeskTask['state']>('open', 'parked', 'finished', 'closed'),
    start: fc.option(day, { freq: 1 }),
    due: fc.option(day, { freq: 2 }),
    placed: mostly(true, false),
    reviewOn: day,
    planned: fc.constantFrom<'today' | LaterSpan | number | null>(
      ...([null, 'today', 'rest', 'after', 'further', 3, 40] as const)
    )
  });

  it('all the year long a task is in one place, which changes only when that was foretold', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('Europe/Lisbon', 'Asia/Muscat', 'America/Santiago', 'Africa/Cairo', 'Pacific/Apia'),
        fc.constantFrom(...calendars),
        anyTask,
        fc.integer({ min: 0, max: 200 }),
        (zone, calendar, { planned, ...rest }, since) => {
          const wall = wallIn(zone, calendar);
          const today = FROM + since;
          let plan: Plan | null = null;
          if (planned === 'today') plan = { kind: 'today' };
          else if (typeof planned === 'number') plan = planForDay(today + planned, today);
          else if (planned !== null && !(planned === 'rest' && wall.nextWeekAfter(today) === today + 1))
            plan = planForSpan(planned, today, wall);
          const written: DeskTask = { ...rest, plan };
          let foretold = placementAt(written, wall.beginningOf(today), wall);
          for (let next = today; next < today + 366; next++) {
            const begins = wall.beginningOf(next);
            if (foretold.changesAt !== null && begins >= foretold.changesAt) {
              // Not before, and at that very instant.
              expect(begins).toBe(foretold.changesAt);
              const changed = placementAt(written, begins, wall);
              expect(changed.place).not.toBe(foretold.place);
              foretold = changed;
            }
            expect(walked(written, next, wall, calendar)).toBe(foretold.place);
            expect(placementAt(written, begins + 3_600_000, wall).place).toBe(foretold.place);
          }
        }
      ),
      { numRuns: 200 }
    );
  });
});
