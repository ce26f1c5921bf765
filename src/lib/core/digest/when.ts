import type { CompiledCalendar } from '../calendar/compiled.ts';
import { parseRecurrenceRule } from '../recurrence/rrule.ts';
import { scheduleRings, type Schedule } from '../recurrence/schedule.ts';
import { nextDigestHour, type DigestReader } from '../ring/digest-hour.ts';
import { scheduleWords } from '../rule/words/schedule-words.ts';
import { MS_PER_MINUTE, parseDay } from '../time/day.ts';
import { parseTimeOfDay, type MinuteOfDay } from '../time/time-of-day.ts';
import { placeOfZone } from '../time/zone-names.ts';
import { zoneNamed, type InstantMs, type Zone } from '../time/zone.ts';
import type { DigestPart, DigestSchedule, DigestWhen } from './model.ts';

/** A message of a person’s own digests: when it leaves, and what of the two stands in it. */
export interface OwnDigest {
  at: InstantMs;
  parts: readonly DigestPart[];
}

/**
 * The next message of a person’s own digests strictly after an instant: the digest of due and that of overdue are one where their times are
 * equal. On their own working days, none while they are on leave: what it would have said comes with the next.
 * @returns null for somebody who has set no time, or is not at work within 370 days
 */
export function nextOwnDigest(
  after: InstantMs,
  reader: DigestReader & { digestMinutes: { due: MinuteOfDay | null; overdue: MinuteOfDay | null } }
): OwnDigest | null {
  const { due, overdue } = reader.digestMinutes;
  const next = (minute: MinuteOfDay | null) =>
    minute === null ? NaN : nextDigestHour(after, minute, reader);
  const [dueAt, overdueAt] = [next(due), next(overdue)];
  if (Number.isNaN(dueAt) && Number.isNaN(overdueAt)) return null;
  if (dueAt === overdueAt) return { at: dueAt, parts: ['due', 'overdue'] };
  // NaN is never the smaller of two.
  return Number.isNaN(overdueAt) || dueAt < overdueAt
    ? { at: dueAt, parts: ['due'] }
    : { at: overdueAt, parts: ['overdue'] };
}

/**
 * The schedule of a digest, compiled.
 * @param workspaceZone where it names no zone
 * @throws CodedError for a date, time, zone or recurrence that cannot be read
 */
export function digestSchedule(
  { rrule, start, time, zone, closedDay }: DigestSchedule,
  workspaceZone: Zone
): Schedule {
  return {
    rule: parseRecurrenceRule(rrule),
    start: { day: parseDay(start), timeMs: parseTimeOfDay(time) * MS_PER_MINUTE },
    zone: zone === null ? workspaceZone : zoneNamed(zone),
    closedDay
  };
}

/** The first occurrence of a digest’s schedule strictly after an instant; null when it has come to its end. */
export function nextScheduled(
  after: InstantMs,
  schedule: Schedule,
  calendar: CompiledCalendar
): InstantMs | null {
  for (const at of scheduleRings(schedule, calendar)) if (at > after) return at;
  return null;
}

/** When a digest leaves, in words. */
export function digestWhenWords(when: DigestWhen): string {
  if (when.by === 'own hours') return 'at each recipient’s own digest times';
  const place = when.zone === null ? 'workspace time' : `in ${placeOfZone(when.zone)}`;
  return scheduleWords(when, place);
}
