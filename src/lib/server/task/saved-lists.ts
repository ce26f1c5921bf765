import { may } from '../../core/access/deeds.ts';
import { CodedError } from '../../core/errors.ts';
import type { SavedListInput } from '../project/schema.ts';
import type { Stores } from '../store/all.ts';
import type { SavedList } from '../store/saved-lists.ts';
import type { Actor, Committed, Committer } from '../workspace/commit.ts';

/** Ways of looking at the list that people keep. */
export class SavedListService {
  readonly #stores: Stores;
  readonly #committer: Committer;

  constructor(stores: Stores, committer: Committer) {
    this.#stores = stores;
    this.#committer = committer;
  }

  /** Those that somebody can choose: their own, and those that everybody has. */
  of(personId: number) {
    return this.#stores.savedLists
      .of(personId)
      .map(({ personId: keeper, ...list }) => ({ ...list, own: keeper === personId }));
  }

  /**
   * Keeps a way of looking; one of the same name and person is replaced. What everybody reads, its name and the words that it looks for, is a
   * coordinator’s to write.
   * @throws CodedError `no-access`
   */
  save(actor: Actor, { name, query, shared, counted }: SavedListInput): Committed<number> {
    const personId = actor.personId!;
    if ((shared || counted) && !this.#mayShare(personId)) throw new CodedError('no-access');
    const same = this.#stores.savedLists
      .of(personId)
      .find((list) => list.personId === personId && list.name.toLowerCase() === name.toLowerCase());
    const row = { person_id: personId, name, query, shared: shared ? 1 : 0, counted: counted ? 1 : 0 };
    return this.#committer.commit(actor, `List “${name}” saved`, (writer) => {
      if (same) writer.update('saved_list', same.id, row);
      return same?.id ?? writer.insert('saved_list', row);
    });
  }

  /**
   * Counts a kept list on the Bell tower, or does not any more. One that everybody has is counted for everybody.
   * @throws CodedError `list-gone`
   */
  count(actor: Actor, id: number, counted: boolean): Committed<void> {
    const list = this.#stores.savedLists.of(actor.personId!).find((one) => one.id === id);
    if (!list) throw new CodedError('list-gone');
    const title = counted
      ? `List “${list.name}” counted on the Bell tower`
      : `List “${list.name}” removed from the Bell tower`;
    return this.#committer.commit(actor, title, (writer) => {
      writer.update('saved_list', id, { counted: counted ? 1 : 0 });
    });
  }

  #mayShare(personId: number): boolean {
    const person = this.#stores.people.byId(personId);
    return person !== null && may(person.role, 'watch the whole team');
  }

  /** @throws CodedError `list-gone`; one that is somebody else's is not there */
  drop(actor: Actor, id: number): Committed<void> {
    const list: SavedList | null = this.#stores.savedLists.byId(id);
    if (!list || list.personId !== actor.personId) throw new CodedError('list-gone');
    return this.#committer.commit(actor, `List “${list.name}” removed`, (writer) => {
      writer.remove('saved_list', id);
    });
  }
}
