import { calendarOfClock, leadWords, onceDateWords } from '../../rule/words/lead-words.ts';
import type { WhyStep } from '../../ring/why.ts';
import { MS_PER_DAY, formatDay } from '../../time/day.ts';
import { formatZoned } from '../../time/instant.ts';
import type { InstantMs } from '../../time/zone.ts';
import type { CompiledLead } from '../facts/compile-lead.ts';
import { leadOf } from '../facts/compile-rule.ts';
import { isReachable, type PersonFacts, type TaskFacts } from '../facts/facts.ts';
import type { Planner } from '../plan/planner.ts';
import type { PlannedNotice } from '../plan/planned-notice.ts';
import { quietReason, quietWhy } from '../decide/quiet.ts';
import { isOncePerDate } from '../plan/schedule-value.ts';
import { traceForward } from '../decide/bring-forward.ts';
import { afterOwner } from '../decide/owner-first.ts';
import { isLateBell, settle } from '../decide/settle.ts';
import { BARE_NAMES } from '../../rule/words/condition-words.ts';
import type { Telling } from '../plan/telling.ts';

/**
 * The steps that led to a notice, computed again with every step written down.
 * @param now when the forecast was made that holds it
 * @param keptLead the lead that is sent in its place, where it is unrung for the same moment
 */
export function explainNotice(
  planner: Planner,
  { rule, task }: Pick<Telling, 'rule' | 'task'>,
  notice: PlannedNotice,
  now: InstantMs,
  keptLead?: string
): WhyStep[] {
  const why: WhyStep[] = [];
  const lead = leadOf(rule, task, notice.leadId);
  const tell = rule.program.tells.get(notice.stepId);
  const recipient = planner.facts.people.get(notice.recipientId);
  if (!lead || !tell || !recipient) return why;
  const { instant } = planner.ring(lead, task, recipient, why, notice.ordinal);
  if (lead.anchor === null) why.push(...ringsAtOnce(planner, lead, task, recipient, notice.ringAt));
  if (notice.unrung === 'hushed') why.push(hushedWhy(planner, { rule, task, recipient }, notice.ringAt));
  if (notice.unrung === 'acknowledged' || notice.unrung === 'stuck on others')
    why.push(...quietWhyOf(planner, { rule, tell, lead, task, recipient }, notice));
  if (!isReachable(recipient)) why.push(unreachable(recipient));
  if (Number.isNaN(instant) && lead.anchor !== null) return why;
  const of = { rule, tell, lead, task, recipient, ordinal: notice.ordinal };
  const from = afterOwner(planner, of, notice.ringAt, now);
  if (from > notice.ringAt) why.push(afterOwners(from, recipient));
  if (notice.leavesAt < notice.ringAt) {
    traceForward(planner, of, notice.ringAt, notice.leavesAt, why);
    return why;
  }
  const { at } = settle(planner, of, notice.ringAt, from, why);
  const reader = planner.facts.people.get(notice.readerId);
  if (notice.folded && reader) why.push(capped(reader, at, notice.leavesAt));
  if (notice.unrung === 'same moment') {
    const kept = keptLead === undefined ? undefined : leadOf(rule, task, keptLead);
    why.push({ code: 'same-moment', params: { kept: kept ? leadWords(kept.lead) : 'a later one' } });
  }
  if (notice.folded && notice.unrung === null) isLateBell(planner, of, notice.ringAt, notice.leavesAt, why);
  return why;
}

/** What quietened a notice, when it rang or when it was to leave; a ladder that stands still says so itself. */
function quietWhyOf(
  planner: Planner,
  of: Omit<Telling, 'ordinal'>,
  { ringAt, leavesAt }: PlannedNotice
): WhyStep[] {
  for (const at of [ringAt, leavesAt]) {
    const reason = quietReason(planner, of, at);
    if (reason) return [quietWhy(planner, of, reason, at)];
  }
  return [];
}

/**
 * Why what is not counted from anything rings: what happened, the schedule, or a person's press.
 * @param recipient who is told: on their clock, where the schedule rings on each recipient's
 */
export function ringsAtOnce(
  planner: Planner,
  lead: CompiledLead,
  task: TaskFacts,
  recipient: PersonFacts,
  at: InstantMs
): WhyStep[] {
  const clock = lead.schedule && planner.clocks.at(lead, task, recipient);
  const zone = clock?.zone ?? planner.dates.ownerZone(task);
  const why: WhyStep[] = [
    { code: 'at-once', params: { lead: leadWords(lead.lead), instant: formatZoned(at, zone) } }
  ];
  const ring = clock?.lastBy(at);
  if (!ring) return why;
  if (isOncePerDate(lead)) why.push(...onceWhy(planner, lead, task));
  const [date, to] = [formatDay(Math.floor(ring.last / MS_PER_DAY)), formatDay(zone.dayOf(ring.at))];
  if (date !== to)
    why.push({ code: 'schedule-moved', params: { date, calendar: calendarOfClock(lead.lead.zone), to } });
  if (ring.at < at) why.push({ code: 'schedule-passed', params: { instant: formatZoned(ring.at, zone) } });
  return why;
}

/** For which date it rings once. */
function onceWhy(planner: Planner, compiled: CompiledLead, task: TaskFacts): WhyStep[] {
  const { lead } = compiled;
  const date = planner.anchors.dateOfOnce(compiled, task);
  if (!date || lead.kind !== 'schedule') return [];
  // What a field is called is nothing that is computed with.
  const name = lead.onceFor?.date === 'own date' ? 'date' : onceDateWords(lead.onceFor, BARE_NAMES);
  return [{ code: 'once-for', params: { name, date: formatDay(date.day) } }];
}

/**
 * Why a notice is put off: its reader's date has their most messages already.
 * @param at when it would have left
 * @param to when it leaves together with the others
 */
export function capped({ name, dailyCap, zone }: PersonFacts, at: InstantMs, to: InstantMs): WhyStep {
  const params = { name, cap: dailyCap ?? 0, date: formatDay(zone.dayOf(at)), to: formatZoned(to, zone) };
  return { code: 'capped', params };
}

/** What keeps a recipient from being told at an instant: a hush of the task, project, person or rule, or their own choice. */
export function hushedWhy(
  { facts }: Pick<Planner, 'facts'>,
  { rule, task, recipient }: Pick<Telling, 'rule' | 'task' | 'recipient'>,
  at: InstantMs
): WhyStep {
  const named = { task: task.id, project: task.projectId, person: recipient.id, rule: rule.id };
  const hush = facts.hushes?.find((one) => named[one.of] === one.id && one.from <= at && at < one.until);
  const what = { task: 'The task', project: 'The project', person: recipient.name, rule: 'The rule' };
  return hush
    ? { code: 'hushed', params: { what: what[hush.of], until: formatZoned(hush.until, recipient.zone) } }
    : { code: 'own-silence', params: { name: recipient.name } };
}

/** Why a notice waits: the owners hear first. */
export function afterOwners(at: InstantMs, { zone }: PersonFacts): WhyStep {
  return { code: 'after-owner', params: { at: formatZoned(at, zone) } };
}

/** Why nothing is sent to somebody who cannot be reached at all. */
export function unreachable({ name, active }: PersonFacts): WhyStep {
  return { code: active ? 'no-address' : 'deactivated', params: { name } };
}

/** The steps that lead to a task's due moment; none without a due date. */
export function explainDue(planner: Planner, task: TaskFacts): WhyStep[] {
  const { due } = task;
  const dueAt = planner.dates.momentOf('due', task);
  if (!due || dueAt === null) return [];
  const { zone } = planner.dates.dateSource(task);
  if (due.minute !== null) {
    const own = due.zone ?? zone;
    const instant = formatZoned(dueAt, own);
    return [{ code: 'anchor-date-time', params: { kind: 'due', instant, zone: own.name } }];
  }
  const date = formatDay(due.day);
  return [
    { code: 'anchor-date', params: { kind: 'due', date } },
    { code: 'due-zone', params: { of: planner.dates.dateSupplier(task), zone: zone.nameAt(dueAt - 1) } },
    { code: 'due-moment', params: { date, zone: zone.nameAt(dueAt - 1), instant: formatZoned(dueAt, zone) } }
  ];
}
