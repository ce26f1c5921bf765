import { ruleFaults, type RuleFault } from './check.ts';
import type { Known } from './known.ts';
import type { RuleDefinition } from './model.ts';

/** What is not whole yet is left out of the forecast; its fault stands beside it. */
export function withoutFaults(
  definition: RuleDefinition,
  faults: readonly RuleFault[],
  known: Known
): RuleDefinition {
  if (faults.length === 0) return definition;
  const isSound = (patch: Partial<RuleDefinition>, parts: readonly RuleFault['part'][]) =>
    !ruleFaults('x', { ...definition, ...patch }, known).some(({ part }) => parts.includes(part));
  const faulty = new Set(
    faults.flatMap(({ step, code }) => (step && code !== 'rule-no-recipient' ? [step] : []))
  );
  return {
    ...definition,
    leads: definition.leads.filter((lead) => isSound({ leads: [{ ...lead, on: true }] }, ['ring'])),
    steps: definition.steps.filter(({ id }) => !faulty.has(id)),
    watch: isSound({}, ['watch']) ? definition.watch : { ...definition.watch, condition: null },
    stop: isSound({}, ['stop']) ? definition.stop : { condition: null, afterNotices: null, until: null }
  };
}
