import type { ChangeSource } from '../store/change-model.ts';
import type { ChangeWriter } from '../store/change-writer.ts';
import type { Stores } from '../store/all.ts';

/** What somebody does themselves, and not a file, a rule or an undo. */
const BY_HAND: ReadonlySet<ChangeSource> = new Set(['person', 'link', 'api', 'bulk']);
/** What a new date of a task is. */
const DATES = ['due_date', 'due_time', 'start_date', 'start_time'];
/** Without any plan. */
export const NO_PLAN = { plan: null, plan_first: null, plan_last: null, planned_at: null };

type Written = ChangeWriter['written'][number];

/**
 * Keeps the marks of who has placed which task, whatever way a task is changed by: they belong to the change, and go back with it.
 * A task is placed by an act of its owner on its dates or by starting it; whoever has it no more has placed it no more; a new date ends plans.
 */
export class PlacedMarks {
  readonly #stores: Stores;

  constructor(stores: Stores) {
    this.#stores = stores;
  }

  /** Called with every change, before it is finished. */
  review(writer: ChangeWriter): void {
    for (const written of [...writer.written]) {
      if (written.table === 'co_owner' && written.kind === 'remove') {
        const { task_id: taskId, person_id: personId } = written.row;
        this.#forget(writer, Number(taskId), Number(personId));
      }
      if (written.table !== 'task' || written.kind === 'remove') continue;
      if (written.kind === 'update') this.#ofEdit(writer, written);
      if (this.#isPlacedBy(writer, written)) this.#place(writer, written.rowId);
    }
  }

  #ofEdit(writer: ChangeWriter, { rowId, columns, before }: Written): void {
    if (columns.includes('owner_id') && typeof before?.owner_id === 'number')
      this.#forget(writer, rowId, before.owner_id);
    if (!columns.some((column) => DATES.includes(column))) return;
    for (const { id } of this.#stores.placements.ofTask(rowId)) writer.update('placement', id, NO_PLAN);
  }

  /** Whether whoever makes the change says with it when they do the task. */
  #isPlacedBy({ head }: ChangeWriter, { kind, columns, row }: Written): boolean {
    if (head.actorId === null || !BY_HAND.has(head.source)) return false;
    const isDated = row.due_date != null || row.start_date != null;
    if (kind === 'insert') return isDated;
    if (columns.some((column) => DATES.includes(column))) return true;
    if (!columns.includes('status_id')) return false;
    const status = this.#stores.projects.statuses().find(({ id }) => id === row.status_id);
    return status?.phase === 'under way';
  }

  #place(writer: ChangeWriter, taskId: number): void {
    const { actorId, at } = writer.head;
    if (!this.#owners(taskId).includes(actorId!) || this.#stores.placements.of(taskId, actorId!)) return;
    writer.insert('placement', { task_id: taskId, person_id: actorId, placed_at: at });
  }

  /** Somebody has it no more, unless they have it another way. */
  #forget(writer: ChangeWriter, taskId: number, personId: number): void {
    if (this.#owners(taskId).includes(personId)) return;
    const mark = this.#stores.placements.of(taskId, personId);
    if (mark) writer.remove('placement', mark.id);
  }

  #owners(taskId: number): number[] {
    const { tasks } = this.#stores;
    const owner = tasks.byId(taskId)?.ownerId ?? null;
    return [...(owner === null ? [] : [owner]), ...tasks.otherOwnersOf(taskId)];
  }
}
