import type { Calendar, Week } from '../calendar/spec.ts';
import { nextWeekAfter, weekStartOf } from '../ring/week-spans.ts';
import type { Day } from '../time/day.ts';
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
  /** All tasks of a page are asked about at one instant. */
  #asked = { at: NaN, today: NaN };
  readonly #begun = new Map<Day, { at: InstantMs; reached: Day }>();

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
    if (at === this.#asked.at) return this.#asked.today;
    const day = this.zone.dayOf(at);
    const today = this.beginningOf(day + 1) <= at ? day + 1 : day;
    this.#asked = { at, today };
    return today;
  }

  /** The first instant of a date; of one that the zone skipped, the first instant after it. */
  beginningOf(day: Day): InstantMs {
    return this.#beginning(day).at;
  }

  /** The date with which a date begins: itself, or the one after it where the zone skipped it. */
  reachedWith(day: Day): Day {
    return this.#beginning(day).reached;
  }

  /** The base week that holds on a date. */
  weekOn(day: Day): Week {
    return this.#on(day).week;
  }

  /** The first day after a date on which a week of the person starts, by the base week of that date. */
  nextWeekAfter(day: Day): Day {
    return nextWeekAfter(day, this.#on(day).start);
  }

  /** `day`, and the dates after it, up to `until`, from which another base week holds. */
  eachWeekFrom(day: Day, until: Day, look: (from: Day) => void): void {
    look(day);
    for (const { from } of this.#weeks) if (from > day && from <= until) look(from);
  }

  #beginning(day: Day): { at: InstantMs; reached: Day } {
    let begun = this.#begun.get(day);
    if (!begun) {
      const at = this.zone.startOfDay(day);
      begun = { at, reached: Math.max(day, this.zone.dayOf(at)) };
      this.#begun.set(day, begun);
    }
    return begun;
  }

  #on(day: Day): WeekFrom {
    let i = this.#weeks.length - 1;
    while (i > 0 && this.#weeks[i]!.from > day) i--;
    return this.#weeks[i]!;
  }
}
