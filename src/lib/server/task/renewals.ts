import { parseRecurrenceRule } from '../../core/recurrence/rrule.ts';
import { nextRound, type NextRound } from '../../core/recurrence/round.ts';
import { formatDay, parseDay, type Day } from '../../core/time/day.ts';
import type { Moment } from '../../core/time/instant.ts';
import type { TaskFacts } from '../../core/forecast/facts/facts.ts';
import { formatTimeOfDay } from '../../core/time/time-of-day.ts';
import type { FactsSource } from '../engine/facts-source.ts';
import type { Row } from '../db/row.ts';
import type { ChangeWriter } from '../store/change-writer.ts';
import type { Stores } from '../store/all.ts';
import type { StoredMoment } from '../store/task-row.ts';
import type { Task } from '../store/tasks.ts';
import { syncTags } from './task-parts.ts';

/** A round that has begun. */
export interface Renewed {
  due: string;
  /** Dates of the rhythm that were passed over. */
  skipped: string[];
}

/** Recurring tasks: the next round in place of the one that is over. */
export class Renewals {
  readonly #stores: Stores;
  readonly #source: FactsSource;

  constructor(stores: Stores, source: FactsSource) {
    this.#stores = stores;
    this.#source = source;
  }

  /** Inside the change that finished it: a task that comes back *from due* or *from finish* starts its next round. */
  afterFinish(writer: ChangeWriter, taskId: number): Renewed | null {
    const task = this.#stores.tasks.byId(taskId);
    if (!task?.renewal || task.renewal.from === 'calendar') return null;
    return this.renew(writer, task, task.finishedAt);
  }

  /**
   * Starts the next round of a task: dates move, status, percent and slips start afresh, reminders stay set.
   * @param finishedAt when the round that is over was finished, ms; null when it was not
   * @returns null when its rhythm has ended
   */
  renew(writer: ChangeWriter, task: Task, finishedAt: number | null): Renewed | null {
    const next = this.next(task, finishedAt);
    if (!next) return null;
    const skipped = next.skipped.map(formatDay);
    writer.insert('task_round', {
      task_id: task.id,
      round: task.round,
      due: task.due?.date ?? null,
      finished_at: finishedAt,
      skipped: JSON.stringify(skipped)
    });
    if (task.renewal!.copy) this.#leaveCopy(writer, task);
    this.#startRound(writer, task, {
      ...momentColumns('due', next.due),
      ...momentColumns('original_due', next.due),
      ...momentColumns('start', next.start),
      ...momentColumns('remind', next.remindOn),
      rhythm_origin: formatDay(next.originDay),
      rhythm_date: formatDay(next.rhythmDay)
    });
    for (const child of this.#stores.tasks.childrenOf(task.id)) {
      if (child.setAside === null) this.#startRound(writer, child, shiftedColumns(child, next.shiftDays));
    }
    return { due: formatDay(next.due.day), skipped };
  }

  /** What the next round would be; null when the rhythm has ended or the task does not come back. */
  next(task: Task, finishedAt: number | null): NextRound | null {
    const { renewal } = task;
    const facts = this.#stores.tasks.factsOf(task.id);
    if (!renewal || !facts) return null;
    const { zone, calendar } = this.#source.planner.dates.dateSource(facts);
    const rhythm =
      'rrule' in renewal.rhythm ? { rule: parseRecurrenceRule(renewal.rhythm.rrule) } : renewal.rhythm;
    return nextRound(
      {
        due: facts.due,
        start: facts.start,
        remindOn: facts.remindOn,
        originDay: renewal.rhythmOrigin === null ? null : parseDay(renewal.rhythmOrigin),
        rhythmDay: renewal.rhythmDate === null ? null : parseDay(renewal.rhythmDate)
      },
      finishedAt === null ? null : zone.dayOf(finishedAt),
      { rhythm, from: renewal.from, closedDay: renewal.closedDay },
      calendar.days
    );
  }

  /** The instant at which a task comes back by the calendar: the beginning of its next due date; null when it does not. */
  calendarInstant(task: Task): number | null {
    if (task.renewal?.from !== 'calendar' || task.setAside !== null) return null;
    const next = this.next(task, null);
    if (!next) return null;
    return this.#zoneOf(this.#stores.tasks.factsOf(task.id)!).startOfDay(next.due.day);
  }

  #zoneOf(facts: TaskFacts) {
    return this.#source.planner.dates.dateSource(facts).zone;
  }

  #startRound(writer: ChangeWriter, task: Task, dates: Row): void {
    const { at } = writer.head;
    const first = this.#stores.projects.statuses().find(({ phase }) => phase === 'waiting to start');
    const status = first?.id ?? task.statusId;
    const open = this.#stores.tasks.openStatusSpan(task.id);
    if (open !== null) writer.update('status_span', open, { until_at: at });
    writer.insert('status_span', { task_id: task.id, status_id: status, from_at: at, until_at: null });
    writer.update('task', task.id, {
      ...dates,
      status_id: status,
      finished_at: null,
      percent: task.percent === null ? null : 0,
      round: task.round + 1,
      due_since: at
    });
  }

  /** What was done stays behind as a task of its own that does not come back. */
  #leaveCopy(writer: ChangeWriter, task: Task): void {
    const row = this.#stores.changes.read('task', task.id)!;
    const { id: _, import_key: _key, ...columns } = row;
    const copyId = writer.insert('task', {
      ...columns,
      rhythm: null,
      renew_from: null,
      renew_copy: 0,
      rhythm_origin: null,
      rhythm_date: null,
      import_key: null
    });
    writer.insert('status_span', {
      task_id: copyId,
      status_id: task.statusId,
      from_at: writer.head.at,
      until_at: null
    });
    syncTags(
      writer,
      this.#stores,
      copyId,
      this.#stores.taskParts.tags(task.id).map(({ name }) => name)
    );
  }
}

type Prefix = 'due' | 'original_due' | 'start' | 'remind';

function momentColumns(prefix: Prefix, moment: Moment | null): Row {
  return {
    [`${prefix}_date`]: moment && formatDay(moment.day),
    [`${prefix}_time`]: moment && (moment.minute === null ? null : formatTimeOfDay(moment.minute)),
    [`${prefix}_zone`]: moment?.zone?.name ?? null
  };
}

/** The dates of a subtask, each as far on as its task went. */
function shiftedColumns(task: Task, days: number): Row {
  const due = shifted(task.due, days);
  return {
    due_date: due,
    original_due_date: due,
    start_date: shifted(task.start, days),
    remind_date: shifted(task.remindOn, days)
  };
}

function shifted(moment: StoredMoment | null, days: Day): string | null {
  return moment && formatDay(parseDay(moment.date) + days);
}
