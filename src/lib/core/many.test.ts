import { describe, expect, it } from 'vitest';
import { agree, many } from './many.ts';

describe('counts agree with their nouns', () => {
  it('one is one, and nothing, many and a half are more', () => {
    expect(many(1, 'task')).toBe('1 task');
    expect(many(0, 'task')).toBe('0 tasks');
    expect(many(1635, 'bell')).toBe('1,635 bells');
    expect(many(1.5, 'day')).toBe('1.5 days');
  });

  it('a plural that is not made with an s is given', () => {
    expect(many(2, 'person', 'people')).toBe('2 people');
    expect(many(1, 'task has', 'tasks have')).toBe('1 task has');
  });

  it('a verb or a pronoun agrees without its number', () => {
    expect(`it ${agree(1, 'is', 'are')}`).toBe('it is');
    expect(agree(0, 'it', 'them')).toBe('them');
  });
});
