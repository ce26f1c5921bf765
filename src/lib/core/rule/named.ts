import { isolated } from '../bidi.ts';
import type { FieldKind } from '../task/model.ts';
import type { Names } from './words/condition-words.ts';
import type { Known } from './known.ts';
import type { ListScopes } from './list-scope.ts';

type Named = readonly { id: number; name: string }[];

/** Everything that a rule can name, as JSON carries it. */
export interface NamedRecords {
  projects: Named;
  /** Those whose names were taken out are told apart: a rule cannot name them any more. */
  people: readonly { id: number; name: string; erased: boolean }[];
  groups: Named;
  statuses: Named;
  sections: Named;
  fields: readonly { id: number; name: string; kind: FieldKind }[];
  readers: Named;
  rules: Named;
  lists: Named;
}

/** What ids are called in a sentence, from records; each kind is looked at when it is first asked for. */
export function namesOf(records: NamedRecords): Names {
  const named = (read: () => Named, what: string) => {
    let names: Map<number, string> | null = null;
    return (id: number) =>
      (names ??= new Map(read().map((one) => [one.id, isolated(one.name)]))).get(id) ?? `a removed ${what}`;
  };
  return {
    project: named(() => records.projects, 'project'),
    person: named(() => records.people, 'person'),
    group: named(() => records.groups, 'group'),
    status: named(() => records.statuses, 'status'),
    section: named(() => records.sections, 'section'),
    field: named(() => records.fields, 'field'),
    readers: named(() => records.readers, 'reader list'),
    rule: named(() => records.rules, 'rule'),
    list: named(() => records.lists, 'list')
  };
}

/** What is there for a rule to name, from records; each kind is looked at when it is first asked for. */
export function knownOf(records: NamedRecords, readLists: () => ListScopes): Known {
  const has = (read: () => readonly { id: number }[]) => {
    let ids: Set<number> | null = null;
    return (id: number) => (ids ??= new Set(read().map((one) => one.id))).has(id);
  };
  let kinds: Map<number, FieldKind> | null = null;
  let lists: ListScopes | null = null;
  return {
    project: has(() => records.projects),
    person: has(() => records.people.filter(({ erased }) => !erased)),
    group: has(() => records.groups),
    status: has(() => records.statuses),
    section: has(() => records.sections),
    readers: has(() => records.readers),
    rule: has(() => records.rules),
    field: (id) => (kinds ??= new Map(records.fields.map((one) => [one.id, one.kind]))).get(id) ?? null,
    list: (id) => (lists ??= readLists()).get(id) ?? null
  };
}
