import type { Recipient } from '../../rule/step-model.ts';
import type { ListScope } from '../../rule/list-scope.ts';
import type { CalendarRecord } from '../../calendar/record.ts';
import type { EndOfDay } from '../../ring/moments.ts';
import type { Phase, FieldKind } from '../../task/model.ts';
import type { ChannelName } from '../../channel/channels.ts';
import type { ChannelChoice } from '../../channel/ways.ts';
import type { Unit } from '../../ring/lead.ts';
import type { Hush } from './facts.ts';

/** A person as records have one. */
export interface PersonRecord {
  id: number;
  name: string;
  email: string | null;
  /** The zone before the first move. */
  zone: string;
  /** Later zones, ascending. */
  moves: { from: string; zone: string }[];
  calendarId: number;
  managerId: number | null;
  role: string;
  active: boolean;
  quiet: string[];
  dailyCap: number | null;
  digestDue: string | null;
  digestOverdue: string | null;
  phone: string | null;
  /** The name under which a chat knows them. */
  chat: string | null;
  channels: ChannelChoice;
}

/** A project as records have one. */
export interface ProjectRecord {
  id: number;
  name: string;
  zone: string | null;
  calendarId: number | null;
  pinned: boolean;
}

/**
 * The records that facts are compiled from, as they can be sent to a browser: what is asked "what if" of is one of these, changed.
 */
export interface FactsInput {
  settings: { zone: string; calendarId: number; noticeTime: string; endOfDay: EndOfDay } | null;
  /** Channels that messages can go by. */
  channels: ChannelName[];
  calendars: CalendarRecord[];
  people: PersonRecord[];
  /** As written, on the person's wall. */
  leave: { personId: number; from: string; until: string; standInId: number | null }[];
  projects: ProjectRecord[];
  members: { projectId: number; personId: number; role: string }[];
  statuses: { id: number; phase: Phase }[];
  fields: { id: number; kind: FieldKind }[];
  groups: { groupId: number; personId: number }[];
  contacts: { id: number; email: string | null; zone: string }[];
  contactLinks: { contactId: number; projectId: number | null }[];
  readerLists: { id: number; recipients: Recipient[] }[];
  /** Everybody outside, by the address that they are told at. */
  /** Those who have stopped all mail are told nothing. */
  outsiders: { id: number; address: string; name: string; stopped?: boolean }[];
  /** How long before the due date of everything of theirs people want to be reminded. */
  standing: { id: number; personId: number; n: number; unit: Unit }[];
  hushes: Hush[];
  /** What saved lists hold; a text says why no rule can look at one. */
  lists: [id: number, scope: ListScope | string][];
}
