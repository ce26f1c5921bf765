import { ifComputable } from '../../core/if-computable.ts';
import { compileSweep, judge, type CompiledSweep, type Verdict } from '../../core/sweep/judge.ts';
import { phasesOf, standingsOf, type SweepDefinition } from '../../core/sweep/model.ts';
import { zoneOfSweep } from '../../core/sweep/when.ts';
import type { TaskFacts } from '../../core/forecast/facts/facts.ts';
import type { TaskDetails } from '../../core/task/details.ts';
import type { SweepNowView } from '../../view/sweeps.ts';
import type { FactsSource } from '../engine/facts-source.ts';
import type { Stores } from '../store/all.ts';
import { rangesOf } from '../store/id-ranges.ts';

/** Ids that are looked through at once; of most of them nothing is read. */
const WINDOW = 200;

/** Looks through tasks for a sweep, some at a time. */
export class SweepLook {
  readonly #stores: Stores;
  readonly #source: FactsSource;

  constructor(stores: Stores, source: FactsSource) {
    this.#stores = stores;
    this.#source = source;
  }

  /** A sweep ready to be asked. @throws CodedError where its condition cannot be read any more */
  compiled(definition: SweepDefinition, keeperId: number | null): CompiledSweep {
    const { facts } = this.#source;
    return compileSweep(definition, keeperId, facts, zoneOfSweep(definition, facts.workspace.zone));
  }

  /** What it makes of one task; null where that is not there any more. */
  verdict(sweep: CompiledSweep, taskId: number, at: number): Verdict | null {
    const task = this.#stores.tasks.factsOf(taskId);
    if (!task) return null;
    const details = this.#source.detailsOf(taskId);
    return this.#judged(sweep, task, details, at);
  }

  /** The verdicts of the next window of ids after one, with where it ends; null when there are no more. */
  window(
    sweep: CompiledSweep,
    after: number,
    at: number
  ): { until: number; verdicts: [taskId: number, verdict: Verdict][] } | null {
    if (after >= this.#stores.tasks.highestId()) return null;
    const until = after + WINDOW;
    const asides = standingsOf(sweep.act).map((one) => (one === 'called off' ? null : one));
    const ids = this.#stores.tasks.idsStanding(phasesOf(sweep.act), [...new Set(asides)], after, until);
    const verdicts = rangesOf(ids, WINDOW).flatMap((range) => this.#verdictsOf(sweep, range, at));
    return { until, verdicts };
  }

  #verdictsOf(
    sweep: CompiledSweep,
    { first, last, ids }: { first: number; last: number; ids: readonly number[] },
    at: number
  ): [taskId: number, verdict: Verdict][] {
    const standing = new Set(ids);
    const details = this.#stores.taskDetails.in(first, last);
    return this.#stores.tasks
      .factsIn(first, last)
      .filter(({ id }) => standing.has(id))
      .map((task) => [task.id, this.#judged(sweep, task, details.get(task.id)!, at)]);
  }

  /** A task for which it cannot be computed is left alone, and keeps none of the others from being swept. */
  #judged(sweep: CompiledSweep, task: TaskFacts, details: TaskDetails, at: number): Verdict {
    return ifComputable(() => judge(sweep, this.#source.planner, task, details, at), {
      ...{ is: 'protected', why: 'it cannot be computed for this task' }
    });
  }

  /** How many tasks stand where a sweep looks, whatever its filter says. */
  standing({ act }: SweepDefinition): number {
    const [first = null] = standingsOf(act);
    return this.#stores.tasks.countStanding(first === 'called off' ? null : first);
  }

  /** How many a sweep would take at an instant, as things stand. */
  count(definition: SweepDefinition, keeperId: number | null, at: number): SweepNowView {
    const sweep = this.compiled(definition, keeperId);
    const found = { taken: 0, waiting: 0, protected: 0 };
    for (let after = 0, next; (next = this.window(sweep, after, at)); after = next.until) {
      for (const [, { is }] of next.verdicts) {
        if (is === 'taken') found.taken++;
        else if (is === 'waits') found.waiting++;
        else if (is === 'protected') found.protected++;
      }
    }
    return found;
  }
}
