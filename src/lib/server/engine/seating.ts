import type { CompiledLead } from '../../core/forecast/facts/compile-lead.ts';
import type { TaskFacts } from '../../core/forecast/facts/facts.ts';
import { leadsOnOwnClocks, owedByMove, seatsOf, type Seat } from '../../core/forecast/plan/seats.ts';
import type { Stores } from '../store/all.ts';
import type { StaleTask } from '../store/plan.ts';
import type { SeatRow } from '../store/schedule-plan.ts';
import type { FactsSource, LiveRule } from './facts-source.ts';
import type { ScheduleClocks } from './schedule-clocks.ts';
import type { RingNow } from './run-starter.ts';

/** Computes what is asked of a rule for a task; null where that cannot be computed, and its fault is written down. */
type Compute = <T>(ruleId: number, taskId: number, now: number, compute: () => T) => T | null;

/**
 * Keeps which tasks are on which clock of a schedule that rings on each owner's, project's or recipient's own. It is done as a task is planned:
 * whatever moves it, or somebody, to another clock is a change, and plans it again.
 */
export class Seating {
  readonly #stores: Stores;
  readonly #source: FactsSource;
  readonly #clocks: ScheduleClocks;
  readonly #compute: Compute;
  #live: readonly LiveRule[] | null = null;
  #own: readonly { rule: LiveRule; leads: readonly CompiledLead[] }[] = [];

  constructor(stores: Stores, source: FactsSource, clocks: ScheduleClocks, compute: Compute) {
    this.#stores = stores;
    this.#source = source;
    this.#clocks = clocks;
    this.#compute = compute;
  }

  /** Seats a task anew; what has passed by a change of clock is owed to it. @param task null where it is gone */
  seat(stale: StaleTask, task: TaskFacts | null, now: number): void {
    const own = this.#onOwnClocks();
    if (own.length === 0) return;
    const { schedules } = this.#stores;
    const { taskId } = stale;
    const before = schedules.seatsOf(taskId);
    const after: SeatRow[] = [];
    for (const { rule, leads } of task ? own : [])
      for (const lead of leads) {
        const { versionId } = rule;
        const of = { ruleId: rule.facts.id, leadId: lead.lead.id, versionId };
        const former = before.filter((seat) => seat.leadId === of.leadId && seat.versionId === versionId);
        const seats = this.#compute(of.ruleId, taskId, now, () =>
          this.#seatAt({ rule, lead, task: task!, now }, former, stale)
        );
        for (const { personId, clock } of seats ?? []) after.push({ ...of, personId, clock: clock.key });
      }
    if (!isAlike(before, after)) schedules.seat(taskId, after);
  }

  #seatAt({ rule, lead, task, now }: RingNow, former: readonly SeatRow[], stale: StaleTask): readonly Seat[] {
    const { schedules } = this.#stores;
    const of = { ruleId: rule.facts.id, leadId: lead.lead.id };
    const seats = seatsOf(this.#source.planner, rule.facts, lead, task);
    for (const { clock } of seats) {
      if (schedules.has({ ...of, clock: clock.key })) continue;
      const nextAt = this.#clocks.nextAfter(rule, clock, now, now);
      if (nextAt !== null) schedules.put({ ...of, clock: clock.key, nextAt });
    }
    if (former.length === 0 || this.#owesNothing(rule, stale)) return seats;
    const before = former.flatMap(({ personId, clock: key }): Seat[] => {
      const clock = this.#clocks.named(lead, key);
      return clock ? [{ personId, clock }] : [];
    });
    for (const { clock } of owedByMove(before, seats, now))
      schedules.owe({ ...of, clock: clock.key, taskId: task.id, at: now });
    return seats;
  }

  /** What an undo brings back rings nothing that has passed, and what a run changes itself never sets off its own Watch. */
  #owesNothing({ facts, onChange }: LiveRule, { cause, changeId }: StaleTask): boolean {
    if (cause === 'undone') return true;
    return changeId > onChange && this.#stores.changes.ruleOf(changeId) === facts.id;
  }

  #onOwnClocks() {
    const live = this.#source.liveRules();
    if (this.#live !== live) {
      this.#live = live;
      this.#own = live
        .map((rule) => ({ rule, leads: leadsOnOwnClocks(rule.facts) }))
        .filter(({ leads }) => leads.length > 0);
    }
    return this.#own;
  }
}

/** Both are of one task, each person once for each schedule. */
function isAlike(before: readonly SeatRow[], after: readonly SeatRow[]): boolean {
  if (before.length !== after.length) return false;
  const texts = new Set(before.map(textOf));
  return after.every((seat) => texts.has(textOf(seat)));
}

function textOf({ versionId, leadId, personId, clock }: SeatRow): string {
  return `${versionId}/${leadId}/${personId}/${clock}`;
}
