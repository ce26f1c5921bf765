import { CodedError } from './errors.ts';

/**
 * What is computed, or something else where it cannot be. For whoever only looks: one task whose calendar has no working time keeps no page
 * and no digest from what is so of all the others.
 * @example ifComputable(() => planner.watches(rule, task, now), false)
 */
export function ifComputable<T>(compute: () => T, otherwise: T | ((error: CodedError) => T)): T {
  try {
    return compute();
  } catch (error) {
    if (!(error instanceof CodedError)) throw error;
    return typeof otherwise === 'function' ? (otherwise as (error: CodedError) => T)(error) : otherwise;
  }
}
