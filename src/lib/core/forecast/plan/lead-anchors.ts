import type { DetailsOf } from '../../anchor/descriptor.ts';
import { ANCHORS } from '../../anchor/anchors.ts';
import { momentOfInstant } from '../../ring/moment-of-instant.ts';
import type { OffsetLead, OnceFor } from '../../rule/lead-model.ts';
import type { Day } from '../../time/day.ts';
import type { Moment } from '../../time/instant.ts';
import type { InstantMs, Zone } from '../../time/zone.ts';
import type { CompiledLead } from '../facts/compile-lead.ts';
import type { Facts, TaskFacts } from '../facts/facts.ts';
import type { TaskDates } from '../facts/task-dates.ts';
import { momentOfValue } from './subject.ts';

/** What leads are counted from, for each task. */
export class LeadAnchors {
  readonly #detailsOf: DetailsOf;
  readonly #dates: TaskDates;
  readonly #lastLeft: (ruleId: number, leadId: string, taskId: number) => InstantMs | null;

  /** @param lastLeft when the last notice of a lead left for a task in its round; null when none has */
  constructor(
    facts: Facts,
    dates: TaskDates,
    lastLeft: (ruleId: number, leadId: string, taskId: number) => InstantMs | null
  ) {
    this.#detailsOf = (taskId) => facts.detailsOf(taskId);
    this.#dates = dates;
    this.#lastLeft = lastLeft;
  }

  /**
   * What a lead is counted from for a task; null when the task lacks it.
   * @param ringZone on whose wall what happened at an instant is read
   */
  in({ lead, moment, anchor, ruleId }: CompiledLead, task: TaskFacts, ringZone: Zone): Moment | null {
    if (moment !== null) return moment;
    if (anchor === null) return null;
    if (anchor === 'own date') return this.#ownDate((lead as OffsetLead).field, task);
    const of = ANCHORS[anchor];
    if (!of.happened) return of.read(task, this.#detailsOf);
    const instant =
      anchor === 'earlier ring'
        ? this.#lastLeft(ruleId, (lead as OffsetLead).after ?? '', task.id)
        : of.read(task, this.#detailsOf);
    return instant === null ? null : momentOfInstant(instant, ringZone);
  }

  /** The date of a task for each value of which a schedule rings once; null when it lacks that. */
  dateOfOnce({ lead }: CompiledLead, task: TaskFacts): Moment | null {
    const { date, field } = (lead.kind === 'schedule' && lead.onceFor) || { date: 'due' };
    return date === 'own date' ? this.#ownDate(field, task) : ANCHORS[date].read(task, this.#detailsOf);
  }

  /** Whether what a schedule tells once has come for a task by a day; a schedule that asks for no date of it passes. */
  hasCome(lead: CompiledLead, task: TaskFacts, day: Day): boolean {
    if (lead.since === null) return true;
    const date = this.dateOfOnce(lead, task);
    return date !== null && lead.since <= date.day && date.day <= day;
  }

  #ownDate(field: OnceFor['field'], task: TaskFacts): Moment | null {
    const value = field && this.#detailsOf(task.id).own.get(field.id);
    return value === undefined ? null : momentOfValue(value, field!.end, this.#dates.dateSource(task).zone);
  }
}
