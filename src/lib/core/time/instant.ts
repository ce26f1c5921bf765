import { Temporal } from 'temporal-polyfill';
import { CodedError } from '../errors.ts';
import { MS_PER_DAY, MS_PER_MINUTE, checkDay, formatDay, pad2, parseDay, type Day } from './day.ts';
import { parseTimeOfDay, type MinuteOfDay } from './time-of-day.ts';
import { zoneNamed, type InstantMs, type Zone } from './zone.ts';

/** Rounds a planned instant up to the whole minute. */
export function ceilToMinute(instant: InstantMs): InstantMs {
  return Math.ceil(instant / MS_PER_MINUTE) * MS_PER_MINUTE;
}

/** Writes an instant as RFC 3339 in UTC, to the second: `2026-03-02T03:30:00Z`. */
export function formatInstant(instant: InstantMs): string {
  return new Temporal.Instant(BigInt(instant) * 1_000_000n).round('second').toString();
}

/**
 * Reads an instant with its offset or `Z`, with or without a zone in brackets (RFC 3339, RFC 9557).
 * @throws CodedError `instant-format` or `instant-zone-mismatch`
 */
export function parseInstant(text: string): InstantMs {
  let ms: InstantMs;
  try {
    ms = text.includes('[')
      ? Temporal.ZonedDateTime.from(text, { offset: 'reject' }).epochMilliseconds
      : Temporal.Instant.from(text).epochMilliseconds;
  } catch (error) {
    const mismatch = error instanceof RangeError && /offset/i.test(error.message);
    throw new CodedError(mismatch ? 'instant-zone-mismatch' : 'instant-format', { value: text });
  }
  checkDay(Math.floor(ms / MS_PER_DAY), text);
  return ms;
}

/** Writes an instant in a zone as RFC 9557: `2026-03-03T08:00:00+05:30[Asia/Kolkata]`. */
export function formatZoned(instant: InstantMs, zone: Zone): string {
  const offset = zone.offsetAt(instant);
  const local = instant + offset;
  const day = Math.floor(local / MS_PER_DAY);
  const seconds = Math.floor((local - day * MS_PER_DAY) / 1000);
  const time = `${pad2(Math.floor(seconds / 3600))}:${pad2(Math.floor(seconds / 60) % 60)}:${pad2(seconds % 60)}`;
  return `${formatDay(day)}T${time}${formatOffset(offset)}[${zone.nameAt(instant)}]`;
}

function formatOffset(offset: number): string {
  // RFC 9557 offsets have whole minutes; the few zones with seconds before 1972 are rounded, as Temporal does.
  const minutes = Math.round(Math.abs(offset) / MS_PER_MINUTE);
  return `${offset < 0 ? '-' : '+'}${pad2(Math.floor(minutes / 60))}:${pad2(minutes % 60)}`;
}

/** A date, or a date with a time of day and the zone whose wall shows it. */
export interface Moment {
  day: Day;
  /** Absent on a plain date. */
  minute: MinuteOfDay | null;
  /** The zone of the wall time; absent on a plain date. */
  zone: Zone | null;
}

const LOCAL = /^(\d{4}-\d{2}-\d{2})T(\d{2}:\d{2})(?::00)?$/;

/**
 * Reads a date (`2026-03-05`), a local date-time (`2026-03-05T16:00`, in `zone`) or an RFC 9557 string, whose own
 * zone is then taken.
 * @throws CodedError for a format, date, time or zone that does not exist
 */
export function parseMoment(text: string, zone: Zone): Moment {
  if (/^\d{4}-\d{2}-\d{2}$/.test(text)) return { day: parseDay(text), minute: null, zone: null };
  const local = LOCAL.exec(text);
  if (local) return { day: parseDay(local[1]!), minute: parseTimeOfDay(local[2]!), zone };
  const own = /\[!?([^\][=]+)\]/.exec(text);
  if (!own && !/Z$|[+-]\d{2}:?\d{2}$/i.test(text)) {
    if (/^\d{4}-\d{2}-\d{2}/.test(text)) parseDay(text.slice(0, 10));
    throw new CodedError('instant-format', { value: text });
  }
  const ownZone = own ? zoneNamed(own[1]!) : zone;
  parseDay(text.slice(0, 10));
  const reading = ownZone.localOf(parseInstant(text));
  const day = Math.floor(reading / MS_PER_DAY);
  return { day, minute: Math.floor((reading - day * MS_PER_DAY) / MS_PER_MINUTE), zone: ownZone };
}

/** The date of a moment where somebody is; a plain date is itself. @param otherwise the zone of a wall time that names none */
export function dayOfMoment({ day, minute, zone }: Moment, there: Zone, otherwise: Zone): Day {
  return minute === null ? day : there.dayOf(instantOnWall(day, minute, zone ?? otherwise));
}

/** The instant of a wall time on a day; gaps move later, overlaps take the first. */
export function instantOnWall(day: Day, minute: MinuteOfDay, zone: Zone): InstantMs {
  return zone.instantOf(day * MS_PER_DAY + minute * MS_PER_MINUTE);
}
