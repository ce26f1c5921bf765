import type { Db } from '../db/open.ts';

export interface Contact {
  id: number;
  name: string;
  email: string | null;
  phone: string | null;
  zone: string;
  note: string;
}

/** One project or one task that a contact has to do with. */
export interface ContactLink {
  id: number;
  contactId: number;
  projectId: number | null;
  taskId: number | null;
}

/** Outside contacts and what they are linked to. */
export class ContactStore {
  readonly #all;
  readonly #byId;
  readonly #links;
  readonly #linksOf;
  readonly #linksOfTask;

  constructor(db: Db) {
    this.#all = db.prepare<[], Contact>('SELECT * FROM contact ORDER BY lower(name), id');
    this.#byId = db.prepare<[number], Contact>('SELECT * FROM contact WHERE id = ?');
    const link =
      'SELECT id, contact_id AS contactId, project_id AS projectId, task_id AS taskId FROM contact_link';
    this.#links = db.prepare<[], ContactLink>(`${link} ORDER BY id`);
    this.#linksOfTask = db.prepare<[number], ContactLink>(`${link} WHERE task_id = ? ORDER BY id`);
    this.#linksOf = db.prepare<[number], ContactLink>(`${link} WHERE contact_id = ? ORDER BY id`);
  }

  all(): Contact[] {
    return this.#all.all();
  }

  byId(id: number): Contact | null {
    return this.#byId.get(id) ?? null;
  }

  links(): ContactLink[] {
    return this.#links.all();
  }

  linksOfTask(taskId: number): ContactLink[] {
    return this.#linksOfTask.all(taskId);
  }

  linksOf(contactId: number): ContactLink[] {
    return this.#linksOf.all(contactId);
  }
}
