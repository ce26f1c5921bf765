import { many } from '../../core/many.ts';
import { CodedError } from '../../core/errors.ts';
import { checkDay, formatDay, parseDay } from '../../core/time/day.ts';
import type { EffectView } from '../../view/effects.ts';
import type { WorkspaceClock } from '../engine/clock.ts';
import type { FactsSource } from '../engine/facts-source.ts';
import type { BulkChange, BulkInput } from './bulk-schema.ts';
import type { TaskInput } from './schema.ts';
import type { ChangeWriter } from '../store/change-writer.ts';
import type { Stores } from '../store/all.ts';
import type { Sight, Task } from '../store/tasks.ts';
import type { Actor, Committed, Committer } from '../workspace/commit.ts';
import { isBackAtOnce } from './back-from-parking.ts';
import type { EffectService } from '../effect/effects.ts';
import { mayPutInto } from '../project/project-rights.ts';
import type { TaskActs } from './task-acts.ts';
import { readListQuery } from '../store/list-query.ts';
import type { TaskListService } from './task-list.ts';
import { mayEdit, type TaskService } from './tasks.ts';
import type { Viewer } from '../workspace/viewer.ts';

/** The most tasks that are changed at once. */
const MOST = 10_000;
/** From here on a change of many is *bulk*: events do not listen to it unless a rule says so. */
const BULK_FROM = 26;

/** Why a task is left out of a change of many. */
export interface LeftOut {
  reason: string;
  count: number;
  /** The first of them. */
  names: string[];
}

/** What a change of many would do. */
export interface BulkPreview {
  chosen: number;
  changes: number;
  left: LeftOut[];
  effect: EffectView;
}

interface Sorted {
  tasks: Task[];
  chosen: number;
  left: LeftOut[];
}

/** Changes of many tasks at once, each with a preview and one undo. */
export class BulkService {
  readonly #stores: Stores;
  readonly #committer: Committer;
  readonly #tasks: TaskService;
  readonly #acts: TaskActs;
  readonly #lists: TaskListService;
  readonly #source: FactsSource;
  readonly #clock: WorkspaceClock;
  readonly #effects: EffectService;

  constructor(
    stores: Stores,
    committer: Committer,
    tasks: TaskService,
    acts: TaskActs,
    lists: TaskListService,
    source: FactsSource,
    clock: WorkspaceClock,
    effects: EffectService
  ) {
    this.#clock = clock;
    this.#stores = stores;
    this.#committer = committer;
    this.#tasks = tasks;
    this.#acts = acts;
    this.#lists = lists;
    this.#source = source;
    this.#effects = effects;
  }

  /** @throws CodedError `bulk-nothing`, `bulk-too-many` or what keeps the change from being made */
  preview(actor: Actor, input: BulkInput, viewer: Viewer, sight: Sight): BulkPreview {
    const sorted = this.#sort(input, viewer, sight);
    const { tasks, chosen, left } = sorted;
    const ids = tasks.map(({ id }) => id);
    const act = this.#trial(actor, input, viewer, sight, sorted);
    return { chosen, changes: ids.length, left, effect: this.#effects.ofAct(ids, act, viewer) };
  }

  /**
   * Makes the change where it can be made, in one transaction with one undo.
   * @param stamp of its preview, where somebody looked
   * @throws as `preview`, and CodedError `preview-stale`
   */
  apply(
    actor: Actor,
    input: BulkInput,
    viewer: Viewer,
    sight: Sight,
    stamp: string | null = null
  ): Committed<{ changed: number; left: LeftOut[] }> {
    const sorted = this.#sort(input, viewer, sight);
    if (sorted.tasks.length === 0) throw new CodedError('bulk-nothing');
    const ids = sorted.tasks.map(({ id }) => id);
    this.#effects.check(stamp, ids, this.#trial(actor, input, viewer, sight, sorted), viewer);
    return this.#make(actor, input, sorted);
  }

  /** What is due is done before an act is tried out, and may have changed its tasks: they are read again then. */
  #trial(actor: Actor, input: BulkInput, viewer: Viewer, sight: Sight, sorted: Sorted): () => void {
    const standing = this.#stores.since.standing();
    return () => {
      const isSame = this.#stores.since.standing() === standing;
      const now = isSame ? sorted : this.#sort(input, viewer, sight);
      if (now.tasks.length > 0) this.#make(actor, input, now);
    };
  }

  #make(
    actor: Actor,
    input: BulkInput,
    { tasks, left }: Sorted
  ): Committed<{ changed: number; left: LeftOut[] }> {
    const source = tasks.length >= BULK_FROM ? 'bulk' : actor.source;
    const words = `${many(tasks.length, 'task')} ${this.#words(input.change)}`;
    return this.#committer.commit({ ...actor, source }, words, (writer) => {
      for (const task of tasks) this.#write(writer, task, input.change);
      return { changed: tasks.length, left };
    });
  }

  /** The tasks that can be changed, and why the others are left out. */
  #sort({ ids, query, change }: BulkInput, viewer: Viewer, sight: Sight): Sorted {
    const wanted = ids ?? this.#lists.ids(readListQuery(new URLSearchParams(query)), viewer, sight, MOST + 1);
    if (wanted.length === 0) throw new CodedError('bulk-nothing');
    if (wanted.length > MOST) throw new CodedError('bulk-too-many', { most: MOST });
    const seen = this.#stores.tasks.seen(wanted, sight);
    const found = this.#stores.tasks.byIds([...seen]);
    const left = new Map<string, string[]>();
    const tasks: Task[] = [];
    for (const id of wanted) {
      const task = found.get(id);
      const reason = task ? this.#reasonAgainst(task, change, sight, viewer) : 'not found';
      if (task && reason === null) tasks.push(task);
      else left.set(reason!, [...(left.get(reason!) ?? []), task?.name ?? '']);
    }
    return {
      tasks,
      chosen: wanted.length,
      left: [...left].map(([reason, names]) => ({ reason, count: names.length, names: names.slice(0, 5) }))
    };
  }

  #reasonAgainst(task: Task, change: BulkChange, sight: Sight, { personId }: Viewer): string | null {
    if (!mayEdit(task, sight, { stores: this.#stores })) return 'not your task';
    if (change.act === 'restore') return task.setAside === null ? 'already in the list' : null;
    if (task.setAside === 'binned') return 'in the bin';
    if (
      change.act === 'park' &&
      isBackAtOnce(this.#source.facts, task, change.date, personId, this.#clock.now())
    )
      return 'that day is not in the future';
    if (
      change.act === 'project' &&
      change.id !== null &&
      !mayPutInto(this.#stores, sight, change.id, task.ownerId)
    )
      return 'not a project of yours';
    if (change.act === 'shift' && task.due === null) return 'no due date to move';
    if (change.act === 'due' && change.date === null && task.renewal && task.renewal.from !== 'finish')
      return 'repeats on dates, so it needs one';
    if (change.act === 'owner' && task.private && change.id !== task.ownerId) return 'private';
    const status = change.act === 'status' ? this.#status(change.id) : null;
    if (status && (status.phase === 'finished' || status.phase === 'closed')) {
      const open = this.#stores.tasks
        .childrenOf(task.id)
        .some(({ phase, setAside }) => setAside === null && phase !== 'finished' && phase !== 'closed');
      if (open) return 'has open subtasks';
    }
    return this.#isAlready(task, change) ? 'already has this value' : null;
  }

  #isAlready(task: Task, change: BulkChange): boolean {
    switch (change.act) {
      case 'due':
        return (task.due?.date ?? null) === change.date;
      case 'owner':
        return task.ownerId === change.id;
      case 'status':
        return task.statusId === change.id;
      case 'priority':
        return task.priority === change.priority;
      case 'project':
        return task.projectId === change.id;
      case 'archive':
        return task.setAside === 'archived';
      case 'park':
        return task.setAside === 'parked' && task.reviewDate === change.date;
      default:
        return false;
    }
  }

  #write(writer: ChangeWriter, task: Task, change: BulkChange): void {
    switch (change.act) {
      case 'park':
        return this.#acts.setAside(writer, task, 'parked', change.date);
      case 'archive':
        return this.#acts.setAside(writer, task, 'archived');
      case 'bin':
        return this.#acts.setAside(writer, task, 'binned');
      case 'restore':
        return this.#acts.bringBack(writer, task);
      default:
        this.#tasks.update(writer, task, this.#patchOf(task, change));
    }
  }

  /** The fields that a change writes. */
  #patchOf(task: Task, change: BulkChange): Partial<TaskInput> {
    switch (change.act) {
      case 'due':
        return change.date === null ? { dueDate: null, dueTime: null } : { dueDate: change.date };
      case 'shift':
        return { dueDate: this.#shifted(task, change.n, change.unit) };
      case 'owner':
        return { ownerId: change.id };
      case 'status':
        return { statusId: this.#status(change.id).id };
      case 'priority':
        return { priority: change.priority };
      case 'project':
        return { projectId: change.id, sectionId: null };
      case 'tag':
        return { tags: [...this.#tagsOf(task), change.name] };
      case 'untag':
        return {
          tags: this.#tagsOf(task).filter((name) => name.toLowerCase() !== change.name.toLowerCase())
        };
      default:
        return {};
    }
  }

  /** A due date so many days, or working days of its owner, on. @throws CodedError outside the dates handled */
  #shifted(task: Task, n: number, unit: 'day' | 'workday'): string {
    const day = parseDay(task.due!.date);
    if (unit === 'day') return formatDay(checkDay(day + n));
    const owner = task.ownerId === null ? null : this.#source.facts.people.get(task.ownerId);
    return formatDay((owner?.calendar ?? this.#source.facts.workspace.calendar).days.offset(day, n));
  }

  #tagsOf(task: Task): string[] {
    return this.#stores.taskParts.tags(task.id).map(({ name }) => name);
  }

  #status(id: number) {
    const status = this.#stores.projects.statuses().find((one) => one.id === id);
    if (!status) throw new CodedError('status-gone');
    return status;
  }

  #words(change: BulkChange): string {
    const name = (id: number | null, names: ReadonlyMap<number, { name: string }>, none: string) =>
      id === null ? none : (names.get(id)?.name ?? none);
    const { people, projects } = this.#source.facts;
    switch (change.act) {
      case 'due':
        return change.date === null ? 'without a date' : `due on ${change.date}`;
      case 'shift':
        return `moved by ${change.n} ${change.unit === 'day' ? 'days' : 'working days'}`;
      case 'owner':
        return change.id === null ? 'owner removed' : `owner set to ${name(change.id, people, 'no owner')}`;
      case 'status':
        return `set to “${this.#status(change.id).name}”`;
      case 'priority':
        return `of ${change.priority} priority`;
      case 'project':
        return `moved to ${name(change.id, projects, 'no project')}`;
      case 'tag':
        return `tagged “${change.name}”`;
      case 'untag':
        return `without the tag “${change.name}”`;
      case 'park':
        return 'parked';
      case 'archive':
        return 'archived';
      case 'bin':
        return 'moved to the bin';
      case 'restore':
        return 'returned';
    }
  }
}
