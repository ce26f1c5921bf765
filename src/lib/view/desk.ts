import type { DeskPlace } from '../core/desk/placement.ts';
import type { BellKind } from './models.ts';

/** How often a task comes back, as the Desk sorts it. */
export const RHYTHMS = ['daily', 'weekly', 'monthly', 'other'] as const;
export type Rhythm = (typeof RHYTHMS)[number];

/** A task on somebody's Desk. */
export interface DeskTaskView {
  id: number;
  name: string;
  place: DeskPlace;
  /** What its place comes from, in a few words: “by 16:00”, “planned for today”, “due Fri 6 Mar”. */
  dated: string;
  late: boolean;
  /** What else of its date is worth saying: “due Fri 20 Mar, in 15 days”; null where all is said. */
  note: string | null;
  /** Project, or the task above it. */
  of: string | null;
  /** Only where it is more than ordinary, or less. */
  priority: string | null;
  heavy: boolean;
  /** Where its work stands, but where it only waits to be started. */
  status: string | null;
  rhythm: Rhythm | null;
  subtasks: { all: number; done: number };
  /** Its next bell; null when none is planned. */
  bell: string | null;
  private: boolean;
  /** Its due date where the person is; null without. */
  due: string | null;
  /** Why it stands where it stands, one sentence. */
  why: string;
  /** How it came: only where it waits to be placed. */
  from: string | null;
}

/** A part of a list, with how many there are in all. */
export interface DeskRows {
  count: number;
  rows: DeskTaskView[];
}

/** Minutes of a day on the person's wall, `[from, until)`. */
export type DayMinutes = [from: number, until: number];

/** One day of a person, without its tasks. */
export interface DeskDay {
  date: string;
  /** “Fri 6”. */
  words: string;
  /** Working time, without leave. */
  lit: DayMinutes[];
  away: DayMinutes[];
  /** What closes it or shortens it: “Good Friday”, “leave from 13:00”. */
  notes: string[];
  closed: boolean;
}

export interface DeskDayLine extends DeskDay {
  count: number;
  /** The most pressing of it. */
  first: { name: string; heavy: boolean } | null;
}

/** Days of one week: the rest of this one, or the week after. */
export interface DeskWeek {
  span: 'rest' | 'after';
  days: DeskDayLine[];
  /** What is planned for the week and for no day of it. */
  noDay: DeskRows;
  count: number;
}

export interface DeskMonth {
  /** `2026-04` */
  month: string;
  words: string;
  count: number;
  first: { name: string; heavy: boolean } | null;
  /** Days of the month that have tasks, with how many. */
  marks: { day: number; count: number }[];
  /** Runs of working days, as days of the month, both ends included. */
  working: DayMinutes[];
  days: number;
}

export interface DeskView {
  person: { id: number; name: string };
  /** Somebody else looks at it in their place. */
  readOnly: boolean;
  /** “Thursday 5 March”. */
  title: string;
  today: DeskDay;
  time: string;
  place: string;
  /** “You work until 17:00.” */
  work: string;
  /** Hours of the axis that all days share. */
  hours: [from: number, until: number];
  /** Now, as minutes of the day. */
  nowMinute: number;
  /** When the first task comes to another place by itself, workspace clock; null when none does. */
  changesInMs: number | null;
  rhythms: Rhythm[];
  rhythm: Rhythm | null;
  toPlace: DeskRows;
  tasks: DeskRows & { late: number };
  ownOrder: boolean;
  weeks: DeskWeek[];
  further: { months: DeskMonth[]; noDay: DeskRows; count: number };
  undated: number;
  parked: { count: number; next: string | null };
  finished: { count: number };
  /** When the day ends, “17:00”; null on a day without working time. */
  closes: string | null;
  /** The day has ended for them, and something is left. */
  evening: boolean;
  /** The most recent look at it in their place. */
  readBy: string | null;
}

/** A bell of somebody's own, on one of their days. */
export interface DeskBell {
  key: string;
  date: string;
  minute: number;
  time: string;
  kind: BellKind;
  /** It has left. */
  rung: boolean;
  about: string;
  rule: string;
  taskId: number | null;
  why: string[];
}

/** What waits for somebody's word. */
export interface WaitingView {
  kind: 'question' | 'promise' | 'still needed' | 'acknowledge' | 'time' | 'approval';
  key: string;
  id: number;
  taskId: number;
  task: string;
  words: string;
  /** What happens without an answer; null where nothing does. */
  otherwise: string | null;
}

/** Somebody who answers to whoever looks. */
export interface MyPersonView {
  id: number;
  name: string;
  /** “14:05 in Muscat”. */
  there: string;
  late: number;
  today: number;
  stuck: number;
  toPlace: number;
  /** “on leave until Fri 13 Mar, 09:00”; null when they are not. */
  away: string | null;
}

/** Whose Desk is not kept. */
export interface AdoptionView {
  /** With how many tasks that they have not placed for too long, most first. */
  unplaced: { id: number; name: string; count: number }[];
  tasks: number;
  /** Who has tasks and does not look, with when they last did. */
  away: { id: number; name: string; last: string }[];
}

/** What somebody keeps on their Desk besides tasks. */
export interface DeskThingsView {
  captures: { id: number; text: string; at: string }[];
  shelf: { id: number; name: string; text: string; own: boolean; mayChange: boolean }[];
  tallies: {
    id: number;
    name: string;
    query: string;
    count: number;
    group: string | null;
    mayDrop: boolean;
  }[];
  /** Saved lists that are not counted here. */
  lists: { id: number; name: string }[];
  groups: { id: number; name: string }[];
  mayShare: boolean;
  /** How a task that they type begins. */
  habit: { private: boolean; mine: boolean; dueDays: number | null; dueUnit: 'day' | 'workday' };
}

/** A choice of the placing round. */
export type PlaceTo = 'leave' | 'today' | 'day' | 'rest' | 'after' | 'further' | 'park' | 'back';

export interface ChoiceView {
  to: PlaceTo;
  key: string;
  label: string;
  /** The date or dates. */
  when: string;
  /** What is there already. */
  note: string;
  /** The date that is sent along, with `day`. */
  day: string | null;
  /** A new due date is asked for: it would be late then. */
  asksDue: boolean;
  /** The new due date that is offered, or the day that may become the due date of an undated task. */
  newDue: string | null;
  /** It is asked whether the day is its due date too. */
  asksAsDue: boolean;
  /** The old due date can stay: it is ahead, and the task comes to Today on it. */
  mayKeepDue: boolean;
  /** It is passed over: nothing is written. */
  passes: boolean;
  /** The dates among which it would stand then; null where that is on none, or not known yet. */
  on: [first: string, last: string] | null;
}

/** One task of the round with what can be done with it. */
export interface RoundView {
  task: DeskTaskView;
  due: string;
  description: string;
  choices: ChoiceView[];
  /** From today to the end of the week after. */
  days: RoundDay[];
  /** The hours that their bars share. */
  hours: [from: number, until: number];
}

/** A day with what stands on it already, and the keys that would put the task there. */
export interface RoundDay extends DeskDay {
  count: number;
  keys: string[];
}

/** The same with the notices that come for it. */
export interface RoundSheet extends RoundView {
  bells: { key: string; kind: BellKind; to: string | null; at: string; rule: string }[];
  /** How many come in all: of a long series the first are listed. */
  notices: number;
}
