import type { TaskDetails } from '../../task/details.ts';
import type { InstantMs } from '../../time/zone.ts';
import type { CompiledLead } from '../facts/compile-lead.ts';
import type { RuleFacts } from '../facts/compile-rule.ts';
import type { PersonFacts, TaskFacts } from '../facts/facts.ts';
import type { Forecast } from './model.ts';
import type { PlannedNotice, UnrungReason } from '../plan/planned-notice.ts';
import type { Planner } from '../plan/planner.ts';
import type { RunAhead, ToldBefore } from './simulated.ts';
import type { NoticeAhead, SimulatedTask } from './simulated-task.ts';
import type { Telling } from '../plan/telling.ts';

/** What the parts of a forecast that goes through time ask of it. */
export interface SimulationPort {
  readonly planner: Planner;
  readonly rules: readonly RuleFacts[];
  readonly result: Forecast;
  readonly now: InstantMs;
  /** Where what is looked at ends. */
  readonly until: InstantMs;
  state(taskId: number): SimulatedTask | undefined;
  states(): Iterable<SimulatedTask>;
  /** What cannot be computed of one rule for one task is said, and stops nothing else. */
  attempt(ruleId: number, taskId: number, work: () => void): void;
  /** A task that a rule made, or that one has changed. */
  adopt(
    task: TaskFacts,
    details: TaskDetails,
    ruleId: number,
    cause: 'created' | 'moved' | 'other'
  ): SimulatedTask;
  /** A notice for one recipient that rings now. */
  tell(
    of: Omit<NoticeAhead, 'notice'>,
    recipient: PersonFacts,
    ordinal: number,
    originDay: number,
    unrung?: UnrungReason | null
  ): void;
  /** Whether whoever it is for has got as many as they get at most. */
  hasHadEnough(of: Omit<NoticeAhead, 'notice'>, recipientId: number): boolean;
  /** A notice left. */
  left(ahead: NoticeAhead, told: ToldBefore): void;
  /** It does not leave, and why. */
  unring(ahead: NoticeAhead, reason: UnrungReason): void;
  queueNotice(ahead: NoticeAhead): void;
  queueRun(run: RunAhead): void;
  /** A ring that happens now: an event, a schedule's find, by hand. */
  ringAtOnce(
    rule: RuleFacts,
    lead: CompiledLead,
    state: SimulatedTask,
    anchorValue: string,
    actorId: number | null
  ): void;
  tellingOf(ahead: NoticeAhead): Telling;
  /** It is not on its way any more. */
  offTheWay(notice: PlannedNotice): void;
}
