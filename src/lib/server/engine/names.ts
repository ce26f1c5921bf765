import type { Names } from '../../core/rule/condition-words.ts';
import type { Stores } from '../store/all.ts';

/** What ids that rules name are called, as it stands now. */
export function recordNames(stores: Stores): Names {
  const named = <T extends { id: number; name: string }>(read: () => readonly T[], what: string) => {
    let all: Map<number, string> | null = null;
    return (id: number) =>
      (all ??= new Map(read().map((one) => [one.id, one.name]))).get(id) ?? `${what} that is gone`;
  };
  return {
    project: named(() => stores.projects.all(), 'a project'),
    person: named(() => stores.people.all(), 'somebody'),
    group: named(() => stores.people.groups(), 'a group'),
    status: named(() => stores.projects.statuses(), 'a status'),
    section: named(() => stores.projects.sections(), 'a section'),
    field: named(() => stores.fields.all(), 'a field'),
    readers: named(() => stores.readers.lists(), 'a reader list'),
    rule: named(() => stores.rules.all(), 'a rule'),
    list: named(() => stores.savedLists.all(), 'a list')
  };
}
