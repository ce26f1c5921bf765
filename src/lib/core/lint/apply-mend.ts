import type { RuleDefinition } from '../rule/model.ts';
import type { Step, Tell } from '../rule/step-model.ts';
import { offsetLead, type OffsetLead } from '../rule/lead-model.ts';
import { isTest, joinedOf, type Condition, type Test } from '../rule/condition.ts';
import { exactDayTests, onceForOf } from './exact-day.ts';
import { statusTest } from './coverage.ts';
import type { Mend } from './model.ts';
import { withDaysLeft } from './words-against-lead.ts';

/**
 * The rule with a mend of lint's made.
 * @param newId gives a lead that is added its id
 */
export function applyMend(definition: RuleDefinition, mend: Mend, newId: () => string): RuleDefinition {
  switch (mend.does) {
    case 'bring forward':
      return { ...definition, ifLate: 'forward' };
    case 'gather':
      return withTell(definition, mend.step, (tell) => ({ ...tell, gather: 'per recipient' }));
    case 'days left':
      return withTell(definition, mend.step, (tell) => ({
        ...tell,
        subject: withDaysLeft(tell.subject),
        body: withDaysLeft(tell.body)
      }));
    case 'own channels':
      return withTell(definition, mend.step, (tell) => ({ ...tell, channels: null }));
    case 'take step out':
      return { ...definition, steps: withoutStep(definition.steps, mend.step) };
    case 'once per date':
      return {
        ...definition,
        leads: definition.leads.map((lead) =>
          lead.id === mend.lead && lead.kind === 'schedule' ? { ...lead, oncePerDate: true } : lead
        )
      };
    case 'up to today': {
      const [test] = exactDayTests(definition.watch.condition);
      const onceFor = onceForOf(mend)!;
      return {
        ...withCondition(definition, (one) => (one === test ? null : one)),
        leads: definition.leads.map((lead) =>
          lead.id === mend.lead && lead.kind === 'schedule'
            ? { ...lead, oncePerDate: true, onceFor, since: mend.since }
            : lead
        )
      };
    }
    case 'from that day': {
      const [test] = exactDayTests(definition.watch.condition);
      return {
        ...withCondition(definition, (one) => (one === test ? { ...one, op: 'at least' } : one)),
        leads: definition.leads.map((lead) =>
          lead.id === mend.lead && lead.kind === 'schedule' ? { ...lead, oncePerDate: true } : lead
        )
      };
    }
    case 'widen':
      return withCondition(definition, (test) =>
        test.op === 'within the next days' && test.value === mend.from ? { ...test, value: mend.to } : test
      );
    case 'open phases': {
      const status = statusTest(definition.watch.condition);
      return withCondition(definition, (test) => (test === status ? null : test));
    }
    case 'add overdue': {
      const first = definition.leads.find((lead): lead is OffsetLead => lead.kind === 'offset');
      const patch = first ? { time: first.time ?? '09:00', zone: first.zone } : {};
      const lead = offsetLead(newId(), 1, 'workday', patch);
      return { ...definition, leads: [...definition.leads, lead] };
    }
  }
}

function withTell(definition: RuleDefinition, id: string, change: (tell: Tell) => Tell): RuleDefinition {
  const walk = (steps: readonly Step[]): Step[] =>
    steps.map((step) => {
      if (step.kind === 'tell' && step.id === id) return change(step);
      if (step.kind !== 'branch') return step;
      return {
        ...step,
        sides: step.sides.map((side) => ({ ...side, steps: walk(side.steps) })),
        otherwise: walk(step.otherwise)
      };
    });
  return { ...definition, steps: walk(definition.steps) };
}

function withoutStep(steps: readonly Step[], id: string): Step[] {
  return steps
    .filter((step) => step.id !== id)
    .map((step) =>
      step.kind === 'branch'
        ? {
            ...step,
            sides: step.sides.map((side) => ({ ...side, steps: withoutStep(side.steps, id) })),
            otherwise: withoutStep(step.otherwise, id)
          }
        : step
    );
}

/** Changes the tests of the Watch; one that becomes null is taken out, and a group left empty with it. */
function withCondition(definition: RuleDefinition, change: (test: Test) => Test | null): RuleDefinition {
  const walk = (condition: Condition): Condition | null => {
    if (isTest(condition)) return change(condition);
    const joined = joinedOf(condition);
    const parts = joined.parts.flatMap((part) => walk(part) ?? []);
    if (parts.length === 0) return null;
    return joined.how === 'all' ? { all: parts } : joined.how === 'any' ? { any: parts } : { none: parts };
  };
  const { condition } = definition.watch;
  return { ...definition, watch: { ...definition.watch, condition: condition && walk(condition) } };
}
