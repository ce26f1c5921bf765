import type { Unit } from '../ring/lead.ts';

/** The phases that code relies on; a workspace names its statuses as it likes, each in one of these. */
export const PHASES = ['waiting to start', 'under way', 'stuck on others', 'finished', 'closed'] as const;
export type Phase = (typeof PHASES)[number];

/** The phases of open work. */
export const OPEN_PHASES: readonly Phase[] = ['waiting to start', 'under way', 'stuck on others'];

export function isOpen(phase: Phase): boolean {
  return phase !== 'finished' && phase !== 'closed';
}

/** Its four steps, the lowest first. */
export const PRIORITIES = ['low', 'ordinary', 'high', 'pressing'] as const;
export type Priority = (typeof PRIORITIES)[number];

/** Where a task stands when it is not in the list: no rule sees it there. */
export const SET_ASIDE = ['parked', 'archived', 'binned'] as const;
export type SetAside = (typeof SET_ASIDE)[number];

/** As stored: every so many days, weeks, months or working days, or an RFC 5545 rule. */
export type StoredRhythm = { n: number; unit: Unit } | { rrule: string };

/** Kinds of the workspace's own fields. */
export const FIELD_KINDS = [
  'text',
  'number',
  'yes or no',
  'one choice',
  'many choices',
  'person',
  'people',
  'date',
  'date with time',
  'date range',
  'link'
] as const;
export type FieldKind = (typeof FIELD_KINDS)[number];

/** The value of a field, as it is stored: a text, a number, a truth, a list, or the ends of a range. */
export type FieldValue = string | number | boolean | (string | number)[] | { from: string; until: string };

/** Called off and closed projects are silent. */
export const PROJECT_STATES = ['open', 'called off', 'closed'] as const;
export type ProjectState = (typeof PROJECT_STATES)[number];

/** Where a task is not seen unless a rule says so. */
export const UNSEEN = ['parked', 'archived', 'binned', 'called off'] as const;
export type Unseen = (typeof UNSEEN)[number];
