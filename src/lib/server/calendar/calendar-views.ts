import { WEEKDAYS } from '../../core/calendar/spec.ts';
import { formatDay, parseDay, partsOfDay } from '../../core/time/day.ts';
import { shortDay } from '../../core/time/format.ts';
import type { Zone } from '../../core/time/zone.ts';
import { lackingYear } from '../../core/calendar/lacking.ts';
import { stripOf } from '../../view/calendars.ts';
import type { Workspace } from '../workspace/workspace.ts';

type Of = Pick<Workspace, 'stores' | 'clock'>;

/** Every calendar as a row: its week, who goes by it, its next closed day. Dates are on the viewer's wall. */
export function calendarList({ stores, clock }: Of, zone: Zone) {
  const today = zone.dayOf(clock.now());
  const people = stores.people.all();
  const workspaceCalendar = stores.settings.workspace()?.calendarId;
  return stores.calendars.all().map(({ id, name, week, weeks, days }) => {
    const next = days.find(({ date, intervals }) => date >= formatDay(today) && intervals.length === 0);
    return {
      id,
      name,
      week: WEEKDAYS.map((weekday) => ({ weekday, open: (week[weekday] ?? []).join(', ') })),
      later: weeks.map(({ from }) => shortDay(parseDay(from), today)),
      people: people.filter(({ calendarId, active }) => active && calendarId === id).map((one) => one.name),
      isWorkspace: workspaceCalendar === id,
      next: next ? `${shortDay(parseDay(next.date), today)}, ${next.name ?? 'closed'}` : null,
      lacks: lackingYear(days, today),
      strip: stripOf({ name, week, weeks, days }, partsOfDay(today).year, formatDay(today)),
      until: days.length > 0 ? days[days.length - 1]!.date.slice(0, 4) : null
    };
  });
}

/** A calendar as it is edited; null where there is none of that id. */
export function calendarView({ stores, clock }: Of, id: number, zone: Zone) {
  const calendar = stores.calendars.byId(id);
  if (!calendar) return null;
  const { name, week, weeks, days } = calendar;
  return {
    id,
    saved: { name, week, weeks, days },
    usedBy: stores.calendars.usedBy(id),
    year: partsOfDay(zone.dayOf(clock.now())).year
  };
}
