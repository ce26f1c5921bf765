import { CodedError } from '../errors.ts';
import { formatDay, type Day } from '../time/day.ts';
import type { CountedDays } from './day-words.ts';

/** Working days of some years as a list of them, as a screen is given them. */
export class DayList implements CountedDays {
  readonly #from: Day;
  readonly #working: string;

  /** @param working a character a day from the first on: `1` where work starts on it */
  constructor(from: Day, working: string) {
    this.#from = from;
    this.#working = working;
  }

  /** Whether the list reaches that far. */
  has(day: Day): boolean {
    return day >= this.#from && day < this.#from + this.#working.length;
  }

  /** Whether work starts on that day. @throws CodedError `days-too-far` */
  isWorking(day: Day): boolean {
    if (!this.has(day)) throw new CodedError('days-too-far', { date: formatDay(day) });
    return this.#working[day - this.#from] === '1';
  }

  /** Working days in `[from, until)`. @throws CodedError `days-too-far` */
  count(from: Day, until: Day): number {
    let n = 0;
    for (let day = from; day < until; day++) if (this.isWorking(day)) n++;
    return n;
  }

  /** The n-th working day after a day, before it where n is negative. @throws CodedError `days-too-far` */
  offset(day: Day, n: number): Day {
    const step = Math.sign(n);
    let at = day;
    for (let left = Math.abs(n); left > 0;) {
      at += step;
      if (this.isWorking(at)) left--;
    }
    return at;
  }
}
