import { readFileSync } from 'node:fs';
import { expect, it } from 'vitest';
import { WEEKDAYS } from '../../src/lib/core/calendar/spec.ts';
import { answerCase } from '../../src/lib/core/ringtime/answer.ts';
import type { PlaceCase } from '../../src/lib/core/ringtime/place-case.ts';

/**
 * Against a walk over every later day, in Python with its own tz database (zoneinfo, Debian's tzdata). The file is made by
 * scripts/references/desk.py and names the versions that made it.
 */
const { cases } = JSON.parse(readFileSync(new URL('fixtures/desk.json', import.meta.url), 'utf8')) as {
  cases: [PlaceCase, string, string, string | null][];
};

it('an answer says why in words and with dates', () => {
  const week = Object.fromEntries(WEEKDAYS.slice(0, 5).map((day) => [day, ['09:00-17:00']]));
  const asked: PlaceCase = {
    ask: 'place',
    due: '2026-06-22',
    at: '2026-06-14T22:59:00Z',
    zone: 'Europe/Lisbon'
  };
  expect(answerCase({ ...asked, calendar: { week } })).toEqual({
    place: 'further',
    changesAt: '2026-06-14T23:00:00Z',
    why: [{ code: 'date', params: { of: 'due', on: '2026-06-22' }, text: 'It is due Monday 22 June 2026.' }]
  });
});

it('2,000 placements in 30 zones, each with its next change', () => {
  expect(cases).toHaveLength(2_000);
  expect(new Set(cases.map(([{ zone }]) => zone)).size).toBe(30);
  const wrong = cases.filter(([written, mask, place, changesAt]) => {
    const week = Object.fromEntries(
      WEEKDAYS.filter((_, i) => mask[i] === '1').map((day) => [day, ['09:00-17:00']])
    );
    const answer = answerCase({ ...written, ask: 'place', calendar: { week } });
    return answer.place !== place || answer.changesAt !== changesAt;
  });
  expect(wrong).toEqual([]);
});
