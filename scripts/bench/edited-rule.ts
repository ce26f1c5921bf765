import { blankDefinition, type RuleDefinition } from '../../src/lib/core/rule/model.ts';
import { blankTell } from '../../src/lib/core/rule/step-model.ts';
import { offsetLead } from '../../src/lib/core/rule/lead-model.ts';
import { zoneNamed } from '../../src/lib/core/time/zone.ts';

export const NOW = Date.parse('2026-03-05T07:00Z');
export const ACTOR = { personId: 1, source: 'person' as const };
export const VIEWER = { zone: zoneNamed('Europe/Lisbon'), personId: 1 };

/** Two leads, a condition, and the owner's manager told too. */
export const written: { name: string; description: string; definition: RuleDefinition } = {
  name: 'Ahead of the date',
  description: '',
  definition: {
    ...blankDefinition(),
    watch: {
      ...blankDefinition().watch,
      condition: { field: 'priority', op: 'any of', value: ['high', 'pressing', 'ordinary'] }
    },
    leads: [offsetLead('five', -5, 'workday'), offsetLead('one', -1, 'workday')],
    steps: [{ ...blankTell(), to: [{ who: 'owner' }, { who: 'manager', up: 1 }] }]
  }
};
