import type { SentencePart } from '../core/rule/words/sentence.ts';
import type { Lint } from '../core/lint/model.ts';
import type { RuleFault } from '../core/rule/rule-fault.ts';

/** What the screens draw: JSON-safe, every time already written for its reader. */

/** A moment for two readers: where the recipient is, and where the viewer is when that differs. */
export interface TwoTimes {
  atMs: number;
  /** `Fri 6 Mar, 09:00` on the recipient's wall. */
  there: string;
  /** The recipient's place; named because a time without one means nothing. */
  place: string;
  /** The same moment on the viewer's wall; null when both walls show the same. */
  here: string | null;
}

/** How a bell is drawn; a word stands beside every shape. */
export type BellKind = 'reminder' | 'overdue' | 'rung' | 'held' | 'late bell' | 'unrung';

/** One notice of the forecast. */
export interface BellView {
  /** Stable within one forecast. */
  key: string;
  kind: BellKind;
  ruleId: number;
  ruleName: string;
  /** The lead in words. */
  lead: string;
  taskId: number;
  taskName: string;
  recipientId: number;
  recipientName: string;
  /** Who reads it: the recipient, or whoever is asked while they are on leave. */
  readerId: number;
  readerName: string;
  /** When it leaves; for an unrung one, when it would have rung. */
  time: TwoTimes;
  /** The ring instant, where the notice is held. */
  heldFrom: TwoTimes | null;
  unrung: string | null;
  lateBell: boolean;
  /** An attempt at it ended without our knowing how: it may have arrived twice. */
  inDoubt: boolean;
  /** The rule that must act first for it to come; null when nothing of it hangs on an act. */
  ifActs: string | null;
  why: string[];
}

export interface StripMark {
  /** Its row in the list below; null where the list does not go that far. */
  bellKey: string | null;
  atMs: number;
  kind: BellKind;
  /** Where the arc of a held notice begins. */
  fromMs: number | null;
  /** How many notices it stands for. */
  count: number;
  /** Of the first of them. */
  label: string;
}

/** One person's row of the bell strip. */
export interface StripRow {
  personId: number;
  name: string;
  /** Local time there now. */
  localTime: string;
  place: string;
  /** Working time within the strip, `[from, until)` in ms. */
  lit: [fromMs: number, untilMs: number][];
  marks: StripMark[];
}

/** Tasks that no bell reaches, for one reason. */
export interface SilentTasks {
  reason: string;
  count: number;
  /** The first of them, for whoever mends them at once. */
  ids: number[];
  /** The first few, by name. */
  tasks: { id: number; name: string }[];
}

/** The bell strip: a band of hours, or of days, in the viewer's zone. */
export interface StripView {
  fromMs: number;
  untilMs: number;
  nowMs: number;
  ticks: { atMs: number; label: string }[];
  rows: StripRow[];
}

export interface RuleForecastView {
  strip: StripView;
  /** People with bells who have no row in the strip. */
  peopleBelow: number;
  bells: BellView[];
  /** Bells beyond those listed. */
  more: number;
  counts: { bells: number; people: number; held: number; late: number; unrung: number; past: number };
  /** Watched tasks that this rule can never ring for, with the first reason that holds. */
  outOfEarshot: SilentTasks[];
  /** What is doubtful, though it could be turned on. */
  lints: Lint[];
  faults: RuleFault[];
  /** What could not be computed, by what is wrong: for so many tasks, and the first of them. Nothing is promised there. */
  broken: { message: string; count: number; tasks: { id: number; name: string }[] }[];
  watched: number;
  /** How often it would change something. */
  acts: number;
  /** What each step comes to in this time, by its id: people who hear, and changes. */
  bySteps: Record<string, { people: number; changes: number }>;
  /** Watched tasks for which it has come to its end; null where it says of none when that is. */
  stopped: number | null;
  sentence: SentencePart[];
  /** The next three moments at which it sends, on the viewer's wall. */
  next: string[];
  until: string;
}
