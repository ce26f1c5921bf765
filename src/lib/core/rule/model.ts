import type { Anchor } from '../anchor/descriptor.ts';
import { ANCHORS } from '../anchor/anchors.ts';
import { UNSEEN, type Unseen } from '../task/model.ts';
import type { LateChoice } from '../ring/if-late.ts';
import type { Condition } from './condition.ts';
import { type Phase, type Priority, PHASES, OPEN_PHASES, PRIORITIES } from '../task/model.ts';
import type { Lead } from './lead-model.ts';
import { type Step, blankTell } from './step-model.ts';

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

/**
 * The phases that a rule sees when it says nothing of them: open work; those that belong to what its leads count from or listen to
 * besides, finished work for a lead after finishing for one.
 */
export function watchedPhases({ watch, leads }: Pick<RuleDefinition, 'watch' | 'leads'>): Phase[] {
  if (watch.phases) return watch.phases;
  const phases = new Set<Phase>(OPEN_PHASES);
  for (const lead of leads) {
    for (const phase of shownBy(lead).phases ?? []) phases.add(phase);
  }
  return PHASES.filter((phase) => phases.has(phase));
}

/** What is seen besides, with what the leads ask for: a review date belongs to parked work. */
export function watchedUnseen({ watch, leads }: Pick<RuleDefinition, 'watch' | 'leads'>): Unseen[] {
  const seen = new Set(watch.seen);
  for (const lead of leads) {
    const { unseen } = shownBy(lead);
    if (unseen) seen.add(unseen);
  }
  return UNSEEN.filter((one) => seen.has(one));
}

/** What a rule sees besides open work for one of its leads. */
function shownBy(lead: Lead): Anchor['shows'] {
  if (lead.kind === 'offset') return ANCHORS[lead.anchor].shows;
  if (lead.kind !== 'event') return {};
  const { event } = lead;
  if (event === 'finished' || event === 'closed') return ANCHORS[event].shows;
  if (event === 'archived') return { unseen: 'archived' };
  return event.startsWith('project ') ? { unseen: 'called off' } : {};
}
