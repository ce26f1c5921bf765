import { UNLOOKED_DAYS, UNPLACED_DAYS } from '../core/desk/owner-days.ts';
import type { DigestAbout, DigestReader, DigestSection } from '../core/digest/model.ts';

/** A digest as a row of the list. Times are on the viewer's wall. */
export interface DigestRowView {
  id: number;
  name: string;
  state: 'on' | 'off';
  /** When it leaves, in words. */
  when: string;
  /** Who reads it, in words, and how many that is now. */
  to: string;
  readers: number;
  about: string;
  /** Null when none is planned. */
  next: string | null;
  /** To how many it leaves then. */
  nextReaders: number;
  /** Null when none has left. */
  last: string | null;
}

/** What became of one. */
export interface DigestRunView {
  id: number;
  at: string;
  reader: string;
  became: string;
  /** Rows in it, of how many that were found among how many. */
  stages: string;
  subject: string | null;
}

export const ABOUT_WORDS: Readonly<Record<DigestAbout, string>> = {
  own: 'each recipient’s own work',
  reports: 'the work of each recipient’s team',
  everybody: 'everybody’s work'
};

export const READER_WORDS: Readonly<
  Record<Exclude<DigestReader['who'], 'person' | 'group' | 'readers'>, string>
> = {
  everybody: 'everybody',
  managers: 'managers',
  coordinator: 'the coordinators',
  keeper: 'the keeper of this digest'
};

/** Sections as they are chosen. */
export const SECTION_WORDS: Readonly<Record<DigestSection, string>> = {
  'needs acknowledgement': 'overdue, not acknowledged',
  overdue: 'overdue',
  'due today': 'due today',
  'due next': 'due in the next working days',
  'starts today': 'starts today',
  'newly assigned': 'newly assigned',
  'time to be logged': 'time not logged',
  finished: 'finished since the last digest',
  undated: 'no due date',
  'not placed': `not placed by its owner for over ${UNPLACED_DAYS} working days`,
  'not looked': `its owner has not looked at their Desk for ${UNLOOKED_DAYS} working days`,
  'all open': 'all open tasks, as a table',
  'all of a list': 'all tasks of a saved list, as a table',
  'kept to come together': 'notices kept for this digest'
};
