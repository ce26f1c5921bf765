import type { RuleDefinition } from './model.ts';
import type { Recipient, Step } from './step-model.ts';

/**
 * A rule without one of its ring times. Recipients who heard at that one alone go with it, and a step that answered it alone answers none: nobody
 * hears at other ring times than was said. A step that answers none stays, and its sentence says that it is never done.
 */
export function withoutLead(definition: RuleDefinition, leadId: string): RuleDefinition {
  const left = (leads: string[] | null) => leads?.filter((id) => id !== leadId) ?? null;
  const recipients = (to: readonly Recipient[]): Recipient[] =>
    to.flatMap((one) => {
      if (!one.leads) return [one];
      const leads = left(one.leads)!;
      return leads.length === 0 ? [] : [{ ...one, leads }];
    });
  const walk = (steps: readonly Step[]): Step[] =>
    steps.map((step): Step => {
      const answered = left(step.leads);
      if (step.kind === 'tell') return { ...step, leads: answered, to: recipients(step.to) };
      if (step.kind !== 'branch') return { ...step, leads: answered };
      const sides = step.sides.map((side) => ({ ...side, steps: walk(side.steps) }));
      return { ...step, leads: answered, sides, otherwise: walk(step.otherwise) };
    });
  return {
    ...definition,
    leads: definition.leads.filter(({ id }) => id !== leadId),
    steps: walk(definition.steps)
  };
}

/** How many recipients would go with a ring time. */
export function heardAlone({ steps }: Pick<RuleDefinition, 'steps'>, leadId: string): number {
  const count = (all: readonly Step[]): number =>
    all.reduce((sum, step) => {
      if (step.kind === 'tell')
        return sum + step.to.filter(({ leads }) => leads?.length === 1 && leads[0] === leadId).length;
      if (step.kind !== 'branch') return sum;
      return sum + count(step.otherwise) + step.sides.reduce((inner, side) => inner + count(side.steps), 0);
    }, 0);
  return count(steps);
}
