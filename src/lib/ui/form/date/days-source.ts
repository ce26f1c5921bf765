import { DayList } from '$lib/core/typed/day-list.ts';
import type { FieldDays } from '$lib/core/typed/field.ts';
import { formatDay, parseDay } from '$lib/core/time/day.ts';
import type { DaysOf, DaysView } from '$lib/view/days.ts';

/** The days of one calendar, as a date field reads and shades them. */
export interface KnownDays extends Omit<FieldDays, 'today'> {
  /** “the owner’s calendar” */
  of: string;
}

/** As long as the days are not there: words that count working days wait for them. */
export const NO_DAYS: KnownDays = { list: null, weekStart: 0, nameOf: () => null, of: '' };

/** What was sent, to be read by. */
export function knownDays({ from, working, names, weekStart, of }: DaysView): KnownDays {
  const list = new DayList(parseDay(from), working);
  return { list, weekStart, of, nameOf: (day) => names[formatDay(day)] ?? null };
}

/**
 * The days by which the date fields of a page read, asked for once for each calendar as somebody comes to a field. Pages have it in the
 * context `days`.
 */
export class DaysSource {
  readonly #read: (of: DaysOf) => Promise<DaysView | null>;
  readonly #asked = new Map<string, Promise<KnownDays>>();
  /** Today on the wall of whoever looks, `YYYY-MM-DD`. */
  readonly today: () => string;

  constructor(today: () => string, read: (of: DaysOf) => Promise<DaysView | null>) {
    this.today = today;
    this.#read = read;
  }

  /** Without an answer it is none, and is asked for again at the next field. */
  get(of: DaysOf): Promise<KnownDays> {
    const key = `${this.today()} ${JSON.stringify(of)}`;
    const asked = this.#asked.get(key) ?? this.#ask(key, of);
    this.#asked.set(key, asked);
    return asked;
  }

  async #ask(key: string, of: DaysOf): Promise<KnownDays> {
    const view = await this.#read(of);
    if (view) return knownDays(view);
    this.#asked.delete(key);
    return NO_DAYS;
  }
}
