import { daysSince } from '../../desk/owner-days.ts';
import { ANCHORS, type LeadAnchor } from '../../anchor/anchors.ts';
import type { WorkingDays } from '../../calendar/working-days.ts';
import type { Test, TestedName } from '../../rule/condition.ts';
import type { TestSubject } from '../../rule/subject.ts';
import type { TaskDetails } from '../../task/details.ts';
import type { FieldValue } from '../../task/model.ts';
import { parseDay, type Day } from '../../time/day.ts';
import { instantOnWall, type Moment } from '../../time/instant.ts';
import { parseTimeOfDay } from '../../time/time-of-day.ts';
import { zoneNamed, type InstantMs, type Zone } from '../../time/zone.ts';
import { canBeOverdue, type Facts, type TaskFacts } from '../facts/facts.ts';
import type { TaskDates } from '../facts/task-dates.ts';

/** Notices of a rule that have left for a task in its round: what “rings so far” counts. */
export type RingsSoFar = (ruleId: number, taskId: number) => number;

/** A task at an instant, for conditions. One object serves many tasks: it is set before each is asked about. */
export class Subject implements TestSubject {
  readonly #facts: Facts;
  readonly #dates: TaskDates;
  readonly #ringsSoFar: RingsSoFar;
  #task!: TaskFacts;
  #at: InstantMs = 0;
  #ruleId = 0;
  #details: TaskDetails | null = null;
  readonly #detailsOf = () => this.details;

  constructor(facts: Facts, dates: TaskDates, ringsSoFar: RingsSoFar = () => 0) {
    this.#facts = facts;
    this.#dates = dates;
    this.#ringsSoFar = ringsSoFar;
  }

  /** @param details what is asked instead of what the task has now */
  set(task: TaskFacts, at: InstantMs, ruleId: number, details: TaskDetails | null = null): this {
    this.#details = details;
    this.#task = task;
    this.#at = at;
    this.#ruleId = ruleId;
    return this;
  }

  get details(): TaskDetails {
    return (this.#details ??= this.#facts.detailsOf(this.#task.id));
  }

  text(name: TestedName): string {
    return name === 'name' ? this.#task.name : this.details.description;
  }

  choices(name: TestedName): readonly (string | number)[] {
    const { phase, priority, projectId } = this.#task;
    switch (name) {
      case 'phase':
        return [phase];
      case 'priority':
        return [priority];
      case 'project':
        return projectId === null ? [] : [projectId];
      case 'status':
        return [this.details.statusId];
      case 'section':
        return this.details.sectionId === null ? [] : [this.details.sectionId];
      default:
        return this.details.tags;
    }
  }

  people(name: TestedName): readonly number[] {
    const { ownerId, otherOwnerIds } = this.#task;
    if (name === 'owner') return ownerId === null ? otherOwnerIds : [ownerId, ...otherOwnerIds];
    const { createdBy } = this.details;
    return createdBy === null ? [] : [createdBy];
  }

  day(name: TestedName, zone: Test['zone']): Day | null {
    const anchor = ANCHORS[name as LeadAnchor];
    if (!anchor.happened) return this.#dayOf(anchor.read(this.#task, this.#detailsOf), zone);
    const instant = anchor.read(this.#task, this.#detailsOf);
    return instant === null ? null : this.#zone(zone).dayOf(instant);
  }

  number(name: TestedName): number | null {
    switch (name) {
      case 'rings so far':
        return this.#ringsSoFar(this.#ruleId, this.#task.id);
      case 'slips':
        return this.details.slips;
      case 'open subtasks':
        return this.details.openSubtasks;
      case 'percent':
        return this.details.percent;
      case 'minutes logged':
        return this.details.minutesLogged;
      case 'days since created': {
        const zone = this.#zone(undefined);
        return zone.dayOf(this.#at) - zone.dayOf(this.details.createdAt);
      }
      case 'working days not placed':
        return this.details.placed ? null : this.#ownerDaysSince(this.details.assignedAt);
      case 'working days not looked':
        return this.#ownerDaysSince(this.details.ownerLookedAt ?? this.details.assignedAt);
      case 'days overdue':
        return this.#overdue(false);
      default:
        return this.#overdue(true);
    }
  }

  /** Working days of its owner after the date of an instant where they are, up to the date of the test; null without an owner. */
  #ownerDaysSince(from: InstantMs): number | null {
    const { ownerId } = this.#task;
    const owner = ownerId === null ? undefined : this.#facts.people.get(ownerId);
    return owner ? daysSince(owner, from, this.#at) : null;
  }

  /** Days, or working days, past the due date; 0 while it is not overdue, null when it cannot be. */
  #overdue(working: boolean): number | null {
    const task = this.#task;
    const dueAt = this.#dates.momentOf('due', task);
    if (!task.due || dueAt === null || !canBeOverdue(task)) return null;
    if (this.#at < dueAt) return 0;
    if (working) return this.#dates.workingDaysOverdue(task, this.#at);
    const zone = task.due.zone ?? this.#dates.dateSource(task).zone;
    return zone.dayOf(this.#at) - task.due.day;
  }

  truth(name: TestedName): boolean {
    switch (name) {
      case 'keep':
        return this.details.keep;
      case 'acknowledged':
        return this.details.acknowledged;
      case 'recurring':
        return this.details.rhythmDays !== null;
      case 'timed':
        return this.#task.due !== null && this.#task.due.minute !== null;
      case 'overdue': {
        const dueAt = this.#dates.momentOf('due', this.#task);
        return dueAt !== null && canBeOverdue(this.#task) && this.#at >= dueAt;
      }
      default:
        return this.details.logTime;
    }
  }

  own(fieldId: number): FieldValue | undefined {
    return this.details.own.get(fieldId);
  }

  dayOfValue(value: FieldValue, end: 'from' | 'until', zone: Test['zone']): Day | null {
    const moment = momentOfValue(value, end, this.#zone(undefined));
    return moment && this.#dayOf(moment, zone);
  }

  today(zone: Test['zone']): Day {
    return this.#zone(zone).dayOf(this.#at);
  }

  get workingDays(): WorkingDays {
    return this.#dates.workingDaysOf(this.#task);
  }

  inGroup(personId: number, groupId: number): boolean {
    return this.#facts.groups.get(groupId)?.has(personId) ?? false;
  }

  reportsTo(personId: number, managerId: number): boolean {
    const { people } = this.#facts;
    // A circle of managers ends where everybody has been met.
    for (
      let id = people.get(personId)?.managerId ?? null, left = people.size;
      id !== null && left > 0;
      left--
    ) {
      if (id === managerId) return true;
      id = people.get(id)?.managerId ?? null;
    }
    return false;
  }

  /** A date as written; a date-time as read in the zone of the test. */
  #dayOf(moment: Moment | null, zone: Test['zone']): Day | null {
    if (!moment) return null;
    if (moment.minute === null) return moment.day;
    const own = moment.zone ?? this.#zone(undefined);
    return this.#zone(zone).dayOf(instantOnWall(moment.day, moment.minute, own));
  }

  #zone(zone: Test['zone']): Zone {
    if (!zone) return this.#dates.ownerZone(this.#task);
    return zone.of === 'workspace' ? this.#facts.workspace.zone : zoneNamed(zone.zone);
  }
}

/** A value of a date field as a moment: of a range the end that counts. A time is on the wall of `zone`. */
export function momentOfValue(value: FieldValue, end: 'from' | 'until', zone: Zone): Moment | null {
  const text =
    typeof value === 'object' && !Array.isArray(value)
      ? value[end]
      : typeof value === 'string'
        ? value
        : null;
  if (text === null) return null;
  const [date = '', time] = text.split('T');
  return time
    ? { day: parseDay(date), minute: parseTimeOfDay(time), zone }
    : { day: parseDay(date), minute: null, zone: null };
}
