import { parseTemplate } from '../message/template.ts';
import { CodedError } from '../errors.ts';
import type { RuleDefinition } from '../rule/model.ts';
import { allSteps, type Tell } from '../rule/step-model.ts';
import type { OffsetLead } from '../rule/lead-model.ts';
import type { Lint, LintContext } from './model.ts';

/** A claim that words make about how far away the date is, and the days before it for which that is true. */
interface Claim {
  said: string;
  holds: (lead: OffsetLead) => boolean;
}

const isDays = ({ unit }: OffsetLead) => unit === 'day' || unit === 'workday';

/** What the plain words of a Tell claim; merge fields are computed and claim nothing false. */
function claimsOf(tell: Tell): Claim[] {
  const text = plainWords(tell.subject, tell.body).toLowerCase();
  const claims: Claim[] = [];
  const add = (pattern: RegExp, holds: (match: RegExpExecArray) => Claim['holds']) => {
    const match = pattern.exec(text);
    if (match) claims.push({ said: match[0], holds: holds(match) });
  };
  add(/\btomorrow\b/, () => (lead) => isDays(lead) && lead.n === -1);
  add(/\b(is due|due|expires|ends) today\b/, () => (lead) => lead.n === 0);
  add(
    /\bin (\d+) (?:working )?days?\b/,
    ([, n]) =>
      (lead) =>
        isDays(lead) && -lead.n === Number(n)
  );
  add(
    /\bin (\d+) weeks?\b/,
    ([, n]) =>
      (lead) =>
        (lead.unit === 'week' ? -lead.n : -lead.n / 7) === Number(n)
  );
  add(/\b(overdue|past its date|is late)\b/, () => (lead) => lead.n > 0);
  add(
    /\b(\d+) (?:working )?days? (?:late|overdue)\b/,
    ([, n]) =>
      (lead) =>
        lead.n === Number(n)
  );
  return claims;
}

function plainWords(...texts: readonly string[]): string {
  return texts
    .map((text) => {
      try {
        return parseTemplate(text)
          .map((piece) => (typeof piece === 'string' ? piece : '¦'))
          .join('');
      } catch (error) {
        // A field that does not exist is a fault, and stands as one.
        if (error instanceof CodedError) return '';
        throw error;
      }
    })
    .join(' ¦ ');
}

/** Leads from the due date that a Tell answers. */
function leadsOf({ leads }: RuleDefinition, tell: Tell): OffsetLead[] {
  return leads.filter(
    (lead): lead is OffsetLead =>
      lead.kind === 'offset' && lead.on && lead.anchor === 'due' && (tell.leads?.includes(lead.id) ?? true)
  );
}

/** Words that say something of the date which is not so at a ring time of theirs. */
export function wordsAgainstLead({ definition }: LintContext): Lint[] {
  return allSteps(definition.steps).flatMap((step): Lint[] => {
    if (step.kind !== 'tell') return [];
    const leads = leadsOf(definition, step);
    const wrong = claimsOf(step).find(({ holds }) => leads.some((lead) => !holds(lead)));
    if (!wrong) return [];
    return [
      {
        code: 'words against the lead',
        part: 'tell',
        step: step.id,
        message: `The text says “${wrong.said}”. This is wrong for some ring times. ‹days left› is always right.`,
        mend: { does: 'days left', words: 'use ‹days left›', step: step.id }
      }
    ];
  });
}

/** The words that a mend replaces by ‹days left›: what was claimed, with the “due” before it. */
export function withDaysLeft(text: string): string {
  return text.replace(
    /\b(?:is )?(?:due |expires |ends )?(?:tomorrow|today|in \d+ (?:working )?days?|in \d+ weeks?|overdue|past its date|\d+ (?:working )?days? (?:late|overdue))\b/gi,
    (said) => (/^is /i.test(said) ? 'is ‹days left›' : '‹days left›')
  );
}
