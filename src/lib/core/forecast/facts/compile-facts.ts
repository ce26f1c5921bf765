import { CHANNEL, CHANNELS, type ChannelName } from '../../channel/channels.ts';
import type { Way } from '../../channel/ways.ts';
import { NO_LEAVE, leaveSpans, parseLeave } from '../../calendar/leave.ts';
import { toCalendar, type CalendarRecord } from '../../calendar/record.ts';
import { ALWAYS_OPEN, parseIntervals, type Calendar } from '../../calendar/spec.ts';
import { CompiledCalendar } from '../../calendar/compiled.ts';
import { NO_DETAILS, type TaskDetails } from '../../task/details.ts';
import { groupBy } from '../../group-by.ts';
import { parseDay } from '../../time/day.ts';
import { zoneOfMoves } from '../../time/moves.ts';
import { parseTimeOfDay } from '../../time/time-of-day.ts';
import { zoneNamed, type Zone } from '../../time/zone.ts';
import { ORDINARY, type Facts, type PersonFacts, type ProjectFacts } from './facts.ts';
import { standingReminder } from './reminders.ts';
import { addressKey } from './recipients.ts';
import type { FactsInput, PersonRecord, ProjectRecord } from './records.ts';

/** The zone of a person over all time. */
export function zoneOfPerson({ zone, moves }: Pick<PersonRecord, 'zone' | 'moves'>): Zone {
  return zoneOfMoves(
    zone,
    moves.map(({ from, zone }) => ({ from: parseDay(from), zone }))
  );
}

/**
 * A workspace compiled for the core.
 * @param detailsOf reads what conditions ask of a task besides
 * @throws CodedError for a calendar, zone, leave or time that cannot be read
 */
export function compileFacts(
  input: FactsInput,
  detailsOf: (taskId: number) => TaskDetails = () => NO_DETAILS
): Facts {
  const { settings, calendars, people, leave } = input;
  const inZone = calendarsInZones(calendars);
  const zone = zoneNamed(settings?.zone ?? 'UTC');
  const leaveOf = (id: number) => leave.filter(({ personId }) => personId === id);
  const workspace = {
    zone,
    calendar: inZone(settings?.calendarId ?? null, zone),
    noticeMinute: parseTimeOfDay(settings?.noticeTime ?? '09:00'),
    endOfDay: settings?.endOfDay ?? ('midnight' as const)
  };
  const team = people.map((person) => personFacts(person, leaveOf(person.id), inZone, input.channels));
  const outside = outsideFacts(input, workspace.calendar, zone);
  const byAddress = new Map(
    [...outside, ...team].flatMap((person): [string, PersonFacts][] =>
      person.email === null ? [] : [[addressKey(person.email), person]]
    )
  );
  return {
    workspace,
    people: new Map([...team, ...outside].map((person) => [person.id, person])),
    projects: new Map(
      input.projects.map((project) => [project.id, projectFacts(project, input, inZone, zone)])
    ),
    groups: groupsOf(input.groups),
    readerLists: new Map(input.readerLists.map(({ id, recipients }) => [id, recipients])),
    outsiders: byAddress,
    contacts: new Map(
      input.contacts.flatMap(({ id, email }): [number, PersonFacts][] => {
        const person = email ? byAddress.get(addressKey(email)) : undefined;
        return person ? [[id, person]] : [];
      })
    ),
    ownKinds: new Map(input.fields.map(({ id, kind }) => [id, kind])),
    lists: new Map(input.lists),
    calendarIn: (id, of) => (id === null || calendars.some((one) => one.id === id) ? inZone(id, of) : null),
    statuses: new Map(input.statuses.map(({ id, phase }) => [id, phase])),
    standing: standingOf(input.standing),
    hushes: input.hushes.length === 0 ? null : input.hushes,
    detailsOf
  };
}

/** People outside: a contact in their own zone, a plain address in the workspace's. Their ids are below zero. */
function outsideFacts(input: FactsInput, calendar: CompiledCalendar, zone: Zone): PersonFacts[] {
  const zones = new Map(input.contacts.map(({ email, zone: own }) => [addressKey(email ?? ''), own]));
  return input.outsiders.map(({ id, address, name, stopped = false }) => ({
    ...ORDINARY,
    active: !stopped,
    id: -id,
    name: name || address,
    email: address,
    zone: zones.has(address) ? zoneNamed(zones.get(address)!) : zone,
    calendar,
    managerId: null
  }));
}

function projectFacts(
  { id, name, zone: own, calendarId, pinned }: ProjectRecord,
  { members, contactLinks }: FactsInput,
  inZone: InZone,
  workspaceZone: Zone
): ProjectFacts {
  const zone = own === null ? null : zoneNamed(own);
  return {
    id,
    name,
    zone,
    calendar: calendarId === null ? null : inZone(calendarId, zone ?? workspaceZone),
    pinned,
    members: members.filter(({ projectId }) => projectId === id),
    contactIds: contactLinks.filter(({ projectId }) => projectId === id).map(({ contactId }) => contactId)
  };
}

function groupsOf(rows: FactsInput['groups']): Map<number, Set<number>> {
  const groups = new Map<number, Set<number>>();
  for (const { groupId, personId } of rows)
    groups.set(groupId, (groups.get(groupId) ?? new Set()).add(personId));
  return groups;
}

function standingOf(rows: FactsInput['standing']): Facts['standing'] {
  return groupBy(
    rows.map(({ id, personId, n, unit }, order) => standingReminder(id, personId, { n, unit }, order)),
    ({ personId }) => personId
  );
}

type InZone = (calendarId: number | null, zone: Zone) => CompiledCalendar;

/** Each calendar is compiled once for each zone in which somebody goes by it. */
function calendarsInZones(records: readonly CalendarRecord[]): InZone {
  const calendars = new Map<number, Calendar>(records.map((record) => [record.id, toCalendar(record)]));
  const compiled = new Map<Calendar, Map<Zone, CompiledCalendar>>();
  return (calendarId, zone) => {
    const calendar = (calendarId === null ? undefined : calendars.get(calendarId)) ?? ALWAYS_OPEN;
    let byZone = compiled.get(calendar);
    if (!byZone) compiled.set(calendar, (byZone = new Map()));
    let made = byZone.get(zone);
    if (!made) byZone.set(zone, (made = new CompiledCalendar(calendar, zone, calendarId)));
    return made;
  };
}

/** The ways besides mail: those that are set up and that the person has an address for. Only who can sign in reads what stands in the application. */
function otherWays(person: PersonRecord, open: readonly ChannelName[]): Way[] {
  return CHANNELS.flatMap((channel) => {
    if (channel === 'mail' || !open.includes(channel)) return [];
    const address = CHANNEL[channel].addressOf(person);
    return address === null ? [] : [{ channel, address }];
  });
}

function personFacts(
  person: PersonRecord,
  leave: FactsInput['leave'],
  inZone: InZone,
  channels: readonly ChannelName[]
): PersonFacts {
  const zone = zoneOfPerson(person);
  return {
    id: person.id,
    name: person.name,
    email: person.email,
    otherWays: otherWays(person, channels),
    channels: person.channels,
    active: person.active,
    zone,
    calendar: inZone(person.calendarId, zone),
    managerId: person.managerId,
    leave: leave.length === 0 ? NO_LEAVE : parseLeave(leave.map(specOf), zone),
    standIns: leave.flatMap((entry) => {
      if (entry.standInId === null) return [];
      const [from, until] = leaveSpans([specOf(entry)], zone)[0]!;
      return [{ from, until, personId: entry.standInId }];
    }),
    coordinates: person.role === 'coordinator' || person.role === 'administrator',
    quiet: parseIntervals(person.quiet),
    dailyCap: person.dailyCap,
    digestMinutes: { due: minuteOf(person.digestDue), overdue: minuteOf(person.digestOverdue) }
  };
}

function minuteOf(time: string | null): number | null {
  return time === null ? null : parseTimeOfDay(time);
}

function specOf({ from, until }: FactsInput['leave'][number]): { from: string; to: string } {
  return { from, to: until };
}
