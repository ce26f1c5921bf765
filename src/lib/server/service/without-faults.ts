import { ruleFaults, type RuleFault } from '../../core/rule/check.ts';
import type { RuleInput } from './rules.ts';

/** What is not whole yet is left out of the forecast; its fault stands beside it. */
export function withoutFaults(
  input: RuleInput,
  faults: readonly RuleFault[],
  known: Parameters<typeof ruleFaults>[2]
): RuleInput {
  if (faults.length === 0) return input;
  const { definition } = input;
  const isSound = (patch: Partial<RuleInput['definition']>, parts: readonly RuleFault['part'][]) =>
    !ruleFaults('x', { ...definition, ...patch }, known).some(({ part }) => parts.includes(part));
  const faulty = new Set(
    faults.flatMap(({ step, code }) => (step && code !== 'rule-no-recipient' ? [step] : []))
  );
  return {
    ...input,
    definition: {
      ...definition,
      leads: definition.leads.filter((lead) => isSound({ leads: [{ ...lead, on: true }] }, ['ring'])),
      steps: definition.steps.filter(({ id }) => !faulty.has(id)),
      watch: isSound({}, ['watch']) ? definition.watch : { ...definition.watch, condition: null },
      stop: isSound({}, ['stop']) ? definition.stop : { condition: null, afterNotices: null, until: null }
    }
  };
}
