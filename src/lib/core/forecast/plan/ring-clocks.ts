import type { CompiledCalendar } from '../../calendar/compiled.ts';
import type { Zone } from '../../time/zone.ts';
import type { CompiledLead } from '../facts/compile-lead.ts';
import type { Facts, PersonFacts, TaskFacts } from '../facts/facts.ts';
import type { TaskDates } from '../facts/task-dates.ts';
import { LeadClocks, partsOfClock, type LeadClock } from './lead-clock.ts';
import { isOnOwnClocks } from './schedule-value.ts';

/** In which zone leads ring, and by which clocks schedules do. */
export class RingClocks {
  readonly #facts: Facts;
  readonly #dates: TaskDates;
  readonly #clocks = new LeadClocks();

  constructor(facts: Facts, dates: TaskDates) {
    this.#facts = facts;
    this.#dates = dates;
  }

  /** In which zone a lead rings. @param recipient on whose clock where the lead says so; null: the owner's, as for acts */
  zoneOf({ lead, namedZone }: CompiledLead, task: TaskFacts, recipient: PersonFacts | null): Zone {
    const { workspace } = this.#facts;
    switch (lead.zone.of) {
      case 'recipient':
        return recipient?.zone ?? this.#dates.ownerZone(task);
      case 'owner':
        return this.#dates.ownerZone(task);
      case 'project':
        return this.#dates.projectOf(task)?.zone ?? workspace.zone;
      case 'workspace':
        return workspace.zone;
      case 'named':
        return namedZone ?? workspace.zone;
    }
  }

  /**
   * On which clock a schedule rings for a task: in the zone that its lead names, and by the calendar of the same person or project.
   * @param recipient on whose clock it rings where the lead says so; null: the owner's, as for acts
   */
  of(lead: CompiledLead, task: TaskFacts, recipient: PersonFacts | null): LeadClock {
    return this.#clocks.of(lead, this.zoneOf(lead, task, recipient), this.#closedBy(lead, task, recipient));
  }

  /** On which clock a schedule rings for somebody who is told of a task, whichever clock that is. */
  at(lead: CompiledLead, task: TaskFacts, recipient: PersonFacts): LeadClock {
    return isOnOwnClocks(lead) ? this.of(lead, task, recipient) : this.forAll(lead);
  }

  /** A clock of a schedule by its key; null where its calendar is gone. */
  named(lead: CompiledLead, key: string): LeadClock | null {
    const { zone, calendarId } = partsOfClock(key);
    const calendar = this.#facts.calendarIn(calendarId, zone);
    return calendar && this.#clocks.of(lead, zone, calendar);
  }

  /** The one clock of a schedule that rings on the workspace's or a named place's. */
  forAll(lead: CompiledLead): LeadClock {
    const { zone, calendar } = this.#facts.workspace;
    return this.#clocks.of(lead, lead.namedZone ?? zone, calendar);
  }

  #closedBy({ lead }: CompiledLead, task: TaskFacts, recipient: PersonFacts | null): CompiledCalendar {
    const { workspace } = this.#facts;
    switch (lead.zone.of) {
      case 'recipient':
        return recipient?.calendar ?? this.#dates.calendarOf(task);
      case 'owner':
        return this.#dates.calendarOf(task);
      case 'project':
        return this.#dates.projectOf(task)?.calendar ?? workspace.calendar;
      default:
        return workspace.calendar;
    }
  }
}
