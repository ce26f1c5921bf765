import { compileRule, type Facts, type RuleFacts } from '../../core/forecast/facts.ts';
import { Planner } from '../../core/forecast/planner.ts';
import type { Stores } from '../store/all.ts';
import type { Rule } from '../store/rules.ts';
import { compileFacts, readFactsInput } from './compile-facts.ts';

/** A rule that is on, compiled, with the version that is live. */
export interface LiveRule {
  facts: RuleFacts;
  versionId: number;
  /** The change that turned it on. */
  onChange: number;
}

/**
 * The workspace compiled for the core: people, calendars, projects and live rules. Kept until something it is made of
 * changes; tasks are read when they are needed.
 */
export class FactsSource {
  readonly #stores: Stores;
  #planner: Planner | null = null;
  #live: LiveRule[] | null = null;

  constructor(stores: Stores) {
    this.#stores = stores;
  }

  /** Forgets what was compiled. */
  invalidate(): void {
    this.#planner = null;
    this.#live = null;
  }

  get facts(): Facts {
    return this.planner.facts;
  }

  get planner(): Planner {
    return (this.#planner ??= new Planner(compileFacts(readFactsInput(this.#stores))));
  }

  /** Rules that are on, in their order. */
  liveRules(): readonly LiveRule[] {
    return (this.#live ??= this.#stores.rules.all().flatMap((rule) => {
      const live = this.#liveRule(rule);
      return live ? [live] : [];
    }));
  }

  #liveRule(rule: Rule): LiveRule | null {
    if (rule.state !== 'on' || rule.liveVersion === null) return null;
    const version = this.#stores.rules.version(rule.liveVersion);
    if (!version) return null;
    const facts = compileRule(
      rule.id,
      rule.name,
      rule.position,
      version.definition,
      rule.keeperId,
      rule.kind === 'reminders'
    );
    return { facts, versionId: version.id, onChange: rule.onChange ?? 0 };
  }
}
