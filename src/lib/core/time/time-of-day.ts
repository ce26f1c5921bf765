import { CodedError } from '../errors.ts';
import { MINUTES_PER_DAY, pad2 } from './day.ts';

/** A time of day in whole minutes since local midnight, 0 to 1439; 1440 stands for the end of the day where that is allowed. */
export type MinuteOfDay = number;

const TIME = /^(\d{2}):(\d{2})$/;

/**
 * Reads `HH:MM` on the 24-hour clock.
 * @param endAllowed accepts `24:00`, the end of the day
 * @throws CodedError `time-format`
 * @example parseTimeOfDay('08:30') // 510
 */
export function parseTimeOfDay(text: string, endAllowed = false): MinuteOfDay {
  const match = TIME.exec(text);
  const minutes = match ? Number(match[1]) * 60 + Number(match[2]) : NaN;
  const most = endAllowed ? MINUTES_PER_DAY : MINUTES_PER_DAY - 1;
  if (!match || Number(match[2]) > 59 || minutes > most) throw new CodedError('time-format', { value: text });
  return minutes;
}

/** Writes `HH:MM`; 1440 is written `24:00`. */
export function formatTimeOfDay(minutes: MinuteOfDay): string {
  return `${pad2(Math.floor(minutes / 60))}:${pad2(minutes % 60)}`;
}

/**
 * A time of day as people type it, written `HH:MM`: `9`, `9:00`, `9.30`, `0930`, `3pm`, `noon`. Anything else is given back as typed,
 * to be refused with its sentence; nothing typed is null.
 * @example typedTime('9.30') // '09:30'
 */
export function typedTime(text: string): string | null {
  const trimmed = text.trim();
  if (trimmed === '') return null;
  const word = { noon: '12:00', midday: '12:00', midnight: '00:00' }[trimmed.toLowerCase()];
  if (word) return word;
  const match = /^(\d{1,2})(?:[:.h]?(\d{2}))?(?:\s*([ap])\.?m\.?)?$/i.exec(trimmed);
  if (!match) return trimmed;
  const [, hours = '', minutes = '00', half] = match;
  if (half && !(Number(hours) >= 1 && Number(hours) <= 12)) return trimmed;
  const hour = half ? (Number(hours) % 12) + (half.toLowerCase() === 'p' ? 12 : 0) : Number(hours);
  return `${pad2(hour)}:${minutes}`;
}
