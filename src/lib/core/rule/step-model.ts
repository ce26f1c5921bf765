import type { NoticeKind } from '../notice/kinds.ts';
import type { AwayChoice } from '../ring/reader.ts';
import type { ClosedDayRule, Unit } from '../ring/lead.ts';
import type { Condition } from './condition.ts';
import type { ChannelName } from '../channel/channels.ts';
import type { Act } from './acts.ts';

export const REACHES = ['working hours', 'outside quiet hours', 'any time'] as const;
export type ReachChoice = (typeof REACHES)[number];

/** One who is told. */
export type Recipient = { as?: 'to' | 'cc' | 'bcc'; leads?: string[] } & (
  | { who: 'owner' | 'creator' | 'keeper' | 'coordinator' | 'actor' }
  | { who: 'manager'; up: number }
  /** So many levels up the next other person who is there, else the coordinators: whom a ladder climbs to. */
  | { who: 'above'; up: number }
  | { who: 'members'; role: string | null }
  | { who: 'person'; id: number }
  | { who: 'group'; id: number }
  | { who: 'field'; id: number }
  | { who: 'contacts' }
  | { who: 'address'; address: string }
  | { who: 'readers'; id: number }
);

export const GATHERS = ['per task', 'per recipient', 'together'] as const;
export type Gather = (typeof GATHERS)[number];

interface StepBase {
  id: string;
  name: string;
  description: string;
  /** Ids of the leads that it answers; null for all. */
  leads: string[] | null;
}

/** Who hears, how, and in which words. */
export interface Tell extends StepBase {
  kind: 'tell';
  to: Recipient[];
  /** The channels that it insists on; null leaves them to each recipient. */
  channels: ChannelName[] | null;
  reach: ReachChoice;
  /** What happens while the recipient is on leave. */
  away: AwayChoice;
  gather: Gather;
  /** Text with merge fields written ‹like this›. */
  subject: string;
  body: string;
  /** The words and the columns where several tasks are in one message. */
  several: { subject: string; body: string };
  columns: TableColumn[];
  /** `urgent` passes hold, cap and fold; `must` passes own choices, cap and fold. */
  force: 'urgent' | 'must' | null;
  /** Waits for the recipient's next gathered message instead of leaving alone. */
  fold: boolean;
  /** Null: by what the lead announces. */
  noticeKind: NoticeKind | null;
  /** How the message is marked (RFC 2156 §5.3.4, the header Importance). */
  importance: Importance;
  /** Files that go along: the dates of the tasks as a calendar (RFC 5545), the table (RFC 4180). */
  attach: Attachment[];
}

export const IMPORTANCES = ['ordinary', 'high'] as const;
export type Importance = (typeof IMPORTANCES)[number];
export const ATTACHMENTS = ['calendar', 'table'] as const;
export type Attachment = (typeof ATTACHMENTS)[number];

export interface TableColumn {
  field: TableField;
  /** Its own caption; empty takes the field's. */
  caption: string;
}
export const TABLE_FIELDS = [
  'task',
  'project',
  'owner',
  'due',
  'days left',
  'start',
  'status',
  'priority',
  'link'
] as const;
export type TableField = (typeof TABLE_FIELDS)[number];

/** What it changes. */
export interface Do extends StepBase {
  kind: 'do';
  acts: Act[];
  /** The acting person is asked first: what stands when nobody has answered after so many working days. */
  ask: { question: string; workingDays: number; otherwise: 'yes' | 'no' } | null;
}

export interface Wait extends StepBase {
  kind: 'wait';
  n: number;
  unit: Unit;
  /** Of a wait in days: at which time of day it ends, on the owner's wall; null keeps the time it is. */
  time: string | null;
  closedDay: ClosedDayRule;
  /** Goes on even if Watch no longer matches. */
  regardless: boolean;
}

export interface Branch extends StepBase {
  kind: 'branch';
  sides: { name: string; condition: Condition; steps: Step[] }[];
  otherwise: Step[];
}

export type Step = Tell | Do | Wait | Branch;

/** A Tell as it starts: its words fit for a reminder. */
export function blankTell(id = 'tell'): Tell {
  return {
    id,
    kind: 'tell',
    name: '',
    description: '',
    leads: null,
    to: [],
    channels: null,
    reach: 'working hours',
    away: 'stand-in',
    gather: 'per recipient',
    subject: '‹task›‹of owner› is ‹days left›',
    body: 'Hello ‹first name›,\n\n‹task›‹of owner›‹in project› is ‹days left›: ‹due›.\n\n‹link›',
    several: {
      subject: '‹count› tasks to look at',
      body: 'Hello ‹first name›,\n\nThese ‹count› tasks need a look:'
    },
    columns: [
      { field: 'task', caption: '' },
      { field: 'project', caption: '' },
      { field: 'due', caption: '' },
      { field: 'days left', caption: '' }
    ],
    force: null,
    fold: false,
    noticeKind: null,
    importance: 'ordinary',
    attach: []
  };
}

/** Whether some step makes tasks. */
export function makesTasks(steps: readonly Step[]): boolean {
  return allSteps(steps).some(
    (step) => step.kind === 'do' && step.acts.some(({ act }) => act === 'follow-up' || act === 'copy')
  );
}

/** Every step, with those inside sides, in the order in which they stand. */
export function allSteps(steps: readonly Step[]): Step[] {
  return steps.flatMap((step) =>
    step.kind === 'branch'
      ? [step, ...step.sides.flatMap((side) => allSteps(side.steps)), ...allSteps(step.otherwise)]
      : [step]
  );
}
