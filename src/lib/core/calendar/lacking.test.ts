import { describe, expect, it } from 'vitest';
import { parseDay } from '../time/day.ts';
import { lackingYear } from './lacking.ts';

const this2026 = [{ date: '2026-01-01' }, { date: '2026-12-25' }];

describe('the holidays of the next year', () => {
  it('are missed from October on, by a calendar that has some', () => {
    const lacks = (today: string, days = this2026) => lackingYear(days, parseDay(today));
    expect(lacks('2026-09-30')).toBeNull();
    expect(lacks('2026-10-01')).toBe('2027');
    expect(lacks('2026-12-31')).toBe('2027');
    expect(lacks('2026-10-01', [...this2026, { date: '2027-01-01' }])).toBeNull();
    expect(lacks('2026-10-01', [])).toBeNull();
    expect(lacks('2027-01-02')).toBe('2027');
  });
});
