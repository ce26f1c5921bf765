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
 * What stands above a section.
 * @param nextWorkingDays how far “due next” looks
 */
export function sectionTitle(section: DigestSection, nextWorkingDays: number): string {
  if (section !== 'due next') return TITLES[section];
  return nextWorkingDays === 1
    ? 'Due on the next working day'
    : `Due in the next ${nextWorkingDays} working days`;
}
