import { describe, expect, it } from 'vitest';
import { blankTell, type Do } from '$lib/core/rule/step-model.ts';
import { nextWords } from './next-words.ts';

const change: Do = {
  ...{ id: 'do', kind: 'do', name: '', description: '', leads: null, ask: null },
  acts: [{ act: 'archive' }]
};

describe('what comes of a rule in four weeks', () => {
  it('of a rule that tells, when it sends next', () => {
    const tells = { steps: [blankTell()] };
    expect(nextWords({ next: ['Mon 9 Mar 09:00'], acts: 0 }, tells)).toBe('Next sent: Mon 9 Mar 09:00.');
    expect(nextWords({ next: [], acts: 0 }, tells)).toBe('Sends nothing in the next four weeks.');
  });

  it('of a rule that only changes tasks, how much: it is not said to send nothing', () => {
    expect(nextWords({ next: [], acts: 1 }, { steps: [change] })).toBe(
      'Makes 1 change in the next four weeks.'
    );
    expect(nextWords({ next: [], acts: 0 }, { steps: [change] })).toBe(
      'Makes no change in the next four weeks.'
    );
  });

  it('of a rule that does both, both', () => {
    expect(nextWords({ next: [], acts: 3 }, { steps: [blankTell(), change] })).toBe(
      'Sends nothing in the next four weeks. Makes 3 changes in the next four weeks.'
    );
  });
});
