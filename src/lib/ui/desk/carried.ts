import { many } from '$lib/core/many.ts';
import { parseDay } from '$lib/core/time/day.ts';
import { daysWords, shortDay } from '$lib/core/time/format.ts';
import type { DeskTaskView, DeskView, PlaceTo } from '$lib/view/desk.ts';

/** Where a task is carried to: today, a date, or a span, by the dates as they stand now. */
export interface Target {
  to: Extract<PlaceTo, 'leave' | 'today' | 'day' | 'rest' | 'after' | 'further'>;
  /** The first date of it, and its last working day: `YYYY-MM-DD`. */
  first: string;
  last: string;
  words: string;
}

/** What carrying some tasks to a target sets. */
export interface Carried {
  /** Tasks that would be late then: they need a new due date, or keep the old one. */
  late: readonly DeskTaskView[];
  /** Tasks without a due date: it is asked whether the day is one. */
  undated: readonly DeskTaskView[];
  /** Each that would be late can keep its due date, and comes to Today on it. */
  mayKeepDue: boolean;
  /** The due date that is offered. */
  newDue: string;
  /** Said before it is done. */
  words: string;
}

/** What is offered for a task: today, the next working day, the week after. */
export function targetsOf(desk: DeskView): { today: Target; next: Target | null; after: Target } {
  const days = desk.weeks.flatMap((week) => week.days);
  const next = days.find(({ closed }) => !closed);
  const after = desk.weeks.find(({ span }) => span === 'after')!.days;
  const open = after.filter(({ closed }) => !closed);
  const first = after[0]!.date;
  const last = (open[open.length - 1] ?? after[after.length - 1]!).date;
  const today = parseDay(desk.today.date);
  return {
    today: { to: 'today', first: desk.today.date, last: desk.today.date, words: 'today' },
    next: next ? dayTarget(next.date, desk.today.date) : null,
    after: { to: 'after', first, last, words: daysWords(parseDay(first), parseDay(last), today) }
  };
}

export function dayTarget(date: string, today: string): Target {
  if (date === today) return { to: 'today', first: date, last: date, words: 'today' };
  return { to: 'day', first: date, last: date, words: shortDay(parseDay(date), parseDay(today)) };
}

/** What a target means for some tasks: a planned day, or a new due date where it would be late. */
export function carriedTo(tasks: readonly DeskTaskView[], target: Target, today: string): Carried {
  const late = target.to === 'leave' ? [] : tasks.filter(({ due }) => due !== null && target.first > due);
  const undated = target.to === 'leave' ? [] : tasks.filter(({ due }) => due === null);
  const mayKeepDue = late.every(({ due }) => due! > today);
  return { late, undated, mayKeepDue, newDue: target.last, words: carriedWords(tasks, late, target, today) };
}

function carriedWords(
  tasks: readonly DeskTaskView[],
  late: readonly DeskTaskView[],
  { to, words }: Target,
  today: string
): string {
  if (to === 'leave') return 'Left with its date';
  const for_ = `Planned for ${words}`;
  if (late.length === 0) return `${for_}. The due date stays.`;
  const of = late[0]!.due!;
  if (tasks.length === 1)
    return `${for_}: after its due date, ${shortDay(parseDay(of), parseDay(today))}. You are asked for a new one.`;
  return `${for_}: for ${many(late.length, 'task that is', 'tasks that are')} due before, you are asked for a new due date.`;
}
