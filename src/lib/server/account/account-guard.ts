import { mayTouchAccount } from '../../core/access/accounts.ts';
import { CodedError } from '../../core/errors.ts';
import type { Outbox } from '../outbox/outbox.ts';
import type { Stores } from '../store/all.ts';
import type { ChangeWriter } from '../store/change-writer.ts';
import { queueAccountMail } from './account-mail.ts';

/** Watches over the ways by which people come in, whichever way they are changed: by hand, by a sheet, by an undo. */
export class AccountGuard {
  readonly #stores: Stores;
  readonly #outbox: Pick<Outbox, 'wake'>;

  constructor(stores: Stores, outbox: Pick<Outbox, 'wake'>) {
    this.#stores = stores;
    this.#outbox = outbox;
  }

  /**
   * Whether somebody may change a person’s address or end their sessions.
   * @param actorId null where no person does it: what the product does by itself asks nobody
   */
  mayTouch(actorId: number | null, personId: number): boolean {
    if (actorId === null) return true;
    const actor = this.#stores.people.byId(actorId);
    const person = this.#stores.people.byId(personId);
    if (!actor || !person) return false;
    const hasPassword = this.#stores.sessions.passwordHash(personId) !== null;
    return mayTouchAccount(actor.role, { role: person.role, hasPassword });
  }

  /** @throws CodedError `account-guarded`, at a field where one is named */
  check(actorId: number | null, personId: number, field?: string): void {
    if (this.mayTouch(actorId, personId)) return;
    const { name } = this.#stores.people.byId(personId) ?? { name: '' };
    throw new CodedError('account-guarded', { name }, field);
  }

  /**
   * What follows of a change of people, in the same unit: whoever was switched off has no session that could live again, links that were mailed to
   * an address that is no longer theirs open nothing, and the old address is told.
   */
  changed({ written, head }: Pick<ChangeWriter, 'written' | 'head'>): void {
    for (const { table, rowId, kind, row, before } of written) {
      if (table !== 'person' || kind !== 'update' || !before) continue;
      if (before.active === 1 && row.active === 0) {
        this.#stores.sessions.removeAllOf(rowId);
        this.#stores.sessions.dropAllLinksOf(rowId);
      }
      if (before.email !== row.email) this.#moved(rowId, before.email, head);
    }
  }

  #moved(personId: number, old: unknown, { at, actorId }: ChangeWriter['head']): void {
    const { sessions, people } = this.#stores;
    const couldComeIn = sessions.passwordHash(personId) !== null;
    const invited = sessions.dropAllLinksOf(personId) > 0;
    if (typeof old !== 'string' || !(couldComeIn || invited)) return;
    const by = actorId === null ? 'Somebody' : (people.byId(actorId)?.name ?? 'Somebody');
    const { name } = people.byId(personId)!;
    queueAccountMail(this.#stores, {
      ...{ readerId: personId, address: old, at, subject: 'Your address was changed', link: null },
      paragraphs: [
        `Hello ${name},`,
        `${by} has changed your address in Early Bell. This address is no longer used. Links in earlier messages no longer work.`,
        'If this is wrong, tell an administrator of your workspace.'
      ]
    });
    this.#outbox.wake();
  }
}
