import { expect, it } from 'vitest';
import { groupBy } from '../../group-by.ts';
import { starters } from './starters.ts';
import { STARTER_USES, useOf } from './use.ts';

it('every starter stands under what it is for, and something stands under each', () => {
  const all = starters({ statusIn: () => 1, today: '2026-03-05', noticeTime: '09:00' });
  const byUse = groupBy(all, ({ definition }) => useOf(definition));
  expect([...byUse.keys()].sort()).toEqual([...STARTER_USES].sort());
  const keys = (use: (typeof STARTER_USES)[number]) => byUse.get(use)!.map(({ key }) => key);
  expect(keys('before the date')).toEqual(['two-leads', 'important-ahead', 'minutes', 'renewals']);
  expect(keys('on the day')).toEqual(['due-today', 'begin']);
  expect(keys('late')).toEqual(['overdue-daily', 'follow-up', 'ladder']);
  expect(keys('new and finished')).toEqual(['assigned', 'finished', 'defaults', 'log-time']);
  expect(keys('regular and tidying')).toEqual(['stale', 'undated', 'weekly']);
  expect(keys('by hand')).toEqual(['called-off', 're-date-late']);
});
