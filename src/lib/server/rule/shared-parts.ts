import { CodedError } from '../../core/errors.ts';
import { allSteps, type Recipient, type Tell } from '../../core/rule/step-model.ts';
import { parseTemplate } from '../../core/message/template.ts';
import type { Stores } from '../store/all.ts';
import type { Actor, Committed, Committer } from '../workspace/commit.ts';

/** What several rules share: reader lists, and the words of messages. */
export class SharedParts {
  readonly #stores: Stores;
  readonly #committer: Committer;

  constructor(stores: Stores, committer: Committer) {
    this.#stores = stores;
    this.#committer = committer;
  }

  /**
   * @param id the list that is changed; null for a new one
   * @throws CodedError `reader-list-no-name` or `reader-list-gone`
   */
  saveReaders(
    actor: Actor,
    id: number | null,
    name: string,
    recipients: readonly Recipient[]
  ): Committed<number> {
    if (name.trim() === '') throw new CodedError('reader-list-no-name', {}, 'name');
    // A list that named a list could name itself.
    const row = {
      name: name.trim(),
      recipients: JSON.stringify(recipients.filter(({ who }) => who !== 'readers'))
    };
    return this.#committer.commit(actor, `Reader list “${row.name}” saved`, (writer) => {
      if (id === null) return writer.insert('reader_list', row);
      if (!this.#stores.readers.lists().some((list) => list.id === id))
        throw new CodedError('reader-list-gone');
      writer.update('reader_list', id, row);
      return id;
    });
  }

  dropReaders(actor: Actor, id: number): Committed<void> {
    const list = this.#stores.readers.lists().find((one) => one.id === id);
    if (!list) throw new CodedError('reader-list-gone');
    return this.#committer.commit(actor, `Reader list “${list.name}” removed`, (writer) => {
      writer.remove('reader_list', id);
    });
  }

  /** @throws CodedError `template-no-name`, `template-gone`, or for a merge field that does not exist */
  saveTemplate(
    actor: Actor,
    id: number | null,
    name: string,
    subject: string,
    body: string
  ): Committed<number> {
    if (name.trim() === '') throw new CodedError('template-no-name', {}, 'name');
    parseTemplate(subject);
    parseTemplate(body);
    const row = { name: name.trim(), subject, body };
    return this.#committer.commit(actor, `Message template “${row.name}” saved`, (writer) => {
      if (id === null) return writer.insert('message_template', row);
      if (
        !writer.update('message_template', id, row) &&
        !this.#stores.readers.templates().some((one) => one.id === id)
      )
        throw new CodedError('template-gone');
      return id;
    });
  }

  dropTemplate(actor: Actor, id: number): Committed<void> {
    const template = this.#stores.readers.templates().find((one) => one.id === id);
    if (!template) throw new CodedError('template-gone');
    return this.#committer.commit(actor, `Message template “${template.name}” removed`, (writer) => {
      writer.remove('message_template', id);
    });
  }

  /** Rules, live or drafted, that name a reader list. */
  usesOfReaders(id: number): { id: number; name: string }[] {
    return this.#tellingBy(({ to }) => to.some((one) => one.who === 'readers' && one.id === id));
  }

  /** Rules, live or drafted, in which the words of a template stand as they are: what has been changed since is the rule's own. */
  usesOfTemplate({ subject, body }: { subject: string; body: string }): { id: number; name: string }[] {
    return this.#tellingBy((tell) => tell.subject === subject && tell.body === body);
  }

  /** All of them, each with the rules that use it. */
  view() {
    const { readers } = this.#stores;
    return {
      lists: readers.lists().map((list) => ({ ...list, uses: this.usesOfReaders(list.id) })),
      templates: readers.templates().map((one) => ({ ...one, uses: this.usesOfTemplate(one) }))
    };
  }

  #tellingBy(holds: (tell: Tell) => boolean): { id: number; name: string }[] {
    return this.#stores.rules.made().flatMap((rule) => {
      const versions = [rule.liveVersion, rule.draftVersion].flatMap((version) =>
        version === null ? [] : (this.#stores.rules.version(version) ?? [])
      );
      const tells = versions.flatMap(({ definition }) => allSteps(definition.steps));
      const uses = tells.some((step) => step.kind === 'tell' && holds(step));
      return uses ? [{ id: rule.id, name: rule.name }] : [];
    });
  }
}
