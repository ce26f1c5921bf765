import type { Workspace } from './workspace.ts';

/** Something that can be chosen by its name. */
export interface Choice {
  id: number;
  name: string;
}

type Of = Pick<Workspace, 'stores'>;

const named = ({ id, name }: Choice): Choice => ({ id, name });

/** Whoever is active, and so can be given work or told something. */
export function activePeople({ stores }: Of): Choice[] {
  return stores.people
    .all()
    .filter(({ active, erased }) => active && !erased)
    .map(named);
}

export function projectChoices({ stores }: Of): Choice[] {
  return stores.projects.all().map(named);
}

export function calendarChoices({ stores }: Of): Choice[] {
  return stores.calendars.all().map(named);
}

export function groupChoices({ stores }: Of): Choice[] {
  return stores.people.groups().map(named);
}

/** Groups, each with how many are in it. */
export function groupsOfPeople({ stores }: Of) {
  return stores.people.groups();
}

export function readerListChoices({ stores }: Of): Choice[] {
  return stores.readers.lists().map(named);
}

/** What people or projects are called, those too that are not to be chosen any more. */
export function namesById({ stores }: Of, of: 'people' | 'projects'): ReadonlyMap<number, string> {
  return new Map(stores[of].all().map(({ id, name }) => [id, name]));
}
