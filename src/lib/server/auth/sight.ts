import type { Person } from '../store/people.ts';
import type { Stores } from '../store/all.ts';
import type { Sight } from '../store/tasks.ts';
import { may } from '../../core/access/deeds.ts';

/** Everybody sees their own tasks and those of their projects, a manager their reports', a coordinator all. */
export function sightOf(person: Pick<Person, 'id' | 'role'>, stores: Stores): Sight {
  return {
    personId: person.id,
    all: may(person.role, 'watch the whole team'),
    reports: person.role === 'manager' ? reportsOf(person.id, stores.people.all()) : []
  };
}

/** Everybody whose manager is this person, directly or by way of others. */
export function reportsOf(managerId: number, people: readonly Pick<Person, 'id' | 'managerId'>[]): number[] {
  const found = new Set<number>();
  const add = (above: number) => {
    for (const { id, managerId: manager } of people) {
      if (manager !== above || found.has(id) || id === managerId) continue;
      found.add(id);
      add(id);
    }
  };
  add(managerId);
  return [...found];
}
