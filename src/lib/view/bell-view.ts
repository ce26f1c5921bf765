import { leadWords } from '../core/rule/words/lead-words.ts';
import { explainNotice } from '../core/forecast/explain/explain.ts';
import { leadOf, type RuleFacts } from '../core/forecast/facts/compile-rule.ts';
import type { TaskFacts } from '../core/forecast/facts/facts.ts';
import { noticeKind } from '../core/forecast/decide/notice-kind.ts';
import type { NoticeList } from '../core/forecast/simulate/notice-list.ts';
import { shownAt } from '../core/forecast/simulate/plain-rules.ts';
import type { Planner } from '../core/forecast/plan/planner.ts';
import type { PlannedNotice } from '../core/forecast/plan/planned-notice.ts';
import type { Names } from '../core/rule/words/condition-words.ts';
import { KINDS, type NoticeKind } from '../core/notice/kinds.ts';
import { whyText } from '../core/ring/why-text.ts';
import type { WhyStep } from '../core/ring/why.ts';
import type { InstantMs, Zone } from '../core/time/zone.ts';
import { twoTimes } from './bells.ts';
import type { BellKind, BellView } from './models.ts';

/** Notices of a forecast with what is needed to say them. */
export interface Told {
  planner: Planner;
  rules: ReadonlyMap<number, RuleFacts>;
  tasks: ReadonlyMap<number, TaskFacts>;
  notices: NoticeList;
}

/** Who reads, when, and what ids are called. */
export interface Reading {
  /** On whose wall times are written. */
  zone: Zone;
  /** Whose private tasks are named; null for nobody's. */
  personId: number | null;
  now: InstantMs;
  names: Names;
  /** The why that was written when a notice rang; null where it is not known. */
  whyOf: (noticeId: number) => readonly WhyStep[] | null;
}

/** One notice as somebody reads it. */
export function bellView(told: Told, notice: PlannedNotice, reading: Reading): BellView {
  const { planner, rules, tasks, notices } = told;
  const { zone, now, names } = reading;
  const rule = rules.get(notice.ruleId)!;
  const task = tasks.get(notice.taskId)!;
  const { people } = planner.facts;
  const recipient = people.get(notice.recipientId)!;
  const reader = people.get(notice.readerId) ?? recipient;
  const lead = leadOf(rule, task, notice.leadId);
  const kept = notice.unrung === 'same moment' ? keptFor(notice, notices) : null;
  const recorded = notice.noticeId === null || notice.unrung !== null ? null : reading.whyOf(notice.noticeId);
  const why = recorded ?? explainNotice(planner, { rule, task }, notice, now, kept?.leadId);
  const held = notice.unrung === null && notice.leavesAt !== notice.ringAt;
  return {
    key: keyOf(notice),
    kind: bellKindFor(rule, lead, notice),
    ruleId: rule.id,
    ruleName: rule.name,
    lead: lead ? leadWords(lead.lead, names) : 'a removed ring time',
    taskId: task.id,
    taskName: nameFor(task, reading),
    recipientId: recipient.id,
    recipientName: recipient.name,
    readerId: reader.id,
    readerName: reader.name,
    time: twoTimes(shownAt(notice), reader.zone, zone, now),
    heldFrom: held ? twoTimes(notice.ringAt, recipient.zone, zone, now) : null,
    unrung: notice.unrung,
    lateBell: notice.lateBell,
    inDoubt: false,
    ifActs: notice.ifActs === null ? null : (rules.get(notice.ifActs)?.name ?? 'a rule'),
    why: why.map(whyText)
  };
}

/** By what a notice is known in one forecast and the next. */
function keyOf(notice: PlannedNotice): string {
  const { ruleId, leadId, ordinal, stepId, taskId, recipientId, ringAt } = notice;
  return [ruleId, leadId, ordinal, stepId, taskId, recipientId, ringAt].join('.');
}

/** Nobody reads the name of another person's private task. */
export function nameFor(
  task: Pick<TaskFacts, 'name' | 'private' | 'ownerId'>,
  { personId }: Pick<Reading, 'personId'>
): string {
  return task.private && task.ownerId !== personId ? 'a private task' : task.name;
}

/** The notice that is sent in place of one that is unrung for the same moment. */
function keptFor(unrung: PlannedNotice, notices: NoticeList): PlannedNotice | null {
  for (const other of notices) {
    if (
      other.unrung === null &&
      other.ruleId === unrung.ruleId &&
      other.taskId === unrung.taskId &&
      other.recipientId === unrung.recipientId &&
      other.leavesAt === unrung.leavesAt
    )
      return other;
  }
  return null;
}

function kindOfNotice(rule: RuleFacts, lead: ReturnType<typeof leadOf>, stepId: string): NoticeKind {
  const tell = rule.program.tells.get(stepId);
  return tell && lead ? noticeKind(tell, lead) : 'reminder';
}

/** What a notice is shown as. */
export function bellKindFor(
  rule: RuleFacts,
  lead: ReturnType<typeof leadOf>,
  notice: PlannedNotice
): BellKind {
  if (notice.unrung !== null) return 'unrung';
  if (notice.lateBell) return 'late bell';
  if (notice.leavesAt !== notice.ringAt) return 'held';
  return bellKindOf(kindOfNotice(rule, lead, notice.stepId));
}

/** What a notice that leaves at its moment is shown as. */
export function bellKindOf(kind: NoticeKind): BellKind {
  return KINDS[kind].mark;
}
