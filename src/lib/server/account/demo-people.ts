import { may } from '../../core/access/deeds.ts';
import { placeOfZone } from '../../core/time/zone-names.ts';
import type { Person } from '../store/people.ts';
import type { Workspace } from '../workspace/workspace.ts';

/** Whoever can be signed in as by one press, in a demo. */
export function demoPeople({ stores }: Pick<Workspace, 'stores'>) {
  return stores.people
    .all()
    .filter(({ active }) => active)
    .map(({ id, name, zone, role }) => ({
      id,
      name,
      role,
      place: placeOfZone(zone),
      coordinates: may(role, 'watch the whole team')
    }));
}

/** @returns null where there is nobody of that id, or nobody who may come in */
export function demoPerson({ stores }: Pick<Workspace, 'stores'>, id: number): Person | null {
  const person = stores.people.byId(id);
  return person?.active ? person : null;
}
