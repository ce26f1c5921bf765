import { expect, it } from 'vitest';
import { blankDefinition, type RuleDefinition } from './model.ts';
import { blankTell } from './step-model.ts';
import { offsetLead } from './lead-model.ts';
import { heardAlone, withoutLead } from './without-lead.ts';

const definition: RuleDefinition = {
  ...blankDefinition(),
  leads: [offsetLead('two', -2, 'day'), offsetLead('one', -1, 'day')],
  steps: [
    {
      ...blankTell('tell'),
      to: [
        { who: 'owner' },
        { who: 'manager', up: 1, leads: ['one'] },
        { who: 'creator', leads: ['two', 'one'] }
      ]
    },
    { ...blankTell('late'), leads: ['one'], to: [{ who: 'coordinator' }] }
  ]
};

it('a ring time that is taken out takes with it who hears at it alone, and widens nobody else’s', () => {
  expect([heardAlone(definition, 'one'), heardAlone(definition, 'two')]).toEqual([1, 0]);
  const left = withoutLead(definition, 'one');
  expect(left.leads.map(({ id }) => id)).toEqual(['two']);
  expect(left.steps).toMatchObject([
    { to: [{ who: 'owner' }, { who: 'creator', leads: ['two'] }] },
    { leads: [], to: [{ who: 'coordinator' }] }
  ]);
});
