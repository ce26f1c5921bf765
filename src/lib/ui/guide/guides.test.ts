import { describe, expect, it } from 'vitest';
import { GUIDES, guideOf, partsOf } from './guides.ts';
import { TERMS } from './terms.ts';

describe('how each place works', () => {
  it.each(Object.entries(GUIDES))(
    '“%s” takes at most 150 words, and each word of ours is defined',
    (_, { text }) => {
      const words = text.join(' ').split(/\s+/);
      expect(words.length).toBeLessThanOrEqual(150);
      const ours = text.flatMap((paragraph) => partsOf(paragraph).filter((_part, i) => i % 2 === 1));
      for (const word of ours) expect(TERMS).toHaveProperty([word]);
    }
  );

  it('is found by the address of the place, and of what stands in it', () => {
    expect(guideOf('/')?.title).toBe('Bell tower');
    expect(guideOf('/rules/3/runs/9')?.title).toBe('Rules');
    expect(guideOf('/changes/3')).toBeNull();
  });
});
