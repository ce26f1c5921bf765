import type { DigestSection } from './model.ts';

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
  'kept to come together': 'Kept for this digest'
};

/**
 * What stands above a section: “Due in the next 3 working days, until Tue 10 Mar”.
 * @param nextWorkingDays how far “due next” looks
 * @param nextUntil its last day in words; null where each row has another
 */
export function sectionTitle(
  section: DigestSection,
  { nextWorkingDays, nextUntil = null }: { nextWorkingDays: number; nextUntil?: string | null }
): string {
  if (section !== 'due next') return TITLES[section];
  const until = nextUntil === null ? '' : `, ${nextWorkingDays === 1 ? '' : 'until '}${nextUntil}`;
  return nextWorkingDays === 1
    ? `Due on the next working day${until}`
    : `Due in the next ${nextWorkingDays} working days${until}`;
}
