import { weekOn } from '../../core/calendar/spec.ts';
import type { DateSource } from '../../core/forecast/facts/task-dates.ts';
import { weekStartOf } from '../../core/ring/week-spans.ts';
import { LAST_DAY, formatDay } from '../../core/time/day.ts';
import type { DaysOf, DaysView } from '../../view/days.ts';
import type { Workspace } from '../workspace/workspace.ts';

const DAYS_BACK = 400;
const DAYS_AHEAD = 3 * 366;

/**
 * The days that a date field counts and shades: of the person's own calendar, somebody else's, or that by which
 * the dates of a task go. Leave is left out: it moves no date.
 */
export function daysView(app: Pick<Workspace, 'source' | 'clock'>, personId: number, of: DaysOf): DaysView {
  const { people, workspace } = app.source.facts;
  const { source, words } = sourceOf(app, personId, of);
  const { calendar } = source;
  const today = (people.get(personId) ?? workspace).zone.dayOf(app.clock.now());
  const from = today - DAYS_BACK;
  const until = Math.min(today + DAYS_AHEAD, LAST_DAY);
  const names: Record<string, string> = {};
  let working = '';
  for (let day = from; day <= until; day++) {
    const open = calendar.days.isWorking(day);
    working += open ? '1' : '0';
    const name = open ? null : calendar.holidayName(day);
    if (name !== null) names[formatDay(day)] = name;
  }
  return {
    from: formatDay(from),
    working,
    names,
    weekStart: weekStartOf(weekOn(calendar.calendar, today)),
    of: words
  };
}

/** Whose calendar it is, with how it is called on the screen. Of a task the owner's, else the project's, else the workspace's (docs/timing.md). */
function sourceOf(
  { source }: Pick<Workspace, 'source'>,
  selfId: number,
  { task, person: personId = task ? (task.owner ?? undefined) : selfId }: DaysOf
): { source: DateSource; words: string } {
  const { people, projects, workspace } = source.facts;
  const person = personId === undefined ? undefined : people.get(personId);
  if (person)
    return {
      source: person,
      words: personId === selfId ? 'your calendar' : `${task ? 'the owner' : 'this person'}’s calendar`
    };
  const project = task?.project ? projects.get(task.project) : undefined;
  if (project?.calendar)
    return {
      source: { zone: project.zone ?? workspace.zone, calendar: project.calendar },
      words: 'the project’s calendar'
    };
  return { source: workspace, words: 'the workspace’s calendar' };
}
