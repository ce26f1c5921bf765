import { NO_LEAVE, leaveSpans, parseLeave } from '../../core/calendar/leave.ts';
import { ALWAYS_OPEN, parseIntervals, type Calendar } from '../../core/calendar/spec.ts';
import { CompiledCalendar } from '../../core/calendar/compiled.ts';
import {
  ORDINARY,
  type Facts,
  type Hush,
  type PersonFacts,
  type ProjectFacts
} from '../../core/forecast/facts.ts';
import { addressKey } from '../../core/forecast/recipients.ts';
import type { Recipient } from '../../core/rule/model.ts';
import { allSteps } from '../../core/rule/model.ts';
import { NO_DETAILS, type TaskDetails } from '../../core/task/details.ts';
import { parseDay } from '../../core/time/day.ts';
import { zoneOfMoves } from '../../core/time/moves.ts';
import { parseTimeOfDay } from '../../core/time/time-of-day.ts';
import { zoneNamed, type Zone } from '../../core/time/zone.ts';
import { toCalendar, type CalendarRecord } from '../store/calendars.ts';
import type { Contact, ContactLink } from '../store/contacts.ts';
import type { Field } from '../store/fields.ts';
import type { LeaveRecord, Person } from '../store/people.ts';
import type { Project, ProjectMember, Status } from '../store/projects.ts';
import type { ReaderList } from '../store/readers.ts';
import type { SavedList } from '../store/saved-lists.ts';
import { listScopes } from './list-scopes.ts';
import type { WorkspaceSettings } from '../store/settings.ts';
import type { Stores } from '../store/all.ts';

/** The records that facts are compiled from: what is asked "what if" of is one of these, changed. */
export interface FactsInput {
  settings: WorkspaceSettings | null;
  calendars: CalendarRecord[];
  people: Person[];
  leave: LeaveRecord[];
  projects: Project[];
  members: ProjectMember[];
  statuses: Status[];
  fields: Field[];
  groups: { groupId: number; personId: number }[];
  contacts: Contact[];
  contactLinks: ContactLink[];
  readerLists: ReaderList[];
  /** Everybody outside, by the address that they are told at. */
  outsiders: { id: number; address: string; name: string }[];
  hushes: Hush[];
  savedLists: SavedList[];
}

export function readFactsInput(stores: Stores): FactsInput {
  return {
    settings: stores.settings.workspace(),
    calendars: stores.calendars.all(),
    people: stores.people.all(),
    leave: stores.people.leave(),
    projects: stores.projects.all(),
    members: stores.projects.members(),
    statuses: stores.projects.statuses(),
    fields: stores.fields.all(),
    groups: stores.people.membersOfGroups(),
    contacts: stores.contacts.all(),
    contactLinks: stores.contacts.links(),
    readerLists: stores.readers.lists(),
    outsiders: stores.readers.outsiders(outsideAddresses(stores)),
    hushes: stores.hushes.all(),
    savedLists: stores.savedLists.all()
  };
}

/** Addresses outside the team that contacts have, or that a rule or a reader list names, with what is known of whom they belong to. */
function outsideAddresses(stores: Stores): Map<string, string> {
  const named = new Map<string, string>();
  const collect = (recipients: readonly Recipient[]) => {
    for (const recipient of recipients)
      if (recipient.who === 'address') named.set(addressKey(recipient.address), '');
  };
  for (const rule of stores.rules.made())
    for (const id of [rule.liveVersion, rule.draftVersion])
      for (const step of allSteps((id === null ? null : stores.rules.version(id))?.definition.steps ?? []))
        if (step.kind === 'tell') collect(step.to);
  for (const { recipients } of stores.readers.lists()) collect(recipients);
  for (const { email, name } of stores.contacts.all()) if (email) named.set(addressKey(email), name);
  for (const { email } of stores.people.all()) if (email) named.delete(addressKey(email));
  named.delete('');
  return named;
}

/** The zone of a person over all time. */
export function zoneOfPerson({ zone, moves }: Pick<Person, 'zone' | 'moves'>): Zone {
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
  const team = people.map((person) => personFacts(person, leaveOf(person.id), inZone));
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
    lists: listScopes(input.savedLists),
    statuses: new Map(input.statuses.map(({ id, phase }) => [id, phase])),
    hushes: input.hushes.length === 0 ? null : input.hushes,
    detailsOf
  };
}

/** People outside: a contact in their own zone, a plain address in the workspace's. Their ids are below zero. */
function outsideFacts(input: FactsInput, calendar: CompiledCalendar, zone: Zone): PersonFacts[] {
  const zones = new Map(input.contacts.map(({ email, zone: own }) => [addressKey(email ?? ''), own]));
  return input.outsiders.map(({ id, address, name }) => ({
    ...ORDINARY,
    id: -id,
    name: name || address,
    email: address,
    zone: zones.has(address) ? zoneNamed(zones.get(address)!) : zone,
    calendar,
    managerId: null
  }));
}

function projectFacts(
  { id, name, zone: own, calendarId, pinned }: Project,
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
    if (!made) byZone.set(zone, (made = new CompiledCalendar(calendar, zone)));
    return made;
  };
}

function personFacts(person: Person, leave: readonly LeaveRecord[], inZone: InZone): PersonFacts {
  const zone = zoneOfPerson(person);
  return {
    id: person.id,
    name: person.name,
    email: person.email,
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

function specOf({ from, until }: LeaveRecord): { from: string; to: string } {
  return { from, to: until };
}
