import type { CompiledTell } from '../../rule/program.ts';
import { inScope } from '../../rule/watch.ts';
import type { InstantMs } from '../../time/zone.ts';
import type { CompiledLead } from '../facts/compile-lead.ts';
import type { RuleFacts } from '../facts/compile-rule.ts';
import type { PersonFacts, TaskFacts } from '../facts/facts.ts';
import type { LeadClock } from './lead-clock.ts';
import type { Planner } from './planner.ts';
import type { Told } from '../facts/recipients.ts';
import { isOnOwnClocks } from './schedule-value.ts';
import { THE_RUN } from './telling.ts';

/** By which clock a schedule rings for a task, or for one recipient of it; `THE_RUN` stands for the task's own, on which it acts. */
export interface Seat {
  personId: number;
  clock: LeadClock;
}

/** Leads of a rule that ring on more clocks than one. */
export function leadsOnOwnClocks(rule: RuleFacts): readonly CompiledLead[] {
  return rule.leads.filter(isOnOwnClocks);
}

/** Whether a schedule tells each recipient on their own clock. */
export function isOnRecipientsClock({ lead }: CompiledLead): boolean {
  return lead.kind === 'schedule' && lead.zone.of === 'recipient';
}

/** The seats of a task at a schedule on own clocks; none where the rule does not look at it. */
export function seatsOf(planner: Planner, rule: RuleFacts, lead: CompiledLead, task: TaskFacts): Seat[] {
  if (!inScope(rule.watch, task)) return [];
  const own: Seat = { personId: THE_RUN, clock: planner.clocks.of(lead, task, null) };
  if (!isOnRecipientsClock(lead)) return [own];
  const told = [...toldOnOwnClock(planner, rule, lead, task)].map((person): Seat => ({
    personId: person.id,
    clock: planner.clocks.of(lead, task, person)
  }));
  return rule.program.tellsOnly ? told : [...told, own];
}

/** Whom the Tells before anything else of a rule tell at a lead, each once. */
function toldOnOwnClock(
  planner: Planner,
  rule: RuleFacts,
  lead: CompiledLead,
  task: TaskFacts
): Set<PersonFacts> {
  const told = tellsTimed(rule, lead).flatMap((tell) =>
    planner.audience.told(rule, tell, task, lead.lead.id).map(({ person }) => person)
  );
  return new Set(told);
}

/** The Tells of a lead that are timed for each recipient: those before anything else of its rule. */
function tellsTimed({ program }: RuleFacts, { lead: { id } }: CompiledLead): CompiledTell[] {
  return program.leading.filter(({ leads }) => leads === null || leads.has(id));
}

/** Whom a schedule tells of a task on one clock, by which Tell. */
export function toldOnClock(
  planner: Planner,
  rule: RuleFacts,
  lead: CompiledLead,
  task: TaskFacts,
  clock: LeadClock
): { tell: CompiledTell; told: Told }[] {
  return tellsTimed(rule, lead).flatMap((tell) =>
    planner.audience
      .told(rule, tell, task, lead.lead.id)
      .filter(({ person }) => planner.clocks.of(lead, task, person) === clock)
      .map((told) => ({ tell, told }))
  );
}

/**
 * Who is owed a ring at once because a task or a person has changed clock: the occurrence was still ahead on the former clock and is behind
 * on the one they are on now. Whoever comes in the place of others goes by theirs. What has rung for them already does not ring twice.
 * @param before the seats until now
 * @param after the seats from now on
 * @throws CodedError where the schedule cannot be computed
 */
export function owedByMove(before: readonly Seat[], after: readonly Seat[], now: InstantMs): Seat[] {
  const former = new Map(before.map((seat) => [seat.personId, seat.clock]));
  const staying = new Set(after.map(({ personId }) => personId));
  const gone = before.filter(({ personId }) => !staying.has(personId));
  return after.filter(({ personId, clock }) => {
    const own = former.get(personId);
    const clocks = own ? [own] : gone.map((seat) => seat.clock);
    if (clocks.length === 0 || clocks.every((one) => one === clock)) return false;
    const behind = lastOn(clock, now);
    return clocks.some((one) => lastOn(one, now) < behind);
  });
}

/** The last occurrence that has come on a clock, as a wall reading. */
function lastOn(clock: LeadClock, now: InstantMs): number {
  return clock.lastBy(now)?.last ?? -Infinity;
}
