import { placeWords } from '../../core/desk/place-words.ts';
import { many } from '../../core/many.ts';
import { PRIORITIES } from '../../core/task/model.ts';
import type { StoredRhythm } from '../../core/task/model.ts';
import { daysWords, clockTime, shortDay, shortMoment } from '../../core/time/format.ts';
import type { DeskTaskView, Rhythm } from '../../view/desk.ts';
import type { TaskRowView } from '../../view/tasks.ts';
import type { Sight } from '../store/tasks.ts';
import { taskRows } from '../task/task-rows.ts';
import type { Desk, DeskEntry, DeskServices } from './desk-of.ts';
import { giversOf } from './given.ts';

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
        rhythm: rhythmOf(entry.row.rhythm),
        subtasks: row.subtasks,
        bell: row.bell,
        private: row.private,
        due: row.dueDate,
        why: placeWords(entry.reason, desk.today),
        from: giver
          ? `${fromWords(entry, giver.words, desk)}, ${shortMoment(giver.at, desk.wall.zone, desk.today)}`
          : null,
        editable: row.editable
      }
    ];
  });
}

function fromWords({ reason }: DeskEntry, given: string, { today }: Desk): string {
  if (reason.code === 'plan-over')
    return `planned for ${reason.last === null ? shortDay(reason.first, today) : daysWords(reason.first, reason.last, today)}`;
  return reason.code === 'review' ? 'parked until now' : given;
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
    case 'planned-last': {
      const { first, last } = reason;
      const words =
        last === null
          ? `${shortDay(first, today)} or later`
          : first === last
            ? shortDay(first, today)
            : daysWords(first, last, today);
      return { dated: `planned for ${words}`, note: ahead };
    }
    case 'parked':
      return { dated: reason.on === null ? 'parked' : `next look ${shortDay(reason.on, today)}`, note: due };
    default:
      return { dated: ahead ?? 'no date', note: null };
  }
}

function isHeavy({ row: { priority } }: DeskEntry): boolean {
  return priority === 'high' || priority === 'pressing';
}

/** How often it comes back. */
export function rhythmOf(rhythm: StoredRhythm | null): Rhythm | null {
  if (rhythm === null) return null;
  if ('rrule' in rhythm) {
    const every = /INTERVAL=(\d+)/i.exec(rhythm.rrule)?.[1] ?? '1';
    const frequency = /FREQ=(\w+)/i.exec(rhythm.rrule)?.[1]?.toLowerCase();
    if (every !== '1') return 'other';
    return frequency === 'daily' || frequency === 'weekly' || frequency === 'monthly' ? frequency : 'other';
  }
  const { n, unit } = rhythm;
  if ((n === 1 && (unit === 'day' || unit === 'workday')) || (n === 7 && unit === 'day'))
    return n === 1 ? 'daily' : 'weekly';
  if (n === 1 && unit === 'week') return 'weekly';
  return n === 1 && unit === 'month' ? 'monthly' : 'other';
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

/** A date that has passed, the earliest first; null where none has. */
function lateKey({ task, reason }: DeskEntry): number | null {
  return reason.code === 'date-reached' && task.due !== null && reason.of === 'due' ? task.due : null;
}

/** What has a value comes before what has none. */
function compare(a: number | null, b: number | null): number {
  if (a === null || b === null) return a === b ? 0 : a === null ? 1 : -1;
  return a - b;
}
