import { compileFacts } from '../core/forecast/facts/compile-facts.ts';
import { compileRule } from '../core/forecast/facts/compile-rule.ts';
import {
  unpackDetails,
  unpackTask,
  type PackedDetails,
  type PackedTask
} from '../core/forecast/facts/packed.ts';
import { Planner } from '../core/forecast/plan/planner.ts';
import type { FactsInput } from '../core/forecast/facts/records.ts';
import { ruleHistory, type RuleHistoryRecord } from '../core/forecast/simulate/rule-history.ts';
import { ruleFaults } from '../core/rule/check.ts';
import type { RuleDefinition } from '../core/rule/model.ts';
import { knownOf, namesOf, type NamedRecords } from '../core/rule/named.ts';
import { withoutFaults } from '../core/rule/without-faults.ts';
import { NO_DETAILS } from '../core/task/details.ts';
import type { WhyStep } from '../core/ring/why.ts';
import type { RuleForecastView } from './models.ts';
import { ruleForecastView } from './rule-forecast.ts';

/** Everything that the outlook of one rule is computed from, as JSON carries it. */
export interface RuleBasis {
  ruleId: number;
  position: number;
  keeperId: number | null;
  facts: FactsInput;
  tasks: PackedTask[];
  details: [taskId: number, details: PackedDetails][];
  named: NamedRecords;
  others: {
    id: number;
    name: string;
    position: number;
    keeperId: number | null;
    definition: RuleDefinition;
  }[];
  history: RuleHistoryRecord;
  /** The why of what waits, by the id of its notice. */
  why: [noticeId: number, why: WhyStep[]][];
  /** Who reads; null on whose wall the workspace stands. */
  viewerId: number | null;
  /** Workspace clock when this was read; whether it runs. */
  now: number;
  running: boolean;
}

/** A rule as the editor holds it. */
export interface WrittenRule {
  name: string;
  definition: RuleDefinition;
}

/**
 * Makes a basis ready once, for every change of the rule after it.
 * @returns computes what the rule would do, so many ms after the basis was read
 */
export function openBasis(basis: RuleBasis): (written: WrittenRule, elapsedMs: number) => RuleForecastView {
  const details = new Map(basis.details.map(([id, packed]) => [id, unpackDetails(packed)]));
  const facts = compileFacts(basis.facts, (id) => details.get(id) ?? NO_DETAILS);
  const tasks = basis.tasks.map(unpackTask);
  const rounds = new Map(tasks.map(({ id, round }) => [id, round]));
  const names = namesOf(basis.named);
  const known = knownOf(basis.named, () => facts.lists);
  const why = new Map(basis.why);
  const zone = facts.people.get(basis.viewerId ?? 0)?.zone ?? facts.workspace.zone;
  const others = basis.others.map(({ id, name, position, keeperId, definition }) => ({
    rule: compileRule(id, name, position, definition, { keeperId, world: facts }),
    definition
  }));
  return ({ name, definition: written }, elapsedMs) => {
    const faults = ruleFaults(name, written, known, basis.ruleId);
    const definition = withoutFaults(written, faults, known);
    const compile = (of: RuleDefinition) =>
      compileRule(basis.ruleId, name, basis.position, of, { keeperId: basis.keeperId, world: facts });
    return ruleForecastView({
      ...{ facts, definition, rule: compile(definition), written, faults, tasks, others },
      history: ruleHistory(basis.history, new Planner(facts), rounds, compile),
      statuses: basis.named.statuses,
      reading: {
        ...{ zone, personId: basis.viewerId, names },
        now: basis.now + (basis.running ? elapsedMs : 0),
        whyOf: (noticeId) => why.get(noticeId) ?? null
      }
    });
  };
}
