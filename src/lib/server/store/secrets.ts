import { randomBytes } from 'node:crypto';
import type { ChannelSecret } from '../../core/channel/settings.ts';
import type { Db } from '../db/open.ts';
import { Seal } from '../db/seal.ts';

/** What nobody chooses: the key that receipts are known by, and that which signs links in messages. */
type MadeSecret = 'receipts' | 'act links';

/** What lets somebody send in the workspace's name, or tell it something. No change record, journal line or log holds any of it. */
export type SecretName = ChannelSecret | MadeSecret;

interface SecretRow {
  name: SecretName;
  value: Buffer;
}

/** Passwords and addresses that channels use, and keys of our own: sealed, with a key that is not in the database. */
export class SecretStore {
  readonly #seal: Seal;
  readonly #read;
  readonly #all;
  readonly #write;
  readonly #forget;

  constructor(db: Db, seal: Seal) {
    this.#seal = seal;
    this.#read = db.prepare<[string], { value: Buffer }>('SELECT value FROM secret WHERE name = ?');
    this.#all = db.prepare<[], SecretRow>('SELECT name, value FROM secret');
    this.#write = db.prepare<[string, Buffer]>(
      'INSERT INTO secret (name, value) VALUES (?, ?) ON CONFLICT (name) DO UPDATE SET value = excluded.value'
    );
    this.#forget = db.prepare<[string]>('DELETE FROM secret WHERE name = ?');
  }

  /** Null where none is kept, or it was sealed with a key that is not known here: then it has to be given again. */
  read(name: SecretName): string | null {
    return this.#open(name)?.toString('utf8') ?? null;
  }

  /** Inside the transaction under way. @param value null forgets it */
  keep(name: SecretName, value: string | null): void {
    if (value === null) this.#forget.run(name);
    else this.#write.run(name, this.#seal.seal(name, Buffer.from(value, 'utf8')));
  }

  /** One that nobody chooses: made the first time that it is asked for, and anew where it cannot be opened. */
  made(name: MadeSecret): string {
    const known = this.read(name);
    if (known !== null) return known;
    const value = randomBytes(32).toString('base64url');
    this.keep(name, value);
    return value;
  }

  /**
   * Seals with the key of now what is not, inside the transaction under way: after the key was changed, or where a workspace is from before anything was
   * sealed.
   * @returns those that no key here opens
   */
  sealAll(): SecretName[] {
    return this.#all.all().flatMap(({ name, value }) => {
      if (this.#seal.isSealed(name, value)) return [];
      const open = this.#seal.open(name, value) ?? Seal.openAsItWas(value);
      if (open === null) return [name];
      this.#write.run(name, this.#seal.seal(name, open));
      return [];
    });
  }

  #open(name: SecretName): Buffer | null {
    const value = this.#read.get(name)?.value;
    return value ? this.#seal.open(name, value) : null;
  }
}
