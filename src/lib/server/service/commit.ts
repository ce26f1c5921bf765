import { CodedError } from '../../core/errors.ts';
import type { Db } from '../db/open.ts';
import type { WorkspaceClock } from '../engine/clock.ts';
import type { Engine } from '../engine/engine.ts';
import type { FactsSource } from '../engine/facts-source.ts';
import type { ChangeSource, ChangeWriter, RecordedTable } from '../store/changes.ts';
import type { Stores } from '../store/all.ts';

/** Who does something, and by which way. */
export interface Actor {
  personId: number | null;
  source: ChangeSource;
}

/** What a committed change leaves for its caller. */
export interface Committed<T> {
  changeId: number;
  result: T;
}

/** Tables that every task's plan depends on. */
const WIDE: ReadonlySet<RecordedTable> = new Set([
  'setting',
  'calendar',
  'calendar_day',
  'calendar_week',
  'person',
  'person_zone',
  'leave',
  'project',
  'status',
  'rule'
]);
/** Columns of a task that move its anchors. */
const DATE_COLUMNS = ['due_date', 'due_time', 'due_zone', 'start_date', 'start_time', 'start_zone'];

/** The one way in which data is changed: a transaction with its change record, the plan marked stale, the engine woken. */
export class Committer {
  readonly #db: Db;
  readonly #stores: Stores;
  readonly #source: FactsSource;
  readonly #clock: WorkspaceClock;
  #engine: Engine | null = null;

  constructor(db: Db, stores: Stores, source: FactsSource, clock: WorkspaceClock) {
    this.#db = db;
    this.#stores = stores;
    this.#source = source;
    this.#clock = clock;
  }

  /** Whom to wake after a change. */
  attach(engine: Engine): void {
    this.#engine = engine;
  }

  /**
   * Runs `work` in one transaction, recorded as one change.
   * @param title what is done, in words; a function is asked after the work
   */
  commit<T>(actor: Actor, title: string, work: (writer: ChangeWriter) => T): Committed<T> {
    const { wide, ...committed } = this.#db
      .transaction(() => {
        const at = this.#clock.now();
        const writer = this.#stores.changes.begin({
          at,
          actorId: actor.personId,
          source: actor.source,
          title
        });
        const result = work(writer);
        return { changeId: writer.id, result, wide: this.#finish(writer) };
      })
      .immediate();
    if (wide) this.#source.invalidate();
    this.#engine?.wake();
    return committed;
  }

  /**
   * Undoes a change.
   * @returns the change that is the undo, and how many later edits were kept
   * @throws CodedError `undo-gone`, `undo-done`, or `last-administrator` where nobody would look after access any more
   */
  undo(changeId: number, personId: number): Committed<{ kept: number }> {
    const { wide, ...committed } = this.#db
      .transaction(() => {
        const administrators = this.#stores.people.otherAdministrators(0);
        const { writer, kept } = this.#stores.changes.undo(changeId, this.#clock.now(), personId);
        if (administrators > 0 && this.#stores.people.otherAdministrators(0) === 0)
          throw new CodedError('last-administrator');
        return { changeId: writer.id, result: { kept }, wide: this.#finish(writer) };
      })
      .immediate();
    if (wide) this.#source.invalidate();
    this.#engine?.wake();
    return committed;
  }

  /** Marks stale what a change touches and records it. @returns whether what every plan depends on was touched */
  #finish(writer: ChangeWriter): boolean {
    const { plan, journal } = this.#stores;
    const { at, actorId, title, source } = writer.head;
    let wide = false;
    for (const { table, rowId, kind, columns } of writer.written) {
      if (table === 'task') {
        const moved = columns.some((column) => DATE_COLUMNS.includes(column));
        const cause = kind === 'insert' ? 'created' : moved ? 'date moved' : 'other';
        plan.enqueue({ taskId: rowId, cause, changeId: writer.id, actorId });
      } else if (WIDE.has(table)) wide = true;
    }
    if (wide) plan.enqueueAll();
    journal.add(at, this.#clock.machine.now(), 'change', { title, source, actorId }, writer.id);
    return wide;
  }
}
