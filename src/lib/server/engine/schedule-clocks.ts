import { CodedError } from '../../core/errors.ts';
import type { CompiledLead } from '../../core/forecast/facts/compile-lead.ts';
import type { LeadClock } from '../../core/forecast/plan/lead-clock.ts';
import { isOnOwnClocks } from '../../core/forecast/plan/schedule-value.ts';
import { NO_TASK } from '../store/rule-faults.ts';
import type { FactsSource, LiveRule } from './facts-source.ts';
import type { RuleFaults } from './rule-faults.ts';

/** By what the one clock of a schedule that has no other is kept. */
export const FOR_ALL = '';

/** The clocks of schedules as they are kept, and what comes on them. */
export class ScheduleClocks {
  readonly #source: FactsSource;
  readonly #faults: RuleFaults;

  constructor(source: FactsSource, faults: RuleFaults) {
    this.#source = source;
    this.#faults = faults;
  }

  /** The clock of a key; null where its calendar is gone. */
  named(lead: CompiledLead, key: string): LeadClock | null {
    const { planner } = this.#source;
    if (!isOnOwnClocks(lead)) return planner.clocks.forAll(lead);
    // A schedule that rang on one clock for all until it was edited.
    return key === FOR_ALL ? null : planner.clocks.named(lead, key);
  }

  /**
   * The first ring on a clock after an instant; null when it has come to its end. A schedule that cannot be computed is a fault of its
   * rule, and does not ring.
   */
  nextAfter(rule: LiveRule, clock: LeadClock, after: number, now: number): number | null {
    try {
      const next = clock.nextAfter(after);
      this.#faults.rang(rule.facts.id, NO_TASK);
      return next?.at ?? null;
    } catch (error) {
      if (!(error instanceof CodedError)) throw error;
      this.#faults.note(rule.facts.id, NO_TASK, 'planning', error, now);
      return null;
    }
  }
}
