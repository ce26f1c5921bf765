import type { TaskFacts } from '../../core/forecast/facts/facts.ts';
import type { LeadClock } from '../../core/forecast/plan/lead-clock.ts';
import type { Told } from '../../core/forecast/facts/recipients.ts';
import { isOncePerDate } from '../../core/forecast/plan/schedule-value.ts';
import { toldOnClock } from '../../core/forecast/plan/seats.ts';
import type { CompiledTell } from '../../core/rule/program.ts';
import type { Stores } from '../store/all.ts';
import type { RunRecord } from '../store/runs.ts';
import type { SetOffRule } from './chain.ts';
import type { FactsSource } from './facts-source.ts';
import { ringKey } from './ring-key.ts';
import type { Ringer } from './ringer.ts';
import type { RingNow } from './run-starter.ts';
import type { Runs } from './runs.ts';

/** A schedule that rings for each recipient on their own clock. Everything here runs inside the tick's transaction. */
export class ClockRings {
  readonly #stores: Stores;
  readonly #source: FactsSource;
  readonly #ringer: Ringer;
  readonly #runs: Runs;

  constructor(stores: Stores, source: FactsSource, ringer: Ringer, runs: Runs) {
    this.#stores = stores;
    this.#source = source;
    this.#ringer = ringer;
    this.#runs = runs;
  }

  /**
   * An occurrence has come on one clock: whoever is on it is told of a task, and where its owner is, the steps that follow are taken.
   * @param value by what the ring is known, on every clock
   * @returns the ring; null where nothing of it happened on this clock
   */
  ring({ rule, lead, value, by, now }: SetOffRule, task: TaskFacts, clock: LeadClock): number | null {
    const { notices, runs } = this.#stores;
    const { planner } = this.#source;
    const { program } = rule.facts;
    const key = ringKey(rule.facts, lead, task, value, 0);
    const acts = !program.tellsOnly && planner.clocks.of(lead, task, null) === clock && !notices.hasRun(key);
    const told = toldOnClock(planner, rule.facts, lead, task, clock).filter(
      ({ tell, told }) => !notices.occupied({ ...key, recipientId: told.person.id, stepId: tell.step.id })
    );
    if (!acts && told.length === 0) return null;
    const quiet = planner.isQuiet(rule.facts, task, now);
    // Once for a date is once when it is heard.
    if (quiet && isOncePerDate(lead)) return null;
    const ringId = notices.ring(key, now);
    const run = runs.begin(ringId, rule.facts.id, rule.versionId, now, by);
    if (!quiet) this.#tell({ rule, lead, task, now }, run, told);
    if (program.tellsOnly && run.state === 'running')
      runs.end(run.id, quiet ? 'stopped' : 'ended', quiet ? 'hushed' : null, now);
    if (acts) this.#runs.start({ rule, lead, task, now }, ringId, { ...by, from: program.start });
    return ringId;
  }

  #tell(
    { rule, lead, task, now }: RingNow,
    run: RunRecord,
    all: readonly { tell: CompiledTell; told: Told }[]
  ): void {
    const originDay = this.#source.planner.dates.ownerZone(task).dayOf(now);
    const { ringId, ordinal, anchorValue } = run;
    for (const { tell, told } of all) {
      const { person: recipient, as: copied, named } = told;
      this.#ringer.tell({
        ...{ ringId, rule: rule.facts, lead, tell, task, recipient, ordinal, anchorValue },
        ...{ ringAt: now, now, originDay, copied, named }
      });
      const { id, name } = tell.step;
      this.#stores.runs.note(run.id, {
        ...{ stepId: id, kind: 'tell', name, at: now },
        input: { 'recipients named': tell.step.to.length },
        output: { told: [copied === 'to' ? recipient.name : `${recipient.name} (copy)`] }
      });
    }
  }
}
