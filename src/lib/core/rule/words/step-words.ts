import { CHANNEL } from '../../channel/channels.ts';
import { many } from '../../many.ts';
import { KINDS } from '../../notice/kinds.ts';
import { offsetWords } from '../../ring/why-text.ts';
import { isDayLevel } from '../../ring/lead.ts';
import { isRung, type Lead } from '../lead-model.ts';
import type { Do, Recipient, Step, Tell, Wait } from '../step-model.ts';
import { actOrder, assigneeWords } from './act-words.ts';
import type { Names } from './condition-words.ts';
import {
  AFTER_WAIT_CHOICES,
  AWAY_CHOICES,
  FOLD_CHOICES,
  FORCE_CHOICES,
  GATHER_CHOICES,
  REACH_CHOICES,
  afterWaitOf,
  closedDayWords
} from './choice-words.ts';
import { leadInShort } from './lead-words.ts';
import { list, quoted } from './list.ts';
import { recipientWords } from './recipient-words.ts';

/** How much of a step is said: who hears and what changes, or everything that decides it. */
export interface Said {
  names: Names;
  /** The ring times of the rule that are on. */
  leads: readonly Lead[];
  whole: boolean;
}

/** One step in short, for lists of steps and of what they did: “tell the owner”. */
export function stepInShort(step: Step, names: Names): string {
  return step.kind === 'branch' ? 'choose a branch' : stepWords(step, { names, leads: [], whole: false });
}

/** One step in words: “tell the owner (only in their working hours; …)”. The steps of a branch are parts of the sentence of the rule. */
export function stepWords(step: Exclude<Step, { kind: 'branch' }>, said: Said): string {
  return `${words(step, said)}${atWords(step.leads, said)}`;
}

function words(step: Exclude<Step, { kind: 'branch' }>, said: Said): string {
  switch (step.kind) {
    case 'tell':
      return tellWords(step, said);
    case 'do':
      return doWords(step, said);
    case 'wait':
      return waitWords(step, said);
  }
}

function tellWords(step: Tell, said: Said): string {
  if (step.to.length === 0) return 'tell nobody';
  const { names, whole } = said;
  const who = list(step.to.map((one) => `${recipientWords(one, names)}${whole ? onlyAt(one, said) : ''}`));
  const by = step.channels === null ? '' : ` ${list(step.channels.map((channel) => CHANNEL[channel].by))}`;
  if (!whole) return `tell ${who}${by}`;
  return `tell ${who}${by} (${tellChoices(step).join('; ')})`;
}

function tellChoices(step: Tell): string[] {
  return [
    ...(step.force ? [FORCE_CHOICES[step.force]] : []),
    REACH_CHOICES[step.reach],
    `on leave: ${AWAY_CHOICES[step.away]}`,
    GATHER_CHOICES[step.gather],
    ...(step.fold ? [FOLD_CHOICES.fold] : []),
    ...(step.noticeKind ? [`as “${KINDS[step.noticeKind].words}”`] : []),
    ...(step.importance === 'high' ? ['marked as important'] : []),
    ...(step.attach.length > 0 ? [`with ${list(step.attach.map((file) => `a ${file} file`))}`] : [])
  ];
}

/** At which ring times alone a recipient hears: “ only at level 2”. */
function onlyAt({ leads }: Recipient, said: Said): string {
  return leads === undefined ? '' : atWords(leads, said);
}

/** At which of several ring times something is done, where it is not at all of them: “, only at levels 2 and 3”. */
function atWords(answered: readonly string[] | null, { leads, names }: Said): string {
  if (answered === null || leads.every(({ id }) => answered.includes(id))) return '';
  const levels = leads
    .filter(isRung)
    .flatMap(({ id }, i) => (answered.includes(id) ? [`level ${i + 1}`] : []));
  const others = leads.filter((lead) => !isRung(lead) && answered.includes(lead.id));
  const at = [...levels, ...others.map((lead) => quoted(leadInShort(lead, names, leads)))];
  return at.length === 0 ? ', at no ring time' : `, only at ${list(at)}`;
}

function doWords({ acts, ask }: Do, { names, whole }: Said): string {
  const done =
    acts.length === 0
      ? 'change nothing'
      : list(acts.map((act) => `${actOrder(act, names)}${whole ? actDetails(act, names) : ''}`));
  if (!ask) return done;
  if (!whole) return `${done}, after asking`;
  return `${done}, after asking ${quoted(ask.question)} (no answer in ${many(ask.workingDays, 'working day')} counts as ${ask.otherwise})`;
}

/** Of a follow-up what decides whom it reaches, beside its name and due date. */
function actDetails(act: Do['acts'][number], names: Names): string {
  if (act.act !== 'follow-up') return '';
  const owner = act.owner === null ? 'no owner' : `owner: ${assigneeWords(act.owner, names)}`;
  return ` (${[owner, ...(act.priority ? [`${act.priority} priority`] : [])].join('; ')})`;
}

function waitWords(wait: Wait, { whole }: Said): string {
  const { n, unit, time, closedDay } = wait;
  const amount = offsetWords(n, unit).replace(/ after$/, '');
  const until = time === null ? '' : ` until ${time} where the owner is`;
  if (!whole) return `wait ${amount}`;
  const rest = [
    ...(isDayLevel(unit) ? [closedDayWords(closedDay)] : []),
    AFTER_WAIT_CHOICES[afterWaitOf(wait)]
  ];
  return `wait ${amount}${until} (${rest.join('; ')})`;
}
