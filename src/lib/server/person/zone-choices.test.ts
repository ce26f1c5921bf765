import { describe, expect, it } from 'vitest';
import { clockTime } from '../../core/time/format.ts';
import { zoneNamed } from '../../core/time/zone.ts';
import { zoneChoices } from './zone-choices.ts';

/** The zones that a form offers, checked against the compiled ones: one of forty, and those with odd offsets (tz database). */
describe('the time in every zone', () => {
  const odd = [
    'Asia/Kathmandu',
    'Australia/Lord_Howe',
    'Pacific/Chatham',
    'Pacific/Kiritimati',
    'America/St_Johns'
  ];

  it.each([
    '2026-03-05T08:00:00Z',
    // A quarter of an hour later than the line above, and at the ends of summer time in Europe and on Lord Howe Island.
    '2026-03-05T08:15:00Z',
    '2026-10-25T00:59:59Z',
    '2026-10-25T01:00:00Z',
    '2026-04-04T15:00:00Z',
    '1999-12-31T23:59:30Z'
  ])('at %s is what its wall shows', (at) => {
    const now = Date.parse(at);
    const choices = zoneChoices(now);
    expect(choices.length).toBeGreaterThan(400);
    const wrong = choices
      .filter(({ name }, i) => i % 40 === 0 || odd.includes(name))
      .filter(({ name, time }) => time !== clockTime(now, zoneNamed(name)));
    expect(wrong).toEqual([]);
  });
});
