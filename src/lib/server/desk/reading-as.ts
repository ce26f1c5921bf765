import { CodedError } from '../../core/errors.ts';
import type { UnitOfWork } from '../db/unit-of-work.ts';
import type { MachineClock } from '../engine/clock.ts';
import type { SignedIn } from '../workspace/signed-in.ts';
import { deskView, moreDeskRows, type DeskAsked, type RowsAsked } from './desk-views.ts';
import type { DeskServices } from './desk-of.ts';
import type { DeskRows, DeskView, Rhythm } from '../../view/desk.ts';

/** Within so long the same reading is not written down again: an open page is read anew by itself. */
const SAME_READING_MS = 3_600_000;

/** Reads somebody's Desk as they see it, without what is private, and writes down that it was read. */
export class DeskReader {
  readonly #app: DeskServices & { work: UnitOfWork; clock: { machine: MachineClock } };

  constructor(app: DeskServices & { work: UnitOfWork; clock: { machine: MachineClock } }) {
    this.#app = app;
  }

  /**
   * The Desk of somebody, for a coordinator, or for a manager of theirs.
   * @throws CodedError `desk-not-yours`, `person-gone`
   */
  view(who: SignedIn, personId: number, rhythm: Rhythm | null): DeskView {
    const asked = this.#asked(who, personId, rhythm);
    const view = deskView(this.#app, asked);
    this.#note(who.person.id, personId);
    return view;
  }

  /** More rows of it. @throws as `view` */
  rows(who: SignedIn, personId: number, rhythm: Rhythm | null, rows: RowsAsked, from: number): DeskRows {
    return moreDeskRows(this.#app, this.#asked(who, personId, rhythm), rows, from);
  }

  #asked({ sight, may }: SignedIn, personId: number, rhythm: Rhythm | null): DeskAsked {
    if (!may('watch the whole team') && !sight.reports.includes(personId))
      throw new CodedError('desk-not-yours');
    return { personId, sight, rhythm };
  }

  #note(readerId: number, personId: number): void {
    if (readerId === personId) return;
    const { stores, clock, work } = this.#app;
    const now = clock.now();
    if (stores.deskLooks.hasRead(personId, readerId, now - SAME_READING_MS)) return;
    work.run(() => {
      stores.deskLooks.read(personId, readerId, now);
      stores.journal.add(now, clock.machine.now(), 'desk read', { actorId: readerId, personId });
    });
  }
}
