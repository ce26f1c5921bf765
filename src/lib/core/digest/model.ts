import type { Watch } from '../rule/model.ts';
import type { Attachment, Importance, TableColumn } from '../rule/step-model.ts';
import { openWatch } from '../rule/model.ts';
import type { ClosedDayRule } from '../ring/lead.ts';

/**
 * What a digest may hold, in the order in which it stands unless another is chosen. A task stands in the first that it fits; the tables hold
 * all of theirs besides.
 */
export const DIGEST_SECTIONS = [
  'needs acknowledgement',
  'overdue',
  'due today',
  'due next',
  'starts today',
  'newly assigned',
  'time to be logged',
  'finished',
  'undated',
  'not placed',
  'not looked',
  'all open',
  'all of a list',
  'kept to come together'
] as const;
export type DigestSection = (typeof DIGEST_SECTIONS)[number];

/** Sections that are one table of everything: all open work, all of a saved list. */
export const TABLE_SECTIONS = ['all open', 'all of a list'] as const satisfies readonly DigestSection[];
export type TableSection = (typeof TABLE_SECTIONS)[number];

export function isTable(section: DigestSection): section is TableSection {
  return (TABLE_SECTIONS as readonly DigestSection[]).includes(section);
}

/** By what the rows of a table stand, and under which headings. */
export const TABLE_ORDERS = ['due', 'priority', 'task', 'owner', 'project'] as const;
export type TableOrder = (typeof TABLE_ORDERS)[number];
export const TABLE_GROUPS = ['none', 'project', 'owner', 'status', 'priority'] as const;
export type TableGroup = (typeof TABLE_GROUPS)[number];

/** How the tables of a digest are laid out. */
export interface DigestTable {
  /** The saved list of “all of a list”; null until one is chosen. */
  list: number | null;
  order: TableOrder;
  group: TableGroup;
}

/** A person's digest of due and their digest of overdue: one message where their times are equal, else two. */
export const DIGEST_PARTS = ['due', 'overdue'] as const;
export type DigestPart = (typeof DIGEST_PARTS)[number];

/** In which of the two a section stands; what was kept to come together stands in whichever comes at its instant. */
export const PART_OF: Readonly<Record<DigestSection, DigestPart | 'both'>> = {
  'needs acknowledgement': 'overdue',
  overdue: 'overdue',
  'due today': 'due',
  'due next': 'due',
  'starts today': 'due',
  'newly assigned': 'due',
  finished: 'due',
  'time to be logged': 'due',
  undated: 'due',
  'not placed': 'due',
  'not looked': 'due',
  'all open': 'due',
  'all of a list': 'due',
  'kept to come together': 'both'
};

/** Each person at the digest times that they set, on their own working days; or by a recurrence rule over local time. */
export type DigestWhen = { by: 'own hours' } | DigestSchedule;

export interface DigestSchedule {
  by: 'schedule';
  /** RFC 5545, without DTSTART. */
  rrule: string;
  /** `YYYY-MM-DD`: the day from which it counts. */
  start: string;
  /** `HH:MM` */
  time: string;
  /** Null: the workspace's. */
  zone: string | null;
  closedDay: ClosedDayRule;
}

/** Who reads it: people of the team, by name or by what they are. */
export type DigestReader =
  | { who: 'everybody' }
  /** Whoever has reports. */
  | { who: 'managers' }
  | { who: 'coordinator' }
  | { who: 'keeper' }
  | { who: 'person' | 'group' | 'readers'; id: number };

/** Whose work it is about: the reader's own, that of those who report to them, or everybody's. */
export const DIGEST_ABOUT = ['own', 'reports', 'everybody'] as const;
export type DigestAbout = (typeof DIGEST_ABOUT)[number];

/** What a digest says. */
export interface DigestDefinition {
  when: DigestWhen;
  to: DigestReader[];
  about: DigestAbout;
  /** One message each, or one to all of them. */
  gather: 'each' | 'together';
  watch: Watch;
  /** In their order. */
  sections: DigestSection[];
  /** How many working days “due next” looks ahead, today not counted. */
  nextWorkingDays: number;
  table: DigestTable;
  columns: TableColumn[];
  /** What happens when there is nothing to say. */
  empty: 'skip' | 'all clear';
  attach: Attachment[];
  /** Its own subject; empty: its name and what is overdue and due today. `‹counts›` in it is that. */
  subject: string;
  /** Its own first words, after the greeting; empty: none. */
  opening: string;
  /** How the message is marked (RFC 2156 §5.3.4, the header Importance). */
  importance: Importance;
}

/** The longest subject and opening words, in characters. */
export const LONGEST_SUBJECT = 200;
export const LONGEST_OPENING = 2_000;

/** Rows of one section, and of a whole message; what is more is counted. */
export const MOST_SECTION_ROWS = 50;
export const MOST_MESSAGE_ROWS = 200;

/** A digest as it starts: each person's own work at their own times. */
export function blankDigest(): DigestDefinition {
  return {
    when: { by: 'own hours' },
    to: [{ who: 'everybody' }],
    about: 'own',
    gather: 'each',
    watch: openWatch(),
    sections: [
      'overdue',
      'due today',
      'due next',
      'starts today',
      'newly assigned',
      'time to be logged',
      'finished',
      'undated',
      'kept to come together'
    ],
    nextWorkingDays: 3,
    table: { list: null, order: 'due', group: 'none' },
    columns: [
      { field: 'task', caption: '' },
      { field: 'project', caption: '' },
      { field: 'due', caption: '' },
      { field: 'days left', caption: '' }
    ],
    empty: 'skip',
    attach: [],
    subject: '',
    opening: '',
    importance: 'ordinary'
  };
}
