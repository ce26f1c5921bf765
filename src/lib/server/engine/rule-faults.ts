import { many } from '../../core/many.ts';
import { CodedError } from '../../core/errors.ts';
import { inScope } from '../../core/rule/watch.ts';
import type { TaskFacts } from '../../core/forecast/facts/facts.ts';
import type { Stores } from '../store/all.ts';
import { NO_TASK, type RuleFaultRecord } from '../store/rule-faults.ts';
import type { FactsSource } from './facts-source.ts';
import type { KeeperReports } from './keeper-reports.ts';

/** What a run came to that could not be computed. */
export function faultWords(error: unknown): string {
  return `cannot be computed: ${error instanceof Error ? error.message : String(error)}`;
}

/** Tasks that the keeper is told by name. */
const NAMED = 3;

/**
 * Rules that cannot be computed for a task. It concerns that rule and that task alone: every other rule rings. What is wrong stands at the
 * rule for so many tasks, and its keeper hears of it once, until all of it is mended. Everything here runs inside the unit under way.
 */
export class RuleFaults {
  readonly #stores: Stores;
  readonly #source: FactsSource;
  readonly #keeper: KeeperReports;

  constructor(stores: Stores, source: FactsSource, keeper: KeeperReports) {
    this.#stores = stores;
    this.#source = source;
    this.#keeper = keeper;
  }

  /** @param taskId 0 where it is the rule by itself */
  note(ruleId: number, taskId: number, found: RuleFaultRecord['found'], error: unknown, now: number): void {
    const code = error instanceof CodedError ? error.code : 'unknown';
    const message = error instanceof Error ? error.message : String(error);
    this.#stores.ruleFaults.put({ ruleId, taskId, found, code, message, at: now });
  }

  /** It rang, so it can be computed again. */
  rang(ruleId: number, taskId: number): void {
    this.#stores.ruleFaults.drop(ruleId, taskId);
  }

  /** A task is about to be planned anew: what was wrong with planning it is found again, or is not; what its rules no longer look at is over. */
  review(taskId: number, task: TaskFacts | null): void {
    for (const { ruleId, found } of this.#stores.ruleFaults.ofTask(taskId)) {
      const rule = this.#source.live(ruleId);
      if (found === 'planning' || !task || !rule || !inScope(rule.facts.watch, task))
        this.rang(ruleId, taskId);
    }
  }

  /** Once everything is planned: keepers who have not heard yet are told of all that is wrong with a rule at once. */
  tellKeepers(now: number): void {
    const { ruleFaults } = this.#stores;
    ruleFaults.forgetTold();
    for (const ruleId of ruleFaults.untold()) {
      ruleFaults.tell(ruleId);
      const rule = this.#stores.rules.byId(ruleId);
      const count = ruleFaults.counts().get(ruleId) ?? 0;
      const first = ruleFaults.ofRule(ruleId, NAMED);
      if (rule && first.length > 0) this.#tell(rule, count, first, now);
    }
  }

  #tell(
    rule: { id: number; name: string; keeperId: number | null },
    count: number,
    first: readonly RuleFaultRecord[],
    now: number
  ): void {
    const itself = first.some(({ taskId }) => taskId === NO_TASK);
    const tasks = count - (itself ? 1 : 0);
    const names = first
      .filter(({ taskId }) => taskId !== NO_TASK)
      .map(({ taskId }) => this.#nameOf(taskId, rule.keeperId));
    const of = [
      ...(itself ? ['its schedule'] : []),
      ...(tasks > 0
        ? [`${many(tasks, 'task')}: ${names.join(', ')}${tasks > names.length ? ' and others' : ''}`]
        : [])
    ];
    this.#keeper.tell(
      rule,
      `“${rule.name}” cannot be computed for some tasks`,
      [
        `The rule “${rule.name}” cannot be computed for ${of.join(' and for ')}.`,
        `${first[0]!.message}`,
        'It does not ring there until this is corrected. Everything else rings as before.'
      ],
      first[0]!.taskId === NO_TASK ? null : first[0]!.taskId,
      now
    );
  }

  #nameOf(taskId: number, keeperId: number | null): string {
    const task = this.#stores.tasks.byId(taskId);
    if (!task) return 'a task';
    return task.private && task.ownerId !== keeperId ? 'a private task' : `“${task.name}”`;
  }
}
