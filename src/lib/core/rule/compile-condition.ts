import { parseDay } from '../time/day.ts';
import type { FieldKind, FieldValue } from '../task/model.ts';
import {
  isTest,
  joinedOf,
  TESTED,
  conditionKindOf,
  type Condition,
  type ConditionKind,
  type Op,
  type Test
} from './condition.ts';
import type { TestSubject } from './subject.ts';

/** A condition made ready to be asked of many tasks. */
export interface CompiledCondition {
  holds(subject: TestSubject): boolean;
  /** The test, or the group of tests, that a subject does not pass first; null when it passes. */
  failing(subject: TestSubject): Condition | null;
}

/** Of which kind each of the workspace's own fields is. */
export type OwnKinds = ReadonlyMap<number, FieldKind>;

type Holds = (subject: TestSubject) => boolean;

/**
 * Compiles a condition once for many tasks: every test becomes one closure over its value, made ready.
 * Tests that are negative hold for an empty field; comparisons do not. A test of a removed field never holds.
 * @param condition null holds for every task
 * @throws CodedError for a date that does not exist
 */
export function compileCondition(condition: Condition | null, own: OwnKinds): CompiledCondition | null {
  return condition && compile(condition, own);
}

function compile(condition: Condition, own: OwnKinds): CompiledCondition {
  if (isTest(condition)) {
    const holds = compileTest(condition, own);
    return { holds, failing: (subject) => (holds(subject) ? null : condition) };
  }
  const joined = joinedOf(condition);
  const parts = joined.parts.map((part) => compile(part, own));
  switch (joined.how) {
    case 'all':
      return {
        holds: (subject) => parts.every((part) => part.holds(subject)),
        failing: (subject) => {
          for (const part of parts) {
            const failing = part.failing(subject);
            if (failing) return failing;
          }
          return null;
        }
      };
    case 'any': {
      // Of nothing nothing holds; a group that is still empty asks for nothing.
      const holds: Holds = (subject) => parts.length === 0 || parts.some((part) => part.holds(subject));
      return { holds, failing: (subject) => (holds(subject) ? null : condition) };
    }
    case 'none': {
      const holds: Holds = (subject) => !parts.some((part) => part.holds(subject));
      return { holds, failing: (subject) => (holds(subject) ? null : condition) };
    }
  }
}

function compileTest(test: Test, own: OwnKinds): Holds {
  const { field } = test;
  if (typeof field === 'object') {
    const kind = own.get(field.own);
    return kind
      ? compileKind(conditionKindOf(kind), test, ownReader(test, field.own, field.end))
      : () => false;
  }
  return compileKind(TESTED[field].kind, test, {
    text: (subject) => subject.text(field),
    choices: (subject) => subject.choices(field),
    people: (subject) => subject.people(field),
    day: (subject) => subject.day(field, test.zone),
    number: (subject) => subject.number(field),
    truth: (subject) => subject.truth(field)
  });
}

/** How the value of a field is read, by the kind of its test. */
interface ValueReader {
  text: (subject: TestSubject) => string;
  choices: (subject: TestSubject) => readonly (string | number)[];
  people: (subject: TestSubject) => readonly number[];
  day: (subject: TestSubject) => number | null;
  number: (subject: TestSubject) => number | null;
  truth: (subject: TestSubject) => boolean;
}

function ownReader(test: Test, id: number, end: 'from' | 'until' = 'from'): ValueReader {
  const list = (value: FieldValue | undefined): readonly (string | number)[] =>
    value === undefined ? [] : Array.isArray(value) ? value : [value as string | number];
  return {
    text: (subject) => String(subject.own(id) ?? ''),
    choices: (subject) => list(subject.own(id)),
    people: (subject) => list(subject.own(id)).map(Number),
    day: (subject) => {
      const value = subject.own(id);
      return value === undefined ? null : subject.dayOfValue(value, end, test.zone);
    },
    number: (subject) => {
      const value = subject.own(id);
      return typeof value === 'number' ? value : null;
    },
    truth: (subject) => subject.own(id) === true
  };
}

function compileKind(kind: ConditionKind, test: Test, read: ValueReader): Holds {
  switch (kind) {
    case 'text':
      return textTest(test, read.text);
    case 'choice':
      return choiceTest(test, read.choices);
    case 'person':
      return personTest(test, read.people);
    case 'date':
      return dateTest(test, read.day);
    case 'number':
      return numberTest(test, read.number);
    case 'yes or no':
      return test.op === 'is yes' ? read.truth : (subject) => !read.truth(subject);
  }
}

/** Trimmed, and the same however its letters are cased. */
export function folded(text: string): string {
  return text.trim().normalize('NFC').toUpperCase().toLowerCase();
}

function textTest({ op, value }: Test, read: ValueReader['text']): Holds {
  const wanted = folded(String(value ?? ''));
  const tests: Partial<Record<Op, (text: string) => boolean>> = {
    is: (text) => text === wanted,
    'is not': (text) => text !== wanted,
    contains: (text) => text.includes(wanted),
    'is empty': (text) => text === '',
    'is not empty': (text) => text !== ''
  };
  const holds = tests[op] ?? never;
  return (subject) => holds(folded(read(subject)));
}

function choiceTest({ op, value }: Test, read: ValueReader['choices']): Holds {
  const key = (one: string | number) => (typeof one === 'number' ? one : folded(one));
  const wanted = new Set(listOf(value).map(key));
  return setTest(
    op,
    (subject) => read(subject).some((one) => wanted.has(key(one))),
    (subject) => read(subject).length > 0
  );
}

function personTest({ op, value }: Test, read: ValueReader['people']): Holds {
  const [first = 0] = listOf(value).map(Number);
  if (op === 'in group') return (subject) => read(subject).some((id) => subject.inGroup(id, first));
  if (op === 'reports to') return (subject) => read(subject).some((id) => subject.reportsTo(id, first));
  const wanted = new Set(listOf(value).map(Number));
  return setTest(
    op,
    (subject) => read(subject).some((id) => wanted.has(id)),
    (subject) => read(subject).length > 0
  );
}

function setTest(op: Op, isWanted: Holds, hasAny: Holds): Holds {
  switch (op) {
    case 'is':
    case 'any of':
      return isWanted;
    case 'is not':
    case 'none of':
      return (subject) => !isWanted(subject);
    case 'is empty':
      return (subject) => !hasAny(subject);
    case 'is not empty':
      return hasAny;
    default:
      return never;
  }
}

function dateTest({ op, value, zone }: Test, read: ValueReader['day']): Holds {
  if (op === 'is empty') return (subject) => read(subject) === null;
  if (op === 'is not empty') return (subject) => read(subject) !== null;
  const compared = compareDay(op, value, zone);
  return (subject) => {
    const day = read(subject);
    return day !== null && compared(day, subject);
  };
}

function compareDay(
  op: Op,
  value: Test['value'],
  zone: Test['zone']
): (day: number, subject: TestSubject) => boolean {
  const n = Number(value ?? 0);
  switch (op) {
    case 'on':
    case 'before':
    case 'after': {
      // A date as written, or the day of the test when it says “today”.
      const fixed = value === 'today' || value == null ? null : parseDay(String(value));
      const wanted = (subject: TestSubject) => fixed ?? subject.today(zone);
      if (op === 'on') return (day, subject) => day === wanted(subject);
      if (op === 'before') return (day, subject) => day < wanted(subject);
      return (day, subject) => day > wanted(subject);
    }
    case 'within the next days':
      return (day, subject) => day >= subject.today(zone) && day <= subject.today(zone) + n;
    case 'within the last days':
      return (day, subject) => day <= subject.today(zone) && day >= subject.today(zone) - n;
    case 'within the next working days':
      return (day, subject) => {
        const today = subject.today(zone);
        return day >= today && (day === today || day <= subject.workingDays.offset(today, n));
      };
    case 'more than working days ago':
      return (day, subject) => {
        const today = subject.today(zone);
        return day < today && subject.workingDays.count(day + 1, today + 1) > n;
      };
    default:
      return () => false;
  }
}

function numberTest({ op, value }: Test, read: ValueReader['number']): Holds {
  const wanted = Number(value ?? NaN);
  const tests: Partial<Record<Op, (n: number | null) => boolean>> = {
    equals: (n) => n === wanted,
    'differs from': (n) => n !== wanted,
    'at least': (n) => n !== null && n >= wanted,
    'at most': (n) => n !== null && n <= wanted,
    'more than': (n) => n !== null && n > wanted,
    'less than': (n) => n !== null && n < wanted,
    'is empty': (n) => n === null,
    'is not empty': (n) => n !== null
  };
  const holds = tests[op] ?? never;
  return (subject) => holds(read(subject));
}

function listOf(value: Test['value']): (string | number)[] {
  if (value == null) return [];
  return Array.isArray(value) ? value : [value];
}

function never(): boolean {
  return false;
}
