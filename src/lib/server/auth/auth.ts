import { createHash, randomBytes } from 'node:crypto';
import { CodedError } from '../../core/errors.ts';
import type { UnitOfWork } from '../db/unit-of-work.ts';
import type { MachineClock } from '../engine/clock.ts';
import type { Person } from '../store/people.ts';
import type { Stores } from '../store/all.ts';
import { clientOf, SignInGate } from './gate.ts';
import { hashPassword, verifyPassword } from './password.ts';

const SESSION_DAYS = 14;
const LINK_HOURS = 24;
const PASSWORD_PURPOSE = 'password';
/** Failed tries at one address before each further one must wait, and how long at most. */
const FREE_FAILURES = 4;
const LONGEST_WAIT_SECONDS = 900;

/** What has run out is taken out once a day; failed tries count for no longer. */
const PRUNE_EVERY_MS = 86_400_000;
const FAILURES_KEPT_MS = 86_400_000;

/** A try to sign in that came to nothing. */
export interface RefusedSignIn {
  code: string;
  /** As it was typed, in lower case. */
  address: string;
  client: string;
}

export const SESSION_COOKIE = 'early-bell-session';
export const SESSION_SECONDS = SESSION_DAYS * 86_400;

/** Sign-in. Tokens are kept only as hashes; times are on the machine clock. */
export class Auth {
  readonly #work: UnitOfWork;
  readonly #stores: Stores;
  readonly #machine: MachineClock;
  readonly #gate: SignInGate;
  readonly #ended: (() => void)[] = [];
  readonly #onRefused: (refused: RefusedSignIn) => void;
  #prunedAt = -Infinity;

  /** @param onRefused hears of tries that failed or were not let try, for the log */
  constructor(
    work: UnitOfWork,
    stores: Stores,
    machine: MachineClock,
    onRefused: (refused: RefusedSignIn) => void = () => {}
  ) {
    this.#work = work;
    this.#stores = stores;
    this.#machine = machine;
    this.#gate = new SignInGate(() => machine.now());
    this.#onRefused = onRefused;
  }

  /** Hears that sessions have ended. */
  onEnded(listener: () => void): void {
    this.#ended.push(listener);
  }

  /** The person whose session a token is; null when it is none, or theirs no longer. */
  personOf(token: string | undefined): Person | null {
    if (!token) return null;
    const id = this.#stores.sessions.personOf(hashOf(token), this.#machine.now());
    const person = id === null ? null : this.#stores.people.byId(id);
    return person?.active ? person : null;
  }

  /**
   * Signs in by address and password. A try counts as failed from its beginning until it has proved right, so that many at once are no more than
   * many after each other. The session that the browser had before ends.
   * @param client whose failures are counted together: the address of whoever asks
   * @returns the token of a new session
   * @throws CodedError `sign-in-failed`, `sign-in-slowed` or `sign-in-busy`
   */
  async signIn(email: string, password: string, client: string, before?: string): Promise<string> {
    const address = email.trim().toLowerCase();
    try {
      return await this.#trySignIn(address, password, clientOf(client), before);
    } catch (error) {
      if (!(error instanceof CodedError)) throw error;
      // Of those who are not let try one line a minute is enough; each that was tried has its own.
      if (error.code === 'sign-in-failed' || this.#gate.speaksOf(clientOf(client)))
        this.#onRefused({ code: error.code, address, client });
      throw error;
    }
  }

  async #trySignIn(address: string, password: string, client: string, before?: string): Promise<string> {
    this.#gate.check(client);
    this.#checkSlowed(address);
    return this.#gate.pass(client, async () => {
      this.#countTry(address, client);
      const person = this.#stores.people.byEmail(address);
      const hash = person?.active ? this.#stores.sessions.passwordHash(person.id) : null;
      // Without an account the same work is done, so that the answer does not tell which addresses exist.
      const right = await verifyPassword(password, hash ?? (await decoyHash()));
      if (!hash || !right) throw new CodedError('sign-in-failed');
      return this.#work.run(() => {
        this.#stores.sessions.forgive(address);
        this.#gate.right(client);
        if (before) this.#stores.sessions.removeSession(hashOf(before));
        return this.#startSession(person!.id);
      });
    });
  }

  /** What waited may have become too much meanwhile. */
  #countTry(address: string, client: string): void {
    this.#gate.check(client);
    this.#checkSlowed(address);
    this.#gate.fail(client);
    this.#work.run(() => {
      const now = this.#machine.now();
      this.#stores.sessions.addFailure(address, now);
      if (now - this.#prunedAt < PRUNE_EVERY_MS) return;
      this.#prunedAt = now;
      this.#stores.sessions.prune(now, now - FAILURES_KEPT_MS);
    });
  }

  /** Signs in without a password; for the demo's people and right after set-up. The session that the browser had before ends. */
  signInAs(personId: number, before?: string): string {
    return this.#work.run(() => {
      if (before) this.#stores.sessions.removeSession(hashOf(before));
      return this.#startSession(personId);
    });
  }

  signOut(token: string | undefined): void {
    if (!token) return;
    this.#work.run(() => this.#stores.sessions.removeSession(hashOf(token)));
    this.#tellEnded();
  }

  /** Ends every session of a person, on every machine. */
  signOutEverywhere(personId: number): void {
    this.#work.run(() => this.#stores.sessions.removeAllOf(personId));
    this.#tellEnded();
  }

  /** Whether somebody can sign in: they have been invited and have chosen a password. */
  hasPassword(personId: number): boolean {
    return this.#stores.sessions.passwordHash(personId) !== null;
  }

  async setPassword(personId: number, password: string): Promise<void> {
    const hash = await hashPassword(password);
    this.#work.run(() => this.#stores.sessions.setPasswordHash(personId, hash));
  }

  /** Makes the one link by which the first coordinator comes in; an earlier one stops working. */
  makeFirstLink(): string {
    const token = newToken();
    this.#work.run(() => {
      this.#stores.sessions.dropLinks('first coordinator');
      const expiresAt = this.#machine.now() + LINK_HOURS * 3_600_000;
      this.#stores.sessions.addLink(hashOf(token), 'first coordinator', null, expiresAt);
    });
    return token;
  }

  isFirstLink(token: string): boolean {
    return this.#stores.sessions.hasLink(hashOf(token), 'first coordinator', this.#machine.now());
  }

  /** Uses the link up. @throws CodedError `link-spent` */
  spendFirstLink(token: string): void {
    const spent =
      this.isFirstLink(token) && this.#work.run(() => this.#stores.sessions.takeLink(hashOf(token)));
    if (!spent) throw new CodedError('link-spent');
  }

  /**
   * Makes the link by which a person chooses a password, for an invitation or a reset; an earlier one of theirs stops working.
   * @param hours how long it works
   * @returns null when one was made less than five minutes ago and `spare` asks to spare the reader another mail
   */
  makePasswordLink(personId: number, hours: number, spare = false): string | null {
    const { sessions } = this.#stores;
    const expiresAt = this.#machine.now() + hours * 3_600_000;
    const latest = sessions.latestLink(PASSWORD_PURPOSE, personId);
    if (spare && latest !== null && latest > expiresAt - 5 * 60_000) return null;
    const token = newToken();
    this.#work.run(() => {
      sessions.dropLinksOf(PASSWORD_PURPOSE, personId);
      sessions.addLink(hashOf(token), PASSWORD_PURPOSE, personId, expiresAt);
    });
    return token;
  }

  /** The person whose password a link is for; null when it is spent, or they are deactivated. */
  personOfLink(token: string): Person | null {
    const id = this.#stores.sessions.linkPerson(hashOf(token), PASSWORD_PURPOSE, this.#machine.now());
    const person = id === null ? null : this.#stores.people.byId(id);
    return person?.active ? person : null;
  }

  /**
   * Uses the link up: the password is set, every other session of the person ends, and one begins.
   * @returns the token of the session
   * @throws CodedError `link-spent`
   */
  async choosePassword(token: string, password: string): Promise<string> {
    const hash = await hashPassword(password);
    return (
      this.#work.run(() => {
        const person = this.personOfLink(token);
        if (!person || !this.#stores.sessions.takeLink(hashOf(token))) return null;
        this.#stores.sessions.setPasswordHash(person.id, hash);
        this.#stores.sessions.removeAllOf(person.id);
        if (person.email) this.#stores.sessions.forgive(person.email.trim().toLowerCase());
        return this.#startSession(person.id);
      }) ?? spent()
    );
  }

  #tellEnded(): void {
    for (const listener of this.#ended) listener();
  }

  #startSession(personId: number): string {
    const token = newToken();
    this.#stores.sessions.addSession(hashOf(token), personId, this.#machine.now() + SESSION_SECONDS * 1000);
    return token;
  }

  #checkSlowed(address: string): void {
    const failures = this.#stores.sessions.failures(address);
    if (!failures || failures.count < FREE_FAILURES) return;
    const waitSeconds = Math.min(LONGEST_WAIT_SECONDS, 2 ** (failures.count - FREE_FAILURES + 1));
    const leftSeconds = Math.ceil((failures.lastAt + waitSeconds * 1000 - this.#machine.now()) / 1000);
    if (leftSeconds > 0) throw new CodedError('sign-in-slowed', { seconds: leftSeconds });
  }
}

function spent(): never {
  throw new CodedError('link-spent');
}

let decoy: Promise<string> | undefined;
function decoyHash(): Promise<string> {
  return (decoy ??= hashPassword(randomBytes(16).toString('hex')));
}

function newToken(): string {
  return randomBytes(32).toString('base64url');
}

function hashOf(token: string): string {
  return createHash('sha256').update(token).digest('hex');
}
