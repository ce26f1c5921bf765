import type { Db } from '../db/open.ts';

/** Sessions, passwords, one-time links and failed sign-ins. Times are on the machine clock. */
export class SessionStore {
  readonly #add;
  readonly #find;
  readonly #remove;
  readonly #removeAll;
  readonly #latestLink;
  readonly #dropLinksOf;
  readonly #dropAllLinksOf;
  readonly #hash;
  readonly #setHash;
  readonly #addLink;
  readonly #link;
  readonly #dropLinks;
  readonly #takeLink;
  readonly #failures;
  readonly #fail;
  readonly #forgive;
  readonly #prunes;

  constructor(db: Db) {
    this.#add = db.prepare<[string, number, number]>(
      'INSERT INTO session (token_hash, person_id, expires_at) VALUES (?, ?, ?)'
    );
    this.#find = db.prepare<[string, number], { personId: number }>(
      'SELECT person_id AS personId FROM session WHERE token_hash = ? AND expires_at > ?'
    );
    this.#remove = db.prepare<[string]>('DELETE FROM session WHERE token_hash = ?');
    this.#removeAll = db.prepare<[number]>('DELETE FROM session WHERE person_id = ?');
    this.#latestLink = db.prepare<[string, number], { at: number | null }>(
      'SELECT max(expires_at) AS at FROM one_time_link WHERE purpose = ? AND person_id = ?'
    );
    this.#dropLinksOf = db.prepare<[string, number]>(
      'DELETE FROM one_time_link WHERE purpose = ? AND person_id = ?'
    );
    this.#dropAllLinksOf = db.prepare<[number]>('DELETE FROM one_time_link WHERE person_id = ?');
    this.#hash = db.prepare<[number], { hash: string }>('SELECT hash FROM password WHERE person_id = ?');
    this.#setHash = db.prepare<[number, string]>(
      'INSERT INTO password (person_id, hash) VALUES (?, ?) ON CONFLICT (person_id) DO UPDATE SET hash = excluded.hash'
    );
    this.#addLink = db.prepare<[string, string, number | null, number]>(
      'INSERT INTO one_time_link (token_hash, purpose, person_id, expires_at) VALUES (?, ?, ?, ?)'
    );
    this.#link = db.prepare<[string, string, number], { personId: number | null }>(
      'SELECT person_id AS personId FROM one_time_link WHERE token_hash = ? AND purpose = ? AND expires_at > ?'
    );
    this.#dropLinks = db.prepare<[string]>('DELETE FROM one_time_link WHERE purpose = ?');
    this.#takeLink = db.prepare<[string]>('DELETE FROM one_time_link WHERE token_hash = ?');
    this.#failures = db.prepare<[string], { count: number; lastAt: number }>(
      'SELECT count, last_at AS lastAt FROM sign_in_failure WHERE email = ?'
    );
    this.#fail = db.prepare<[string, number]>(
      `INSERT INTO sign_in_failure (email, count, last_at) VALUES (?, 1, ?)
       ON CONFLICT (email) DO UPDATE SET count = count + 1, last_at = excluded.last_at`
    );
    this.#forgive = db.prepare<[string]>('DELETE FROM sign_in_failure WHERE email = ?');
    this.#prunes = [
      db.prepare<[{ now: number; before: number }]>('DELETE FROM session WHERE expires_at <= @now'),
      db.prepare<[{ now: number; before: number }]>('DELETE FROM one_time_link WHERE expires_at <= @now'),
      db.prepare<[{ now: number; before: number }]>('DELETE FROM sign_in_failure WHERE last_at < @before')
    ];
  }

  addSession(tokenHash: string, personId: number, expiresAt: number): void {
    this.#add.run(tokenHash, personId, expiresAt);
  }

  personOf(tokenHash: string, now: number): number | null {
    return this.#find.get(tokenHash, now)?.personId ?? null;
  }

  removeSession(tokenHash: string): void {
    this.#remove.run(tokenHash);
  }

  removeAllOf(personId: number): void {
    this.#removeAll.run(personId);
  }

  passwordHash(personId: number): string | null {
    return this.#hash.get(personId)?.hash ?? null;
  }

  setPasswordHash(personId: number, hash: string): void {
    this.#setHash.run(personId, hash);
  }

  addLink(tokenHash: string, purpose: string, personId: number | null, expiresAt: number): void {
    this.#addLink.run(tokenHash, purpose, personId, expiresAt);
  }

  dropLinks(purpose: string): void {
    this.#dropLinks.run(purpose);
  }

  dropLinksOf(purpose: string, personId: number): void {
    this.#dropLinksOf.run(purpose, personId);
  }

  /** @returns how many there were */
  dropAllLinksOf(personId: number): number {
    return this.#dropAllLinksOf.run(personId).changes;
  }

  /** When the newest link of a person ends; null without one. */
  latestLink(purpose: string, personId: number): number | null {
    return this.#latestLink.get(purpose, personId)!.at;
  }

  /** The person of a link that still works. */
  linkPerson(tokenHash: string, purpose: string, now: number): number | null {
    return this.#link.get(tokenHash, purpose, now)?.personId ?? null;
  }

  hasLink(tokenHash: string, purpose: string, now: number): boolean {
    return this.#link.get(tokenHash, purpose, now) !== undefined;
  }

  /** Uses a link up. @returns whether it was there */
  takeLink(tokenHash: string): boolean {
    return this.#takeLink.run(tokenHash).changes === 1;
  }

  /**
   * Takes out what has run out.
   * @param before failures from before then count no more
   */
  prune(now: number, before: number): void {
    for (const statement of this.#prunes) statement.run({ now, before });
  }

  failures(email: string): { count: number; lastAt: number } | null {
    return this.#failures.get(email) ?? null;
  }

  addFailure(email: string, now: number): void {
    this.#fail.run(email, now);
  }

  forgive(email: string): void {
    this.#forgive.run(email);
  }
}
