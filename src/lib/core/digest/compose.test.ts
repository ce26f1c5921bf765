import { describe, expect, it } from 'vitest';
import { composeDigest, type DigestWords } from './compose.ts';

const WORDS: DigestWords = {
  ...{ name: 'Your day', subject: '', opening: '', readerName: 'Ines Moura', sections: [], rollUp: null },
  ...{ kept: [], nextWorkingDays: 3, nextUntil: null, columns: [], listLink: 'https://bell.example/tasks' },
  ...{ listName: null, counts: { all: 0, overdue: 0, dueToday: 0 } },
  ...{ reason: 'Digest “Your day”.', timesLink: null }
};
const line = (overdue: number, byBand: number[]) => ({
  ...{ personId: 1, name: 'Nora', open: overdue, overdue, byBand, dueToday: 0, change: null }
});

describe('the words of a digest', () => {
  it('begin with its own subject and first words, where it has some', () => {
    const own = composeDigest({
      ...WORDS,
      subject: 'Survey: ‹counts›',
      opening: 'First line.\nSecond <line>.'
    });
    expect(own.subject).toBe('Survey: all clear');
    expect(own.text).toContain('Hello Ines,\n\nFirst line.\nSecond <line>.\n\nAll clear.');
    expect(own.html).toContain('First line.</p><p');
    expect(own.html).toContain('Second &#60;line&#62;.');
    expect(composeDigest(WORDS).subject).toBe('Your day: all clear');
  });

  it('say bands in words that agree with their number', () => {
    const rollUp = { lines: [line(3, [1, 2, 0, 0, 0])], total: line(3, [1, 2, 0, 0, 0]) };
    expect(composeDigest({ ...WORDS, rollUp }).text).toContain(
      'overdue by under 1 working day: 1, 1–2 working days: 2'
    );
  });

  it('list kept notices as a table with one reason each; the whole why is folded', () => {
    const kept = Array.from({ length: 60 }, (_, i) => ({
      ...{
        subject: `Task ${i} is due`,
        link: `https://bell.example/tasks/${i}`,
        ruleName: 'Ahead',
        acts: []
      },
      ...{
        whose: 'own' as const,
        decided: 'Kept for Ines’s next digest.',
        reason: `The due date is 9 March 2026. ${'It moves. '.repeat(40)}Kept for Ines’s next digest.`
      }
    }));
    const { text, html } = composeDigest({ ...WORDS, kept });
    expect(text).toContain('• Task 0 is due\n  Rule: Ahead. Why: Kept for Ines’s next digest.');
    expect(text.length).toBeLessThan(9_000);
    expect(html).toContain('<summary>Kept for Ines’s next digest.</summary>');
  });
});
