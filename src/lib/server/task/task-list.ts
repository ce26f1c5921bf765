import { OPEN_PHASES, type Phase, type Priority } from '../../core/task/model.ts';
import { formatDay, parseDay } from '../../core/time/day.ts';
import { longDay } from '../../core/time/format.ts';
import { weekOn } from '../../core/calendar/spec.ts';
import { weekSpanOf } from '../../core/ring/week-spans.ts';
import type { TaskGroupView, TaskRowView } from '../../view/tasks.ts';
import type { FactsSource } from '../engine/facts-source.ts';
import type { WorkspaceClock } from '../engine/clock.ts';
import type { Stores } from '../store/all.ts';
import { type GroupKey, type TaskCursor, type TaskFilter, type TaskOrder } from '../store/task-list.ts';
import { SETS, readListQuery, type ListQuery, type Show } from '../store/list-query.ts';
import type { Sight, Task } from '../store/tasks.ts';
import { taskRows } from './task-rows.ts';
import type { TowerService } from '../tower/tower.ts';
import type { Viewer } from '../workspace/viewer.ts';

/** Rows of one page of the list. */
export const PAGE_ROWS = 50;

/** A page of the list as a viewer reads it. */
export interface TaskPageView {
  rows: TaskRowView[];
  /** What the next page is asked for with; null when this is the last. */
  next: string | null;
}

/** The lists that addresses ask for. */
export class TaskListService {
  readonly #stores: Stores;
  readonly #source: FactsSource;
  readonly #clock: WorkspaceClock;
  readonly #tower: TowerService;

  constructor(stores: Stores, source: FactsSource, clock: WorkspaceClock, tower: TowerService) {
    this.#stores = stores;
    this.#source = source;
    this.#clock = clock;
    this.#tower = tower;
  }

  /** Whether there is a task at all, wherever it stands. */
  any(): boolean {
    return this.#stores.tasks.count() > 0;
  }

  /** Of some tasks those that somebody sees, in their order. */
  seen(ids: readonly number[], sight: Sight): number[] {
    const seen = this.#stores.tasks.seen(ids, sight);
    return ids.filter((id) => seen.has(id));
  }

  /** Reads the filter from an address. */
  read(parameters: URLSearchParams): ListQuery {
    return readListQuery(parameters);
  }

  /** One page; `after` is what the page before gave as `next`. */
  page(query: ListQuery, after: string | null, viewer: Viewer, sight: Sight, rows = PAGE_ROWS): TaskPageView {
    const { tasks, next } = this.#stores.taskList.page(
      this.filter(query, viewer, sight),
      orderOf(query),
      readCursor(after),
      rows
    );
    return { rows: this.rows(tasks, query.group, viewer, sight), next: next && writeCursor(next) };
  }

  rows(tasks: readonly Task[], group: GroupKey | null, viewer: Viewer, sight: Sight): TaskRowView[] {
    const { zone } = viewer;
    const context = { stores: this.#stores, source: this.#source, now: this.#clock.now() };
    const label = group && this.#labels(group);
    return taskRows(context, tasks, zone, sight).map((row, i) => ({
      ...row,
      group: group && label!(commonOf(group, row, tasks[i]!))
    }));
  }

  count(query: ListQuery, viewer: Viewer, sight: Sight): number {
    return this.#stores.taskList.count(this.filter(query, viewer, sight));
  }

  /** The kept lists that somebody counts on the Bell tower, and how many each holds now. */
  tallies(
    personId: number,
    viewer: Viewer,
    sight: Sight
  ): { id: number; name: string; query: string; count: number }[] {
    return this.#stores.savedLists
      .of(personId)
      .filter(({ counted }) => counted)
      .map(({ id, name, query }) => ({
        ...{ id, name, query },
        count: this.count(this.read(new URLSearchParams(query)), viewer, sight)
      }));
  }

  /** How many the list holds, and in each of its groups: where it has groups, they are counted once and added up. */
  totals(query: ListQuery, viewer: Viewer, sight: Sight): { total: number; groups: TaskGroupView[] } {
    const groups = this.groups(query, viewer, sight);
    if (query.group === null) return { total: this.count(query, viewer, sight), groups };
    return { total: groups.reduce((sum, { count }) => sum + count, 0), groups };
  }

  /** How many stand in each group, by its label. */
  groups(query: ListQuery, viewer: Viewer, sight: Sight): TaskGroupView[] {
    const { group } = query;
    if (group === null) return [];
    const groups = this.#stores.taskList.groups(this.filter(query, viewer, sight), group);
    const label = this.#labels(group);
    return groups.map(({ value, count }) => ({ key: String(value), label: label(value), count }));
  }

  /** The ids that a list holds, in its order, at most `limit`. */
  ids(query: ListQuery, viewer: Viewer, sight: Sight, limit: number): number[] {
    return this.#stores.taskList.ids(this.filter(query, viewer, sight), orderOf(query), limit);
  }

  /** What an address asks for, in terms of the store. “Today” is the viewer's. */
  filter(query: ListQuery, viewer: Viewer, sight: Sight): TaskFilter {
    const set = SETS.find((name) => name === query.show);
    const orNone = (value: number | 'none' | null) => (value === 'none' ? null : (value ?? undefined));
    return {
      text: query.text || undefined,
      projectId: orNone(query.projectId),
      sectionId: query.sectionId ?? undefined,
      ownerId: orNone(query.ownerId),
      statusId: query.statusId ?? undefined,
      priority: query.priority ?? undefined,
      tag: query.tag || undefined,
      recurring: query.recurring || undefined,
      phases: phasesOf(query.show),
      aside:
        query.show === 'parked' || query.show === 'archived' || query.show === 'binned'
          ? query.show
          : undefined,
      ids: set ? this.#tower.idsOf(set, query.band) : undefined,
      ...this.#dueDates(query, viewer),
      sight
    };
  }

  #dueDates(
    { due, from, until }: ListQuery,
    { zone, personId }: Viewer
  ): Pick<TaskFilter, 'dueFrom' | 'dueUntil' | 'undated'> {
    const today = zone.dayOf(this.#clock.now());
    const span = (first: number, last: number) => ({ dueFrom: formatDay(first), dueUntil: formatDay(last) });
    switch (due) {
      case 'today':
        return span(today, today);
      case 'tomorrow':
        return span(today + 1, today + 1);
      case 'week': {
        const { calendar } = this.#source.facts.people.get(personId ?? 0) ?? this.#source.facts.workspace;
        const week = weekOn(calendar.calendar, today);
        let last = today;
        while (last < today + 7 && weekSpanOf(last + 1, today, week) === 'rest') last++;
        return span(today, last);
      }
      case '7':
        return span(today, today + 7);
      case '30':
        return span(today, today + 30);
      case 'past':
        return { dueUntil: formatDay(today - 1) };
      case 'none':
        return { undated: true };
      case '':
        return { dueFrom: from ?? undefined, dueUntil: until ?? undefined };
    }
  }

  /** What a group is called, from what its tasks have in common. */
  #labels(group: GroupKey): (value: string | number | null) => string {
    const { people, projects } = this.#source.facts;
    const named =
      (of: ReadonlyMap<number, { name: string }>, none: string) => (id: string | number | null) =>
        id === null ? none : (of.get(Number(id))?.name ?? 'gone');
    switch (group) {
      case 'due':
        return (date) => (date === null ? 'No date' : longDay(parseDay(String(date))));
      case 'owner':
        return named(people, 'No owner');
      case 'project':
        return named(projects, 'No project');
      case 'section':
        return named(new Map(this.#stores.projects.sections().map((one) => [one.id, one])), 'No section');
      case 'status':
        return named(new Map(this.#stores.projects.statuses().map((one) => [one.id, one])), 'No status');
      case 'priority':
        return (priority) => PRIORITY_LABELS[priority as Priority];
    }
  }
}

/** What the tasks of a group have in common. */
function commonOf(group: GroupKey, row: TaskRowView, task: Task): string | number | null {
  switch (group) {
    case 'due':
      return row.dueDate;
    case 'owner':
      return row.ownerId;
    case 'project':
      return row.projectId;
    case 'section':
      return task.sectionId;
    case 'status':
      return row.statusId;
    case 'priority':
      return row.priority;
  }
}

const PRIORITY_LABELS: Record<Priority, string> = {
  low: 'Low priority',
  ordinary: 'Ordinary priority',
  high: 'High priority',
  pressing: 'Pressing'
};

function phasesOf(show: Show): readonly Phase[] | undefined {
  if (show === 'open') return OPEN_PHASES;
  if (show === 'stuck') return ['stuck on others'];
  return show === 'done' ? ['finished', 'closed'] : undefined;
}

export function orderOf({ sort, down, group }: ListQuery): TaskOrder {
  return { sort, down, group };
}

/** Keys of a row as a text for an address; what cannot be read back starts from the beginning. */
function writeCursor(cursor: TaskCursor): string {
  return Buffer.from(JSON.stringify(cursor)).toString('base64url');
}

function readCursor(text: string | null): TaskCursor | null {
  if (text === null || !/^[\w-]{1,2000}$/.test(text)) return null;
  try {
    const keys: unknown = JSON.parse(Buffer.from(text, 'base64url').toString());
    const sound = Array.isArray(keys) && keys.every((key) => ['string', 'number'].includes(typeof key));
    return sound ? (keys as TaskCursor) : null;
  } catch {
    // Not one of ours: an address that was edited by hand.
    return null;
  }
}
