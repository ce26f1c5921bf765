import type { FieldKind } from '../task/model.ts';
import type { Names } from './condition-words.ts';
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

/** What ids are called, from records. */
export function namesOf(records: NamedRecords): Names {
  const named = (all: Named, what: string) => {
    const names = new Map(all.map(({ id, name }) => [id, name]));
    return (id: number) => names.get(id) ?? `${what} that is gone`;
  };
  return {
    project: named(records.projects, 'a project'),
    person: named(records.people, 'somebody'),
    group: named(records.groups, 'a group'),
    status: named(records.statuses, 'a status'),
    section: named(records.sections, 'a section'),
    field: named(records.fields, 'a field'),
    readers: named(records.readers, 'a reader list'),
    rule: named(records.rules, 'a rule'),
    list: named(records.lists, 'a list')
  };
}

/** What is there for a rule to name, from records. */
export function knownOf(records: NamedRecords, lists: ListScopes): Known {
  const has = (all: readonly { id: number }[]) => {
    const ids = new Set(all.map(({ id }) => id));
    return (id: number) => ids.has(id);
  };
  const kinds = new Map(records.fields.map(({ id, kind }) => [id, kind]));
  return {
    project: has(records.projects),
    person: has(records.people.filter(({ erased }) => !erased)),
    group: has(records.groups),
    status: has(records.statuses),
    section: has(records.sections),
    readers: has(records.readers),
    rule: has(records.rules),
    field: (id) => kinds.get(id) ?? null,
    list: (id) => lists.get(id) ?? null
  };
}
