import { many } from '../../many.ts';
import type { Act, AssigneeChoice, DateExpression } from '../acts.ts';
import type { Names } from './condition-words.ts';
import { quoted } from './list.ts';

/** How much of a comment is said. */
const COMMENT_SAID = 60;

/** One act of a rule as what it does: “sets the status to Under way”. */
export function actWords(act: Act, names: Names): string {
  const [verb, rest] = verbAndRest(act, names);
  return `${verb.endsWith('y') ? `${verb.slice(0, -1)}ies` : `${verb}s`}${rest}`;
}

/** One act as what a rule is told to do: “set the status to Under way”. */
export function actOrder(act: Act, names: Names): string {
  return verbAndRest(act, names).join('');
}

function verbAndRest(act: Act, names: Names): [verb: string, rest: string] {
  switch (act.act) {
    case 'set status':
      return ['set', ` the status to ${names.status(act.statusId)}`];
    case 'set priority':
      return ['set', ` the priority to ${act.priority}`];
    case 'set percent':
      return act.percent === null ? ['clear', ' the percent'] : ['set', ` the percent to ${act.percent}`];
    case 'set field':
      return act.value === null
        ? ['clear', ` “${names.field(act.fieldId)}”`]
        : ['set', ` “${names.field(act.fieldId)}” to ${String(act.value)}`];
    case 'set due':
      return ['set', ` the due date to ${dateWords(act.date, act.time)}`];
    case 'set start':
      return ['set', ` the start to ${dateWords(act.date, act.time)}`];
    case 'assign':
      return ['set', ` the owner to ${assigneeWords(act.to, names)}`];
    case 'unassign':
      return ['remove', ' the owner'];
    case 'add tag':
      return ['add', ` the tag ${quoted(act.tag)}`];
    case 'remove tag':
      return ['remove', ` the tag ${quoted(act.tag)}`];
    case 'move':
    case 'copy':
      return [act.act, ` it to ${placeWords(act, names)}`];
    case 'comment':
      return [
        'comment',
        ` ${quoted(act.text.length > COMMENT_SAID ? `${act.text.slice(0, COMMENT_SAID)}…` : act.text)}`
      ];
    case 'follow-up':
      return ['create', ` the follow-up ${quoted(act.name)}, due ${dateWords(act.due, act.time)}`];
    case 'create section':
      return ['create', ` the section ${quoted(act.name)}`];
    case 'archive':
      return ['archive', ' it'];
    case 'bin':
      return ['move', ' it to the bin'];
    case 'park':
      return ['park', ` it until ${dateWords(act.review, null)}`];
    case 'update open tasks':
      return ['set', ` every open task of its project to ${names.status(act.statusId)}`];
    case 'ring another':
      return ['ring', ` the rule “${names.rule(act.ruleId)}” for it`];
  }
}

function placeWords(
  { projectId, sectionId }: { projectId: number | null; sectionId: number | null },
  names: Names
): string {
  const project = projectId === null ? 'no project' : names.project(projectId);
  return sectionId === null ? project : `${project}, section ${names.section(sectionId)}`;
}

/** A date expression in words: “today + 5 working days at 09:00”. */
export function dateWords(date: DateExpression, time: string | null): string {
  const at = time === null ? '' : ` at ${time}`;
  if ('none' in date) return 'no date';
  if ('weekday' in date) return `the same weekday next week${at}`;
  const { from, n, unit } = date;
  const base = from === 'today' ? 'today' : `its ${from} date`;
  if (n === 0) return `${base}${at}`;
  const word = unit === 'workday' ? 'working day' : unit;
  return `${base} ${n > 0 ? '+' : '−'} ${many(Math.abs(n), word)}${at}`;
}

export function assigneeWords(choice: AssigneeChoice, names: Names): string {
  switch (choice.who) {
    case 'owner':
      return 'the task’s owner';
    case 'keeper':
      return 'the rule’s keeper';
    case 'actor':
      return 'the person who changed it';
    case 'creator':
      return 'its creator';
    case 'above':
      return 'the next active manager';
    case 'manager':
      return 'the owner’s manager';
    case 'role':
      return `the project’s ${quoted(choice.role)}`;
    case 'person':
      return names.person(choice.id);
  }
}
