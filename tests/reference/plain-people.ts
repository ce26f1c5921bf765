/** People and their hours, for walks minute by minute: zones without a move of their clocks, and no code shared with the application. */

/** Minutes since 1970-01-01T00:00Z. */
export type Minute = number;
export const DAY = 1440;

/** Somebody in a zone so many minutes ahead of Greenwich, with hours on some weekdays (0 is Sunday) and somebody above. */
export interface Person {
  name: string;
  offset: number;
  weekdays: readonly number[];
  open: Minute;
  close: Minute;
  manager: string | null;
}

/** Whether somebody is at work in a minute, and when they next are. */
export class PlainPeople {
  readonly #byName: ReadonlyMap<string, Person>;

  constructor(people: readonly Person[]) {
    this.#byName = new Map(people.map((person) => [person.name, person]));
  }

  of(name: string): Person {
    return this.#byName.get(name)!;
  }

  dayOf(name: string, minute: Minute): number {
    return Math.floor((minute + this.of(name).offset) / DAY);
  }

  at(name: string, day: number, minute: Minute): Minute {
    return day * DAY + minute - this.of(name).offset;
  }

  works(name: string, day: number): boolean {
    return this.of(name).weekdays.includes((((day + 4) % 7) + 7) % 7);
  }

  /** Whether the minute that begins then is working time. */
  isOpen(name: string, minute: Minute): boolean {
    const { offset, open, close } = this.of(name);
    const local = (((minute + offset) % DAY) + DAY) % DAY;
    return this.works(name, this.dayOf(name, minute)) && local >= open && local < close;
  }

  /** The minute of closing is still in reach. */
  inReach(name: string, minute: Minute): boolean {
    return this.isOpen(name, minute) || this.isOpen(name, minute - 1);
  }

  opening(name: string, after: Minute): Minute {
    let at = after + 1;
    while (!this.isOpen(name, at) || this.isOpen(name, at - 1)) at++;
    return at;
  }
}
