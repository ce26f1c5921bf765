import type { Attachment, TableColumn } from '../rule/step-model.ts';
import { formatInstant, instantOnWall, type Moment } from '../time/instant.ts';
import { formatDay } from '../time/day.ts';
import type { InstantMs } from '../time/zone.ts';
import { fieldValues, type MessageFacts } from './compose.ts';
import { captionOf, withOwner } from './table.ts';

/** A file that goes along with a message. */
export interface AttachedFile {
  name: string;
  /** Media type. */
  type: string;
  text: string;
}

/**
 * The table of a message as rows of cells, the captions first: all tasks, dates as ISO 8601 writes them, everything else in words;
 * with the owner where one of them is not the reader’s own.
 */
export function attachedTable(chosen: readonly TableColumn[], tasks: readonly MessageFacts[]): string[][] {
  const columns = tasks.some(({ whose }) => whose === 'other') ? withOwner(chosen) : chosen;
  const rows = tasks.map((facts) => {
    const values = fieldValues(facts);
    const { due, start } = facts.task;
    const dates: Partial<Record<TableColumn['field'], string>> = { due: written(due), start: written(start) };
    return columns.map(({ field }) => dates[field] ?? values[field] ?? '');
  });
  return [columns.map(captionOf), ...rows];
}

function written(moment: Moment | null): string {
  if (!moment) return '';
  if (moment.minute === null || moment.zone === null) return formatDay(moment.day);
  return formatInstant(instantOnWall(moment.day, moment.minute, moment.zone));
}

/** An entry of a calendar file: a date, or an instant in UTC. */
export interface CalendarEntry {
  /** Stays the same from message to message, so that a later one moves the entry. */
  uid: string;
  summary: string;
  description: string;
  /** `YYYY-MM-DD`; null where it has a time. */
  date: string | null;
  at: InstantMs | null;
}

/** The due dates of a message's tasks; those without one have no entry. */
export function attachedDates(tasks: readonly MessageFacts[]): CalendarEntry[] {
  return tasks.flatMap((facts) => {
    const { due, name } = facts.task;
    if (!due) return [];
    const timed = due.minute !== null && due.zone !== null;
    return {
      uid: `task-${facts.task.id}@early-bell`,
      summary: name,
      description: [facts.projectName ?? '', facts.link].filter(Boolean).join('\n'),
      date: timed ? null : formatDay(due.day),
      at: timed ? instantOnWall(due.day, due.minute!, due.zone!) : null
    };
  });
}

/** Writes the files that go along with messages; their formats are no matter of the core. */
export interface FileWriters {
  table(rows: readonly (readonly string[])[]): string;
  /** @param atMs when it is written, workspace clock */
  dates(entries: readonly CalendarEntry[], atMs: number): string;
}

/**
 * The files that go along with a message about some tasks; a calendar without a date is left out, as is a table without a row.
 * @param at when the message leaves, workspace clock
 */
export function attachedFiles(
  { attach, columns }: { attach: readonly Attachment[]; columns: readonly TableColumn[] },
  tasks: readonly MessageFacts[],
  write: FileWriters,
  at: InstantMs
): AttachedFile[] {
  const dates = attach.includes('calendar') ? attachedDates(tasks) : [];
  const files: AttachedFile[] = [];
  if (dates.length > 0) {
    const type = 'text/calendar; charset=utf-8; method=PUBLISH';
    files.push({ name: 'dates.ics', type, text: write.dates(dates, at) });
  }
  if (attach.includes('table') && tasks.length > 0) {
    const text = write.table(attachedTable(columns, tasks));
    files.push({ name: 'tasks.csv', type: 'text/csv; charset=utf-8', text });
  }
  return files;
}
