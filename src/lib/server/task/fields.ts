import { CodedError } from '../../core/errors.ts';
import type { FieldInput } from '../project/schema.ts';
import type { Stores } from '../store/all.ts';
import type { Field } from '../store/fields.ts';
import type { Actor, Committed, Committer } from '../workspace/commit.ts';

/** Kinds whose values are dates: these can be deadlines. */
const DATED: readonly Field['kind'][] = ['date', 'date with time', 'date range'];

/** The workspace's own fields of a task. */
export class FieldService {
  readonly #stores: Stores;
  readonly #committer: Committer;

  constructor(stores: Stores, committer: Committer) {
    this.#stores = stores;
    this.#committer = committer;
  }

  /** @throws CodedError `field-gone`, `field-name-taken`, `field-no-choices` or `field-kind-kept` */
  save(actor: Actor, input: FieldInput): Committed<number> {
    const fields = this.#stores.fields.all();
    const { id, name, kind } = input;
    const known = id === null ? null : fields.find((field) => field.id === id);
    if (known === undefined) throw new CodedError('field-gone');
    const same = (other: Field) => other.id !== id && other.name.toLowerCase() === name.toLowerCase();
    if (fields.some(same)) throw new CodedError('field-name-taken', { name }, 'name');
    const chosen = kind === 'one choice' || kind === 'many choices';
    if (chosen && input.choices.length === 0) throw new CodedError('field-no-choices', {}, 'choices');
    if (known && known.kind !== kind && this.#stores.fields.valueIds(known.id).length > 0)
      throw new CodedError('field-kind-kept', {}, 'kind');
    const row = {
      name,
      kind,
      choices: JSON.stringify(chosen ? input.choices : []),
      met_by_status_id: DATED.includes(kind) ? input.metByStatusId : null
    };
    return this.#committer.commit(actor, `Field “${name}” ${known ? 'changed' : 'added'}`, (writer) => {
      if (known) writer.update('field', known.id, row);
      return known?.id ?? writer.insert('field', { ...row, position: fields.length });
    });
  }

  /** Takes a field out with its values. @throws CodedError `field-gone` */
  drop(actor: Actor, id: number): Committed<void> {
    const field = this.#stores.fields.all().find((one) => one.id === id);
    if (!field) throw new CodedError('field-gone');
    return this.#committer.commit(actor, `Field “${field.name}” removed`, (writer) => {
      for (const valueId of this.#stores.fields.valueIds(id)) writer.remove('field_value', valueId);
      writer.remove('field', id);
    });
  }
}
