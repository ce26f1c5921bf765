import type { Act, DateExpression } from '$lib/core/rule/acts.ts';
import type { RuleChoices } from './choices.ts';

/** What a change is called where it is picked. */
export const ACT_LABELS: Readonly<Record<Act['act'], string>> = {
  'set status': 'set the status',
  'set priority': 'set the priority',
  'set percent': 'set the percent',
  'set field': 'set a field',
  'set due': 'set the due date',
  'set start': 'set the start',
  assign: 'set the owner',
  unassign: 'remove the owner',
  'add tag': 'add a tag',
  'remove tag': 'remove a tag',
  move: 'move it',
  copy: 'copy it',
  comment: 'comment',
  'follow-up': 'create a follow-up',
  'create section': 'create a section',
  archive: 'archive it',
  bin: 'move it to the bin',
  park: 'park it',
  'update open tasks': 'set every open task of its project',
  'ring another': 'ring another rule for it'
};

/** A change for which nothing can be chosen yet is not offered. */
export const isOffered = (name: Act['act'], choices: RuleChoices): boolean =>
  (name !== 'set field' || choices.fields.length > 0) &&
  (name !== 'ring another' || choices.rules.length > 0);

const IN_A_WEEK: DateExpression = { from: 'today', n: 5, unit: 'workday' };

/** A change of a kind as it begins. */
export function newAct(name: Act['act'], choices: RuleChoices): Act {
  switch (name) {
    case 'set status':
    case 'update open tasks':
      return { act: name, statusId: choices.statuses[0]?.id ?? 0 };
    case 'set priority':
      return { act: name, priority: 'high' };
    case 'set percent':
      return { act: name, percent: 0 };
    case 'set field':
      return { act: name, fieldId: choices.fields[0]?.id ?? 0, value: null };
    case 'set due':
    case 'set start':
      return { act: name, date: IN_A_WEEK, time: null };
    case 'assign':
      return { act: name, to: { who: 'manager' } };
    case 'add tag':
    case 'remove tag':
      return { act: name, tag: 'chased' };
    case 'move':
    case 'copy':
      return { act: name, projectId: choices.projects[0]?.id ?? null, sectionId: null };
    case 'comment':
      return { act: name, text: '‹task› was reviewed.' };
    case 'follow-up':
      return {
        ...{ act: name, name: 'Follow up: ‹task›', description: '', owner: { who: 'owner' } },
        ...{ due: { from: 'today', n: 2, unit: 'workday' }, time: null, priority: null }
      };
    case 'create section':
      return { act: name, name: 'Late' };
    case 'park':
      return { act: name, review: { from: 'today', n: 30, unit: 'day' } };
    case 'ring another':
      return { act: name, ruleId: choices.rules[0]?.id ?? 0 };
    default:
      return { act: name };
  }
}
