import type { InstantMs } from '../../time/zone.ts';
import type { CompiledLead } from '../facts/compile-lead.ts';
import type { RuleFacts } from '../facts/compile-rule.ts';
import type { Facts, TaskFacts } from '../facts/facts.ts';
import type { NoticeList } from './notice-list.ts';
import type { PlannerHistory } from '../plan/planner.ts';
import type { RunAhead, ToldBefore, WaitingNotice } from './simulated.ts';
import type { TellingKey } from '../plan/telling.ts';

export interface ForecastWindow {
  /** Rings at or before now are not made up here: what is owed for them is in `waiting`. */
  now: InstantMs;
  /** Notices that leave in `(from, until]` are given; unrung ones by their ring instant. */
  from: InstantMs;
  until: InstantMs;
}

/** What history adds to the facts. */
export interface ForecastHistory {
  /** Notices whose ring instant has passed and that have not left: held, or made up for. */
  waiting?: readonly WaitingNotice[];
  /** Runs that wait to go on. */
  runs?: readonly RunAhead[];
  /** Messages that have left to a person on their date at `now`. */
  sentToday?: (personId: number) => number;
  /** Whether a ring has left already (after the clock was set back, or a date went away and came back). */
  occupied?: (
    rule: RuleFacts,
    task: TaskFacts,
    key: Omit<TellingKey, 'anchorValue'> & { anchorValue?: string }
  ) => boolean;
  /** How many notices of a lead have left for an anchor value to a recipient; runs for nobody. */
  left?: (
    rule: RuleFacts,
    lead: CompiledLead,
    task: TaskFacts,
    recipientId: number,
    anchorValue: string
  ) => number;
  /** What has left about a task in the hour before now. */
  toldLately?: (taskId: number) => readonly ToldBefore[];
  /** Notices of a rule that have left for a task to a recipient in its round. */
  leftTo?: (ruleId: number, taskId: number, recipientId: number) => number;
  /** Whether nothing has rung for a task yet. */
  untouched?: (taskId: number) => boolean;
  /** Whether what a step does once for a task, its round and a value has been done, or has made that task itself; steps by `id/act`. */
  doneOnce?: (ruleId: number, step: string, task: TaskFacts, value: string) => boolean;
  /** Follow-ups of a task by a rule that are open. */
  openFollowUps?: (ruleId: number, taskId: number) => readonly number[];
  planner?: PlannerHistory;
}

/** What a forecast is of. */
export interface ForecastAsked {
  facts: Facts;
  rules: readonly RuleFacts[];
  window: ForecastWindow;
  history: ForecastHistory;
  /** What could not be computed of a rule for a task. */
  onFault: (ruleId: number, taskId: number, error: unknown) => void;
}

export interface Forecast {
  /** In the order in which they leave; unrung ones stand at their ring instant. */
  notices: NoticeList;
  /** Rings of these rules that lie at or before now and so will not come. */
  pastRings: number;
  /** What rules will do besides telling, in their order. */
  acts: ForecastAct[];
  /** Tasks that rules will make. */
  imagined: TaskFacts[];
  /** What could not be computed, each rule and task once: a calendar without working time, a date out of range. Task 0: the rule by itself. */
  faults: { ruleId: number; taskId: number; code: string; message: string }[];
}

/** Something that a rule will do to a task. */
export interface ForecastAct {
  at: InstantMs;
  ruleId: number;
  taskId: number;
  stepId: string;
  /** What is done, in the words of the act: “set status”. */
  act: string;
}
