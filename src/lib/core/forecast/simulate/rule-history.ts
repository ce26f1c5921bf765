import { groupBy } from '../../group-by.ts';
import type { RuleDefinition } from '../../rule/model.ts';
import type { NoticeKind } from '../../notice/kinds.ts';
import type { InstantMs } from '../../time/zone.ts';
import type { RuleFacts } from '../facts/compile-rule.ts';
import type { TaskFacts } from '../facts/facts.ts';
import type { ForecastHistory } from './model.ts';
import type { Planner } from '../plan/planner.ts';
import type { RunAhead, ToldBefore, WaitingNotice } from './simulated.ts';
import { THE_RUN, type TellingKey } from '../plan/telling.ts';

/** A notice of a rule that occupies its key, as JSON carries it. */
export interface ToldRecord {
  leadId: string;
  ordinal: number;
  taskId: number;
  anchorValue: string;
  round: number;
  recipientId: number;
  stepId: string;
  /** It has left, rather than being on its way. */
  left: boolean;
  leavesAt: InstantMs;
  kind: NoticeKind;
}

/** A ring whose steps have been gone through, as JSON carries it. */
export interface RanRecord extends Pick<
  ToldRecord,
  'leadId' | 'ordinal' | 'taskId' | 'anchorValue' | 'round'
> {
  /** It counts towards the most of its series; one that was hushed does not. */
  counts: boolean;
}

/** What has become of one rule so far, as JSON carries it. */
export interface RuleHistoryRecord {
  told: ToldRecord[];
  /** Rings whose steps have been gone through. */
  ran: RanRecord[];
  waiting: WaitingNotice[];
  /** Runs that wait, with the version that each started with. */
  runs: (Omit<RunAhead, 'rule'> & { definition: RuleDefinition })[];
  /** What any rule has told of a task in the last hour. */
  toldLately: [taskId: number, told: ToldBefore[]][];
  sentToday: [personId: number, count: number][];
  /** What its steps have done that they do once, in the present round of each task; what they made stands here too. */
  once: [step: string, taskId: number, value: string | null][];
  /** Its follow-ups that are open, with the tasks that they follow. */
  followUps: [taskId: number, madeId: number][];
}

const NONE: readonly ToldRecord[] = [];
const NO_RUNS: readonly RanRecord[] = [];

/**
 * What a forecast of one rule asks of its past.
 * @param compile makes the version ready that a waiting run started with
 */
export function ruleHistory(
  record: RuleHistoryRecord,
  planner: Planner,
  rounds: ReadonlyMap<number, number>,
  compile: (definition: RuleDefinition) => RuleFacts
): ForecastHistory {
  const { told, ran, waiting, runs } = record;
  const occupied = new Set(told.map((one) => keyOf(one, one.stepId, one.recipientId)));
  for (const one of ran) occupied.add(keyOf(one, '', THE_RUN));
  const touched = new Set([...told, ...ran].map(({ taskId }) => taskId));
  // Asked task by task, of which there may be thousands: what has left is kept by task.
  const left = groupBy(
    told.filter((one) => one.left),
    ({ taskId }) => taskId
  );
  const ranBy = groupBy(ran, ({ taskId }) => taskId);
  const leftOf = (taskId: number) => left.get(taskId) ?? NONE;
  const ofRound = (taskId: number) => leftOf(taskId).filter(({ round }) => rounds.get(taskId) === round);
  const once = groupBy(record.once, ([step, taskId]) => `${step}/${taskId}`);
  const followUps = groupBy(record.followUps, ([taskId]) => taskId);
  const lately = new Map(record.toldLately);
  const sentToday = new Map(record.sentToday);
  const isOccupied = (task: TaskFacts, { lead, ordinal, anchorValue, stepId, recipientId }: TellingKey) => {
    const key = { leadId: lead.lead.id, ordinal, taskId: task.id, anchorValue, round: task.round };
    return occupied.has(keyOf(key, recipientId === THE_RUN ? '' : stepId, recipientId));
  };
  const ranOf = (taskId: number) => ranBy.get(taskId) ?? NO_RUNS;
  return {
    waiting,
    runs: runs.map(({ definition, ...run }) => ({ ...run, rule: compile(definition) })),
    sentToday: (personId) => sentToday.get(personId) ?? 0,
    untouched: (taskId) => !touched.has(taskId),
    occupied: (_rule, task, key) =>
      touched.has(task.id) &&
      isOccupied(task, { ...key, anchorValue: key.anchorValue ?? planner.anchorValue(key.lead, task) }),
    left: (_rule, lead, task, recipientId, anchorValue) => {
      const isOfSeries = (one: Omit<RanRecord, 'counts'>) =>
        one.leadId === lead.lead.id && one.anchorValue === anchorValue && one.round === task.round;
      return recipientId === THE_RUN
        ? ranOf(task.id).filter((one) => one.counts && isOfSeries(one)).length
        : leftOf(task.id).filter((one) => isOfSeries(one) && one.recipientId === recipientId).length;
    },
    leftTo: (_ruleId, taskId, recipientId) =>
      ofRound(taskId).filter((one) => one.recipientId === recipientId).length,
    toldLately: (taskId) => lately.get(taskId) ?? [],
    doneOnce: (_ruleId, step, task, value) =>
      once.get(`${step}/${task.id}`)?.some(([, , done]) => done === null || done === value) ?? false,
    openFollowUps: (_ruleId, taskId) => followUps.get(taskId)?.map(([, madeId]) => madeId) ?? [],
    planner: {
      ringsSoFar: (_ruleId, taskId) => ofRound(taskId).length,
      lastLeft: (_ruleId, leadId, taskId) => {
        const times = ofRound(taskId).filter((one) => one.leadId === leadId);
        return times.length === 0 ? null : Math.max(...times.map(({ leavesAt }) => leavesAt));
      },
      hasTold: (_rule, task, key) => touched.has(task.id) && isOccupied(task, key)
    }
  };
}

function keyOf(
  {
    leadId,
    ordinal,
    taskId,
    anchorValue,
    round
  }: Omit<ToldRecord, 'recipientId' | 'stepId' | 'left' | 'leavesAt' | 'kind'>,
  stepId: string,
  recipientId: number
): string {
  return [leadId, ordinal, taskId, round, anchorValue, stepId, recipientId].join('/');
}
