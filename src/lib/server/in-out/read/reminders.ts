import { CodedError } from '../../../core/errors.ts';
import type { ReminderTiming } from '../../../core/forecast/facts/reminders.ts';
import type { Unit } from '../../../core/ring/lead.ts';

const UNITS: Readonly<Record<string, Unit>> = {
  m: 'minute',
  min: 'minute',
  minute: 'minute',
  h: 'hour',
  hour: 'hour',
  d: 'day',
  day: 'day',
  week: 'week',
  'working day': 'workday',
  workday: 'workday'
};

/**
 * A reminder as a sheet says it: `15 minutes`, `2 days before`, `1 working day`, `at due`; null for an empty cell.
 * @throws CodedError `bad-field`
 */
export function readReminderCell(text: string): ReminderTiming | null {
  const plain = text.trim().toLowerCase();
  if (plain === '' || plain === 'none') return null;
  if (/^(at|when|on)?\s*due$|^0$/.test(plain)) return { anchor: 'due', n: 0, unit: 'minute' };
  const match = /^(\d{1,4})\s*(working day|workday|minute|min|hour|week|day|m|h|d)s?(?:\s+before)?$/.exec(
    plain
  );
  const unit = match ? UNITS[match[2]!] : undefined;
  if (match && unit) return { anchor: 'due', n: -Number(match[1]), unit };
  throw new CodedError('bad-field', {
    detail: `“${text}” is not a reminder. Example: 15 minutes, 2 days, 1 working day`
  });
}
