import { CodedError } from '../../core/errors.ts';
import type { ContactInput } from './schema.ts';
import type { Row } from '../db/row.ts';
import type { Stores } from '../store/all.ts';
import type { Actor, Committed, Committer } from '../workspace/commit.ts';

/** Outside contacts: people who sometimes hear of a date and never sign in. */
export class ContactService {
  readonly #stores: Stores;
  readonly #committer: Committer;

  constructor(stores: Stores, committer: Committer) {
    this.#stores = stores;
    this.#committer = committer;
  }

  /** @param id null adds one. @throws CodedError `contact-gone` */
  save(actor: Actor, id: number | null, input: ContactInput): Committed<number> {
    if (id !== null) this.#need(id);
    const title = `Outside contact ${input.name} ${id === null ? 'added' : 'changed'}`;
    return this.#committer.commit(actor, title, (writer) => {
      const row = columns(input);
      if (id !== null) writer.update('contact', id, row);
      const contactId = id ?? writer.insert('contact', row);
      const links = this.#stores.contacts.linksOf(contactId);
      for (const link of links) {
        const kept =
          link.projectId !== null
            ? input.projectIds.includes(link.projectId)
            : input.taskIds.includes(link.taskId!);
        if (!kept) writer.remove('contact_link', link.id);
      }
      for (const projectId of input.projectIds)
        if (!links.some((link) => link.projectId === projectId))
          writer.insert('contact_link', { contact_id: contactId, project_id: projectId, task_id: null });
      for (const taskId of input.taskIds)
        if (!links.some((link) => link.taskId === taskId))
          writer.insert('contact_link', { contact_id: contactId, project_id: null, task_id: taskId });
      return contactId;
    });
  }

  /** @throws CodedError `contact-gone` */
  remove(actor: Actor, id: number): Committed<void> {
    const contact = this.#need(id);
    return this.#committer.commit(actor, `Outside contact ${contact.name} removed`, (writer) => {
      for (const link of this.#stores.contacts.linksOf(id)) writer.remove('contact_link', link.id);
      writer.remove('contact', id);
    });
  }

  #need(id: number): { name: string } {
    const contact = this.#stores.contacts.byId(id);
    if (!contact) throw new CodedError('contact-gone');
    return contact;
  }
}

function columns({ name, email, phone, zone, note }: ContactInput): Row {
  return { name, email, phone, zone, note };
}
