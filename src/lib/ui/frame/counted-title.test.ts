import { describe, expect, it } from 'vitest';
import { countedTitle } from './counted-title.ts';

describe('the title of a page', () => {
  it('counts what is new, once', () => {
    expect(countedTitle('Tasks · Early Bell', 3)).toBe('(3) Tasks · Early Bell');
    expect(countedTitle('(3) Tasks · Early Bell', 4)).toBe('(4) Tasks · Early Bell');
    expect(countedTitle('(99+) Tasks · Early Bell', 0)).toBe('Tasks · Early Bell');
    expect(countedTitle('Tasks', 250)).toBe('(99+) Tasks');
  });
});
