import { NO_LEAVE, leaveSpans, parseLeave } from '../../core/calendar/leave.ts';
import { ALWAYS_OPEN, parseIntervals, type Calendar } from '../../core/calendar/spec.ts';
import { CompiledCalendar } from '../../core/calendar/compiled.ts';
import type { Facts, PersonFacts, ProjectFacts } from '../../core/forecast/facts.ts';
import { parseDay } from '../../core/time/day.ts';
import { zoneOfMoves } from '../../core/time/moves.ts';
import { parseTimeOfDay } from '../../core/time/time-of-day.ts';
import { zoneNamed, type Zone } from '../../core/time/zone.ts';
import { toCalendar, type CalendarRecord } from '../store/calendars.ts';
import type { LeaveRecord, Person } from '../store/people.ts';
import type { Project } from '../store/projects.ts';
import type { WorkspaceSettings } from '../store/settings.ts';
import type { Stores } from '../store/all.ts';

/** The records that facts are compiled from: what is asked "what if" of is one of these, changed. */
export interface FactsInput {
  settings: WorkspaceSettings | null;
  calendars: CalendarRecord[];
  people: Person[];
  leave: LeaveRecord[];
  projects: Project[];
}

export function readFactsInput(stores: Stores): FactsInput {
  return {
    settings: stores.settings.workspace(),
    calendars: stores.calendars.all(),
    people: stores.people.all(),
    leave: stores.people.leave(),
    projects: stores.projects.all()
  };
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
 * @throws CodedError for a calendar, zone, leave or time that cannot be read
 */
export function compileFacts({ settings, calendars, people, leave, projects }: FactsInput): Facts {
  const inZone = calendarsInZones(calendars);
  const zone = zoneNamed(settings?.zone ?? 'UTC');
  const leaveOf = (id: number) => leave.filter(({ personId }) => personId === id);
  return {
    workspace: {
      zone,
      calendar: inZone(settings?.calendarId ?? null, zone),
      noticeMinute: parseTimeOfDay(settings?.noticeTime ?? '09:00'),
      endOfDay: settings?.endOfDay ?? 'midnight'
    },
    people: new Map(people.map((person) => [person.id, personFacts(person, leaveOf(person.id), inZone)])),
    projects: new Map(
      projects.map(({ id, name, zone: own, calendarId, pinned }): [number, ProjectFacts] => {
        const place = own === null ? null : zoneNamed(own);
        const calendar = calendarId === null ? null : inZone(calendarId, place ?? zone);
        return [id, { id, name, zone: place, calendar, pinned }];
      })
    )
  };
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
