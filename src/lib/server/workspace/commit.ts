import { CodedError } from '../../core/errors.ts';
import type { UnitOfWork } from '../db/unit-of-work.ts';
import type { WorkspaceClock } from '../engine/clock.ts';
import type { Engine } from '../engine/engine.ts';
import type { FactsSource } from '../engine/facts-source.ts';
import type { UndoneChange } from '../store/changes.ts';
import type { ChangeWriter } from '../store/change-writer.ts';
import { entryOf, type RecordedTable } from '../store/recorded-tables.ts';
import type { ChangeHead, ChangeSource, KeptEdit } from '../store/change-model.ts';
import type { BroughtBack, LeftMessage } from '../store/undoing.ts';
import type { AccountGuard } from '../account/account-guard.ts';
import { leftBecauseOf } from '../record/left-because.ts';
import { eventsOfWritten } from '../record/written-events.ts';
import type { Stores } from '../store/all.ts';

/** Who does something, and by which way. */
export interface Actor {
  personId: number | null;
  source: ChangeSource;
  /** The message whose link they pressed. */
  messageId?: number | null;
}

/** What a committed change leaves for its caller. */
export interface Committed<T> {
  changeId: number;
  result: T;
}

/** What came of an undo. */
export interface Undone {
  kept: KeptEdit[];
  /** Messages that had left because of it, a row for each task that they are about. */
  left: LeftMessage[];
}

/** Columns of a task that move its anchors. */
const DATE_COLUMNS = [
  'due_date',
  'due_time',
  'due_zone',
  'start_date',
  'start_time',
  'start_zone',
  'remind_date',
  'remind_time',
  'remind_zone'
];
/** Keeps when tasks do something by themselves. */
export interface ChoreKeeper {
  refresh(taskId: number): void;
  refreshAll(): void;
}

/** A change that has been made, for whoever shows what it touched. */
export interface CommittedChange {
  changeId: number;
  actorId: number | null;
  tables: ReadonlySet<RecordedTable>;
  /** Tasks it wrote or wrote about. */
  taskIds: ReadonlySet<number>;
}

/** The one way in which data is changed: a transaction with its change record, the plan marked stale, the engine woken. */
export class Committer {
  readonly #work: UnitOfWork;
  readonly #stores: Stores;
  readonly #source: FactsSource;
  readonly #clock: WorkspaceClock;
  #engine: Engine | null = null;
  #chores: ChoreKeeper | null = null;
  #accounts: Pick<AccountGuard, 'changed'> | null = null;
  #watchman: { review(writer: ChangeWriter, committer: Committer): void } | null = null;
  #placedMarks: { review(writer: ChangeWriter): void } | null = null;
  /** The change within which the next is made. */
  #under: number | null = null;
  readonly #listeners = new Set<(change: CommittedChange) => void>();

  constructor(work: UnitOfWork, stores: Stores, source: FactsSource, clock: WorkspaceClock) {
    this.#work = work;
    this.#stores = stores;
    this.#source = source;
    this.#clock = clock;
  }

  /** Whom to wake after a change, what keeps the chores of tasks, who has placed what, and who watches over accounts and rules. */
  attach(
    engine: Engine,
    chores: ChoreKeeper,
    {
      accountGuard,
      watchman,
      placedMarks
    }: {
      accountGuard: Pick<AccountGuard, 'changed'>;
      watchman: { review(writer: ChangeWriter, committer: Committer): void };
      placedMarks: { review(writer: ChangeWriter): void };
    }
  ): void {
    this.#engine = engine;
    this.#chores = chores;
    this.#accounts = accountGuard;
    this.#watchman = watchman;
    this.#placedMarks = placedMarks;
  }

  /** Hears of every change that has been made. @returns stops hearing */
  listen(listener: (change: CommittedChange) => void): () => void {
    this.#listeners.add(listener);
    return () => void this.#listeners.delete(listener);
  }

  /**
   * Runs `work` in one transaction, recorded as one change.
   * @param title what is done, in words; a function is asked after the work
   */
  commit<T>(actor: Actor, title: string, work: (writer: ChangeWriter) => T): Committed<T> {
    const { personId: actorId, source, messageId } = actor;
    const head = { at: this.#clock.now(), actorId, source, title, messageId };
    return this.#work.run(() => this.change(head, work));
  }

  /**
   * Makes one change inside the unit under way: what rules do is one change each, within that of the change that set them off. Rules
   * that listen to it ring in the same unit; whoever listens to changes hears of it once that is committed.
   */
  change<T>(head: ChangeHead, work: (writer: ChangeWriter) => T): Committed<T> {
    return this.#make(this.#stores.changes.begin({ ...head, causedBy: head.causedBy ?? this.#under }), work);
  }

  /** Writes more within a change that has been made, in a unit of its own: in a copy that nobody reads before all of it is written. */
  more<T>(changeId: number, head: ChangeHead, work: (writer: ChangeWriter) => T): T {
    return this.#work.run(() => this.#make(this.#stores.changes.goOn(changeId, head), work).result);
  }

  #make<T>(writer: ChangeWriter, work: (writer: ChangeWriter) => T): Committed<T> {
    const { head } = writer;
    this.#work.onRollback(() => this.#forget(writer));
    const outer = this.#under;
    this.#under = writer.id;
    let result: T;
    try {
      // What is set off while it is made, runs of a rule rung by hand for one, is taken back with it.
      result = work(writer);
      this.#placedMarks?.review(writer);
      this.#finish(writer);
      this.#watchman?.review(writer, this);
      this.#engine?.happened(
        {
          changeId: writer.id,
          source: head.source,
          actorId: head.actorId,
          ...eventsOfWritten(writer.written, this.#stores.projects.statuses(), (projectId) =>
            this.#stores.tasks.openOfProject(projectId).map(({ id }) => id)
          )
        },
        head.at
      );
    } finally {
      this.#under = outer;
    }
    return { changeId: writer.id, result };
  }

  /**
   * Undoes a change, with everything that was set off by it and has not left.
   * @returns the change that is the undo, the later edits that were kept, and the messages that had left because of it
   * @throws CodedError `undo-gone`, `undo-done`, or `last-administrator` where nobody would look after access any more
   */
  undo(changeId: number, personId: number): Committed<Undone> {
    return this.#work.run(() => {
      const administrators = this.#stores.people.otherAdministrators(0);
      const undone = this.#stores.changes.undo(changeId, this.#clock.now(), personId);
      const { writer, kept, ids } = undone;
      this.#work.onRollback(() => this.#forget(writer));
      if (administrators > 0 && this.#stores.people.otherAdministrators(0) === 0)
        throw new CodedError('last-administrator');
      const left = leftBecauseOf({ stores: this.#stores, source: this.#source }, ids, this.#clock.now());
      this.#takeBack(undone);
      this.#finish(writer);
      return { changeId: writer.id, result: { kept, left } };
    });
  }

  /**
   * A change has come in that was written elsewhere, with everything that belongs to it: nothing that was read before is believed, and whoever
   * listens to changes hears of it.
   */
  tookIn(touched: CommittedChange): void {
    const { tables, taskIds } = touched;
    // With a person who was removed goes what hangs on them; whether one was is not said.
    this.#source.invalidate([...tables].some((table) => isOfEachTask(table) || table === 'person'));
    this.#source.arrived(taskIds);
    for (const listener of this.#listeners) this.#work.afterCommit(() => listener(touched));
    this.#engine?.wake();
  }

  /** What the engine has made of a change: what it set off is withdrawn, what waited before waits again, what has passed is passed. */
  #takeBack({ writer, ids, since }: UndoneChange): void {
    const { undoing } = this.#stores;
    const { at: now } = writer.head;
    undoing.withdraw(ids, now);
    const tables = new Set(writer.written.map(({ table }) => table));
    const taskIds = new Set<number>();
    let isWide = false;
    const passed = (what: BroughtBack) => undoing.noteNotMadeUp(what, now);
    for (const { table, rowId, row, columns } of writer.written) {
      const taskId = table === 'task' ? rowId : row.task_id;
      if (typeof taskId === 'number') taskIds.add(taskId);
      if (!isWideWrite(table, columns)) continue;
      isWide = true;
      if (table === 'project') passed({ kind: 'project', id: rowId });
      else if (table === 'rule') passed({ kind: 'rule', id: rowId });
      else if (table === 'rule_version') passed({ kind: 'rule', id: Number(row.rule_id) });
      else passed({ kind: 'workspace', id: 0 });
    }
    for (const id of taskIds) passed({ kind: 'task', id });
    const stands = ['undone'];
    // Whoever wanted quiet, or said that they have seen it, still does where that was not what was taken back.
    if (!tables.has('hush') && !tables.has('no_reminder')) stands.push('hushed');
    if (!tables.has('promise')) stands.push('acknowledged');
    undoing.waitAgain({ since, now, taskIds: isWide ? null : [...taskIds], stands });
  }

  /** It was taken back: nothing that was read while it stood is believed. */
  #forget({ written }: ChangeWriter): void {
    const touched = written.map(({ table, rowId, row, before }) => {
      const of =
        table === 'task' ? [rowId, row.parent_id, before?.parent_id] : [row.task_id, before?.task_id];
      return of.filter((id) => typeof id === 'number');
    });
    if (written.some(({ table }) => isWide(table))) this.#source.invalidate();
    else this.#source.forget(touched.flat());
    if (written.some(({ table }) => table === 'digest')) this.#source.forgetDigests();
  }

  /** Marks stale what a change touches, records it, and tells of it once it is committed. */
  #finish(writer: ChangeWriter): void {
    const { plan, journal } = this.#stores;
    const { at, actorId, title, source } = writer.head;
    const touched = {
      changeId: writer.id,
      actorId,
      tables: new Set<RecordedTable>(),
      taskIds: new Set<number>()
    };
    let wide = false;
    let tasksToo = false;
    const forgotten = new Set<number>();
    const isUndo = source === 'undo';
    const stale = {
      created: new Set<number>(),
      'date moved': new Set<number>(),
      other: new Set<number>(),
      undone: new Set<number>()
    };
    for (const { table, rowId, kind, columns, row, before } of writer.written) {
      touched.tables.add(table);
      if (table === 'task') {
        const moved = columns.some((column) => DATE_COLUMNS.includes(column));
        stale[isUndo ? 'undone' : kind === 'insert' ? 'created' : moved ? 'date moved' : 'other'].add(rowId);
        touched.taskIds.add(rowId);
        forgotten.add(rowId);
        // What stands above it counts it among its open subtasks.
        if (typeof row.parent_id === 'number') forgotten.add(row.parent_id);
        // What was archived does nothing by itself.
        const isAside = [row.set_aside, before?.set_aside].some(
          (one) => one === 'binned' || one === 'parked'
        );
        const mayHaveHad = kind !== 'insert' && columns.includes('rhythm');
        if (row.rhythm || isAside || mayHaveHad) this.#chores?.refresh(rowId);
      } else if (table === 'digest') this.#source.forgetDigests();
      else if (isWideWrite(table, columns)) {
        wide = true;
        // With a person goes what hangs on them.
        tasksToo ||= isOfEachTask(table) || (table === 'person' && kind === 'remove');
      } else if (typeof row.task_id === 'number') {
        touched.taskIds.add(row.task_id);
        forgotten.add(row.task_id);
        if (table === 'promise') this.#chores?.refresh(row.task_id);
        if (entryOf(table).plans === 'its task') stale[isUndo ? 'undone' : 'other'].add(row.task_id);
      }
    }
    for (const cause of ['created', 'date moved', 'other', 'undone'] as const)
      if (stale[cause].size > 0) plan.enqueue([...stale[cause]], { cause, changeId: writer.id, actorId });
    this.#source.forget(forgotten);
    if (wide) {
      plan.enqueueAll();
      // What follows in this transaction, a chain for one, goes by what has just been written.
      this.#source.invalidate(tasksToo);
    }
    this.#accounts?.changed(writer);
    journal.add(at, this.#clock.machine.now(), 'change', { title, source, actorId }, writer.id);
    for (const { table, columns, rowId } of writer.written)
      // A rule that was turned on, or a version that became live, may want the latest past ring.
      if (table === 'rule' && columns.includes('live_at')) {
        plan.turnOn(rowId);
        this.#engine?.rush.forget(rowId);
      }
    if (wide) {
      this.#work.afterCommit(() => this.#source.invalidate(tasksToo));
      this.#work.afterCommit(() => this.#work.run(() => this.#chores?.refreshAll()));
    }
    this.#work.afterCommit(() => this.#engine?.wake());
    // One that fails keeps none of the others from hearing.
    for (const listener of this.#listeners) this.#work.afterCommit(() => listener(touched));
  }
}

/** Whether a write changes what every plan depends on. Whether a list is counted changes nothing of what it holds. */
function isWideWrite(table: RecordedTable, columns: readonly string[]): boolean {
  return isWide(table) && columns.join() !== 'counted';
}

/** Whether the plan of every task depends on a table. */
function isWide(table: RecordedTable): boolean {
  const { plans } = entryOf(table);
  return plans === 'every task' || plans === 'what every task is';
}

/** Whether what each task is depends on it: whether it is open, called off or recorded, and what its own fields and contacts are. */
function isOfEachTask(table: RecordedTable): boolean {
  return entryOf(table).plans === 'what every task is';
}
