import type { Lead } from '../lead-model.ts';
import type { RuleDefinition } from '../model.ts';

/** What starters are for, in the order in which they are looked for. */
export const STARTER_USES = [
  'before the date',
  'on the day',
  'late',
  'new and finished',
  'regular and tidying',
  'by hand'
] as const;
export type StarterUse = (typeof STARTER_USES)[number];

/** What a rule is for, by the first moment at which it rings. */
export function useOf({ leads }: Pick<RuleDefinition, 'leads'>): StarterUse {
  const [first] = leads;
  return first ? useOfLead(first) : 'by hand';
}

function useOfLead(lead: Lead): StarterUse {
  if (lead.kind === 'by hand') return 'by hand';
  if (lead.kind === 'schedule') return 'regular and tidying';
  if (lead.kind === 'event') return 'new and finished';
  if (lead.anchor === 'ladder') return 'late';
  if (lead.anchor === 'finished') return 'new and finished';
  if (lead.anchor === 'last touched') return 'regular and tidying';
  if (lead.n === 0) return 'on the day';
  return lead.n < 0 ? 'before the date' : 'late';
}
