import { randomBytes } from 'node:crypto';
import type { ChannelSecret } from '../../core/delivery/channel-settings.ts';
import type { Db } from '../db/open.ts';

/** What lets somebody send in the workspace's name, or tell it something. No change record, journal line or log holds any of it. */
export type SecretName = ChannelSecret | 'receipts';

/** Passwords and addresses that channels use, and the key that receipts are known by. */
export class SecretStore {
  readonly #read;
  readonly #write;
  readonly #make;
  readonly #forget;

  constructor(db: Db) {
    this.#read = db.prepare<[string], { value: Buffer }>('SELECT value FROM secret WHERE name = ?');
    this.#write = db.prepare<[string, Buffer]>(
      'INSERT INTO secret (name, value) VALUES (?, ?) ON CONFLICT (name) DO UPDATE SET value = excluded.value'
    );
    this.#make = db.prepare<[string, Buffer]>(
      'INSERT INTO secret (name, value) VALUES (?, ?) ON CONFLICT DO NOTHING'
    );
    this.#forget = db.prepare<[string]>('DELETE FROM secret WHERE name = ?');
  }

  /** Null where none is kept. */
  read(name: SecretName): string | null {
    return this.#read.get(name)?.value.toString('utf8') ?? null;
  }

  /** Inside the transaction under way. @param value null forgets it */
  keep(name: SecretName, value: string | null): void {
    if (value === null) this.#forget.run(name);
    else this.#write.run(name, Buffer.from(value, 'utf8'));
  }

  /** One that nobody chooses: made the first time that it is asked for. */
  made(name: 'receipts'): string {
    this.#make.run(name, Buffer.from(randomBytes(24).toString('base64url'), 'utf8'));
    return this.read(name)!;
  }
}
