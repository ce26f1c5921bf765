import { momentOfInstant } from '../../ring/anchors.ts';
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
  readonly #facts: Facts;
  readonly #dates: TaskDates;
  readonly #lastLeft: (ruleId: number, leadId: string, taskId: number) => InstantMs | null;

  /** @param lastLeft when the last notice of a lead left for a task in its round; null when none has */
  constructor(
    facts: Facts,
    dates: TaskDates,
    lastLeft: (ruleId: number, leadId: string, taskId: number) => InstantMs | null
  ) {
    this.#facts = facts;
    this.#dates = dates;
    this.#lastLeft = lastLeft;
  }

  /**
   * What a lead is counted from for a task; null when the task lacks it.
   * @param ringZone on whose wall what happened at an instant is read
   */
  in({ lead, moment, anchor, ruleId }: CompiledLead, task: TaskFacts, ringZone: Zone): Moment | null {
    if (moment !== null) return moment;
    switch (anchor) {
      case null:
        return null;
      case 'due':
        return task.due;
      case 'start':
        return task.start;
      case 'remind on':
        return task.remindOn;
      case 'review date':
        return this.#facts.detailsOf(task.id).reviewDate;
      case 'promise date':
        return this.#facts.detailsOf(task.id).promiseDate;
      case 'ladder':
        // What is no work is never late.
        return task.register ? null : task.due;
      case 'own date':
        return this.#ownDate((lead as OffsetLead).field, task);
      default: {
        const instant =
          anchor === 'earlier ring'
            ? this.#lastLeft(ruleId, (lead as OffsetLead).after ?? '', task.id)
            : this.#happened(anchor, task);
        return instant === null ? null : momentOfInstant(instant, ringZone);
      }
    }
  }

  #happened(
    anchor:
      'created' | 'assigned' | 'last touched' | 'finished' | 'closed' | 'phase entered' | 'acknowledged',
    task: TaskFacts
  ): InstantMs | null {
    const details = this.#facts.detailsOf(task.id);
    switch (anchor) {
      case 'created':
        return details.createdAt;
      case 'assigned':
        return task.ownerId === null ? null : details.assignedAt;
      case 'last touched':
        return details.touchedAt;
      case 'finished':
        return details.finishedAt;
      case 'closed':
        return details.closedAt;
      case 'phase entered':
        return details.phaseSince;
      case 'acknowledged':
        return details.acknowledgements.at(-1)?.at ?? null;
    }
  }

  /** The date of a task for each value of which a schedule rings once; null when it lacks that. */
  dateOfOnce({ lead }: CompiledLead, task: TaskFacts): Moment | null {
    const { date, field } = (lead.kind === 'schedule' && lead.onceFor) || { date: 'due' };
    switch (date) {
      case 'due':
        return task.due;
      case 'start':
        return task.start;
      case 'remind on':
        return task.remindOn;
      case 'review date':
        return this.#facts.detailsOf(task.id).reviewDate;
      case 'own date':
        return this.#ownDate(field, task);
    }
  }

  /** Whether what a schedule tells once has come for a task by a day; a schedule that asks for no date of it passes. */
  hasCome(lead: CompiledLead, task: TaskFacts, day: Day): boolean {
    if (lead.since === null) return true;
    const date = this.dateOfOnce(lead, task);
    return date !== null && lead.since <= date.day && date.day <= day;
  }

  #ownDate(field: OnceFor['field'], task: TaskFacts): Moment | null {
    const value = field && this.#facts.detailsOf(task.id).own.get(field.id);
    return value === undefined ? null : momentOfValue(value, field!.end, this.#dates.dateSource(task).zone);
  }
}
