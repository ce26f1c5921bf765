import { offsetWords } from '../ring/why-text.ts';
import { isDayLevel, type ClosedDayRule } from '../ring/lead.ts';
import { placeOfZone } from '../time/zone-names.ts';
import type { AwayChoice } from '../ring/reader.ts';
import {
  OPEN_PHASES,
  PRIORITIES,
  type Lead,
  type LeadAnchor,
  type RuleDefinition,
  type Tell,
  type Watch
} from './model.ts';

const CLOSED_DAY_WORDS: Record<ClosedDayRule, string> = {
  'as-is': 'on closed days too',
  earlier: 'earlier if that day is closed',
  later: 'later if that day is closed',
  onward: 'onward if that day is closed',
  nearest: 'on the nearest working day if that day is closed',
  'later-in-month': 'later if that day is closed, within its month',
  'earlier-in-month': 'earlier if that day is closed, within its month',
  skip: 'not at all if that day is closed'
};

const DATE_WORDS: Record<LeadAnchor, string> = {
  due: 'due date',
  start: 'start date',
  'remind on': 'reminder date'
};
const MOMENT_WORDS: Record<LeadAnchor, string> = {
  due: 'due moment',
  start: 'start',
  'remind on': 'reminder date'
};

const REACH_WORDS: Record<Tell['reach'], string> = {
  'working hours': ', in their working hours',
  'outside quiet hours': ', outside their quiet hours',
  'any time': ''
};
const AWAY_WORDS: Record<AwayChoice, string> = {
  'stand-in': '',
  pass: '; on leave, their manager instead',
  wait: '; on leave, when they are back'
};

/** The whole rule as one plain sentence for its author. */
export function readBack(definition: RuleDefinition, projectName: (id: number) => string): string {
  const leads = definition.leads.filter((lead) => lead.on);
  const { tell } = definition;
  const rings = leads.length === 0 ? 'it never rings' : `it rings ${list(leads.map(leadWords))}`;
  const who =
    tell.to === null
      ? 'and tells nobody'
      : `and mails ${tell.to === 'owner' ? 'the owner' : 'the owner’s manager'}`;
  const how = tell.to === null ? '' : `${REACH_WORDS[tell.reach]}${AWAY_WORDS[tell.away]}`;
  return `For ${watchWords(definition.watch, projectName)}, ${rings} ${who}${how}.`;
}

/** The Watch in words: “tasks in Permit renewals that are open”. */
export function watchWords(watch: Watch, projectName: (id: number) => string): string {
  const where =
    watch.projects === null
      ? 'all tasks'
      : `tasks in ${list(watch.projects.map(projectName), 'or') || 'no project'}`;
  const open =
    OPEN_PHASES.every((phase) => watch.phases.includes(phase)) && watch.phases.length === OPEN_PHASES.length;
  const state = open ? 'open' : list(watch.phases, 'or') || 'in no phase';
  const priority =
    watch.priorities.length === PRIORITIES.length
      ? ''
      : ` with ${list(watch.priorities, 'or') || 'no'} priority`;
  return `${where} that are ${state}${priority}`;
}

/** One lead in words: “2 working days before the due date at 08:00 (earlier if that day is closed)”. */
export function leadWords(lead: Lead): string {
  const anchor = isDayLevel(lead.unit) ? DATE_WORDS[lead.anchor] : MOMENT_WORDS[lead.anchor];
  const offset = offsetWords(lead.n, lead.unit);
  const when =
    lead.n === 0
      ? isDayLevel(lead.unit)
        ? `on the ${anchor}`
        : `at the ${anchor}`
      : `${offset} the ${anchor}`;
  const time = lead.time === null ? '' : ` at ${lead.time} ${clockWords(lead)}`;
  const closed =
    isDayLevel(lead.unit) || lead.closedDay !== 'as-is' ? ` (${CLOSED_DAY_WORDS[lead.closedDay]})` : '';
  return `${when}${time}${closed}`;
}

function clockWords({ zone }: Lead): string {
  if (zone.of === 'named') return `in ${placeOfZone(zone.zone)}`;
  return `on the ${zone.of}’s clock`;
}

function list(items: readonly string[], word = 'and'): string {
  return items.length < 2
    ? items.join('')
    : `${items.slice(0, -1).join(', ')} ${word} ${items[items.length - 1]!}`;
}
