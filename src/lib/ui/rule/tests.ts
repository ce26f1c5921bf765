import { TESTED, type Condition, type Test, type TestedName } from '$lib/core/rule/condition.ts';
import { OPS, conditionKindOf, type TestedField } from '$lib/core/rule/condition.ts';
import type { Option } from '$lib/ui/pick/option.ts';
import type { RuleChoices } from './choices.ts';

/** What is tested most stands first; the rest follows in the order of the core. */
const COMMON: readonly TestedName[] = [
  'priority',
  'status',
  'owner',
  'tag',
  'due',
  'project',
  'overdue',
  'rings so far',
  'working days overdue',
  'slips'
];

/** Everything that a condition can test, by the key under which it is picked. */
export function testedOptions(choices: RuleChoices): Option<string>[] {
  const names = [
    ...COMMON,
    ...(Object.keys(TESTED) as TestedName[]).filter((name) => !COMMON.includes(name))
  ];
  return [
    ...names.map((name) => ({ value: name, label: TESTED[name].label })),
    ...choices.fields.map(({ id, name }) => ({ value: `own ${id}`, label: name }))
  ];
}

export const fieldKey = (field: TestedField): string =>
  typeof field === 'object' ? `own ${field.own}` : field;

/** A test of a field as it begins: nothing is compared yet, a date with the day of the ring. */
export function newTest(key: string, choices: RuleChoices): Test {
  const id = key.startsWith('own ') ? Number(key.slice(4)) : null;
  const own = id === null ? undefined : choices.fields.find((field) => field.id === id);
  const kind = own ? conditionKindOf(own.kind) : TESTED[key as TestedName].kind;
  const field: TestedField = id === null ? (key as TestedName) : { own: id };
  return { field, op: OPS[kind][0]!, value: kind === 'date' ? 'today' : null };
}

/** Adds a part to a tree; a test that stood alone becomes the first of two that both must hold. */
export function withPart(condition: Condition | null, part: Condition): Condition {
  if (!condition) return { all: [part] };
  if ('all' in condition) return { all: [...condition.all, part] };
  if ('any' in condition) return { any: [...condition.any, part] };
  if ('none' in condition) return { none: [...condition.none, part] };
  return { all: [condition, part] };
}
