import type { Condition } from './condition.ts';
import type { Watch } from './model.ts';
import type { Unseen, Phase } from '../task/model.ts';

/** What a saved list holds, in the terms of a Watch. */
export interface ListScope {
  condition: Condition;
  /** The phases that it shows; null leaves them to the rule. */
  phases: readonly Phase[] | null;
  /** It shows what stands apart there and nothing else; null leaves that to the rule. */
  standing: Unseen | null;
}

/** Saved lists by their ids; a text says why a rule cannot look at one. */
export type ListScopes = ReadonlyMap<number, ListScope | string>;

/** A Watch with what its saved list asks besides. A list that is gone, or that no rule can look at, holds nothing. */
export function withList(watch: Watch, lists: ListScopes): Watch & { standing: Unseen | null } {
  if (watch.list === null) return { ...watch, standing: null };
  const scope = lists.get(watch.list);
  if (scope === undefined || typeof scope === 'string') return { ...watch, projects: [], standing: null };
  const { condition, phases, standing } = scope;
  return {
    ...watch,
    phases: watch.phases ?? (phases && [...phases]),
    seen: standing === null || watch.seen.includes(standing) ? watch.seen : [...watch.seen, standing],
    condition: watch.condition ? { all: [condition, watch.condition] } : condition,
    standing
  };
}
