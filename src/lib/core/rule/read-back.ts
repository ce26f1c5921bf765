import { ANCHORS } from '../anchor/anchors.ts';
import { TESTED } from './condition.ts';
import { offsetWords } from '../ring/why-text.ts';
import { isDayLevel, type ClosedDayRule } from '../ring/lead.ts';
import { placeOfZone } from '../time/zone-names.ts';
import type { LateChoice } from '../ring/if-late.ts';
import type { AwayChoice } from '../ring/reader.ts';
import { CHANNEL } from '../channel/channels.ts';
import { BARE_NAMES, conditionWords, type Names } from './condition-words.ts';
import { EVENT_WORDS } from './events.ts';
import { watchedPhases, type RuleDefinition } from './model.ts';
import type { Recipient, Step, Tell } from './step-model.ts';
import {
  isRung,
  type Lead,
  type OffsetLead,
  type OnceFor,
  type ScheduleLead,
  type ZoneChoice
} from './lead-model.ts';
import { OPEN_PHASES, PRIORITIES } from '../task/model.ts';
import { list } from './list-words.ts';
import { scheduleWords } from './schedule-words.ts';
import { actWords } from './step-words.ts';

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

const LATE_WORDS: Record<LateChoice, string> = {
  keep: '',
  'ring-anyway': '; what would come too late for the date rings at its own time, outside reach too',
  forward: '; what would come too late for the date is brought forward to the last minute of reach before',
  skip: '; what would come too late for the date does not ring'
};

/** The whole rule as one plain sentence for its author. */
export function readBack(definition: RuleDefinition, names: Names): string {
  const leads = definition.leads.filter((lead) => lead.on);
  const rings =
    leads.length === 0 ? 'it never rings' : `it rings ${list(leads.map((lead) => leadWords(lead, names)))}`;
  const steps = definition.steps.map(
    (step) => `${answeredWords(step, leads, names)}${stepWords(step, names)}`
  );
  const done = steps.length === 0 ? 'and does nothing' : `and ${steps.join(', then ')}`;
  const away =
    definition.awayStops && leads.some(isRung) ? '; its clock stands still while the owner is on leave' : '';
  // A repeat is never late: it has lost its point when the next one comes.
  const first =
    definition.ifLate !== 'keep' && leads.some((lead) => lead.kind === 'offset' && lead.repeat !== null)
      ? ' (of repeats the first ring alone)'
      : '';
  return `For ${watchWords(definition, names)}, ${rings} ${done}${LATE_WORDS[definition.ifLate]}${first}${away}${stopWords(definition, names)}.`;
}

/** At which of several ring times a step is done, where it is not at all of them: “on rungs 2 and 3 ”. */
function answeredWords({ leads: answered }: Step, leads: readonly Lead[], names: Names): string {
  if (answered === null || leads.every(({ id }) => answered.includes(id))) return '';
  const rungs = leads.filter(isRung);
  const numbers = rungs.flatMap(({ id }, i) => (answered.includes(id) ? [String(i + 1)] : []));
  const others = leads.filter((lead) => !isRung(lead) && answered.includes(lead.id));
  const words = [
    ...(numbers.length === 0 ? [] : [`on ${numbers.length === 1 ? 'rung' : 'rungs'} ${list(numbers)}`]),
    ...others.map((lead) => leadInShort(lead, names))
  ];
  return words.length === 0 ? 'never ' : `${list(words)} `;
}

function stopWords({ stop }: RuleDefinition, names: Names): string {
  const ends = [
    stop.condition ? `once ${conditionWords(stop.condition, names)}` : '',
    stop.afterNotices === null
      ? ''
      : `after ${stop.afterNotices} ${stop.afterNotices === 1 ? 'notice' : 'notices'}`,
    stop.until === null ? '' : `after ${stop.until}`
  ].filter(Boolean);
  return ends.length === 0 ? '' : `; it ends for a task ${list(ends, 'or')}`;
}

/** The Watch in words: “tasks in Permit renewals that are open”. */
export function watchWords(definition: Pick<RuleDefinition, 'watch' | 'leads'>, names: Names): string {
  const { watch } = definition;
  const phases = watchedPhases(definition);
  const where =
    watch.projects === null
      ? 'all tasks'
      : `tasks in ${list(watch.projects.map(names.project), 'or') || 'no project'}`;
  const tagged =
    watch.tags.length === 0
      ? ''
      : ` tagged ${list(
          watch.tags.map((tag) => `“${tag}”`),
          'or'
        )}`;
  const open = OPEN_PHASES.every((phase) => phases.includes(phase)) && phases.length === OPEN_PHASES.length;
  const state = open ? 'open' : list(phases, 'or') || 'in no phase';
  const priority =
    watch.priorities.length === PRIORITIES.length
      ? ''
      : ` with ${list(watch.priorities, 'or') || 'no'} priority`;
  const condition = watch.condition ? ` where ${conditionWords(watch.condition, names)}` : '';
  const listed = watch.list === null ? '' : ` of the list “${names.list(watch.list)}”`;
  const seen = watch.seen.length === 0 ? [] : [`${list(watch.seen, 'or')} ones`];
  const besides = [...seen, ...(watch.made ? ['follow-ups of other rules'] : [])];
  const goesOn = priority !== '' || condition !== '';
  const too = besides.length === 0 ? '' : `, ${list(besides, 'and')} too${goesOn ? ',' : ''}`;
  return `${where}${listed}${tagged} that are ${state}${too}${priority}${condition}`;
}

/** One lead in words: “2 working days before the due date at 08:00 (earlier if that day is closed)”. */
export function leadWords(lead: Lead, names: Names = BARE_NAMES): string {
  return `${ringWords(lead, names)}${onlyWords(lead, names)}`;
}

function ringWords(lead: Lead, names: Names): string {
  switch (lead.kind) {
    case 'offset':
      return offsetLeadWords(lead, names);
    case 'schedule':
      return `${scheduleWords(lead, clockWords(lead))} (${[closedWords(lead), ...onceWords(lead, names)].join('; ')})`;
    case 'event':
      return `as soon as ${EVENT_WORDS[lead.event]}`;
    case 'by hand':
      return `by hand (“${lead.caption}”)`;
  }
}

/** A ring time as it is told apart from the others of its rule: without whose clock it is on and what it does on a closed day. */
export function leadInShort(lead: Lead, names: Names = BARE_NAMES): string {
  if (lead.kind === 'schedule') return scheduleWords(lead, clockWords(lead));
  if (lead.kind !== 'offset') return ringWords(lead, names);
  return `${countedFrom(lead, names)}${lead.time === null ? '' : ` at ${lead.time}`}`;
}

function countedFrom(lead: OffsetLead, names: Names): string {
  if (lead.anchor === 'ladder') return rungWords(lead);
  const dayLevel = isDayLevel(lead.unit);
  const anchor =
    lead.anchor === 'own date' && lead.field
      ? `date “${names.field(lead.field.id)}”`
      : dayLevel
        ? ANCHORS[lead.anchor].day
        : ANCHORS[lead.anchor].moment;
  if (lead.n !== 0) return `${offsetWords(lead.n, lead.unit)} the ${anchor}`;
  return dayLevel ? `on the ${anchor}` : `at the ${anchor}`;
}

/** A rung: “once it is 8 working hours late”. */
function rungWords({ n, unit }: Pick<OffsetLead, 'n' | 'unit'>): string {
  if (n === 0) return 'as soon as it is late';
  const amount = offsetWords(n, unit);
  return n < 0 ? `${amount} it is late` : `once it is ${amount.replace(/ after$/, '')} late`;
}

/** The other timings of a rung: “for pressing priority once it is 4 working hours late”. */
function insteadWords({ instead = [] }: OffsetLead, names: Names): string {
  return instead
    .map(({ only, n, unit }) => `,${onlyWords({ only }, names)} ${rungWords({ n, unit })} instead`)
    .join('');
}

function offsetLeadWords(lead: OffsetLead, names: Names): string {
  const dayLevel = isDayLevel(lead.unit);
  const time = lead.time === null ? '' : ` at ${lead.time} ${clockWords(lead)}`;
  const closed = dayLevel || lead.closedDay !== 'as-is' ? ` (${CLOSED_DAY_WORDS[lead.closedDay]})` : '';
  return `${countedFrom(lead, names)}${time}${closed}${repeatWords(lead)}${insteadWords(lead, names)}`;
}

function repeatWords({ repeat }: OffsetLead): string {
  if (!repeat) return '';
  // “1 working day after” says the unit in words; only the words of the unit are wanted here.
  const every = offsetWords(repeat.n, repeat.unit)
    .replace(/ after$/, '')
    .replace(/^1 /, '');
  return `, again every ${every} until ${repeat.most} have left`;
}

function onlyWords({ only }: Pick<Lead, 'only'>, names: Names): string {
  if (!only) return '';
  const parts = [
    only.priorities.length > 0 ? `${list(only.priorities, 'or')} priority` : '',
    only.tags.length > 0
      ? `the tag ${list(
          only.tags.map((tag) => `“${tag}”`),
          'or'
        )}`
      : '',
    only.groups.length > 0 ? `an owner in ${list(only.groups.map(names.group), 'or')}` : ''
  ].filter(Boolean);
  return parts.length === 0 ? '' : ` for tasks with ${parts.join(' and ')}`;
}

/** What a schedule does on a closed day, and by whose calendar it is one: “not at all if that day is closed by the owner’s calendar”. */
function closedWords({ closedDay, zone }: ScheduleLead): string {
  return CLOSED_DAY_WORDS[closedDay].replace('is closed', `is closed by ${calendarOfClock(zone)}`);
}

/** “once for each reminder date that has come and is not yet told, from 2026-03-02 on”; nothing where it rings each time. */
function onceWords({ oncePerDate, onceFor, since }: ScheduleLead, names: Names): string[] {
  if (!oncePerDate) return [];
  const open = since === undefined ? '' : ` that has come and is not yet told, from ${since} on`;
  return [`once for each ${onceDateWords(onceFor, names)}${open}`];
}

/** What the date is called for which a schedule rings once: “reminder date”. */
export function onceDateWords(onceFor: OnceFor | undefined, names: Names): string {
  const { date, field } = onceFor ?? { date: 'due' };
  if (date !== 'own date') return TESTED[date].label;
  return field ? `date “${names.field(field.id)}”${field.end === 'until' ? ' (its end)' : ''}` : 'date';
}

/** By whose calendar a day is closed for a schedule on a clock: “the owner’s calendar”. */
export function calendarOfClock({ of }: ZoneChoice): string {
  return `the ${of === 'named' ? 'workspace' : of}’s calendar`;
}

function clockWords({ zone }: Lead): string {
  if (zone.of === 'named') return `in ${placeOfZone(zone.zone)}`;
  return `on the ${zone.of}’s clock`;
}

/** The channels that a Tell insists on. */
function channelWords({ channels }: Tell): string {
  if (channels === null) return '';
  return ` ${list(channels.map((channel) => CHANNEL[channel].by))}`;
}

/** One step in words. */
export function stepWords(step: Step, names: Names): string {
  switch (step.kind) {
    case 'tell': {
      if (step.to.length === 0) return 'tells nobody';
      const who = list(step.to.map((recipient) => recipientWords(recipient, names)));
      return `tells ${who}${channelWords(step)}${REACH_WORDS[step.reach]}${AWAY_WORDS[step.away]}`;
    }
    case 'do': {
      const acts = step.acts.map((act) => actWords(act, names));
      const done = acts.length === 0 ? 'changes nothing' : list(acts);
      return step.ask ? `${done}, after asking the owner` : done;
    }
    case 'wait':
      return `waits ${offsetWords(step.n, step.unit).replace(/ after$/, '')}${step.time ? ` until ${step.time}` : ''}`;
    case 'branch': {
      const sides = step.sides.map(
        (side) => `if ${conditionWords(side.condition, names)}, ${inner(side.steps, names)}`
      );
      const otherwise = step.otherwise.length > 0 ? `; otherwise ${inner(step.otherwise, names)}` : '';
      return `${sides.join('; ')}${otherwise}`;
    }
  }
}

function inner(steps: readonly Step[], names: Names): string {
  return steps.length === 0 ? 'nothing' : steps.map((step) => stepWords(step, names)).join(', then ');
}

/** One recipient in words. */
export function recipientWords(recipient: Recipient, names: Names): string {
  const copy = recipient.as && recipient.as !== 'to' ? ' by a copy' : '';
  return `${whoWords(recipient, names)}${copy}`;
}

function whoWords(recipient: Recipient, names: Names): string {
  switch (recipient.who) {
    case 'owner':
      return 'the owner';
    case 'manager':
      return recipient.up === 1
        ? 'the owner’s manager'
        : `the manager ${recipient.up} levels above the owner`;
    case 'above':
      return recipient.up === 1
        ? 'the next one above the owner'
        : `whoever stands ${recipient.up} levels above the owner`;
    case 'creator':
      return 'whoever made it';
    case 'keeper':
      return 'the rule’s keeper';
    case 'coordinator':
      return 'the coordinators';
    case 'actor':
      return 'whoever acted';
    case 'members':
      return recipient.role ? `the project’s members as “${recipient.role}”` : 'the project’s members';
    case 'person':
      return names.person(recipient.id);
    case 'group':
      return `the group ${names.group(recipient.id)}`;
    case 'field':
      return `the people in “${names.field(recipient.id)}”`;
    case 'contacts':
      return 'its outside contacts';
    case 'address':
      return recipient.address;
    case 'readers':
      return `the reader list ${names.readers(recipient.id)}`;
  }
}
