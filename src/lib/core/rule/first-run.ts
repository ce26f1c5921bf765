import { parseDay, type Day } from '../time/day.ts';
import { parseTimeOfDay, type MinuteOfDay } from '../time/time-of-day.ts';

/** The first moment at which a rule may ring, on the workspace's wall. */
export interface FirstRun {
  day: Day;
  minute: MinuteOfDay;
}

/**
 * Reads `YYYY-MM-DDTHH:MM`.
 * @throws CodedError for a date or time that does not exist
 * @example parseFirstRun('2026-03-06T09:00').minute // 540
 */
export function parseFirstRun(text: string): FirstRun {
  const [date = '', time = '00:00'] = text.split('T');
  return { day: parseDay(date), minute: parseTimeOfDay(time) };
}
