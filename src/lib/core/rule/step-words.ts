import type { Act, AssigneeChoice, DateExpression } from './acts.ts';
import type { Names } from './condition-words.ts';

/** One act in words: “sets the status to Under way”. */
export function actWords(act: Act, names: Names): string {
  switch (act.act) {
    case 'set status':
      return `sets the status to ${names.status(act.statusId)}`;
    case 'set priority':
      return `sets the priority to ${act.priority}`;
    case 'set percent':
      return act.percent === null ? 'clears the percent' : `sets the percent to ${act.percent}`;
    case 'set field':
      return act.value === null
        ? `clears “${names.field(act.fieldId)}”`
        : `sets “${names.field(act.fieldId)}” to ${String(act.value)}`;
    case 'set due':
      return `sets the due date to ${dateWords(act.date, act.time)}`;
    case 'set start':
      return `sets the start to ${dateWords(act.date, act.time)}`;
    case 'assign':
      return `gives it to ${assigneeWords(act.to, names)}`;
    case 'unassign':
      return 'takes its owner away';
    case 'add tag':
      return `adds the tag “${act.tag}”`;
    case 'remove tag':
      return `takes the tag “${act.tag}” off`;
    case 'move':
      return `moves it to ${act.projectId === null ? 'no project' : names.project(act.projectId)}`;
    case 'copy':
      return `copies it to ${act.projectId === null ? 'no project' : names.project(act.projectId)}`;
    case 'comment':
      return 'comments';
    case 'follow-up':
      return `creates the follow-up “${act.name}”, due ${dateWords(act.due, act.time)}`;
    case 'create section':
      return `creates the section “${act.name}”`;
    case 'archive':
      return 'archives it';
    case 'bin':
      return 'puts it in the bin';
    case 'park':
      return `parks it until ${dateWords(act.review, null)}`;
    case 'update open tasks':
      return `sets every open task of its project to ${names.status(act.statusId)}`;
    case 'ring another':
      return `rings the rule ${names.rule(act.ruleId)} for it`;
  }
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
  return `${base} ${n > 0 ? '+' : '−'} ${Math.abs(n)} ${word}${Math.abs(n) === 1 ? '' : 's'}${at}`;
}

function assigneeWords(choice: AssigneeChoice, names: Names): string {
  switch (choice.who) {
    case 'owner':
      return 'the task’s owner';
    case 'keeper':
      return 'the rule’s keeper';
    case 'actor':
      return 'whoever acted';
    case 'creator':
      return 'whoever made it';
    case 'above':
      return 'the next one above the owner';
    case 'manager':
      return 'the owner’s manager';
    case 'role':
      return `the project’s “${choice.role}”`;
    case 'person':
      return names.person(choice.id);
  }
}
