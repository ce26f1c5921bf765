import type { Known } from '../../core/rule/known.ts';
import type { ListScopes } from '../../core/rule/list-scope.ts';
import { listScopes } from '../engine/list-scopes.ts';
import type { Stores } from '../store/all.ts';

/** What is there for rules to name, each kind read when it is first asked for. */
export function knownTo(stores: Stores): Known {
  const ids = (read: () => readonly { id: number }[]) => {
    let all: Set<number> | null = null;
    return (id: number) => (all ??= new Set(read().map((one) => one.id))).has(id);
  };
  let kinds: Map<number, ReturnType<Known['field']>> | null = null;
  let lists: ListScopes | null = null;
  return {
    list: (id) => (lists ??= listScopes(stores.savedLists.all())).get(id) ?? null,
    project: ids(() => stores.projects.all()),
    person: ids(() => stores.people.all().filter(({ erased }) => !erased)),
    group: ids(() => stores.people.groups()),
    status: ids(() => stores.projects.statuses()),
    section: ids(() => stores.projects.sections()),
    readers: ids(() => stores.readers.lists()),
    rule: ids(() => stores.rules.made()),
    field: (id) =>
      (kinds ??= new Map(stores.fields.all().map((field) => [field.id, field.kind]))).get(id) ?? null
  };
}
