import type { LateChoice } from '../ring/if-late.ts';
import type { AwayChoice } from '../ring/reader.ts';
import { defaultClosedDay, isDayLevel, type ClosedDayRule, type Unit } from '../ring/lead.ts';
import type { Condition } from './condition.ts';
import type { RuleEventName } from './events.ts';
import type { ChannelName } from '../delivery/channel-name.ts';
import { type Phase, type Priority, PHASES, OPEN_PHASES, PRIORITIES } from '../task/model.ts';
import type { Act } from './acts.ts';

/** Where a task is not seen unless a rule says so. */
export const UNSEEN = ['parked', 'archived', 'binned', 'called off'] as const;
export type Unseen = (typeof UNSEEN)[number];

/** Which tasks a rule looks at. */
export interface Watch {
  /** Project ids; null is everything, tasks without a project too. */
  projects: number[] | null;
  /** At least one of these; empty asks for none. */
  tags: string[];
  /** Null: the phases that go with the leads (see `watchedPhases`). */
  phases: Phase[] | null;
  priorities: Priority[];
  /** What is seen besides, that is not seen by itself. */
  seen: Unseen[];
  condition: Condition | null;
  /** Only what a saved list holds, by its id. */
  list: number | null;
  /** Of a rule that makes tasks: whether it looks at what other rules made, too. */
  made: boolean;
}

/** On whose wall a lead's time of day is read. */
export type ZoneChoice =
  { of: 'recipient' | 'owner' | 'project' | 'workspace' } | { of: 'named'; zone: string };

/** What of a task a lead can be counted from. */
export const LEAD_ANCHORS = [
  'due',
  'start',
  'remind on',
  'review date',
  'created',
  'assigned',
  'last touched',
  'finished',
  'closed',
  'phase entered',
  'own date',
  'earlier ring',
  'acknowledged',
  'promise date',
  'ladder'
] as const;
export type LeadAnchor = (typeof LEAD_ANCHORS)[number];

/** What one ring time of any kind has. */
interface LeadBase {
  /** Stays through edits of time, zone, closed-day rule and words. */
  id: string;
  on: boolean;
  /** For whom it holds; null for every task that the rule watches. */
  only: LeadFilter | null;
  zone: ZoneChoice;
}

/** For which tasks a lead holds: those that pass each list that is not empty. */
export interface LeadFilter {
  priorities: Priority[];
  tags: string[];
  /** Groups that the owner is in. */
  groups: number[];
}

/** An offset from an anchor. */
export interface OffsetLead extends LeadBase {
  kind: 'offset';
  anchor: LeadAnchor;
  /** The field of the workspace's own that is the anchor; of a range the end that counts. */
  field?: { id: number; end: 'from' | 'until' };
  /** The lead of the same rule whose last notice is the anchor. */
  after?: string;
  /** Negative is before. */
  n: number;
  unit: Unit;
  closedDay: ClosedDayRule;
  /** `HH:MM`; null keeps the anchor's own time, or takes the workspace's notice time on a date. */
  time: string | null;
  /** Rings again every n units, until `most` notices have left; null once. */
  repeat: { n: number; unit: Unit; most: number } | null;
  /** Of a rung of a ladder: other timings for some tasks; the first that holds counts. */
  instead?: RungTiming[];
}

/** When a rung rings for some tasks: it stays the same rung. */
export interface RungTiming {
  only: LeadFilter;
  n: number;
  unit: Unit;
}

/** A recurrence rule over local time. */
export interface ScheduleLead extends LeadBase {
  kind: 'schedule';
  /** RFC 5545, without DTSTART. */
  rrule: string;
  /** The first day from which it counts: every second week stays the same weeks. */
  start: string;
  time: string;
  closedDay: ClosedDayRule;
  /** A task rings once for each value of a date of it, however often it is found. */
  oncePerDate: boolean;
  /** Which date that is; absent: the due date. */
  onceFor?: OnceFor;
  /**
   * Of those that ring once for a date: only tasks whose date is this day or after it, and has come: what falls between two looks is told
   * at the next. Absent: whatever its date.
   */
  since?: string;
}

/** Dates of a task for each value of which a schedule may ring once. */
export const ONCE_DATES = ['due', 'start', 'remind on', 'review date', 'own date'] as const;
export interface OnceFor {
  date: (typeof ONCE_DATES)[number];
  /** The field of the workspace's own; of a range the end that counts. */
  field?: { id: number; end: 'from' | 'until' };
}

/** Something that happens to a task. */
export interface EventLead extends LeadBase {
  kind: 'event';
  event: RuleEventName;
  /** Of a phase or status changed: ids or phases; absent means any. */
  from?: (string | number)[];
  to?: (string | number)[];
  /** Of a field changed: which. */
  field?: string | number;
  /** Import, bulk over 25 and sweep count too. */
  wide: boolean;
}

/** Where the button of a rule by hand stands: on each task that it looks at, on projects, over what is chosen in the list. */
export const HAND_PLACES = ['task', 'project', 'list'] as const;
export type HandPlace = (typeof HAND_PLACES)[number];

export interface HandLead extends LeadBase {
  kind: 'by hand';
  /** What stands on the button. */
  caption: string;
  /** What is said before many tasks are rung; absent or empty: nothing of its own. */
  confirm?: string;
  /** Absent: on tasks. */
  places?: HandPlace[];
}

export type Lead = OffsetLead | ScheduleLead | EventLead | HandLead;

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

/** Kinds of notice; those further down the list are never swallowed by those above. */
export const NOTICE_KINDS = [
  'finished',
  'assigned',
  'reminder',
  'due today',
  'question',
  'overdue',
  'escalation'
] as const;
export type NoticeKind = (typeof NOTICE_KINDS)[number];

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

/** What to do about instants that have passed (the table of past instants). */
export interface PastChoices {
  /** The server was down. */
  down: 'leave' | 'fold' | 'do not ring';
  /** Turned on, or a lead added. */
  turnedOn: 'do not ring' | 'latest at the next opening';
  created: 'latest' | 'at once' | 'do not ring';
  moved: 'latest' | 'do not ring';
  /** The condition came true after the instant. */
  cameTrue: 'that day' | 'until use-by' | 'do not ring';
  newRecipient: 'once' | 'do not ring';
}

/** What ends it for a task, its date and its round. */
export interface Stop {
  condition: Condition | null;
  /** After so many notices to one recipient. */
  afterNotices: number | null;
  /** A date after which it does not ring, in the workspace's zone; the day itself still counts. */
  until: string | null;
  /** What it keeps from whoever has said that they are on it, until then, and from the owners while it waits for others. */
  quiet: { acknowledged: QuietFor; stuck: QuietFor };
}

/** Which notices of a rule are kept back: those of kind overdue, all, none. */
export const QUIET_FOR = ['overdue', 'everything', 'nothing'] as const;
export type QuietFor = (typeof QUIET_FOR)[number];

/** What one version of a rule says. */
export interface RuleDefinition {
  watch: Watch;
  leads: Lead[];
  steps: Step[];
  stop: Stop;
  past: PastChoices;
  /** What becomes of a ring that leave, hold or a day's most would carry to or past its use-by. */
  ifLate: LateChoice;
  /** The first moment at which it may ring, `YYYY-MM-DDTHH:MM` on the workspace's wall; null at once. */
  firstRun: string | null;
  /** Where it tells the owner and others, the others wait for what a hold puts off of the owner's. */
  inOrder: boolean;
  /** The clock of its ladder stands still while the first owner is on leave. */
  awayStops: boolean;
}

/** The most leads one rule may carry. */
export const MOST_LEADS = 30;
export const MOST_STEPS = 40;

export const DEFAULT_PAST: PastChoices = {
  down: 'leave',
  turnedOn: 'do not ring',
  created: 'latest',
  moved: 'latest',
  cameTrue: 'that day',
  newRecipient: 'once'
};

/** How a new rule keeps quiet: late work is not asked about of whoever has said that they are on it. */
export const DEFAULT_QUIET: Stop['quiet'] = { acknowledged: 'overdue', stuck: 'overdue' };
export const NO_STOP: Stop = { condition: null, afterNotices: null, until: null, quiet: DEFAULT_QUIET };

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
    body: 'Good day ‹first name›,\n\n‹task›‹of owner› in ‹project› is ‹days left›: ‹due›.\n\n‹link›',
    several: {
      subject: '‹count› tasks to look at',
      body: 'Good day ‹first name›,\n\nthese ‹count› tasks need a look:'
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

/** An offset from the due date with what goes by default: the closed-day rule by its direction, the recipient's clock. */
export function offsetLead(id: string, n: number, unit: Unit, patch: Partial<OffsetLead> = {}): OffsetLead {
  return {
    kind: 'offset',
    id,
    anchor: 'due',
    n,
    unit,
    closedDay: defaultClosedDay(n, unit),
    time: isDayLevel(unit) ? '09:00' : null,
    zone: { of: 'recipient' },
    repeat: null,
    only: null,
    on: true,
    ...patch
  };
}

/** Whether a ring time is a rung of a ladder. */
export function isRung(lead: Lead): lead is OffsetLead & { anchor: 'ladder' } {
  return lead.kind === 'offset' && lead.anchor === 'ladder';
}

/** Whether some step makes tasks. */
export function makesTasks(steps: readonly Step[]): boolean {
  return allSteps(steps).some(
    (step) => step.kind === 'do' && step.acts.some(({ act }) => act === 'follow-up' || act === 'copy')
  );
}

/** A Watch of everything that is open. */
export function openWatch(): Watch {
  return {
    projects: null,
    tags: [],
    phases: null,
    priorities: [...PRIORITIES],
    seen: [],
    condition: null,
    list: null,
    made: false
  };
}

/** What a new rule says before anything is chosen. */
export function blankDefinition(): RuleDefinition {
  return {
    watch: openWatch(),
    leads: [],
    steps: [blankTell()],
    stop: { ...NO_STOP },
    past: { ...DEFAULT_PAST },
    ifLate: 'keep',
    firstRun: null,
    inOrder: true,
    awayStops: false
  };
}

/** Every step, with those inside sides, in the order in which they stand. */
export function allSteps(steps: readonly Step[]): Step[] {
  return steps.flatMap((step) =>
    step.kind === 'branch'
      ? [step, ...step.sides.flatMap((side) => allSteps(side.steps)), ...allSteps(step.otherwise)]
      : [step]
  );
}

/**
 * The phases that a rule sees when it says nothing of them: open work; those that belong to what its leads count from or listen to
 * besides, finished work for a lead after finishing for one.
 */
export function watchedPhases({ watch, leads }: Pick<RuleDefinition, 'watch' | 'leads'>): Phase[] {
  if (watch.phases) return watch.phases;
  const phases = new Set<Phase>(OPEN_PHASES);
  for (const lead of leads) {
    const from = lead.kind === 'offset' ? lead.anchor : lead.kind === 'event' ? lead.event : '';
    if (from === 'finished') phases.add('finished').add('closed');
    if (from === 'closed') phases.add('closed');
  }
  return PHASES.filter((phase) => phases.has(phase));
}

/** What is seen besides, with what the leads ask for: a review date belongs to parked work. */
export function watchedUnseen({ watch, leads }: Pick<RuleDefinition, 'watch' | 'leads'>): Unseen[] {
  const seen = new Set(watch.seen);
  for (const lead of leads) {
    if (lead.kind === 'offset' && lead.anchor === 'review date') seen.add('parked');
    if (lead.kind === 'event' && lead.event === 'archived') seen.add('archived');
    const ofProject = lead.kind === 'event' && lead.event.startsWith('project ');
    if (ofProject) seen.add('called off');
  }
  return UNSEEN.filter((one) => seen.has(one));
}
