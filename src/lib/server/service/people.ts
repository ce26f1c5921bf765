import { CodedError } from '../../core/errors.ts';
import type { PersonInput } from '../schema/person.ts';
import type { Person } from '../store/people.ts';
import type { Row } from '../db/row.ts';
import type { Stores } from '../store/all.ts';
import type { Actor, Committed, Committer } from './commit.ts';

/** What is done with people. */
export class PeopleService {
  readonly #stores: Stores;
  readonly #committer: Committer;

  constructor(stores: Stores, committer: Committer) {
    this.#stores = stores;
    this.#committer = committer;
  }

  /** @throws CodedError `email-taken` */
  add(actor: Actor, input: PersonInput): Committed<number> {
    this.#check(null, input);
    return this.#committer.commit(actor, `${input.name} added`, (writer) =>
      writer.insert('person', columns(input))
    );
  }

  /** @throws CodedError `person-gone`, `email-taken`, `person-own-manager` or `person-manager-circle` */
  edit(actor: Actor, id: number, input: PersonInput): Committed<void> {
    if (!this.#stores.people.byId(id)) throw new CodedError('person-gone');
    this.#check(id, input);
    return this.#committer.commit(actor, `${input.name} changed`, (writer) => {
      writer.update('person', id, columns(input));
    });
  }

  #check(id: number | null, { email, managerId, name }: PersonInput): void {
    const other = email === null ? null : this.#stores.people.byEmail(email);
    if (other && other.id !== id)
      throw new CodedError('email-taken', { value: email!, name: other.name }, 'email');
    if (id === null || managerId === null) return;
    if (managerId === id) throw new CodedError('person-own-manager', {}, 'managerId');
    const above: Person[] = [];
    for (
      let next = this.#stores.people.byId(managerId);
      next;
      next = next.managerId === null ? null : this.#stores.people.byId(next.managerId)
    ) {
      if (next.id === id) {
        const names = [name, ...above.map((person) => person.name), name].join(' → ');
        throw new CodedError('person-manager-circle', { names }, 'managerId');
      }
      if (above.some((person) => person.id === next.id)) return;
      above.push(next);
    }
  }
}

function columns({ name, email, zone, calendarId, managerId, role }: PersonInput): Row {
  return { name, email, zone, calendar_id: calendarId, manager_id: managerId, role };
}
