import { dayFromParts, daysInMonth, formatDay, partsOfDay, type Day } from '../../core/time/day.ts';
import { clockTime, longDay, monthWords, shortDay, shortMoment } from '../../core/time/format.ts';
import { placeOfZone } from '../../core/time/zone-names.ts';
import type { DeskPlace } from '../../core/desk/placement.ts';
import {
  RHYTHMS,
  type DeskDayLine,
  type DeskMonth,
  type DeskRows,
  type DeskView,
  type DeskWeek,
  type Rhythm
} from '../../view/desk.ts';
import type { Sight } from '../store/tasks.ts';
import { closeOf, dayView, hoursOf } from './desk-days.ts';
import { deskOf, isAhead, isLate, type Desk, type DeskEntry, type DeskServices } from './desk-of.ts';
import { deskRows, inOrder, isHeavy, newestFirst } from './desk-rows.ts';

/** So many rows of each part come with the page; the rest on a press. */
const FIRST_ROWS = { toPlace: 30, today: 50, noDay: 5 };
const MORE_ROWS = 60;

/** Who looks at a Desk, and what of it. */
export interface DeskAsked {
  /** Whose Desk it is. */
  personId: number;
  /** Of whoever looks; another than the person sees no private task, and changes nothing. */
  sight: Sight;
  rhythm: Rhythm | null;
}

/** @throws CodedError `person-gone` */
export function deskView(app: DeskServices, asked: DeskAsked): DeskView {
  const { personId, sight } = asked;
  const whole = seen(app, deskOf(app, personId), asked);
  const rhythms = new Set(whole.entries.map(({ rhythm }) => rhythm));
  const desk = ofRhythm(whole, asked.rhythm);
  const { person, wall, now, today } = desk;
  const at = (place: DeskPlace) => desk.entries.filter((entry) => entry.place === place);
  const part = (entries: DeskEntry[], most: number): DeskRows => ({
    count: entries.length,
    rows: deskRows(app, desk, entries.slice(0, most), sight)
  });
  const todays = at('today').sort(inOrder);
  const todayDay = dayView(person, today);
  const weeks = weeksOf(desk, (entries) => part(entries, FIRST_ROWS.noDay));
  const closes = closeOf(person, today);
  const changes = desk.entries.flatMap(({ changesAt }) => changesAt ?? []);
  return {
    person: { id: person.id, name: person.name },
    readOnly: sight.personId !== personId,
    title: dayTitle(today),
    today: todayDay,
    time: clockTime(now, wall.zone),
    place: placeOfZone(wall.zone.nameAt(now)),
    work: workWords(desk, closes, sight.personId === personId),
    hours: hoursOf([todayDay, ...weeks.flatMap(({ days }) => days)]),
    nowMinute: minuteOf(desk),
    changesInMs: changes.length === 0 ? null : Math.min(...changes) - now,
    rhythms: RHYTHMS.filter((one) => rhythms.has(one)),
    rhythm: asked.rhythm,
    toPlace: part(at('to-place').sort(newestFirst), FIRST_ROWS.toPlace),
    tasks: { ...part(todays, FIRST_ROWS.today), late: todays.filter((entry) => isLate(entry, desk)).length },
    ownOrder: todays.some(({ row }) => row.position !== null),
    weeks,
    further: furtherOf(desk, part),
    undated: at('undated').length,
    parked: { count: at('parked').length, next: nextLook(at('parked'), today) },
    finished: { count: at('finished').length },
    closes: closes === null ? null : clockTime(closes, wall.zone),
    evening: todays.length > 0 && (closes === null || now >= closes),
    readBy: readBy(app, desk)
  };
}

/** Which rows somebody asks for besides those that came with the page. */
export type RowsAsked =
  | { of: Extract<DeskPlace, 'to-place' | 'today' | 'undated' | 'parked' | 'finished'> }
  | { of: 'day'; day: Day }
  | { of: 'no day'; span: 'rest' | 'after' | 'further' }
  | { of: 'month'; month: string };

/** More rows of one part, from one on. @throws CodedError `person-gone` */
export function moreDeskRows(app: DeskServices, asked: DeskAsked, rows: RowsAsked, from: number): DeskRows {
  const desk = ofRhythm(seen(app, deskOf(app, asked.personId), asked), asked.rhythm);
  const entries = desk.entries
    .filter((entry) => isAskedFor(entry, rows))
    .sort(rows.of === 'to-place' ? newestFirst : rows.of === 'month' ? byDay : inOrder);
  const shown = entries.slice(from, from + MORE_ROWS);
  return {
    count: entries.length,
    rows: deskRows(app, desk, shown, asked.sight)
  };
}

function isAskedFor({ place, day }: DeskEntry, rows: RowsAsked): boolean {
  switch (rows.of) {
    case 'day':
      return isAhead(place) && day === rows.day;
    case 'no day':
      return place === rows.span && day === null;
    case 'month':
      return place === 'further' && day !== null && formatDay(day).startsWith(rows.month);
    default:
      return place === rows.of;
  }
}

/** Another than the person sees of it what they may see anyway, and nothing of what is private. */
function seen({ stores }: DeskServices, desk: Desk, { personId, sight }: DeskAsked): Desk {
  if (sight.personId === personId) return desk;
  const ids = stores.tasks.seen(
    desk.entries.map(({ row }) => row.id),
    sight
  );
  return { ...desk, entries: desk.entries.filter((entry) => ids.has(entry.row.id) && !entry.private) };
}

function ofRhythm(desk: Desk, rhythm: Rhythm | null): Desk {
  if (rhythm === null) return desk;
  return { ...desk, entries: desk.entries.filter((entry) => entry.rhythm === rhythm) };
}

/** “Thursday 5 March”. */
function dayTitle(day: Day): string {
  return longDay(day).replace(/ \d{4}$/, '');
}

function workWords({ person, wall, now, today }: Desk, closes: number | null, isOwn: boolean): string {
  const [away, does, works, workingDay] = isOwn
    ? ['You are on leave', 'You do', 'You work', 'Your working day']
    : ['On leave', 'Does', 'Works', 'The working day'];
  const back = person.leave.endOf(now);
  if (!Number.isNaN(back)) return `${away} until ${shortMoment(back, wall.zone, today)}.`;
  if (closes === null) {
    const holiday = person.calendar.holidayName(today);
    return holiday ? `${does} not work today: ${holiday}.` : `${does} not work today.`;
  }
  const at = clockTime(closes, wall.zone);
  return now >= closes ? `${workingDay} ended at ${at}.` : `${works} until ${at}.`;
}

function minuteOf({ wall, now, today }: Desk): number {
  return Math.floor((now - wall.beginningOf(today)) / 60_000);
}

function byDay(a: DeskEntry, b: DeskEntry): number {
  return a.day! - b.day! || inOrder(a, b);
}

/** The days of the rest of this week and of the week after, with what stands on each. */
function weeksOf(desk: Desk, some: (entries: DeskEntry[]) => DeskRows): DeskWeek[] {
  const { wall, today, entries } = desk;
  const next = wall.nextWeekAfter(today);
  return (['rest', 'after'] as const).map((span): DeskWeek => {
    const [first, end] = span === 'rest' ? [today + 1, next] : [next, next + 7];
    const here = entries.filter(({ place }) => place === span);
    const days: DeskDayLine[] = [];
    for (let day = first; day < end; day++) {
      if (wall.reachedWith(day) !== day) continue;
      const on = here.filter((entry) => entry.day === day).sort(inOrder);
      days.push({ ...dayView(desk.person, day), count: on.length, first: firstOf(on) });
    }
    const noDay = here.filter(({ day }) => day === null).sort(inOrder);
    return { span, days, noDay: some(noDay), count: here.length };
  });
}

function firstOf(entries: readonly DeskEntry[]): DeskDayLine['first'] {
  const first = entries[0];
  return first ? { name: first.row.name, heavy: isHeavy(first) } : null;
}

/** What lies further out, month by month. */
function furtherOf(desk: Desk, part: (entries: DeskEntry[], most: number) => DeskRows): DeskView['further'] {
  const further = desk.entries.filter(({ place }) => place === 'further');
  const dated = further.filter(({ day }) => day !== null).sort(byDay);
  const months = new Map<string, DeskEntry[]>();
  for (const entry of dated) {
    const month = formatDay(entry.day!).slice(0, 7);
    months.set(month, [...(months.get(month) ?? []), entry]);
  }
  return {
    months: [...months].map(([month, entries]) => monthView(desk, month, entries)),
    noDay: part(further.filter(({ day }) => day === null).sort(inOrder), FIRST_ROWS.noDay),
    count: further.length
  };
}

function monthView({ person, today }: Desk, month: string, entries: readonly DeskEntry[]): DeskMonth {
  const { year, month: which } = partsOfDay(entries[0]!.day!);
  const begin = dayFromParts(year, which, 1);
  const days = daysInMonth(year, which);
  const counts = new Map<number, number>();
  for (const { day } of entries) counts.set(day! - begin + 1, (counts.get(day! - begin + 1) ?? 0) + 1);
  const working: [number, number][] = [];
  for (let i = 0; i < days; i++) {
    if (!person.calendar.days.isWorking(begin + i)) continue;
    const last = working[working.length - 1];
    if (last && last[1] === i) last[1] = i + 1;
    else working.push([i + 1, i + 1]);
  }
  return {
    month,
    words: year === partsOfDay(today).year ? monthWords(begin).replace(/ \d{4}$/, '') : monthWords(begin),
    count: entries.length,
    first: firstOf(entries),
    marks: [...counts].map(([day, count]) => ({ day, count })),
    working,
    days
  };
}

/** When a parked task is looked at next. */
function nextLook(parked: readonly DeskEntry[], today: Day): string | null {
  const days = parked.flatMap(({ task }) => task.reviewOn ?? []);
  return days.length === 0 ? null : shortDay(Math.min(...days), today);
}

/** Who looked at it last in their place, in the last thirty days. */
function readBy({ stores, source }: DeskServices, { person, wall, now, today }: Desk): string | null {
  const last = stores.deskLooks.lastReading(person.id, now - READING_KEPT_MS);
  if (!last) return null;
  const name = source.facts.people.get(last.readerId)?.name ?? 'A removed person';
  return `${name} read your Desk, ${shortMoment(last.at, wall.zone, today)}.`;
}
const READING_KEPT_MS = 30 * 86_400_000;
