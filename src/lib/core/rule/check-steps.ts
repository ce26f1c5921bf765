import { CodedError } from '../errors.ts';
import { parseTemplate } from '../message/template.ts';
import { OUTSIDE_FIELDS } from '../message/fields.ts';
import { checkLead } from '../ring/lead.ts';
import { parseTimeOfDay } from '../time/time-of-day.ts';
import type { Act, AssigneeChoice } from './acts.ts';
import { checkCondition } from './check-condition.ts';
import type { Checker } from './rule-fault.ts';
import type { Known } from './known.ts';
import type { RuleDefinition } from './model.ts';
import { allSteps, type Branch, type Do, type Recipient, type Tell, type Wait } from './step-model.ts';

/** Checks every step, each fault at its own. */
export function checkSteps(definition: RuleDefinition, known: Known, ruleId: number, check: Checker): void {
  const leadIds = new Set(definition.leads.map(({ id }) => id));
  const hasActor = definition.leads.every((lead) => lead.kind === 'event' || lead.kind === 'by hand');
  for (const step of allSteps(definition.steps)) {
    const part = step.kind === 'tell' ? 'tell' : 'do';
    const at = (test: () => void) => check(part, test, step.id);
    at(() => {
      const answered = [
        ...(step.leads ?? []),
        ...(step.kind === 'tell' ? step.to.flatMap(({ leads }) => leads ?? []) : [])
      ];
      if (answered.some((id) => !leadIds.has(id))) throw new CodedError('rule-answers-gone');
    });
    if (step.kind === 'tell') checkTell(step, known, at);
    else if (step.kind === 'do') checkDo(step, known, ruleId, hasActor, at);
    else if (step.kind === 'wait') at(() => checkWait(step));
    else checkBranch(step, known, at);
  }
}

type At = (test: () => void) => void;

function checkTell(tell: Tell, known: Known, at: At): void {
  at(() => {
    if (tell.to.length === 0) throw new CodedError('rule-no-recipient');
  });
  for (const recipient of tell.to) at(() => checkRecipient(recipient, known));
  at(() => {
    if (tell.subject.trim() === '') throw new CodedError('rule-no-words', { part: 'subject' });
  });
  at(() => {
    if (tell.body.trim() === '') throw new CodedError('rule-no-words', { part: 'text' });
  });
  at(() => void parseTemplate(tell.subject));
  at(() => void parseTemplate(tell.body));
  at(() => void parseTemplate(tell.several.subject));
  at(() => void parseTemplate(tell.several.body));
  if (tell.to.some(isOutside)) at(() => checkOutside(tell));
}

function isOutside({ who }: Recipient): boolean {
  return who === 'contacts' || who === 'address';
}

/** Outside people see the name, the date, the project and what was written for them. */
function checkOutside(tell: Tell): void {
  for (const piece of [...parseTemplate(tell.subject), ...parseTemplate(tell.body)])
    if (typeof piece !== 'string' && !OUTSIDE_FIELDS.includes(piece.field))
      throw new CodedError('rule-outside-field', { field: piece.field });
  if (tell.gather === 'per recipient' || tell.attach.includes('table'))
    throw new CodedError('rule-outside-table');
  if (tell.gather === 'together' && !tell.to.every(isOutside)) throw new CodedError('rule-outside-together');
}

function checkRecipient(recipient: Recipient, known: Known): void {
  const missing = (what: string) => new CodedError('rule-names-gone', { what });
  if (recipient.who === 'person' && !known.person(recipient.id)) throw missing('a person');
  if (recipient.who === 'group' && !known.group(recipient.id)) throw missing('a group');
  if (recipient.who === 'field' && known.field(recipient.id) === null) throw missing('a field');
  if (recipient.who === 'readers' && !known.readers(recipient.id)) throw missing('a reader list');
  if (recipient.who === 'address' && !/^[^\s@]+@[^\s@]+$/.test(recipient.address.trim()))
    throw new CodedError('bad-field', { detail: `“${recipient.address}” is not a mail address` });
}

function checkDo(step: Do, known: Known, ruleId: number, hasActor: boolean, at: At): void {
  at(() => {
    if (step.acts.length === 0) throw new CodedError('rule-no-acts');
  });
  at(() => {
    if (step.ask && step.ask.question.trim() === '') throw new CodedError('rule-no-question');
  });
  for (const act of step.acts) at(() => checkAct(act, known, ruleId, hasActor));
}

function checkAct(act: Act, known: Known, ruleId: number, hasActor: boolean): void {
  const missing = (what: string) => new CodedError('rule-names-gone', { what });
  switch (act.act) {
    case 'set status':
    case 'update open tasks':
      if (!known.status(act.statusId)) throw missing('a status');
      return;
    case 'set field':
      if (known.field(act.fieldId) === null) throw missing('a field');
      return;
    case 'set due':
    case 'set start':
      if (act.time !== null) parseTimeOfDay(act.time);
      return;
    case 'assign':
      return checkAssignee(act.to, known, hasActor);
    case 'move':
    case 'copy':
      if (act.projectId !== null && !known.project(act.projectId)) throw missing('a project');
      if (act.sectionId !== null && !known.section(act.sectionId)) throw missing('a section');
      return;
    case 'comment':
      if (act.text.trim() === '') throw new CodedError('rule-no-words', { part: 'comment' });
      return void parseTemplate(act.text);
    case 'follow-up':
      if (act.name.trim() === '') throw new CodedError('rule-no-words', { part: 'follow-up’s name' });
      parseTemplate(act.name);
      parseTemplate(act.description);
      if (act.time !== null) parseTimeOfDay(act.time);
      if (act.owner) checkAssignee(act.owner, known, hasActor);
      return;
    case 'ring another':
      if (act.ruleId === ruleId) throw new CodedError('rule-rings-itself');
      if (!known.rule(act.ruleId)) throw missing('a rule');
      return;
    default:
      return;
  }
}

function checkAssignee(choice: AssigneeChoice, known: Known, hasActor: boolean): void {
  if (choice.who === 'person' && !known.person(choice.id))
    throw new CodedError('rule-names-gone', { what: 'a person' });
  if (choice.who === 'actor' && !hasActor) throw new CodedError('rule-needs-actor');
}

function checkWait({ n, unit, time, closedDay }: Wait): void {
  checkLead({ n, unit, closedDay, minute: time === null ? null : parseTimeOfDay(time) });
  if (n < 0) throw new CodedError('repeat-step', { n, unit });
}

function checkBranch(step: Branch, known: Known, at: At): void {
  for (const side of step.sides) {
    at(() => checkCondition(side.condition, known));
    at(() => {
      if ('all' in side.condition && side.condition.all.length === 0) throw new CodedError('rule-empty-side');
    });
  }
}
