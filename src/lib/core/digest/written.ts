import { dueWords, momentWords, oneLine, type MessageFacts } from '../message/compose.ts';
import { daysLeft, daysLeftWords } from '../ring/days-left.ts';
import { lateWords } from '../ring/late-words.ts';
import type { TableColumn, TableField } from '../rule/step-model.ts';
import { shortDay } from '../time/format.ts';
import type { InstantMs } from '../time/zone.ts';
import { MOST_MESSAGE_ROWS, MOST_SECTION_ROWS, type DigestSection } from './model.ts';
import type { DigestGroup } from './table-rows.ts';

/** A row with everything that it is written with. */
export interface WrittenRow {
  facts: MessageFacts;
  /** Working days overdue. */
  workdays: number;
  /** When it was finished; null while it is not. */
  finishedAt: InstantMs | null;
}

export interface WrittenSection {
  section: DigestSection;
  /** At most what a section shows. */
  rows: readonly WrittenRow[];
  /** How many there are. */
  count: number;
  /** Of a table with groups: where each begins, and under which heading. */
  groups: readonly DigestGroup[];
}

/**
 * How many rows each section shows: at most 50 each and 200 altogether, those that stand first before the others.
 * @param counts how many each has
 */
export function shownRows(counts: readonly number[]): number[] {
  let left = MOST_MESSAGE_ROWS;
  return counts.map((count) => {
    const shown = Math.min(count, MOST_SECTION_ROWS, left);
    left -= shown;
    return shown;
  });
}

/** What stands in a column of a row: what is late says since when, or by how many working days; what is finished when it was. */
export function valueOf(field: TableField, { facts, workdays, finishedAt }: WrittenRow): string {
  const { task, reader, leavesAt, dueAt } = facts;
  const { zone } = reader;
  switch (field) {
    case 'task':
      return oneLine(task.name);
    case 'project':
      return facts.projectName === null ? '' : oneLine(facts.projectName);
    case 'owner':
      return facts.ownerName === null ? '' : oneLine(facts.ownerName);
    case 'due':
      return dueWords(facts);
    case 'start':
      return task.start ? momentWords(task.start, zone) : '';
    case 'days left':
      if (finishedAt !== null) return `finished ${shortDay(zone.dayOf(finishedAt), zone.dayOf(leavesAt))}`;
      if (!task.due || dueAt === null) return '';
      return leavesAt >= dueAt
        ? lateWords(dueAt, workdays, leavesAt, zone)
        : daysLeftWords(daysLeft(task.due, dueAt, leavesAt, zone));
    case 'status':
      return task.status;
    case 'priority':
      return task.priority;
    case 'link':
      // The name leads there.
      return '';
  }
}

/** What stands in a column, after its own caption where it has one. */
export function cell({ field, caption }: TableColumn, row: WrittenRow): string {
  const value = valueOf(field, row);
  const said = caption.trim();
  return said && value ? `${said}: ${value}` : value;
}
