import { CodedError } from '../../core/errors.ts';
import type { Auth } from '../auth/auth.ts';
import type { UnitOfWork } from '../db/unit-of-work.ts';
import type { WorkspaceClock } from '../engine/clock.ts';
import type { Outbox } from '../outbox/outbox.ts';
import type { Stores } from '../store/all.ts';
import type { Person } from '../store/people.ts';
import { queueAccountMail } from './account-mail.ts';

/** How long an invitation and the link for a forgotten password work. */
const INVITATION_HOURS = 72;
const RESET_HOURS = 2;

/** Letting people in: invitations and forgotten passwords, by a link that works once and goes out by mail. */
export class AccountService {
  readonly #work: UnitOfWork;
  readonly #stores: Stores;
  readonly #auth: Auth;
  readonly #outbox: Outbox;
  readonly #clock: WorkspaceClock;
  readonly #origin: string;

  constructor(
    work: UnitOfWork,
    stores: Stores,
    auth: Auth,
    outbox: Outbox,
    clock: WorkspaceClock,
    origin: string
  ) {
    this.#work = work;
    this.#stores = stores;
    this.#auth = auth;
    this.#outbox = outbox;
    this.#clock = clock;
    this.#origin = origin;
  }

  /**
   * Mails a person the link by which they choose a password and come in; an earlier one stops working.
   * @throws CodedError `person-gone`, `person-deactivated` or `no-address`
   */
  invite(personId: number, byName: string): void {
    const person = this.#stores.people.byId(personId);
    if (!person) throw new CodedError('person-gone');
    if (!person.active) throw new CodedError('person-deactivated', { name: person.name });
    if (person.email === null) throw new CodedError('no-address', { name: person.name });
    const workspace = this.#stores.settings.workspace()?.name ?? 'Early Bell';
    this.#mail(
      person,
      this.#auth.makePasswordLink(person.id, INVITATION_HOURS)!,
      `Invitation to ${workspace}`,
      [
        `Hello ${person.name},`,
        `${byName} invites you to ${workspace}. Choose a password to sign in. The link works once, for ${INVITATION_HOURS / 24} days.`
      ]
    );
  }

  /** Mails the link for a new password, if the address is known. The answer to the asker is the same if it is not. */
  forgotten(email: string): void {
    const person = this.#stores.people.byEmail(email);
    if (!person?.active || person.email === null || !this.#auth.hasPassword(person.id)) return;
    const token = this.#auth.makePasswordLink(person.id, RESET_HOURS, true);
    if (token === null) return;
    this.#mail(person, token, 'A new password', [
      `Hello ${person.name},`,
      `Somebody asked for a new password for this address. If it was you, use the link within ${RESET_HOURS} hours. If not, do nothing.`
    ]);
  }

  #mail(person: Person, token: string, subject: string, paragraphs: readonly string[]): void {
    const link = { address: `${this.#origin}/password/${token}`, words: 'Choose a password' };
    const about = { readerId: person.id, address: person.email!, at: this.#clock.now() };
    this.#work.run(() => queueAccountMail(this.#stores, { ...about, subject, paragraphs, link }));
    this.#outbox.wake();
  }
}
