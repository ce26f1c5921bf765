import { many } from '../many.ts';
import { list } from '../rule/words/list.ts';
import { scheduleWords } from '../rule/words/schedule-words.ts';
import { placeOfZone } from '../time/zone-names.ts';
import {
  UNDO_DAYS,
  type SweepAct,
  type SweepActName,
  type SweepDefinition,
  type SweepWait
} from './model.ts';

/** What a sweep of each kind is called where one is made. */
export const ACT_WORDS: Readonly<Record<SweepActName, string>> = {
  close: 'close finished tasks after a last look',
  archive: 'archive closed tasks',
  purge: 'purge the archive',
  'still needed': 'ask owners whether stale tasks are still needed',
  'ask a date': 'ask owners for a missing due date',
  're-date': 'move the due date of overdue tasks',
  'report slips': 'report tasks postponed again and again',
  'bring back': 'return parked tasks after their review date'
};

/** `7 days`, `1 working day` */
export function waitWords({ n, unit }: SweepWait): string {
  const name = unit === 'workday' ? 'working day' : unit;
  return many(n, name);
}

/** A sweep read back as one sentence. */
export function sweepWords(
  definition: SweepDefinition,
  names: { project: (id: number) => string; list: (id: number) => string }
): string {
  const { watch, when, goes } = definition;
  const where = [
    watch.projects === null ? '' : ` in ${list(watch.projects.map((id) => names.project(id)))}`,
    watch.tags.length === 0 ? '' : `, tagged ${list(watch.tags.map((tag) => `“${tag}”`))}`,
    watch.list === null ? '' : `, of the list “${names.list(watch.list)}”`,
    watch.condition === null ? '' : ', if its condition is true'
  ].join('');
  const does = `${takenWords(definition)}${where}`;
  if (when.by === 'hand') return `${does}, by hand.`;
  const clock = when.zone === null ? 'workspace time' : `in ${placeOfZone(when.zone)}`;
  const goesOn = goes === 'unless stopped' ? 'runs unless somebody cancels it' : 'waits for approval';
  return `${does}, ${scheduleWords(when, clock)}. One working day before, the keeper gets its list. Then it ${goesOn}.`;
}

function takenWords({ act, wait }: Pick<SweepDefinition, 'act' | 'wait'>): string {
  const ago = wait.n === 0 ? '' : ` ${waitWords(wait)} ago or longer`;
  switch (act.act) {
    case 'close':
      return `Closes tasks that were finished${ago}`;
    case 'archive':
      return `Archives tasks that were ${act.after}${ago}`;
    case 'purge':
      return `Moves tasks that were archived${ago} to the bin. They are erased after ${UNDO_DAYS} days`;
    case 'still needed':
      return `Asks the owners of tasks without a change for ${waitWords(wait)} whether they are still needed; ${unansweredWords(act)}`;
    case 'ask a date':
      return `Asks the owners of open tasks without a date, created${ago}, for a date`;
    case 're-date':
      return `Moves the due date of tasks overdue${wait.n === 0 ? '' : ` for ${waitWords(wait)}`} to ${act.to === 'today' ? 'today' : 'the next working day'} (owner’s date)`;
    case 'report slips':
      return `Tells the keeper which open tasks were postponed ${many(act.atLeast, 'time')} or more`;
    case 'bring back':
      return `Returns parked tasks to their former owner ${wait.n === 0 ? 'on the review date' : `${waitWords(wait)} after the review date`}`;
  }
}

function unansweredWords({ answerDays, otherwise }: Extract<SweepAct, { act: 'still needed' }>): string {
  const days = waitWords({ n: answerDays, unit: 'workday' });
  const done = { park: 'parked', close: 'closed', keep: 'kept' }[otherwise];
  return `after ${days} without an answer they are ${done}`;
}

/** What was done to a task, for reports: “closed”. */
export function doneWords({ act }: SweepAct): string {
  const words: Record<SweepActName, string> = {
    close: 'closed',
    archive: 'archived',
    purge: 'moved to the bin',
    'still needed': 'asked about',
    'ask a date': 'asked about',
    're-date': 'given a new due date',
    'report slips': 'reported',
    'bring back': 'returned'
  };
  return words[act];
}
