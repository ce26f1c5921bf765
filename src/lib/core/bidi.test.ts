import { describe, expect, it } from 'vitest';
import { isolated } from './bidi.ts';

describe('a name in a sentence', () => {
  it('is set apart where it is written from right to left, with what is mixed into it', () => {
    expect(isolated('דחוף')).toBe('\u2068דחוף\u2069');
    expect(isolated('Berth 7 عاجل')).toBe('\u2068Berth 7 عاجل\u2069');
  });

  it('stays as it is otherwise, quotes and braces too', () => {
    for (const name of ['', 'Nora', 'a "quoted" {brace}', 'Žofie', '冬季', 'שׁ'.slice(0, 0)])
      expect(isolated(name)).toBe(name);
  });
});
