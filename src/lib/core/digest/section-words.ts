import { UNLOOKED_DAYS, UNPLACED_DAYS } from '../desk/owner-days.ts';
import type { DigestSection, TableGroup, TableOrder } from './model.ts';

const TITLES: Readonly<Record<DigestSection, string>> = {
  'needs acknowledgement': 'Overdue, not acknowledged',
  overdue: 'Overdue',
  'due today': 'Due today',
  'due next': 'Due next',
  'starts today': 'Starts today',
  'newly assigned': 'Newly assigned',
  'time to be logged': 'Time not logged',
  finished: 'Finished since the last digest',
  undated: 'No due date (no date rule rings)',
  'not placed': `Not placed by its owner for over ${UNPLACED_DAYS} working days`,
  'not looked': `Its owner has not looked at their Desk for ${UNLOOKED_DAYS} working days`,
  'all open': 'All open tasks',
  'all of a list': 'All tasks of a list',
  'kept to come together': 'Kept for this digest'
};

/** How a table can be ordered and grouped, as it is chosen. */
export const ORDER_WORDS: Readonly<Record<TableOrder, string>> = {
  due: 'by due date',
  priority: 'by priority, highest first',
  task: 'by name',
  owner: 'by owner',
  project: 'by project'
};
export const GROUP_WORDS: Readonly<Record<TableGroup, string>> = {
  none: 'no groups',
  project: 'grouped by project',
  owner: 'grouped by owner',
  status: 'grouped by status',
  priority: 'grouped by priority'
};

/**
 * What stands above a section: “Due in the next 3 working days, until Tue 10 Mar”.
 * @param nextWorkingDays how far “due next” looks
 * @param nextUntil its last day in words; null where each row has another
 * @param listName of the saved list, for “all of a list”
 */
export function sectionTitle(
  section: DigestSection,
  {
    nextWorkingDays,
    nextUntil = null,
    listName = null
  }: { nextWorkingDays: number; nextUntil?: string | null; listName?: string | null }
): string {
  if (section === 'all of a list' && listName !== null) return `All tasks of “${listName}”`;
  if (section !== 'due next') return TITLES[section];
  const until = nextUntil === null ? '' : `, ${nextWorkingDays === 1 ? '' : 'until '}${nextUntil}`;
  return nextWorkingDays === 1
    ? `Due on the next working day${until}`
    : `Due in the next ${nextWorkingDays} working days${until}`;
}
