import { ruleFaults } from './check.ts';
import type { RuleFault } from './rule-fault.ts';
import type { Known } from './known.ts';
import { NO_STOP, type RuleDefinition } from './model.ts';

/**
 * What is not whole yet is left out of the forecast; its fault stands beside it. A Watch or an end that is not whole would say of too many tasks
 * that they ring, so nothing rings at all.
 */
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
  const [watches, stops] = [isSound({}, ['watch']), isSound({}, ['stop'])];
  return {
    ...definition,
    leads: definition.leads.filter(
      (lead) => watches && stops && isSound({ leads: [{ ...lead, on: true }] }, ['ring'])
    ),
    steps: definition.steps.filter(({ id }) => !faulty.has(id)),
    watch: watches ? definition.watch : { ...definition.watch, condition: null },
    stop: stops ? definition.stop : { ...NO_STOP, quiet: definition.stop.quiet }
  };
}
