import type { ChannelChoice, Way } from '../../channel/ways.ts';
import type { CompiledCalendar } from '../../calendar/compiled.ts';
import { NO_LEAVE, type Leave } from '../../calendar/leave.ts';
import type { Interval } from '../../calendar/spec.ts';
import type { EndOfDay } from '../../ring/moments.ts';
import type { OwnKinds } from '../../rule/compile-condition.ts';
import type { ListScopes } from '../../rule/list-scope.ts';
import { type Unseen, isOpen, type Phase, type Priority } from '../../task/model.ts';
import type { Recipient } from '../../rule/step-model.ts';
import { NO_DETAILS, type TaskDetails } from '../../task/details.ts';
import type { Moment } from '../../time/instant.ts';
import type { MinuteOfDay } from '../../time/time-of-day.ts';
import type { InstantMs, Zone } from '../../time/zone.ts';
import type { CompiledLead } from './compile-lead.ts';

/** What the forecast computes from: a workspace at one moment, compiled. */
export interface Facts {
  workspace: WorkspaceFacts;
  /** Everybody by id; outside people have ids below zero. */
  people: ReadonlyMap<number, PersonFacts>;
  projects: ReadonlyMap<number, ProjectFacts>;
  /** Who is in which group. */
  groups: ReadonlyMap<number, ReadonlySet<number>>;
  readerLists: ReadonlyMap<number, readonly Recipient[]>;
  /** Outside people by their address, trimmed and in lower case. */
  outsiders: ReadonlyMap<string, PersonFacts>;
  /** Outside contacts by their id. */
  contacts: ReadonlyMap<number, PersonFacts>;
  ownKinds: OwnKinds;
  /** What saved lists hold. */
  lists: ListScopes;
  /** What is quietened, and from when until when; null where nothing is. */
  hushes: readonly Hush[] | null;
  /** A calendar of the workspace in a zone; null where there is none of this id. */
  calendarIn: (id: number | null, zone: Zone) => CompiledCalendar | null;
  /** In which phase each status is. */
  statuses: ReadonlyMap<number, Phase>;
  /** What people want to be reminded of for everything of theirs, by person. */
  standing: ReadonlyMap<number, readonly TaskReminder[]>;
  /** What is asked of a task besides. */
  detailsOf: (taskId: number) => TaskDetails;
}

/** A task, project, person or rule that is quiet for a while: `[from, until)`. */
export interface Hush {
  of: 'task' | 'project' | 'person' | 'rule';
  id: number;
  from: InstantMs;
  until: InstantMs;
}

/** What a workspace has that has set up nothing of it. */
export const ORDINARY_FACTS: Omit<Facts, 'workspace' | 'people' | 'projects'> = {
  groups: new Map(),
  readerLists: new Map(),
  outsiders: new Map(),
  contacts: new Map(),
  ownKinds: new Map(),
  lists: new Map(),
  calendarIn: () => null,
  statuses: new Map(),
  standing: new Map(),
  hushes: null,
  detailsOf: () => NO_DETAILS
};

export interface WorkspaceFacts {
  zone: Zone;
  calendar: CompiledCalendar;
  noticeMinute: MinuteOfDay;
  endOfDay: EndOfDay;
}

export interface PersonFacts {
  id: number;
  name: string;
  /** Null when the person has no mail address. */
  email: string | null;
  /** Ways besides mail that they can be reached by. */
  otherWays: readonly Way[];
  /** By which they want to hear of what. */
  channels: ChannelChoice;
  /** Somebody deactivated is told nothing and stands in for nobody. */
  active: boolean;
  zone: Zone;
  /** Base calendar, in the person's zone. */
  calendar: CompiledCalendar;
  managerId: number | null;
  leave: Leave;
  /** Who stands in during which leave. */
  standIns: readonly StandIn[];
  /** Intervals of their day in which they want no notice, in their zone. */
  quiet: readonly Interval[];
  /** Most messages on one of their dates; null without a limit. */
  dailyCap: number | null;
  /** Times of their day at which what is put off leaves; null at the next opening. */
  digestMinutes: { due: MinuteOfDay | null; overdue: MinuteOfDay | null };
  /** Whether they look after the whole team's work. */
  coordinates: boolean;
}

/** Who is asked from one instant to another, `[from, until)`, while somebody is on leave. */
export interface StandIn {
  from: InstantMs;
  until: InstantMs;
  personId: number;
}

/** What a person has who is active, takes no leave and has set nothing. */
export const ORDINARY: Pick<
  PersonFacts,
  | 'otherWays'
  | 'channels'
  | 'active'
  | 'leave'
  | 'standIns'
  | 'quiet'
  | 'dailyCap'
  | 'digestMinutes'
  | 'coordinates'
> = {
  otherWays: [],
  channels: {},
  active: true,
  leave: NO_LEAVE,
  standIns: [],
  quiet: [],
  dailyCap: null,
  digestMinutes: { due: null, overdue: null },
  coordinates: false
};

/** Whether a message can reach somebody at all. */
export function isReachable({ active, email, otherWays }: PersonFacts): boolean {
  return active && (email !== null || otherWays.length > 0);
}

/** Whether somebody is outside the team: a contact, or a plain address. */
export function isOutside({ id }: Pick<PersonFacts, 'id'>): boolean {
  return id < 0;
}

export interface ProjectFacts {
  id: number;
  name: string;
  zone: Zone | null;
  calendar: CompiledCalendar | null;
  /** Whether its dates belong to its place. */
  pinned: boolean;
  members: readonly { personId: number; role: string }[];
  /** Outside contacts linked to it. */
  contactIds: readonly number[];
}

/** What a project has to which nobody was added. */
export const ORDINARY_PROJECT: Pick<ProjectFacts, 'members' | 'contactIds'> = { members: [], contactIds: [] };

export interface TaskFacts {
  id: number;
  name: string;
  projectId: number | null;
  ownerId: number | null;
  due: Moment | null;
  start: Moment | null;
  phase: Phase;
  priority: Priority;
  round: number;
  /** Seen by its owner alone, and by a rule that its owner keeps. */
  private: boolean;
  /** Owners besides the first, who leads. */
  otherOwnerIds: readonly number[];
  /** The date on which people want to be reminded of it. */
  remindOn: Moment | null;
  /** Parked, archived, binned, or of a project that is called off or closed: no rule sees it unless it says so. */
  aside: Unseen | null;
  /** A thing with dates but no work: it is never overdue. */
  register: boolean;
  /** What people set on this task alone. */
  reminders: readonly TaskReminder[];
  /** Who wants no reminder of it, or wanted none for a while. */
  silences: readonly Silence[];
  /** Somebody has said, in this round or before, that they have seen it: who and until when stands in its details. */
  acknowledged: boolean;
  /** By which rules it was made; null for what people made. */
  made: MadeTask | null;
}

/** Where a task that a rule made comes from. */
export interface MadeTask {
  /** The rule that made it, then the one that made the task that it was made of, and so on. */
  ruleIds: readonly number[];
  /** The name of the task at the beginning, which people made. */
  origin: string;
}

/** Somebody who wants no reminder of a task: `[from, until)`, in ms; until is null while they want none. */
export interface Silence {
  personId: number;
  from: InstantMs;
  until: InstantMs | null;
}

/** Whether somebody wanted no reminder of a task at an instant. */
export function isSilent(
  { silences }: Pick<TaskFacts, 'silences'>,
  personId: number,
  at: InstantMs
): boolean {
  return silences.some(
    (silence) =>
      silence.personId === personId && silence.from <= at && (silence.until === null || at < silence.until)
  );
}

/** A reminder set on a task, or by somebody for everything of theirs. */
export interface TaskReminder {
  /** Who set it for themselves; null for whoever owns the task. */
  personId: number | null;
  lead: CompiledLead;
  /** In its place while the date has no time: “at due” of a day is that day at the notice time, not the midnight at which it ends. */
  onTheDay: CompiledLead | null;
}

/** What a task has about which nothing was said. */
export const ORDINARY_TASK: Pick<
  TaskFacts,
  'otherOwnerIds' | 'remindOn' | 'aside' | 'register' | 'reminders' | 'silences' | 'acknowledged' | 'made'
> = {
  otherOwnerIds: [],
  remindOn: null,
  aside: null,
  register: false,
  reminders: [],
  silences: [],
  acknowledged: false,
  made: null
};

/** Work that is in the list and not finished. */
export function isOpenWork({ phase, aside }: Pick<TaskFacts, 'phase' | 'aside'>): boolean {
  return isOpen(phase) && aside === null;
}

/** Whether a task can be overdue at all: open work, and no entry of a register. */
export function canBeOverdue(task: Pick<TaskFacts, 'phase' | 'aside' | 'register'>): boolean {
  return isOpenWork(task) && !task.register;
}
