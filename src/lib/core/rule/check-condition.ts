import { CodedError } from '../errors.ts';
import { parseDay } from '../time/day.ts';
import { zoneNamed } from '../time/zone.ts';
import {
  DEEPEST,
  MOST_TESTS,
  OPS,
  TESTED,
  conditionKindOf,
  depthOf,
  testsOf,
  type Condition,
  type ConditionKind,
  type Test
} from './condition.ts';
import type { Known } from './known.ts';

/**
 * Checks that a condition is not too large, that each test goes with its field, and that what it names is there.
 * @throws CodedError with what is wrong first
 */
export function checkCondition(condition: Condition | null, known: Known): void {
  if (!condition) return;
  const tests = testsOf(condition);
  if (tests.length > MOST_TESTS)
    throw new CodedError('rule-too-many-tests', { count: tests.length, most: MOST_TESTS });
  const depth = depthOf(condition);
  if (depth > DEEPEST) throw new CodedError('rule-too-deep', { depth, most: DEEPEST });
  for (const test of tests) checkTest(test, known);
}

function checkTest(test: Test, known: Known): void {
  const { field, op, zone } = test;
  const what = typeof field === 'object' ? 'a field' : TESTED[field].label;
  const kind = kindOf(test, known);
  if (!OPS[kind].includes(op)) throw new CodedError('rule-test-unfit', { what, op });
  if (zone?.of === 'named') zoneNamed(zone.zone);
  if (op.startsWith('is ') && op !== 'is not') return;
  const values = test.value == null ? [] : Array.isArray(test.value) ? test.value : [test.value];
  if (values.length === 0 || values.some((value) => value === ''))
    throw new CodedError('rule-no-test-value', { what });
  for (const value of values) checkValue(test, kind, value, what, known);
}

function kindOf({ field }: Test, known: Known): ConditionKind {
  if (typeof field !== 'object') return TESTED[field].kind;
  const kind = known.field(field.own);
  if (kind === null) throw new CodedError('rule-names-gone', { what: 'a field' });
  return conditionKindOf(kind);
}

function checkValue(
  test: Test,
  kind: ConditionKind,
  value: string | number,
  what: string,
  known: Known
): void {
  const { field, op } = test;
  const missing = (thing: string) => new CodedError('rule-names-gone', { what: thing });
  if (kind === 'date' && ['on', 'before', 'after'].includes(op)) {
    if (value !== 'today') parseDay(String(value));
  } else if (kind === 'number' || kind === 'date') {
    if (!Number.isFinite(Number(value))) throw new CodedError('rule-no-test-value', { what });
  } else if (kind === 'person') {
    if (op === 'in group' ? !known.group(Number(value)) : !known.person(Number(value)))
      throw missing(op === 'in group' ? 'a group' : 'a person');
  } else if (field === 'project' && !known.project(Number(value))) throw missing('a project');
  else if (field === 'status' && !known.status(Number(value))) throw missing('a status');
  else if (field === 'section' && !known.section(Number(value))) throw missing('a section');
}
