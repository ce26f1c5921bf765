import { WEEKDAYS, weekOn, type Week } from '../../core/calendar/spec.ts';
import { isReachable, type PersonFacts } from '../../core/forecast/facts/facts.ts';
import { LONGEST_HOLD_DAYS } from '../../core/ring/hold.ts';
import { MS_PER_DAY, formatDay, parseDay, type Day } from '../../core/time/day.ts';
import { clockTime, longMoment, shortDay, shortMoment } from '../../core/time/format.ts';
import { formatTimeOfDay } from '../../core/time/time-of-day.ts';
import { placeOfZone } from '../../core/time/zone-names.ts';
import { CodedError } from '../../core/errors.ts';
import type { BellView } from '../../view/models.ts';
import type { LeaveView, PersonRowView } from '../../view/people.ts';
import { channelsView } from '../settings/channel-views.ts';
import type { Workspace } from '../workspace/workspace.ts';
import type { ChannelSetUp } from '../channel/set-up.ts';
import type { Auth } from '../auth/auth.ts';
import type { ForecastService } from '../tower/forecasts.ts';
import type { LeaveRecord, Person } from '../store/people.ts';
import type { Sight } from '../store/tasks.ts';
import type { Viewer } from '../workspace/viewer.ts';
import { zoneChoices } from './zone-choices.ts';

/** What is asked for pages of people. */
export type PersonServices = Workspace & { auth: Auth; channels: ChannelSetUp; forecasts: ForecastService };

const LISTED_HOLIDAYS = 10;
const WEEK_AHEAD = 7;
const PAGE_AHEAD = 14;
/** Bells that a person's page shows before somebody asks for all. */
const FIRST_BELLS = 6;

/** What can be chosen in the form of a person. */
export function personChoices(app: PersonServices, exceptId: number | null) {
  return {
    zones: zoneChoices(app.clock.now()),
    calendars: app.stores.calendars.all().map(({ id, name }) => ({ id, name })),
    managers: app.stores.people
      .all()
      .filter(({ id, active }) => active && id !== exceptId)
      .map(({ id, name }) => ({ id, name })),
    groups: app.stores.people.groups().map(({ name }) => name)
  };
}

/** Everybody, where they are and whether they can be reached. */
export function personList(app: PersonServices): PersonRowView[] {
  const now = app.clock.now();
  const calendars = new Map(app.stores.calendars.all().map((calendar) => [calendar.id, calendar]));
  const people = app.stores.people.all().filter(({ erased }) => !erased);
  const names = new Map(people.map(({ id, name }) => [id, name]));
  const leave = app.stores.people.leave();
  return people.map((person): PersonRowView => {
    const facts = app.source.facts.people.get(person.id)!;
    const today = facts.zone.dayOf(now);
    const calendar = calendars.get(person.calendarId);
    const holiday = calendar?.days.find(
      ({ date, intervals }) => date >= formatDay(today) && intervals.length === 0
    );
    const own = leave.filter(({ personId }) => personId === person.id);
    const next = own.find(({ until }) => until.slice(0, 10) >= formatDay(today));
    return {
      id: person.id,
      name: person.name,
      role: person.role,
      active: person.active,
      groups: person.groups,
      email: person.email,
      place: placeOfZone(facts.zone.nameAt(now)),
      localTime: `${shortDay(today).slice(0, 3)} ${clockTime(now, facts.zone)}`,
      presence: presence(facts, now),
      calendar: calendar?.name ?? '',
      week: weekView(weekOn(facts.calendar.calendar, today)),
      holiday: holiday ? { date: shortDay(parseDay(holiday.date), today), name: holiday.name } : null,
      leave: next ? leaveView({ ...next, note: '' }, today, names) : null,
      manager: person.managerId === null ? null : (names.get(person.managerId) ?? null),
      unreachable: person.active ? whyUnreachable(app, facts, now) : null
    };
  });
}

/**
 * Everything that a person's page shows besides what its reader may do.
 * @param mayKeep whether they look after it: notes of leave and the telephone number are nobody else's business
 * @throws CodedError `person-gone`
 */
export function personPage(app: PersonServices, id: number, mayKeep: boolean) {
  const person = app.stores.people.byId(id);
  if (!person || person.erased) throw new CodedError('person-gone');
  const now = app.clock.now();
  const facts = app.source.facts.people.get(id)!;
  const today = facts.zone.dayOf(now);
  const calendar = app.stores.calendars.byId(person.calendarId);
  const names = new Map(app.stores.people.all().map((one) => [one.id, one.name]));
  return {
    person: {
      id,
      name: person.name,
      role: person.role,
      active: person.active,
      canSignIn: app.auth.hasPassword(id),
      openTasks: app.stores.tasks.openOf(id)
    },
    there: `${shortMoment(now, facts.zone)} in ${placeOfZone(facts.zone.nameAt(now))}`,
    presence: presence(facts, now),
    unreachable: person.active ? whyUnreachable(app, facts, now) : null,
    values: mayKeep ? personValues(person) : { ...personValues(person), phone: '' },
    channels: mayKeep ? channelsView(app, person) : null,
    preferences: {
      quiet: person.quiet.join(', '),
      dailyCap: String(person.dailyCap ?? ''),
      digestDue: person.digestDue ?? '',
      digestOverdue: person.digestOverdue ?? ''
    },
    moves: person.moves.map(({ from, zone }) => ({
      from,
      text: shortDay(parseDay(from), today),
      zone,
      place: placeOfZone(zone)
    })),
    leave: app.stores.people
      .leaveOf(id)
      .map((entry) => leaveView(mayKeep ? entry : { ...entry, note: '' }, today, names))
      .filter(({ until }) => until.slice(0, 10) >= formatDay(today - 30)),
    standsInFor: app.stores.people
      .leave()
      .filter(({ standInId, until }) => standInId === id && until.slice(0, 10) >= formatDay(today))
      .map((entry) => ({
        ...leaveView({ ...entry, note: '' }, today, names),
        name: names.get(entry.personId) ?? ''
      })),
    calendar: calendar?.name ?? '',
    calendarId: person.calendarId,
    week: weekView(weekOn(facts.calendar.calendar, today)),
    holidays: (calendar?.days ?? [])
      .filter(({ date }) => date >= formatDay(today))
      .slice(0, LISTED_HOLIDAYS)
      .map(({ date, name, intervals }) => ({
        date: shortDay(parseDay(date), today),
        name: name ?? 'closed',
        hours: intervals.length > 0 ? intervals.join(', ') : 'closed'
      }))
  };
}

/** What the form of a person is filled with. */
function personValues(person: Person) {
  const { name, email, phone, zone, calendarId, managerId, role, groups } = person;
  return {
    name,
    email: email ?? '',
    phone: phone ?? '',
    zone,
    calendarId,
    managerId,
    role,
    groups: groups.join(', ')
  };
}

/** How many bells each person is told of in the next week, of tasks that the viewer sees. */
export function bellsByReader(app: PersonServices, sight: Sight): Record<number, number> {
  const now = app.clock.now();
  const coming = app.forecasts
    .coming(now, now + WEEK_AHEAD * MS_PER_DAY)
    .filter(({ unrung }) => unrung === null);
  const seen = app.stores.tasks.seen([...new Set(coming.map(({ taskId }) => taskId))], sight);
  const counts: Record<number, number> = {};
  for (const { readerId, taskId } of coming)
    if (seen.has(taskId)) counts[readerId] = (counts[readerId] ?? 0) + 1;
  return counts;
}

/**
 * The bells of two weeks that a person is told of, or somebody in their place, of tasks that the viewer sees: the first of them, and how
 * many there are. All are sent only where they are asked for: of a busy person they weigh more than the page.
 */
export function personBells(
  app: PersonServices,
  { id, all }: { id: number; all: boolean },
  { viewer, sight }: { viewer: Viewer; sight: Sight }
): { bells: BellView[]; first: number; count: number } {
  const now = app.clock.now();
  const bells = app.forecasts
    .bells(now, now + PAGE_AHEAD * MS_PER_DAY, viewer)
    .filter(({ recipientId, readerId }) => recipientId === id || readerId === id);
  const seen = bellsSeen(app, bells, sight);
  return { bells: all ? seen : seen.slice(0, FIRST_BELLS), first: FIRST_BELLS, count: seen.length };
}

/** The bells whose tasks somebody sees. */
function bellsSeen(app: PersonServices, bells: readonly BellView[], sight: Sight): BellView[] {
  const seen = app.stores.tasks.seen([...new Set(bells.map(({ taskId }) => taskId))], sight);
  return bells.filter(({ taskId }) => seen.has(taskId));
}

function presence({ calendar, leave, zone }: PersonFacts, now: number): PersonRowView['presence'] {
  const back = leave.endOf(now);
  if (!Number.isNaN(back)) return { word: 'on leave', until: shortMoment(back, zone, zone.dayOf(now)) };
  if (calendar.spans.contains(now)) return { word: 'at work', until: null };
  const opening = calendar.spans.nextOpening(now);
  return {
    word: 'closed',
    until: Number.isNaN(opening) ? null : shortMoment(opening, zone, zone.dayOf(now))
  };
}

/** Why nobody can tell them anything, in words; null when they can be told. */
function whyUnreachable(app: PersonServices, facts: PersonFacts, now: number): string | null {
  if (!isReachable({ ...facts, active: true })) return 'No address on any channel: no notice can reach them.';
  const opening = facts.calendar.spans.openAtOrAfter(now);
  if (!(opening - now <= LONGEST_HOLD_DAYS * MS_PER_DAY))
    return `No working time in ${LONGEST_HOLD_DAYS} days: held notices are never sent.`;
  const back = facts.leave.endOf(now);
  if (Number.isNaN(back)) return null;
  const standIn = facts.standIns.find(({ from, until }) => from <= now && now < until);
  const asked = [standIn?.personId ?? null, facts.managerId]
    .map((id) => (id === null ? undefined : app.source.facts.people.get(id)))
    .find((one) => one && isReachable(one) && !one.leave.covers(now));
  return asked
    ? null
    : `On leave without a stand-in: notices wait until ${longMoment(back, facts.zone)} there.`;
}

function weekView(week: Week): PersonRowView['week'] {
  const time = (minutes: number) => formatTimeOfDay(minutes > 1440 ? minutes - 1440 : minutes);
  return WEEKDAYS.map((weekday, i) => ({
    weekday,
    open: week[i]!.map(({ open, close }) => `${time(open)}-${time(close)}`).join(', ')
  }));
}

/** “Mon 9 Mar to Fri 13 Mar”, “Tue 10 Mar from 13:00”, “Tue 10 Mar, 09:00 to 13:00”. */
function leaveWords(from: string, until: string, words: (at: string) => string): string {
  const [fromDay, fromTime] = [from.slice(0, 10), from.slice(11)];
  const [untilDay, untilTime] = [until.slice(0, 10), until.slice(11)];
  if (fromDay !== untilDay) return `${words(from)} to ${words(until)}`;
  if (fromTime && untilTime) return `${words(fromDay)}, ${fromTime} to ${untilTime}`;
  if (fromTime) return `${words(fromDay)} from ${fromTime}`;
  return untilTime ? `${words(fromDay)} until ${untilTime}` : words(fromDay);
}

function leaveView(entry: LeaveRecord, today: Day, names: ReadonlyMap<number, string>): LeaveView {
  const words = (at: string) =>
    `${shortDay(parseDay(at.slice(0, 10)), today)}${at.length > 10 ? ` ${at.slice(11)}` : ''}`;
  const { id, from, until, standInId, note } = entry;
  return {
    id,
    from,
    until,
    text: leaveWords(from, until, words),
    standIn: standInId === null ? null : (names.get(standInId) ?? null),
    note,
    over: until.slice(0, 10) < formatDay(today)
  };
}
