import { CodedError } from '../errors.ts';
import { parseTemplate } from '../message/template.ts';
import { checkLead } from '../ring/lead.ts';
import { parseTimeOfDay } from '../time/time-of-day.ts';
import { zoneNamed } from '../time/zone.ts';
import type { RuleDefinition } from './model.ts';

/** A fault that keeps a rule from being turned on, with the part at which it stands. */
export interface RuleFault {
  part: 'name' | 'watch' | 'ring' | 'tell';
  code: string;
  message: string;
}

/**
 * Everything that keeps a rule from being turned on; empty when it can be.
 * @param projectExists answers whether a project that the rule names is still there
 */
export function ruleFaults(
  name: string,
  definition: RuleDefinition,
  projectExists: (id: number) => boolean
): RuleFault[] {
  const faults: RuleFault[] = [];
  const check = (part: RuleFault['part'], test: () => void) => {
    try {
      test();
    } catch (error) {
      if (!(error instanceof CodedError)) throw error;
      // Leads that share a fault, a zone for one, say it once.
      if (!faults.some((known) => known.part === part && known.message === error.message))
        faults.push({ part, code: error.code, message: error.message });
    }
  };
  const { watch, leads, tell } = definition;
  check('name', () => need(name.trim() !== '', new CodedError('rule-no-name')));
  check('watch', () => need((watch.projects ?? []).every(projectExists), new CodedError('rule-names-gone')));
  check('ring', () =>
    need(
      leads.some((lead) => lead.on),
      new CodedError('rule-no-lead')
    )
  );
  for (const lead of leads) {
    check('ring', () => {
      const minute = lead.time === null ? null : parseTimeOfDay(lead.time);
      if (lead.zone.of === 'named') zoneNamed(lead.zone.zone);
      checkLead({ n: lead.n, unit: lead.unit, closedDay: lead.closedDay, minute });
    });
  }
  check('tell', () => need(tell.to !== null, new CodedError('rule-no-recipient')));
  check('tell', () => need(tell.subject.trim() !== '', new CodedError('rule-no-words', { part: 'subject' })));
  check('tell', () => need(tell.body.trim() !== '', new CodedError('rule-no-words', { part: 'text' })));
  check('tell', () => void parseTemplate(tell.subject));
  check('tell', () => void parseTemplate(tell.body));
  return faults;
}

function need(condition: boolean, error: CodedError): void {
  if (!condition) throw error;
}
