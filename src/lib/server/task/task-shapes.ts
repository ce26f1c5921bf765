import {
  addMonths,
  dayFromParts,
  daysInMonth,
  formatDay,
  parseDay,
  partsOfDay,
  weekdayOf
} from '../../core/time/day.ts';
import { groupBy } from '../../core/group-by.ts';
import { monthWords } from '../../core/time/format.ts';
import { weekOn } from '../../core/calendar/spec.ts';
import { weekStartOf } from '../../core/ring/week-spans.ts';
import type { ColumnsView, DaysView } from '../../view/task-shapes.ts';
import type { Workspace } from '../workspace/workspace.ts';
import type { TaskListService } from './task-list.ts';
import type { Sight } from '../store/tasks.ts';
import type { ListQuery } from '../store/list-query.ts';
import type { Viewer } from '../workspace/viewer.ts';

/** What these views ask. */
type Services = Workspace & { taskLists: TaskListService };

/** Cards shown in one column; the rest are counted. */
const CARDS = 25;
/** Tasks shown on all days of a month. */
const MOST_ON_DAYS = 1_000;
/** Tasks shown on one day of a month; the rest are counted, and stand in its week. */
const ON_A_DAY = 3;

/** The list as columns by status; each holds its first cards and counts the rest. */
export function columnsView(app: Services, query: ListQuery, viewer: Viewer, sight: Sight): ColumnsView {
  const open = query.show === 'open';
  // Finished work is a column too: a card is moved into it.
  const shown = open ? { ...query, show: 'all' as const } : query;
  const statuses = app.stores.projects
    .statuses()
    .filter(({ id, phase }) => (query.statusId ? id === query.statusId : !open || phase !== 'closed'));
  return {
    columns: statuses.map(({ id, name, phase }) => {
      const ofStatus = { ...shown, statusId: id, group: null };
      const page = app.taskLists.page(ofStatus, null, viewer, sight, CARDS);
      return {
        statusId: id,
        name,
        phase,
        rows: page.rows,
        count: app.taskLists.count(ofStatus, viewer, sight)
      };
    })
  };
}

/**
 * The list as the days of a month, in weeks that start where the viewer's do. Closed days are those of the owner whose tasks are
 * asked for, else of the viewer.
 * @param asked a month, `YYYY-MM`: what is none is the viewer's present one; for a week every day has all its tasks
 */
export function daysView(
  app: Services,
  query: ListQuery,
  asked: { month: string | null; week: boolean },
  viewer: Viewer,
  sight: Sight
): DaysView {
  const today = viewer.zone.dayOf(app.clock.now());
  const first = firstOf(asked.month, today);
  const { year, month: number } = partsOfDay(first);
  const last = dayFromParts(year, number, daysInMonth(year, number));
  const { people, workspace } = app.source.facts;
  const whose = typeof query.ownerId === 'number' ? query.ownerId : (viewer.personId ?? 0);
  const { calendar } = people.get(whose) ?? workspace;
  const start = weekStartOf(weekOn(calendar.calendar, first));
  const from = first - ((weekdayOf(first) - start + 7) % 7);
  const until = last + ((start + 6 - weekdayOf(last) + 7) % 7);
  const spanned = {
    ...query,
    due: '' as const,
    from: formatDay(from),
    until: formatDay(until),
    group: null,
    sort: 'due' as const,
    down: false
  };
  const { rows, next } = app.taskLists.page(spanned, null, viewer, sight, MOST_ON_DAYS);
  const byDate = groupBy(rows, ({ dueDate }) => dueDate!);
  return {
    title: monthWords(dayFromParts(year, number, 1)),
    month: formatDay(first).slice(0, 7),
    before: formatDay(addMonths(first, -1)).slice(0, 7),
    after: formatDay(addMonths(first, 1)).slice(0, 7),
    whose: people.get(whose)?.name ?? null,
    more: next !== null,
    days: Array.from({ length: until - from + 1 }, (_, i) => {
      const day = from + i;
      const date = formatDay(day);
      return {
        date,
        dayOfMonth: partsOfDay(day).dayOfMonth,
        weekday: weekdayOf(day),
        isToday: day === today,
        outside: day < first || day > last,
        closed: !calendar.days.isWorking(day),
        holiday: calendar.days.isWorking(day) ? null : calendar.holidayName(day),
        rows: (byDate.get(date) ?? []).slice(0, asked.week ? MOST_ON_DAYS : ON_A_DAY),
        count: byDate.get(date)?.length ?? 0
      };
    })
  };
}

function firstOf(month: string | null, today: number): number {
  const [, year, number] = /^(\d{4})-(\d{2})$/.exec(month ?? '') ?? [];
  const written = `${year}-${number}-01`;
  const given =
    year && Number(number) >= 1 && Number(number) <= 12 && Number(year) >= 1900 && Number(year) <= 2199;
  const { year: thisYear, month: thisMonth } = partsOfDay(today);
  return given ? parseDay(written) : dayFromParts(thisYear, thisMonth, 1);
}
