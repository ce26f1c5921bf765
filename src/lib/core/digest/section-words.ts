import type { DigestSection } from './model.ts';

const TITLES: Readonly<Record<DigestSection, string>> = {
  'needs acknowledgement': 'Late, and nobody has said that they have seen it',
  overdue: 'Overdue',
  'due today': 'Due today',
  'due next': 'Due next',
  'starts today': 'Starts today',
  'newly assigned': 'Newly assigned',
  'time to be logged': 'Time to be logged',
  finished: 'Finished since the last one',
  undated: 'Without a date: no rule can see these',
  'kept to come together': 'Kept to come together'
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
