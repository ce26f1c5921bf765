import { may, type Deed } from '../../core/access/deeds.ts';
import { zoneOfPerson } from '../../core/forecast/facts/compile-facts.ts';
import { zoneNamed, type Zone } from '../../core/time/zone.ts';
import type { Actor } from './commit.ts';
import type { Undoer } from '../record/undo.ts';
import type { Viewer } from './viewer.ts';
import type { Stores } from '../store/all.ts';
import type { Person } from '../store/people.ts';
import type { Sight } from '../store/tasks.ts';
import { sightOf } from '../auth/sight.ts';

/** Somebody who is signed in, as what they ask for needs them. */
export interface SignedIn {
  person: Person;
  zone: Zone;
  viewer: Viewer;
  actor: Actor;
  sight: Sight;
  may: (deed: Deed) => boolean;
}

export function signedInAs(person: Person, stores: Stores): SignedIn {
  const zone = person.moves.length === 0 ? zoneNamed(person.zone) : zoneOfPerson(person);
  return {
    person,
    zone,
    viewer: { zone, personId: person.id },
    actor: { personId: person.id, source: 'person' },
    sight: sightOf(person, stores),
    may: (deed) => may(person.role, deed)
  };
}

/** The same, as one who takes something back. */
export function undoerAs({ person, sight, may }: SignedIn): Undoer {
  return { personId: person.id, sight, may };
}
