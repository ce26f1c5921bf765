import { many } from '../../core/many.ts';
import type { Deed } from '../../core/access/deeds.ts';
import { CodedError } from '../../core/errors.ts';
import { MS_PER_DAY } from '../../core/time/day.ts';
import { deedsToUndo, TABLES_OF_DEEDS } from '../auth/undo.ts';
import type { WorkspaceClock } from '../engine/clock.ts';
import type { ChangeRow } from '../store/change-model.ts';
import type { Stores } from '../store/all.ts';
import { tablesMarked } from '../store/recorded-tables.ts';
import type { Sight } from '../store/tasks.ts';
import type { AccountGuard } from '../account/account-guard.ts';
import type { Committed, Committer, Undone } from '../workspace/commit.ts';
import { mayEdit } from '../task/tasks.ts';

/** Days for which a change can be taken back. */
export const UNDO_DAYS = 30;

/** Somebody who wants to take something back. */
export interface Undoer {
  personId: number;
  sight: Sight;
  may: (deed: Deed) => boolean;
}

/** Takes changes back for those who may: whoever did it or a coordinator, with the rights that it takes now. */
export class UndoService {
  readonly #stores: Stores;
  readonly #committer: Committer;
  readonly #clock: WorkspaceClock;
  readonly #guard: AccountGuard;

  constructor(stores: Stores, committer: Committer, clock: WorkspaceClock, guard: AccountGuard) {
    this.#stores = stores;
    this.#committer = committer;
    this.#clock = clock;
    this.#guard = guard;
  }

  /** @throws as `check`, and as `Committer.undo` */
  undo(changeId: number, by: Undoer): Committed<Undone> {
    this.check(changeId, by);
    return this.#committer.undo(changeId, by.personId);
  }

  /**
   * Whether somebody may take a change back, as things stand now.
   * @throws CodedError `undo-gone`, `undo-done`, `undo-of-sweep`, `undo-late`, `undo-not-yours`, `undo-not-theirs` or `no-access`
   */
  check(changeId: number, { personId, sight, may }: Undoer): void {
    const { changes } = this.#stores;
    const made = changes.byId(changeId);
    if (!made) throw new CodedError('undo-gone');
    if (made.undoneBy !== null) throw new CodedError('undo-done');
    if (this.#stores.undoing.sweepRunOf(changeId) !== null) throw new CodedError('undo-of-sweep');
    if (this.#clock.now() - made.at > UNDO_DAYS * MS_PER_DAY)
      throw new CodedError('undo-late', { days: UNDO_DAYS });
    if (made.actorId !== personId && !may('watch the whole team')) throw new CodedError('undo-not-yours');
    const { touched, tasks } = this.#stores;
    const ids = changes.withCaused(changeId);
    const rows = touched.rowsIn(ids, TABLES_OF_DEEDS);
    if (isAnothersAlone(rows, personId)) throw new CodedError('no-access');
    // Taking something back is doing something like it: it asks for what the change asked for, of whoever asks now.
    const mayTouch = (id: number) => this.#guard.mayTouch(personId, id);
    for (const deed of deedsToUndo(rows, { personId, mayTouch }))
      if (!may(deed)) throw new CodedError('no-access');
    // One’s own words one may always take back.
    const taskIds = touched.tasks(ids, made.actorId !== personId);
    const seen = tasks.seen(taskIds, sight);
    // Whoever sees all of them may change what they see.
    const asked = sight.all ? taskIds.filter((id) => !seen.has(id)) : taskIds;
    const others = [...tasks.byIds(asked).values()].filter(
      (task) => !seen.has(task.id) || !mayEdit(task, sight, { stores: this.#stores })
    );
    if (others.length === 0) return;
    const name = others.find(({ id }) => seen.has(id))?.name ?? 'a task that you do not see';
    const count = many(others.length, 'task');
    throw new CodedError('undo-not-theirs', { count, name });
  }
}

/** Tables of which each row is one person's alone. */
export const KEPT_ALONE = tablesMarked('its keeper alone');

/** Whether some rows are of what somebody else keeps, a list or a line: that is theirs alone. What is everybody's has no keeper. */
export function isAnothersAlone(rows: readonly ChangeRow[], personId: number): boolean {
  return rows.some(({ table, before, after }) => {
    const keeper = (before ?? after)!.person_id;
    return KEPT_ALONE.has(table) && keeper !== null && keeper !== personId;
  });
}
