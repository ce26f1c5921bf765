import { describe, expect, it } from 'vitest';
import { plainOptions, searchOptions, withChosen } from './option.ts';

describe('options with what is chosen', () => {
  const tags = plainOptions(['reef', 'spring']);

  it('show a chosen tag that no task has any more, and something chosen that was removed', () => {
    expect(withChosen(tags, ['spring', 'storm']).map(({ label }) => label)).toEqual([
      'reef',
      'spring',
      'storm'
    ]);
    expect(withChosen([{ value: 1, label: 'Permits' }], [1, 7]).at(-1)).toEqual({
      value: 7,
      label: 'removed'
    });
  });

  it('stay the same where nothing is missing, or nothing is chosen yet', () => {
    expect(withChosen(tags, ['reef'])).toBe(tags);
    expect(withChosen(tags, [''])).toBe(tags);
  });
});

describe('a search in options', () => {
  it('finds every word typed, whatever its accents and capitals, beginnings first', () => {
    const names = plainOptions(['Rui Tavares', 'Inês Moura', 'Moura Inês, Lisbon']);
    expect(searchOptions(names, 'ines').map(({ value }) => value)).toEqual([
      'Inês Moura',
      'Moura Inês, Lisbon'
    ]);
    expect(searchOptions(names, 'lis mou').map(({ value }) => value)).toEqual(['Moura Inês, Lisbon']);
    expect(searchOptions(names, '  ')).toHaveLength(3);
  });
});
