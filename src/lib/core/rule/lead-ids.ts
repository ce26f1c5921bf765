import type { RuleDefinition } from './model.ts';
import type { Step } from './step-model.ts';
import type { Lead } from './lead-model.ts';

/**
 * Gives each lead of an edited definition its id: the id of a lead of the version before that rings by the same thing is kept, so that
 * what has rung stays rung; a change of anchor, count or unit, of the recurrence or of the event is a new lead. One that the version
 * before did not have stays as its editor named it. Steps, recipients and later leads that name a lead go on naming the same one.
 */
export function withLeadIds(
  edited: RuleDefinition,
  before: readonly Lead[],
  nextId: () => string
): RuleDefinition {
  const leads = keepLeadIds(edited.leads, before, nextId);
  const ids = new Map(edited.leads.map(({ id }, i) => [id, leads[i]!.id]));
  return renameLeads(edited, ids, leads);
}

/** The leads of an edited definition under the ids that they keep or get. */
export function keepLeadIds(edited: readonly Lead[], before: readonly Lead[], nextId: () => string): Lead[] {
  const taken = new Set<string>();
  const known = new Set(before.map(({ id }) => id));
  return edited.map((lead) => {
    const candidates = before.filter((old) => ringsBy(lead) === ringsBy(old) && !taken.has(old.id));
    const kept = candidates.find((old) => old.id === lead.id) ?? candidates[0];
    const own = known.has(lead.id) || taken.has(lead.id) ? null : lead.id;
    const id = kept?.id ?? own ?? nextId();
    taken.add(id);
    return { ...lead, id };
  });
}

/** A definition with other ids for its leads, wherever they are named. */
export function renameLeads(
  definition: RuleDefinition,
  ids: ReadonlyMap<string, string>,
  leads: readonly Lead[] = definition.leads.map((lead) => ({ ...lead, id: ids.get(lead.id) ?? lead.id }))
): RuleDefinition {
  const of = (list: string[] | null) => list?.map((id) => ids.get(id) ?? id) ?? null;
  const walk = (steps: readonly Step[]): Step[] =>
    steps.map((step): Step => {
      const answered = of(step.leads);
      if (step.kind === 'tell') {
        const to = step.to.map((one) => (one.leads ? { ...one, leads: of(one.leads)! } : one));
        return { ...step, leads: answered, to };
      }
      if (step.kind !== 'branch') return { ...step, leads: answered };
      const sides = step.sides.map((side) => ({ ...side, steps: walk(side.steps) }));
      return { ...step, leads: answered, sides, otherwise: walk(step.otherwise) };
    });
  return {
    ...definition,
    leads: leads.map((lead) =>
      lead.kind === 'offset' && lead.after ? { ...lead, after: ids.get(lead.after) ?? lead.after } : lead
    ),
    steps: walk(definition.steps)
  };
}

function ringsBy(lead: Lead): string {
  switch (lead.kind) {
    case 'offset':
      return ['offset', lead.anchor, lead.field?.id, lead.field?.end, lead.after, lead.n, lead.unit].join(
        '/'
      );
    case 'schedule':
      return 'schedule';
    case 'event':
      return `event/${lead.event}/${lead.field ?? ''}`;
    case 'by hand':
      return 'by hand';
  }
}
