import { expect, it } from 'vitest';
import { parseDay } from './day.ts';
import { daysWords } from './format.ts';

it.each([
  ['2026-03-09', '2026-03-13', '9–13 March'],
  ['2026-03-30', '2026-04-03', '30 March – 3 April'],
  ['2026-03-05', '2026-03-05', 'Thursday 5 March'],
  ['2026-12-28', '2027-01-01', '28 December 2026 – 1 January 2027'],
  ['2027-01-04', '2027-01-08', '4–8 January 2027'],
  ['2027-03-29', '2027-04-02', '29 March – 2 April 2027'],
  ['2027-01-04', '2027-01-04', 'Monday 4 January 2027']
])('the days from %s to %s, said in March 2026: %s', (first, last, words) => {
  expect(daysWords(parseDay(first), parseDay(last), parseDay('2026-03-05'))).toBe(words);
});
