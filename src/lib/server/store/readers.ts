import type { Recipient } from '../../core/rule/step-model.ts';
import type { Db } from '../db/open.ts';

export interface ReaderList {
  id: number;
  name: string;
  recipients: Recipient[];
}

export interface MessageTemplate {
  id: number;
  name: string;
  subject: string;
  body: string;
}

/** Reader lists, message templates, and the addresses outside the team. */
export class ReaderStore {
  readonly #lists;
  readonly #templates;
  readonly #outside;
  readonly #outsider;
  readonly #ensure;

  constructor(db: Db) {
    this.#lists = db.prepare<[], Omit<ReaderList, 'recipients'> & { recipients: string }>(
      'SELECT id, name, recipients FROM reader_list ORDER BY lower(name), id'
    );
    this.#templates = db.prepare<[], MessageTemplate>(
      'SELECT id, name, subject, body FROM message_template ORDER BY lower(name), id'
    );
    this.#outside = db.prepare<[], { id: number; address: string; name: string }>('SELECT * FROM outside');
    this.#outsider = db.prepare<[number], { id: number; address: string; name: string }>(
      'SELECT * FROM outside WHERE id = ?'
    );
    this.#ensure = db.prepare<[string, string]>(
      `INSERT INTO outside (address, name) VALUES (?, ?)
       ON CONFLICT (address) DO UPDATE SET name = excluded.name WHERE excluded.name <> '' AND name <> excluded.name`
    );
  }

  lists(): ReaderList[] {
    return this.#lists
      .all()
      .map(({ recipients, ...list }) => ({ ...list, recipients: JSON.parse(recipients) as Recipient[] }));
  }

  templates(): MessageTemplate[] {
    return this.#templates.all();
  }

  /** One of them by their id, which is above zero here; null where there is none. */
  outsider(id: number): { id: number; address: string; name: string } | null {
    return this.#outsider.get(id) ?? null;
  }

  /** Everybody outside by address; those that are new are given an id. */
  outsiders(known: ReadonlyMap<string, string>): { id: number; address: string; name: string }[] {
    const before = new Map(this.#outside.all().map((one) => [one.address, one]));
    const fresh = [...known].filter(([address, name]) => {
      const one = before.get(address);
      return !one || (name !== '' && one.name !== name);
    });
    for (const [address, name] of fresh) this.#ensure.run(address, name);
    return fresh.length > 0 ? this.#outside.all() : [...before.values()];
  }
}
