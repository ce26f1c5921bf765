import { list } from '../rule/list-words.ts';
import { scheduleWords } from '../rule/schedule-words.ts';
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
  close: 'close what is finished, after a last look',
  archive: 'archive what is done with',
  purge: 'purge the archive',
  'still needed': 'ask of stale work whether it is still needed',
  'ask a date': 'ask for a date where there is none',
  're-date': 're-date what is overdue',
  'report slips': 'report what slips again and again',
  'bring back': 'bring back what was parked past its review date'
};

/** `7 days`, `a working day` */
export function waitWords({ n, unit }: SweepWait): string {
  const name = unit === 'workday' ? 'working day' : unit;
  return n === 1 ? `${unit === 'hour' ? 'an' : 'a'} ${name}` : `${n} ${name}s`;
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
    watch.condition === null ? '' : ', where its condition holds'
  ].join('');
  const does = `${takenWords(definition)}${where}`;
  if (when.by === 'hand') return `${does}, whenever somebody runs it.`;
  const clock = when.zone === null ? 'on the workspace’s clock' : `in ${placeOfZone(when.zone)}`;
  const goesOn =
    goes === 'unless stopped' ? 'runs unless somebody stops it' : 'waits until somebody says yes';
  return `${does}, ${scheduleWords(when, clock)}. One working day before, its list goes to the keeper; then it ${goesOn}.`;
}

function takenWords({ act, wait }: Pick<SweepDefinition, 'act' | 'wait'>): string {
  const ago = wait.n === 0 ? '' : ` ${waitWords(wait)} ago or longer`;
  switch (act.act) {
    case 'close':
      return `Closes what was finished${ago}`;
    case 'archive':
      return `Archives what was ${act.after}${ago}`;
    case 'purge':
      return `Puts what was archived${ago} into the bin, which it leaves for good after ${UNDO_DAYS} days`;
    case 'still needed':
      return `Asks the owner of what nobody has touched for ${waitWords(wait)} whether it is still needed, and ${unansweredWords(act)}`;
    case 'ask a date':
      return `Asks the owner of open work that was made${ago} and has no date for one`;
    case 're-date':
      return `Re-dates what is overdue${wait.n === 0 ? '' : ` since ${waitWords(wait)}`} to ${act.to === 'today' ? 'today' : 'the next working day'} of its owner`;
    case 'report slips':
      return `Tells the keeper which open tasks were moved later ${act.atLeast} times or more`;
    case 'bring back':
      return `Gives what is parked back to whoever parked it ${wait.n === 0 ? 'on its review date' : `${waitWords(wait)} after its review date`}`;
  }
}

function unansweredWords({ answerDays, otherwise }: Extract<SweepAct, { act: 'still needed' }>): string {
  const days = waitWords({ n: answerDays, unit: 'workday' });
  const does = { park: 'parks it', close: 'closes it', keep: 'keeps it' }[otherwise];
  return `after ${days} without an answer ${does}`;
}

/** What was done to a task, for reports: “closed”. */
export function doneWords({ act }: SweepAct): string {
  const words: Record<SweepActName, string> = {
    close: 'closed',
    archive: 'archived',
    purge: 'put into the bin',
    'still needed': 'asked about',
    'ask a date': 'asked about',
    're-date': 're-dated',
    'report slips': 'reported',
    'bring back': 'brought back'
  };
  return words[act];
}
