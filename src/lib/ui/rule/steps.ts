import { blankTell, type Branch, type Step } from '$lib/core/rule/step-model.ts';
import { newPartId, type RuleChoices } from './choices.ts';

export const STEP_TITLES = { tell: 'Tell', do: 'Do', wait: 'Wait', branch: 'Branch' } as const;

/** Steps that can be added, the commonest first. */
export const STEP_WORDS: Readonly<Record<Step['kind'], string>> = {
  tell: 'tell somebody',
  do: 'change something',
  wait: 'wait',
  branch: 'branch: different steps for different tasks'
};

/**
 * A step of a kind as it begins.
 * @param inside whether it stands in a side of a branch: whom it tells there is for its author to say
 */
export function newStep(kind: Step['kind'], choices: RuleChoices, inside = false): Step {
  const base = { id: newPartId(), name: '', description: '', leads: null };
  switch (kind) {
    case 'tell':
      return { ...blankTell(base.id), to: inside ? [] : [{ who: 'owner' }] };
    case 'do':
      return { ...base, kind, acts: [{ act: 'set priority', priority: 'high' }], ask: null };
    case 'wait':
      return {
        ...{ ...base, kind, n: 2, unit: 'workday', time: choices.noticeTime },
        ...{ closedDay: 'later', regardless: false }
      };
    case 'branch':
      return { ...base, kind, sides: [newSide()], otherwise: [] };
  }
}

/** A side of a branch as it begins: it asks for what matters most. */
export const newSide = (): Branch['sides'][number] => ({
  name: '',
  condition: { field: 'priority', op: 'any of', value: ['high', 'pressing'] },
  steps: []
});

/** One of a list changed, or taken out where there is nothing in its place. */
export const replaced = <T>(list: readonly T[], at: number, one: T | null): T[] =>
  list.flatMap((old, i) => (i === at ? (one === null ? [] : [one]) : [old]));
