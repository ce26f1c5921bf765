import { leadHolds } from '../facts/lead-filter.ts';
import { compareForMerge, type Mergeable } from '../../ring/merge.ts';
import type { WhyStep } from '../../ring/why.ts';
import type { CompiledTell } from '../../rule/program.ts';
import { inScope } from '../../rule/watch.ts';
import type { InstantMs } from '../../time/zone.ts';
import type { CompiledLead } from '../facts/compile-lead.ts';
import { repeats, type RuleFacts } from '../facts/compile-rule.ts';
import { madeUp, type MadeUp, type PastCause } from './made-up.ts';
import { isReachable, type PersonFacts, type TaskFacts } from '../facts/facts.ts';
import type { LadderPause } from '../../ladder/pauses.ts';
import type { Planner } from '../plan/planner.ts';
import type { UnrungReason } from '../plan/planned-notice.ts';
import { forwardTo } from './owner-first.ts';
import { quietReason } from './quiet.ts';
import { aroundNow, ringBehind, type At, type Series } from '../plan/series.ts';
import { THE_RUN, type Telling, type TellingKey } from '../plan/telling.ts';

/** A ring of the plan: the next one of a lead for a recipient, or for the run. */
export interface RingAhead {
  lead: CompiledLead;
  /** Which repeat. */
  ordinal: number;
  recipientId: number;
  ringAt: InstantMs;
  /** The earlier minute that it is brought forward to; null when it is not. */
  forwardAt: InstantMs | null;
  originDay: number;
  anchorValue: string;
}

/** What became of a ring whose instant had passed when its task was planned. */
export interface CaughtUp extends MadeUp {
  lead: CompiledLead;
  ordinal: number;
  tell: CompiledTell;
  recipient: PersonFacts;
  ringAt: InstantMs;
  originDay: number;
  anchorValue: string;
}

export interface PlanAsked {
  now: InstantMs;
  /** Why a ring that has passed is owed to a recipient; null when it is not. */
  owes(past: PastKey): PastCause | null;
  /** The ring of the plan before that has come by now and has not rung yet; null where there is none like this. */
  due(ring: TellingKey & { ringAt: InstantMs }): Pick<RingAhead, 'forwardAt'> | null;
  /** Who made the change: a date moved into the past is never made up to them. */
  actorId: number | null;
  /** Whether a notice of this key has left or is on its way. */
  occupied(key: TellingKey): boolean;
  /** How many notices of a lead with these values have left to a recipient. */
  left(lead: CompiledLead, anchorValue: string, recipientId: number): number;
}

/** The plan of one rule for one task, as far as it has come. */
interface Planning {
  planner: Planner;
  rule: RuleFacts;
  task: TaskFacts;
  asked: PlanAsked;
  ahead: RingAhead[];
  caught: CaughtUp[];
}

/** A ring that has passed, and whom it would have told. */
export interface PastKey extends TellingKey {
  ringAt: InstantMs;
}

/**
 * The plan of one rule for one task: the next ring of each lead and recipient, and what is made up for of those that have passed. Only the
 * latest past lead of a rule and recipient is caught, by whatever Tells answer it; the others are overtaken. A task outside the rule's scope has no rings: whatever
 * brings it into the scope is a change of the task, and plans it again.
 */
export function planRule(
  planner: Planner,
  rule: RuleFacts,
  task: TaskFacts,
  asked: PlanAsked
): { ahead: RingAhead[]; caught: CaughtUp[] } {
  const ahead: RingAhead[] = [];
  const caught: CaughtUp[] = [];
  if (!inScope(rule.watch, task)) return { ahead, caught };
  const planning = { planner, rule, task, asked, ahead, caught };
  const past = new Map<PersonFacts, PastRing[]>();
  for (const tell of rule.program.leading) {
    // The list is the planner's own: what is done for each asks it again.
    for (const recipient of [...planner.audience.recipients(rule, tell, task)]) {
      const found = planFor(planning, tell, recipient);
      if (found.length > 0) past.set(recipient, [...(past.get(recipient) ?? []), ...found]);
    }
  }
  if (past.size > 0 && planner.watches(rule, task, asked.now) && !planner.stopped(rule, task, asked.now))
    for (const [recipient, rings] of past) makeUp(planning, recipient, rings);
  if (!rule.program.tellsOnly) planRun(planning);
  return { ahead, caught };
}

function planFor(planning: Planning, tell: CompiledTell, recipient: PersonFacts): PastRing[] {
  const { planner, rule, task, asked, ahead, caught } = planning;
  const past: PastRing[] = [];
  for (const lead of planner.audience.leadsFor(rule, tell, task, recipient)) {
    if (!leadHolds(lead, task, planner.facts)) continue;
    if (!planner.anchor(lead, task)) continue;
    if (lead.rung && tellsOf(planner, { rule, lead, task, recipient })[0] !== tell) continue;
    const anchorValue = planner.anchorValue(lead, task);
    if (repeats(lead) && asked.left(lead, anchorValue, recipient.id) >= mostOf(lead)) continue;
    const series = { planner, lead, task, recipient };
    const { next: first, last } = aroundNow(series, asked.now);
    const key = { lead, anchorValue, stepId: tell.step.id, recipientId: recipient.id };
    const occupied = (ordinal: number) => asked.occupied({ ...key, ordinal });
    const due = dueRing(asked, key, last, occupied);
    const next = due ?? firstFree(series, first, occupied);
    if (next) {
      const of = { rule, tell, lead, task, recipient, ordinal: next.ordinal };
      const forwardAt =
        broughtForward(planner, of, next.ringAt, asked.now) ??
        asked.due({ ...key, ...next })?.forwardAt ??
        null;
      const known = ahead.find((one) => one.lead === lead && one.recipientId === recipient.id);
      // Two Tells of one ring to one person are rung by one row.
      if (!known) ahead.push({ lead, recipientId: recipient.id, anchorValue, forwardAt, ...next });
      else if (forwardAt !== null) known.forwardAt = Math.min(forwardAt, known.forwardAt ?? Infinity);
    }
    if (!last || due || occupied(last.ordinal)) continue;
    const cause = asked.owes({ ...key, ...last });
    if (!cause || !isOwed(rule, cause)) continue;
    const ring = { tell, lead, anchorValue, leadOrder: lead.order, cause, ...last };
    const still = planner.ladders.stillAt(lead, task, asked.now);
    if (still) {
      const reason = stillReason(planner, lead, task, still);
      // What comes by the clock of its ladder goes on with that, and is not made up for.
      if (reason) caught.push(outcome(planner, task, recipient, ring, unrung(reason, recipient)));
    } else if (asked.now < planner.useBy(lead, task, last.ringAt, recipient, last.ordinal)) past.push(ring);
  }
  return past;
}

/** How many notices of a lead leave to a recipient at most for one date; so many runs where it acts. */
export function mostOf({ lead }: CompiledLead): number {
  return lead.kind === 'offset' ? (lead.repeat?.most ?? 1) : 1;
}

interface PastRing extends Mergeable {
  tell: CompiledTell;
  cause: PastCause;
  lead: CompiledLead;
  ringAt: InstantMs;
  anchorValue: string;
}

/** Acts are not made up for: a run rings at its instant or not at all. */
function planRun({ planner, rule, task, asked, ahead }: Planning): void {
  for (const lead of rule.planned) {
    if (!leadHolds(lead, task, planner.facts) || !planner.anchor(lead, task)) continue;
    const anchorValue = planner.anchorValue(lead, task);
    if (repeats(lead) && asked.left(lead, anchorValue, THE_RUN) >= mostOf(lead)) continue;
    const series = { planner, lead, task, recipient: null };
    const { next: first, last } = aroundNow(series, asked.now);
    const key = { lead, anchorValue, stepId: '', recipientId: THE_RUN };
    const occupied = (ordinal: number) => asked.occupied({ ...key, ordinal });
    const next = dueRing(asked, key, last, occupied) ?? firstFree(series, first, occupied);
    if (next) ahead.push({ lead, recipientId: THE_RUN, anchorValue, forwardAt: null, ...next });
  }
}

/** A ring that has come as its task is planned anew stays in the plan, and rings: it is not one that has passed. */
function dueRing(
  asked: PlanAsked,
  key: Omit<TellingKey, 'ordinal'>,
  last: At | null,
  occupied: (ordinal: number) => boolean
): At | null {
  return last && !occupied(last.ordinal) && asked.due({ ...key, ...last }) ? last : null;
}

/** The minute that a ring is brought forward to, while that is ahead; null when it is not, or is gone already. */
function broughtForward(planner: Planner, of: Telling, ringAt: InstantMs, now: InstantMs): InstantMs | null {
  const at = forwardTo(planner, of, ringAt, now);
  return at > now ? at : null;
}

/** The earliest minute ahead that a ring is brought forward to for a recipient, by any of its Tells; null when it is not. */
export function forwardOf(
  planner: Planner,
  of: Omit<Telling, 'tell'>,
  ringAt: InstantMs,
  now: InstantMs
): InstantMs | null {
  let earliest: InstantMs | null = null;
  for (const tell of tellsOf(planner, of)) {
    const at = broughtForward(planner, { ...of, tell }, ringAt, now);
    if (at !== null) earliest = Math.min(at, earliest ?? Infinity);
  }
  return earliest;
}

/** The Tells of a ring that are brought forward to this minute for a recipient; those that are quietened now are not. */
export function tellsForward(
  planner: Planner,
  of: Omit<Telling, 'tell'>,
  ringAt: InstantMs,
  now: InstantMs
): CompiledTell[] {
  const { rule, task, recipient } = of;
  return tellsOf(planner, of).filter(
    (tell) =>
      forwardTo(planner, { ...of, tell }, ringAt, now) === now &&
      !planner.isHushed(rule, tell, task, recipient, now) &&
      quietReason(planner, { ...of, tell }, now) === null &&
      isReachable(recipient)
  );
}

/** The Tells before anything else of a rule by which a lead tells somebody of a task; of a ladder each rung tells nobody twice. */
export function tellsOf(
  planner: Planner,
  { rule, lead, task, recipient }: Pick<Telling, 'rule' | 'lead' | 'task' | 'recipient'>
): CompiledTell[] {
  const tells = rule.program.leading.filter(
    (tell) =>
      planner.audience.leadsFor(rule, tell, task, recipient).includes(lead) &&
      [...planner.audience.recipients(rule, tell, task)].includes(recipient)
  );
  // Where nobody stands above, two levels may fall back to the same person.
  return lead.rung ? tells.slice(0, 1) : tells;
}

/** The next ring that has not left already, as it may have where the clock was set back. */
function firstFree(series: Series, first: At | null, occupied: (ordinal: number) => boolean): At | null {
  let next = first;
  while (next && occupied(next.ordinal)) next = ringBehind(series, next);
  return next;
}

function isOwed({ past }: RuleFacts, cause: PastCause): boolean {
  switch (cause) {
    case 'created':
      return past.created !== 'do not ring';
    case 'moved':
      return past.moved !== 'do not ring';
    case 'came true':
      return past.cameTrue !== 'do not ring';
    case 'new recipient':
      return past.newRecipient !== 'do not ring';
    case 'turned on':
      return past.turnedOn !== 'do not ring';
  }
}

/**
 * The latest past ring is caught: now when the recipient is in reach, else at the next opening; the others are overtaken, though another Tell
 * would have said them: on the day itself nobody is told that it is a week away.
 */
function makeUp(
  { planner, rule, task, asked: { actorId, now }, caught }: Planning,
  recipient: PersonFacts,
  past: PastRing[]
): void {
  past.sort((a, b) => a.ringAt - b.ringAt || compareForMerge(a, b));
  const latest = past.at(-1)!;
  for (const ring of past) {
    const { tell, lead, ordinal, ringAt, cause } = ring;
    const isLatest = lead === latest.lead && ordinal === latest.ordinal;
    const of = { rule, tell, lead, task, recipient, ordinal };
    const made = isLatest
      ? madeUp(planner, of, { ringAt, cause, actorId }, now)
      : unrung('overtaken', recipient);
    caught.push(outcome(planner, task, recipient, ring, made));
  }
}

function unrung(reason: UnrungReason, { id }: PersonFacts): MadeUp {
  return { reason, leavesAt: null, readerId: id, why: [] };
}

/** What became of a ring that had passed, with the steps that led to its instant. */
function outcome(
  planner: Planner,
  task: TaskFacts,
  recipient: PersonFacts,
  { tell, lead, ordinal, ringAt, originDay, anchorValue }: PastRing,
  made: MadeUp
): CaughtUp {
  const why: WhyStep[] = [];
  planner.ring(lead, task, recipient, why, ordinal);
  return {
    ...{ lead, ordinal, tell, recipient, ringAt, originDay, anchorValue },
    ...{ ...made, why: [...why, ...made.why] }
  };
}

/** Why a level of a ladder before the date does not ring while the clock stands still; null for the others, which come with the clock. */
export function stillReason(
  { ladders }: Pick<Planner, 'ladders'>,
  lead: CompiledLead,
  task: TaskFacts,
  still: LadderPause
): UnrungReason | null {
  if (ladders.timing(lead, task).n >= 0) return null;
  switch (still.why) {
    case 'acknowledged':
      return 'acknowledged';
    case 'waits for others':
      return 'stuck on others';
    default:
      return null;
  }
}
