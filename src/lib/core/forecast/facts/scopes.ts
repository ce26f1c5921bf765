import { PHASES, PRIORITIES } from '../../task/model.ts';
import { inScope } from '../../rule/watch.ts';
import type { RuleFacts } from './compile-rule.ts';
import type { TaskFacts } from './facts.ts';

/** The rules that have a task in their scope. */
export interface Scope {
  /** In their order. */
  rules: readonly RuleFacts[];
  /** Whether all of them only tell, so that the task need not be gone through in time. */
  plain: boolean;
}

/**
 * Which rules have which tasks in their scope. What a scope asks of a task in the list that is not private is its project, phase and
 * priority: a hundred thousand tasks have a few hundred answers.
 */
export class Scopes {
  readonly #rules: readonly RuleFacts[];
  readonly #known = new Map<number | null, (Scope | undefined)[]>();

  /** @param rules in their order */
  constructor(rules: readonly RuleFacts[]) {
    this.#rules = rules;
  }

  of(task: TaskFacts): Scope {
    if (task.private || task.aside !== null || task.made !== null) return this.#ask(task);
    const { projectId, phase, priority } = task;
    let known = this.#known.get(projectId);
    if (!known) this.#known.set(projectId, (known = []));
    const at = PHASES.indexOf(phase) * PRIORITIES.length + PRIORITIES.indexOf(priority);
    return (known[at] ??= this.#ask(task));
  }

  #ask(task: TaskFacts): Scope {
    const rules = this.#rules.filter((rule) => inScope(rule.watch, task));
    return { rules, plain: rules.every((rule) => rule.plain) };
  }
}
