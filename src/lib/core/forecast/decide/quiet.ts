import { acknowledgedPauses } from '../../ladder/pauses.ts';
import { pauseAt } from '../../ladder/clock.ts';
import type { WhyStep } from '../../ring/why.ts';
import type { QuietFor } from '../../rule/model.ts';
import { formatZoned } from '../../time/instant.ts';
import type { InstantMs } from '../../time/zone.ts';
import type { TaskFacts } from '../facts/facts.ts';
import { noticeKind } from './notice-kind.ts';
import type { Planner } from '../plan/planner.ts';
import type { Telling } from '../plan/telling.ts';

/** Why a notice is kept from somebody. */
export type QuietReason = 'acknowledged' | 'stuck on others';

/**
 * Why a notice is not sent, as the Stop of its rule says what quietens: its recipient has said that they are on it, until then, or the task
 * waits for others and they own it. A ladder has its own clock for that, and what somebody set for themselves rings all the same.
 * @param at when it rings or leaves, ms
 */
export function quietReason(
  { facts }: Pick<Planner, 'facts'>,
  { rule, tell, lead, task, recipient }: Omit<Telling, 'ordinal'>,
  at: InstantMs
): QuietReason | null {
  // Asked of each notice of a forecast: nearly all tasks are neither.
  const isStuck = task.phase === 'stuck on others';
  if ((!isStuck && !task.acknowledged) || rule.ofTask || lead.rung) return null;
  const { acknowledged, stuck } = rule.stop.quiet;
  const isKept = (what: QuietFor) =>
    what === 'everything' || (what === 'overdue' && noticeKind(tell, lead) === 'overdue');
  if (task.acknowledged && isKept(acknowledged) && saidUntil(facts, task, recipient.id, at) !== null)
    return 'acknowledged';
  return isStuck && isKept(stuck) && isOwner(task, recipient.id) ? 'stuck on others' : null;
}

/** The same as a step of why, for a notice that is not sent because of it. */
export function quietWhy(
  { facts }: Pick<Planner, 'facts'>,
  { task, recipient }: Pick<Telling, 'task' | 'recipient'>,
  reason: QuietReason,
  at: InstantMs
): WhyStep {
  if (reason === 'stuck on others') return { code: 'quiet-stuck', params: { name: recipient.name } };
  const until = saidUntil(facts, task, recipient.id, at) ?? at;
  return {
    code: 'quiet-said',
    params: { name: recipient.name, until: formatZoned(until, recipient.zone) }
  };
}

/** Until when what somebody said of a task keeps them from being asked; null where nothing does. */
function saidUntil(
  { detailsOf }: Pick<Planner['facts'], 'detailsOf'>,
  task: TaskFacts,
  personId: number,
  at: InstantMs
): InstantMs | null {
  const { acknowledgements, assignedAt } = detailsOf(task.id);
  // What an owner said of it before it came to them was said as somebody else.
  const since = task.ownerId === personId ? assignedAt : -Infinity;
  const said = acknowledgements.filter((one) => one.personId === personId && one.at >= since);
  return pauseAt(acknowledgedPauses(said), at)?.until ?? null;
}

function isOwner({ ownerId, otherOwnerIds }: TaskFacts, personId: number): boolean {
  return ownerId === personId || otherOwnerIds.includes(personId);
}
