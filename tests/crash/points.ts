/** Where a process can be killed. */
export const CRASH_POINTS = [
  'between slices',
  'in a re-plan',
  'in a chain',
  'accepted, not settled',
  'in a backup'
] as const;
export type CrashPoint = (typeof CRASH_POINTS)[number];

/** The days that each life goes through. */
export const START = Date.parse('2026-03-05T07:40:00Z');
export const END = Date.parse('2026-03-12T20:00:00Z');
