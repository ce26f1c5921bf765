import { describe, expect, it } from 'vitest';
import { readReminderCell } from './reminders.ts';

describe('a reminder in a sheet', () => {
  it.each([
    ['15 minutes', -15, 'minute'],
    ['1 Hour before', -1, 'hour'],
    ['2 days', -2, 'day'],
    ['1 working day', -1, 'workday'],
    ['2d', -2, 'day'],
    ['at due', 0, 'minute']
  ])('“%s”', (text, n, unit) => {
    expect(readReminderCell(text)).toEqual({ anchor: 'due', n, unit });
  });

  it.each(['', 'none'])('“%s” is none', (text) => expect(readReminderCell(text)).toBeNull());

  it.each(['soon', '-2 days', '2 fortnights', '1.5 hours'])('“%s” is refused with a sentence', (text) => {
    expect(() => readReminderCell(text)).toThrow(/is not a reminder. Example: 15 minutes/);
  });
});
