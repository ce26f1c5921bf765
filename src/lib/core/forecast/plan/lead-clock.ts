import type { CompiledCalendar } from '../../calendar/compiled.ts';
import { ringsOfSchedule, type ScheduleRing } from '../../recurrence/schedule.ts';
import { MS_PER_DAY } from '../../time/day.ts';
import { zoneOfKey } from '../../time/moves.ts';
import type { InstantMs, LocalMs, Zone } from '../../time/zone.ts';
import type { CompiledLead } from '../facts/compile-lead.ts';

/** Rings are kept for so long behind what was asked about last: nobody’s clock is further behind another’s, closed days included. */
const KEPT_MS = 40 * MS_PER_DAY;

/** Stands between zone and calendar in the key of a clock; in no key of a zone. */
const BEFORE_CALENDAR = '|';

/** What the key of a clock says: its zone, and the id of its calendar where closed days count. */
export function partsOfClock(key: string): { zone: Zone; calendarId: number | null } {
  const [zone, id = ''] = key.split(BEFORE_CALENDAR);
  return { zone: zoneOfKey(zone!), calendarId: id === '' ? null : Number(id) };
}

/**
 * The rings of one schedule on one clock: a zone, and the calendar that says which days are closed. It goes through them once, and
 * keeps those around what it is asked about; so ask about what comes, not about what is long over.
 */
export class LeadClock {
  /** Tells it from the other clocks of its lead; the same in every process. */
  readonly key: string;
  readonly zone: Zone;
  readonly #rings: () => Iterator<ScheduleRing>;
  #coming: Iterator<ScheduleRing>;
  /** Ascending. */
  #known: ScheduleRing[] = [];
  #forgotten = false;
  #over = false;

  constructor({ schedule }: CompiledLead, zone: Zone, calendar: CompiledCalendar) {
    this.zone = zone;
    this.key =
      schedule!.closedDay === 'as-is' ? zone.key : `${zone.key}${BEFORE_CALENDAR}${calendar.id ?? ''}`;
    this.#rings = () => ringsOfSchedule({ ...schedule!, zone }, calendar);
    this.#coming = this.#rings();
  }

  /** The first ring after an instant; null when there is none. @throws CodedError where the schedule cannot be computed */
  nextAfter(at: InstantMs): ScheduleRing | null {
    this.#reach(at);
    return this.#known.find((ring) => ring.at > at) ?? null;
  }

  /** The last ring at or before an instant; null when there is none. @throws CodedError where the schedule cannot be computed */
  lastBy(at: InstantMs): ScheduleRing | null {
    this.#reach(at);
    return this.#known.findLast((ring) => ring.at <= at) ?? null;
  }

  /**
   * The ring of an occurrence, by the wall reading that it is known by on every clock; null where this clock leaves it out.
   * @param around an instant near to which it rings
   */
  ringOf(occurrence: LocalMs, around: InstantMs): ScheduleRing | null {
    this.#reach(around + KEPT_MS / 2);
    return this.#known.find(({ first, last }) => first <= occurrence && occurrence <= last) ?? null;
  }

  /** Goes on until the ring after an instant is known. */
  #reach(at: InstantMs): void {
    if (this.#forgotten && (this.#known[0]?.at ?? Infinity) > at) this.#beginAgain();
    while (!this.#over && (this.#known.at(-1)?.at ?? -Infinity) <= at) {
      const next = this.#coming.next();
      if (next.done) this.#over = true;
      else this.#known.push(next.value);
    }
    this.#forget(at - KEPT_MS);
  }

  #beginAgain(): void {
    this.#coming = this.#rings();
    this.#known = [];
    [this.#forgotten, this.#over] = [false, false];
  }

  /** What is older than that is let go a good part at a time. */
  #forget(before: InstantMs): void {
    let old = 0;
    while (old + 1 < this.#known.length && this.#known[old + 1]!.at <= before) old++;
    if (old < 64) return;
    this.#known.splice(0, old);
    this.#forgotten = true;
  }
}

/** The clocks on which schedules ring, each made once. */
export class LeadClocks {
  readonly #made = new Map<CompiledLead, Map<Zone, Map<CompiledCalendar | null, LeadClock>>>();

  of(lead: CompiledLead, zone: Zone, calendar: CompiledCalendar): LeadClock {
    let byZone = this.#made.get(lead);
    if (!byZone) this.#made.set(lead, (byZone = new Map()));
    let byCalendar = byZone.get(zone);
    if (!byCalendar) byZone.set(zone, (byCalendar = new Map()));
    const asked = lead.schedule!.closedDay === 'as-is' ? null : calendar;
    let clock = byCalendar.get(asked);
    if (!clock) byCalendar.set(asked, (clock = new LeadClock(lead, zone, calendar)));
    return clock;
  }
}
