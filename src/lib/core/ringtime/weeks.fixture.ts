import type { CalendarSpec } from '../calendar/spec.ts';

/** Weeks that cases go by. */
export const NINE_TO_FIVE = ['09:00-17:00'];
export const MON_FRI: CalendarSpec = {
  week: { mon: NINE_TO_FIVE, tue: NINE_TO_FIVE, wed: NINE_TO_FIVE, thu: NINE_TO_FIVE, fri: NINE_TO_FIVE }
};
const EIGHT_TO_FOUR = ['08:00-16:00'];
export const SUN_THU: CalendarSpec = {
  week: { sun: EIGHT_TO_FOUR, mon: EIGHT_TO_FOUR, tue: EIGHT_TO_FOUR, wed: EIGHT_TO_FOUR, thu: EIGHT_TO_FOUR }
};
