import type { RuleFacts } from '../forecast/facts/compile-rule.ts';
import type { TaskFacts } from '../forecast/facts/facts.ts';
import type { NoticeList } from '../forecast/simulate/notice-list.ts';
import type { Planner } from '../forecast/plan/planner.ts';
import type { RuleFault } from '../rule/rule-fault.ts';
import type { Names } from '../rule/words/condition-words.ts';
import type { TestedField } from '../rule/condition.ts';
import type { RuleDefinition } from '../rule/model.ts';
import type { InstantMs, Zone } from '../time/zone.ts';

/** What can be doubtful about a rule that could be turned on all the same. */
export const LINT_CODES = [
  'late bells',
  'rush',
  'loop',
  'follow-ups of follow-ups',
  'check rarer than its window',
  'finds the same task again',
  'exact day on a schedule with gaps',
  'lead longer than the rhythm',
  'words against the lead',
  'one status of several',
  'nothing after the due day',
  'told twice',
  'double channels',
  'channel missing',
  'set by two rules'
] as const;
export type LintCode = (typeof LINT_CODES)[number];

/** A change of the rule that takes a doubt away; the words of it stand on a button. */
export type Mend =
  | { does: 'bring forward'; words: string }
  | { does: 'gather'; words: string; step: string }
  | { does: 'widen'; words: string; from: number; to: number }
  | { does: 'once per date'; words: string; lead: string }
  | { does: 'up to today'; words: string; lead: string; field: TestedField; since: string }
  | { does: 'from that day'; words: string; lead: string; field: TestedField }
  | { does: 'days left'; words: string; step: string }
  | { does: 'open phases'; words: string }
  | { does: 'add overdue'; words: string }
  | { does: 'own channels'; words: string; step: string }
  | { does: 'take step out'; words: string; step: string };

/** One doubt, at its part. */
export interface Lint {
  code: LintCode;
  part: RuleFault['part'];
  step?: string;
  /** What would happen, in numbers and dates of this workspace. */
  message: string;
  /** What takes it away by one press; null where that is somebody's decision. */
  mend: Mend | null;
}

/** Another rule that is on. */
export interface LiveOther {
  rule: RuleFacts;
  definition: RuleDefinition;
}

/** What lint looks at: the rule as it is written, and what it would do in the four weeks to come, alone. */
export interface LintContext {
  ruleId: number;
  definition: RuleDefinition;
  rule: RuleFacts;
  names: Names;
  planner: Planner;
  /** In which phase each status is, and what it is called. */
  statuses: readonly { id: number; name: string }[];
  now: InstantMs;
  /** On whose wall dates are written. */
  zone: Zone;
  /** Tasks that the rule watches now. */
  watched: readonly TaskFacts[];
  /** Every task that it may name. */
  tasks: readonly TaskFacts[];
  notices: NoticeList;
  /** The other rules that are on. */
  others: readonly LiveOther[];
}
