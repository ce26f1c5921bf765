import { ANCHORS } from '../anchor/anchors.ts';
import type { FieldKind } from '../task/model.ts';

/** Tests of text, trimmed and without regard to case. */
export const TEXT_OPS = ['is', 'is not', 'contains', 'is empty', 'is not empty'] as const;
/** Tests of one value out of several, or of a set of them. */
export const CHOICE_OPS = ['is', 'is not', 'any of', 'none of', 'is empty', 'is not empty'] as const;
export const PERSON_OPS = [
  'is',
  'is not',
  'any of',
  'none of',
  'in group',
  'reports to',
  'is empty',
  'is not empty'
] as const;
/** Relative ones are read on the day of the test; `n` stands in the value. */
export const DATE_OPS = [
  'on',
  'before',
  'after',
  'within the next days',
  'within the last days',
  'within the next working days',
  'more than working days ago',
  'is empty',
  'is not empty'
] as const;
export const NUMBER_OPS = [
  'equals',
  'differs from',
  'at least',
  'at most',
  'more than',
  'less than',
  'is empty',
  'is not empty'
] as const;
export const YES_NO_OPS = ['is yes', 'is no'] as const;

export type ConditionKind = 'text' | 'choice' | 'person' | 'date' | 'number' | 'yes or no';
export type Op =
  | (typeof TEXT_OPS)[number]
  | (typeof CHOICE_OPS)[number]
  | (typeof PERSON_OPS)[number]
  | (typeof DATE_OPS)[number]
  | (typeof NUMBER_OPS)[number]
  | (typeof YES_NO_OPS)[number];

export const OPS: Record<ConditionKind, readonly Op[]> = {
  text: TEXT_OPS,
  choice: CHOICE_OPS,
  person: PERSON_OPS,
  date: DATE_OPS,
  number: NUMBER_OPS,
  'yes or no': YES_NO_OPS
};

/** What every task has that a condition can test, with what it is called and how it is compared. */
export const TESTED = {
  name: { kind: 'text', label: 'name' },
  description: { kind: 'text', label: 'description' },
  status: { kind: 'choice', label: 'status' },
  phase: { kind: 'choice', label: 'phase' },
  priority: { kind: 'choice', label: 'priority' },
  project: { kind: 'choice', label: 'project' },
  section: { kind: 'choice', label: 'section' },
  tag: { kind: 'choice', label: 'tags' },
  owner: { kind: 'person', label: 'owner' },
  creator: { kind: 'person', label: 'creator' },
  due: { kind: 'date', label: ANCHORS.due.day },
  start: { kind: 'date', label: ANCHORS.start.day },
  'remind on': { kind: 'date', label: ANCHORS['remind on'].day },
  'review date': { kind: 'date', label: ANCHORS['review date'].day },
  created: { kind: 'date', label: ANCHORS.created.day },
  assigned: { kind: 'date', label: ANCHORS.assigned.day },
  'last touched': { kind: 'date', label: ANCHORS['last touched'].day },
  finished: { kind: 'date', label: ANCHORS.finished.day },
  closed: { kind: 'date', label: ANCHORS.closed.day },
  slips: { kind: 'number', label: 'slips' },
  'rings so far': { kind: 'number', label: 'rings so far' },
  'open subtasks': { kind: 'number', label: 'open subtasks' },
  percent: { kind: 'number', label: 'percent' },
  'minutes logged': { kind: 'number', label: 'minutes logged' },
  'days overdue': { kind: 'number', label: 'days overdue' },
  'working days overdue': { kind: 'number', label: 'working days overdue' },
  'days since created': { kind: 'number', label: 'days since created' },
  'working days not placed': { kind: 'number', label: 'working days not placed by its owner' },
  'working days not looked': { kind: 'number', label: 'working days since its owner looked at their Desk' },
  keep: { kind: 'yes or no', label: 'keep mark' },
  'log time': { kind: 'yes or no', label: 'time must be logged' },
  overdue: { kind: 'yes or no', label: 'overdue' },
  acknowledged: { kind: 'yes or no', label: 'acknowledged' },
  recurring: { kind: 'yes or no', label: 'recurring' },
  timed: { kind: 'yes or no', label: 'due at a time of day' }
} as const satisfies Record<string, { kind: ConditionKind; label: string }>;
export type TestedName = keyof typeof TESTED;

/** A field of the task, or one of the workspace's own by its id; of a date range the end that counts. */
export type TestedField = TestedName | { own: number; end?: 'from' | 'until' };

/** One typed test. Its value is a text, a number, a list of ids or names, or a date; relative dates carry their n. */
export interface Test {
  field: TestedField;
  op: Op;
  value?: string | number | (string | number)[] | null;
  /** On whose day a date is read; absent: the owner's. */
  zone?: { of: 'workspace' } | { of: 'named'; zone: string };
}

/** A tree of all, any and none over tests. */
export type Condition = { all: Condition[] } | { any: Condition[] } | { none: Condition[] } | Test;

export const MOST_TESTS = 200;
export const DEEPEST = 8;

/** How a field of the workspace's own is compared. */
export function conditionKindOf(kind: FieldKind): ConditionKind {
  switch (kind) {
    case 'text':
    case 'link':
      return 'text';
    case 'number':
      return 'number';
    case 'yes or no':
      return 'yes or no';
    case 'one choice':
    case 'many choices':
      return 'choice';
    case 'person':
    case 'people':
      return 'person';
    case 'date':
    case 'date with time':
    case 'date range':
      return 'date';
  }
}

/** Conditions that are joined, and how. */
export interface Joined {
  how: 'all' | 'any' | 'none';
  parts: Condition[];
}

/** Whether a condition is one test, and joins no others. */
export function isTest(condition: Condition): condition is Test {
  return !('all' in condition || 'any' in condition || 'none' in condition);
}

/** What a condition joins, and how. */
export function joinedOf(condition: Exclude<Condition, Test>): Joined {
  if ('all' in condition) return { how: 'all', parts: condition.all };
  if ('any' in condition) return { how: 'any', parts: condition.any };
  return { how: 'none', parts: condition.none };
}

/** What joins the parts of a tree, and the parts; a test has none. */
export function partsOf(condition: Condition): Joined | null {
  return isTest(condition) ? null : joinedOf(condition);
}

/** Every test of a tree, from left to right. */
export function testsOf(condition: Condition | null): Test[] {
  if (!condition) return [];
  return isTest(condition) ? [condition] : joinedOf(condition).parts.flatMap(testsOf);
}

/** How deep a tree goes; a test alone is 1. */
export function depthOf(condition: Condition): number {
  const joined = partsOf(condition);
  return joined ? 1 + Math.max(0, ...joined.parts.map(depthOf)) : 1;
}
