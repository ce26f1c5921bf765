import { placeOfZone } from '../../time/zone-names.ts';
import { agree } from '../../many.ts';
import { isTest, joinedOf, TESTED, type Condition, type Test } from '../condition.ts';

/** How ids are named in words. */
export interface Names {
  project(id: number): string;
  person(id: number): string;
  group(id: number): string;
  status(id: number): string;
  section(id: number): string;
  /** A field of the workspace's own. */
  field(id: number): string;
  readers(id: number): string;
  rule(id: number): string;
  /** A saved list. */
  list(id: number): string;
}

/** Names that are nothing but the ids: where nobody reads them. */
export const BARE_NAMES: Names = {
  project: (id) => `project ${id}`,
  person: (id) => `person ${id}`,
  group: (id) => `group ${id}`,
  status: (id) => `status ${id}`,
  section: (id) => `section ${id}`,
  field: (id) => `field ${id}`,
  readers: (id) => `reader list ${id}`,
  rule: (id) => `rule ${id}`,
  list: (id) => `list ${id}`
};

/** A condition in words: “priority is pressing, and owner is not empty”. */
export function conditionWords(condition: Condition, names: Names, inside = false): string {
  if (isTest(condition)) return testWords(condition, names);
  const joined = joinedOf(condition);
  const parts = joined.parts.map((part) => conditionWords(part, names, true));
  if (parts.length === 0) return 'always true';
  const words =
    joined.how === 'all'
      ? parts.join(', and ')
      : joined.how === 'any'
        ? parts.join(', or ')
        : `none of: ${parts.join('; ')}`;
  return inside && parts.length > 1 ? `(${words})` : words;
}

/** One test in words: “due date within the next 3 working days”. */
export function testWords({ field, op, value, zone }: Test, names: Names): string {
  const name = typeof field === 'object' ? names.field(field.own) : TESTED[field].label;
  const end = typeof field === 'object' && field.end === 'until' ? ' (its end)' : '';
  const where = zone
    ? zone.of === 'workspace'
      ? ' (workspace date)'
      : ` (date in ${placeOfZone(zone.zone)})`
    : '';
  return `${name}${end} ${opWords(op, valueWords(field, value, op, names))}${where}`;
}

function opWords(op: Test['op'], value: string): string {
  switch (op) {
    case 'within the next days':
      return value === '1' ? 'is today or tomorrow' : `is today or in the next ${value} days`;
    case 'within the last days':
      return value === '1' ? 'is today or yesterday' : `is today or in the last ${value} days`;
    case 'within the next working days':
      return value === '1'
        ? 'is today or on the next working day'
        : `is today or in the next ${value} working days`;
    case 'more than working days ago':
      return `is more than ${value} working ${agree(Number(value), 'day', 'days')} ago`;
    case 'any of':
    case 'none of':
      return `is ${op} ${value}`;
    case 'in group':
      return `is in the group ${value}`;
    case 'on':
    case 'before':
    case 'after':
    case 'at least':
    case 'at most':
    case 'more than':
    case 'less than':
      return `is ${op} ${value}`;
    case 'is empty':
    case 'is not empty':
    case 'is yes':
    case 'is no':
      return op;
    default:
      return `${op} ${value}`;
  }
}

function valueWords(field: Test['field'], value: Test['value'], op: Test['op'], names: Names): string {
  const list = (value == null ? [] : Array.isArray(value) ? value : [value]).filter((one) => one !== '');
  // What is still to be chosen.
  if (list.length === 0) return '…';
  return list
    .map((one) => {
      if (typeof one === 'string') return one;
      if (op === 'in group') return names.group(one);
      if (field === 'owner' || field === 'creator' || op === 'reports to') return names.person(one);
      if (field === 'project') return names.project(one);
      if (field === 'status') return names.status(one);
      return field === 'section' ? names.section(one) : String(one);
    })
    .join(', ');
}
