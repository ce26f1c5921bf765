import type { Names } from '../../core/rule/words/condition-words.ts';
import { namesOf, type NamedRecords } from '../../core/rule/named.ts';
import type { Stores } from '../store/all.ts';

const named = ({ id, name }: { id: number; name: string }) => ({ id, name });

/** Everything that a rule can name, each kind read when it is asked for. */
export function namedRecords(stores: Stores): NamedRecords {
  return {
    get projects() {
      return stores.projects.all().map(named);
    },
    get people() {
      return stores.people.all().map(({ id, name, erased }) => ({ id, name, erased }));
    },
    get groups() {
      return stores.people.groups().map(named);
    },
    get statuses() {
      return stores.projects.statuses().map(named);
    },
    get sections() {
      return stores.projects.sections().map(named);
    },
    get fields() {
      return stores.fields.all().map(({ id, name, kind }) => ({ id, name, kind }));
    },
    get readers() {
      return stores.readers.lists().map(named);
    },
    get rules() {
      return stores.rules.made().map(named);
    },
    get lists() {
      return stores.savedLists.all().map(named);
    }
  };
}

/** What ids that rules name are called, as it stands now. */
export function recordNames(stores: Stores): Names {
  return namesOf(namedRecords(stores));
}
