import { placeWords, planShort } from '../../core/desk/place-words.ts';
import { many } from '../../core/many.ts';
import { PRIORITIES } from '../../core/task/model.ts';
import { formatDay } from '../../core/time/day.ts';
import { clockTime, shortDay, shortMoment } from '../../core/time/format.ts';
import type { DeskTaskView } from '../../view/desk.ts';
import type { TaskRowView } from '../../view/tasks.ts';
import type { Sight } from '../store/tasks.ts';
import { taskRows } from '../task/task-rows.ts';
import type { Desk, DeskEntry, DeskServices } from './desk-of.ts';
import { giversOf, type Giver } from './given.ts';

/** Rows of a Desk as its person reads them. @param sight of whoever looks */
export function deskRows(
  app: DeskServices,
  desk: Desk,
  entries: readonly DeskEntry[],
  sight: Sight
): DeskTaskView[] {
  const { stores, source } = app;
  const tasks = stores.tasks.byIds(entries.map(({ row }) => row.id));
  const there = entries.flatMap(({ row }) => tasks.get(row.id) ?? []);
  const rows = new Map(
    taskRows({ stores, source, now: desk.now }, there, desk.wall.zone, sight).map((row) => [row.id, row])
  );
  const waiting = entries.filter(({ place }) => place === 'to-place').map(({ row }) => row);
  const givers = giversOf(app, waiting, desk.person.id);
  const parents = stores.tasks.byIds(there.flatMap(({ parentId }) => parentId ?? []));
  return entries.flatMap((entry): DeskTaskView[] => {
    const row = rows.get(entry.row.id);
    if (!row) return [];
    const parentId = tasks.get(row.id)!.parentId;
    const parent = parentId === null ? undefined : parents.get(parentId);
    const giver = givers.get(row.id);
    return [
      {
        id: row.id,
        name: row.name,
        place: entry.place,
        ...datedWords(entry, row, desk),
        late: row.overdue,
        of: parent ? `part of ${parent.name}` : row.project,
        priority: row.priority === 'ordinary' ? null : row.priority,
        heavy: isHeavy(entry),
        status: row.phase === 'waiting to start' || row.phase === 'finished' ? null : row.status,
        rhythm: entry.rhythm,
        subtasks: row.subtasks,
        bell: row.bell,
        private: row.private,
        due: entry.task.due === null ? null : formatDay(entry.task.due),
        why: placeWords(entry.reason, desk.today),
        from: giver ? fromWords(entry, giver, desk) : null
      }
    ];
  });
}

/** How it comes to stand among what is to be placed. */
function fromWords({ reason }: DeskEntry, { words, at }: Giver, { today, wall }: Desk): string {
  if (reason.code === 'plan-over') return `planned for ${planShort(reason, today)}`;
  if (reason.code === 'review') return 'parked until now';
  return `${words}, ${shortMoment(at, wall.zone, today)}`;
}

/** What is said first of its date, and what else is worth saying. */
function datedWords(
  { task, reason, dueAt }: DeskEntry,
  row: TaskRowView,
  { today, wall }: Desk
): { dated: string; note: string | null } {
  const due = task.due === null ? null : `due ${shortDay(task.due, today)}`;
  const left =
    task.due === null || task.due <= today
      ? null
      : task.due === today + 1
        ? 'tomorrow'
        : `in ${many(task.due - today, 'day')}`;
  const ahead = due === null ? null : left === null ? due : `${due}, ${left}`;
  if (row.overdue) return { dated: row.left ?? 'late', note: due };
  if (task.due === today)
    return { dated: dueAt === null ? 'due today' : `by ${clockTime(dueAt, wall.zone)}`, note: null };
  switch (reason.code) {
    case 'date-reached':
    case 'date':
      if (reason.of === 'due') return { dated: ahead ?? '', note: null };
      return {
        dated:
          reason.on === today
            ? 'starts today'
            : `${reason.on < today ? 'started' : 'starts'} ${shortDay(reason.on, today)}`,
        note: ahead
      };
    case 'planned-today':
      return { dated: 'planned for today', note: ahead };
    case 'planned':
    case 'planned-last':
      return { dated: `planned for ${planShort(reason, today)}`, note: ahead };
    case 'parked':
      return { dated: reason.on === null ? 'parked' : `next look ${shortDay(reason.on, today)}`, note: due };
    default:
      return { dated: ahead ?? 'no date', note: null };
  }
}

/** Whether its name is set in heavier type. */
export function isHeavy({ row: { priority } }: DeskEntry): boolean {
  return priority === 'high' || priority === 'pressing';
}

/** Late first, then by time of day, priority and due date; those that somebody put in order stand in it, before the others. */
export function inOrder(a: DeskEntry, b: DeskEntry): number {
  return (
    compare(a.row.position, b.row.position) ||
    compare(lateKey(a), lateKey(b)) ||
    compare(a.dueAt, b.dueAt) ||
    PRIORITIES.indexOf(b.row.priority) - PRIORITIES.indexOf(a.row.priority) ||
    compare(a.task.due, b.task.due) ||
    a.row.id - b.row.id
  );
}

/** What was parked until now first, then what came last. */
export function newestFirst(a: DeskEntry, b: DeskEntry): number {
  const review = (entry: DeskEntry) => (entry.reason.code === 'review' ? 0 : 1);
  return review(a) - review(b) || b.row.assignedAt - a.row.assignedAt || b.row.id - a.row.id;
}

/** A date that has passed, the earliest first; null where none has. */
function lateKey({ task, reason }: DeskEntry): number | null {
  return reason.code === 'date-reached' && task.due !== null && reason.of === 'due' ? task.due : null;
}

/** What has a value comes before what has none. */
function compare(a: number | null, b: number | null): number {
  if (a === null || b === null) return a === b ? 0 : a === null ? 1 : -1;
  return a - b;
}
