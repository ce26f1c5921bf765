import { CodedError } from '../../core/errors.ts';
import { isOpen, type Phase } from '../../core/task/model.ts';
import type { SettingsInput, StatusInput } from './schema.ts';
import type { ChangeWriter } from '../store/change-writer.ts';
import type { Status } from '../store/projects.ts';
import type { WorkspaceSettings } from '../store/settings.ts';
import type { Stores } from '../store/all.ts';
import type { Actor, Committed, Committer } from '../workspace/commit.ts';

/** What a workspace sets for all, and its statuses. */
export class SettingsService {
  readonly #stores: Stores;
  readonly #committer: Committer;

  constructor(stores: Stores, committer: Committer) {
    this.#stores = stores;
    this.#committer = committer;
  }

  save(actor: Actor, input: SettingsInput): Committed<void> {
    return this.#committer.commit(actor, 'Settings changed', (writer) => {
      this.#stores.settings.saveWorkspace(writer, this.merged(input));
    });
  }

  /** The settings as they would be: what the form does not hold stays. */
  merged(input: SettingsInput): WorkspaceSettings {
    return { ...this.#stores.settings.workspace(), ...input };
  }

  /**
   * Adds a status, renames it, or moves it to another phase or place.
   * @throws CodedError `status-gone` or `status-last-of-phase`
   */
  saveStatus(actor: Actor, input: StatusInput): Committed<void> {
    const statuses = this.#stores.projects.statuses();
    const { id, name, phase } = input;
    const known = id === null ? null : statuses.find((status) => status.id === id);
    if (known === undefined) throw new CodedError('status-gone');
    if (known && known.phase !== phase) this.#needAnother(known, statuses);
    const title = known ? `Status “${known.name}” changed` : `Status “${name}” added`;
    return this.#committer.commit(actor, title, (writer) => {
      if (known) {
        writer.update('status', known.id, { name, phase });
        if (known.phase !== phase) this.#turnPhase(writer, known, phase);
      }
      const rowId = known?.id ?? writer.insert('status', { name, phase, position: statuses.length });
      const others = statuses.map((status) => status.id).filter((other) => other !== rowId);
      others.splice(Math.min(input.position, others.length), 0, rowId);
      others.forEach((other, position) => writer.update('status', other, { position }));
    });
  }

  /**
   * Takes a status out; tasks that have it get another.
   * @throws CodedError `status-gone`, `status-last-of-phase` or `status-in-use`
   */
  dropStatus(actor: Actor, id: number, insteadId: number | null): Committed<void> {
    const statuses = this.#stores.projects.statuses();
    const status = statuses.find((one) => one.id === id);
    if (!status) throw new CodedError('status-gone');
    this.#needAnother(status, statuses);
    const tasks = this.#stores.tasks.idsWithStatus(id);
    const instead = statuses.find((one) => one.id === insteadId && one.id !== id);
    if (tasks.length > 0 && !instead) throw new CodedError('status-in-use', { count: tasks.length });
    return this.#committer.commit(actor, `Status “${status.name}” removed`, (writer) => {
      for (const taskId of tasks) this.#give(writer, taskId, status, instead!);
      writer.remove('status', id);
    });
  }

  /** Each phase that the code relies on keeps a status. */
  #needAnother(status: Status, statuses: readonly Status[]): void {
    if (statuses.filter(({ phase }) => phase === status.phase).length === 1)
      throw new CodedError('status-last-of-phase', { phase: status.phase });
  }

  /** Tasks of a status that becomes open or done are finished, or open again, at that moment. */
  #turnPhase(writer: ChangeWriter, status: Status, phase: Phase): void {
    if (isOpen(status.phase) === isOpen(phase)) return;
    for (const taskId of this.#stores.tasks.idsWithStatus(status.id))
      writer.update('task', taskId, { finished_at: isOpen(phase) ? null : writer.head.at });
  }

  #give(writer: ChangeWriter, taskId: number, from: Status, to: Status): void {
    const { at } = writer.head;
    writer.update('task', taskId, { status_id: to.id });
    if (isOpen(from.phase) !== isOpen(to.phase))
      writer.update('task', taskId, { finished_at: isOpen(to.phase) ? null : at });
    const open = this.#stores.tasks.openStatusSpan(taskId);
    if (open !== null) writer.update('status_span', open, { until_at: at });
    writer.insert('status_span', { task_id: taskId, status_id: to.id, from_at: at, until_at: null });
  }
}
