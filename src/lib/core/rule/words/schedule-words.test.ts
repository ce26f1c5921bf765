import { describe, expect, test } from 'vitest';
import { scheduleWords } from './schedule-words.ts';

const said = (rrule: string) => scheduleWords({ rrule, time: '09:30' }, 'here');

// RFC 5545 §3.8.5.3: the rules are those of its worked examples, or near them; the words are ours.
describe('a schedule in words', () => {
  test.each([
    ['FREQ=DAILY', 'every day'],
    ['FREQ=WEEKLY;INTERVAL=2;BYDAY=MO,WE,FR', 'every 2 weeks on Monday, Wednesday and Friday'],
    ['FREQ=MONTHLY;BYMONTHDAY=1,15', 'every month on the 1st and the 15th'],
    ['FREQ=MONTHLY;BYMONTHDAY=-1', 'every month on the last day'],
    [
      'FREQ=MONTHLY;BYMONTHDAY=11,22,23,-3',
      'every month on the 3rd last day, the 11th, the 22nd and the 23rd'
    ],
    ['FREQ=MONTHLY;COUNT=10;BYDAY=1FR', 'every month on the 1st Friday 10 times in total'],
    ['FREQ=MONTHLY;BYDAY=-1MO,TU', 'every month on the last Monday and every Tuesday'],
    ['FREQ=YEARLY;BYMONTH=6,7', 'every year in June and July'],
    ['FREQ=DAILY;UNTIL=19971224T000000Z', 'every day until Wednesday 24 December 1997 in UTC']
  ])('%s', (rrule, words) => {
    expect(said(rrule)).toBe(`${words} at 09:30 here`);
  });

  test.each([
    'FREQ=MONTHLY;BYDAY=FR;BYMONTHDAY=13',
    'FREQ=YEARLY;BYDAY=20MO',
    'FREQ=MONTHLY;BYDAY=TU;BYSETPOS=3',
    'nonsense'
  ])('%s has no words here, and leaves nothing out', (rrule) => {
    expect(said(rrule)).toBe(`by “${rrule}” at 09:30 here`);
  });
});
