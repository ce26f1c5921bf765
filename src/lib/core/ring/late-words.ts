import { many } from '../many.ts';
import { WEEKDAY_NAMES, clockTime, shortDay } from '../time/format.ts';
import { weekdayOf } from '../time/day.ts';
import type { InstantMs, Zone } from '../time/zone.ts';

/** Within so many days a weekday alone says which day it was. */
const WEEK = 7;

/**
 * How late something is, in words: working days, and below one of them since when.
 * @param dueAt the due moment
 * @param workdays working days overdue
 * @param zone whose today and clock are read
 * @example lateWords(dueAt, 0, at, zone) // “since 12:00 today”, “since Friday”; with 3: “3 working days overdue”
 */
export function lateWords(dueAt: InstantMs, workdays: number, at: InstantMs, zone: Zone): string {
  if (workdays >= 1) return `${many(workdays, 'working day')} overdue`;
  const today = zone.dayOf(at);
  // A day’s end belongs to the day that it ends.
  const lastDay = zone.dayOf(dueAt - 1);
  if (lastDay >= today) return `since ${clockTime(dueAt, zone)} today`;
  if (today - lastDay < WEEK) return `since ${WEEKDAY_NAMES[weekdayOf(lastDay)]}`;
  return `since ${shortDay(lastDay, today)}`;
}

/** The same where nothing around it says that it is overdue: “overdue since Friday”, “3 working days overdue”. */
export function overdueWords(dueAt: InstantMs, workdays: number, at: InstantMs, zone: Zone): string {
  const words = lateWords(dueAt, workdays, at, zone);
  return workdays >= 1 ? words : `overdue ${words}`;
}
