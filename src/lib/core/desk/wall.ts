import type { Calendar, Week } from '../calendar/spec.ts';
import { weekStartOf } from '../ring/week-spans.ts';
import { weekdayOf, type Day } from '../time/day.ts';
import type { InstantMs, Zone } from '../time/zone.ts';

/** A base week from a date on, with the weekday on which it starts. */
interface WeekFrom {
  from: Day;
  /** 0 is Monday. */
  start: number;
  week: Week;
}

/** What the days of one person are counted by: their zone, and their base weeks. Holidays and leave change neither. */
export class Wall {
  readonly zone: Zone;
  readonly #weeks: readonly WeekFrom[];
  readonly #starts = new Map<Day, InstantMs>();

  constructor(zone: Zone, { weeks }: Pick<Calendar, 'weeks'>) {
    this.zone = zone;
    this.#weeks = weeks.map(({ from, week }, i) => ({
      from: i === 0 ? -Infinity : from,
      start: weekStartOf(week),
      week
    }));
  }

  /** The person's date at an instant: the last one that has begun, also where clocks go back over midnight. */
  todayAt(at: InstantMs): Day {
    const day = this.zone.dayOf(at);
    return this.beginningOf(day + 1) <= at ? day + 1 : day;
  }

  /** The first instant of a date; of one that the zone skipped, the first instant after it. */
  beginningOf(day: Day): InstantMs {
    const known = this.#starts.get(day);
    if (known !== undefined) return known;
    const instant = this.zone.startOfDay(day);
    this.#starts.set(day, instant);
    return instant;
  }

  /** The base week that holds on a date. */
  weekOn(day: Day): Week {
    return this.#on(day).week;
  }

  /** The first day after a date on which a week of the person starts, by the base week of that date. */
  nextWeekAfter(day: Day): Day {
    return day + ((this.#on(day).start - weekdayOf(day) + 7) % 7 || 7);
  }

  /** The dates from which another base week holds, after `day` and not after `until`. */
  changesBetween(day: Day, until: Day): Day[] {
    const changes: Day[] = [];
    for (const { from } of this.#weeks) if (from > day && from <= until) changes.push(from);
    return changes;
  }

  #on(day: Day): WeekFrom {
    let i = this.#weeks.length - 1;
    while (i > 0 && this.#weeks[i]!.from > day) i--;
    return this.#weeks[i]!;
  }
}
