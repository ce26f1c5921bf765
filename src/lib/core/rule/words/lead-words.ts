import { ANCHORS } from '../../anchor/anchors.ts';
import { offsetWords } from '../../ring/why-text.ts';
import { isDayLevel, type Unit } from '../../ring/lead.ts';
import { placeOfZone } from '../../time/zone-names.ts';
import { many } from '../../many.ts';
import { TESTED } from '../condition.ts';
import { EVENT_WORDS } from '../events.ts';
import {
  isRung,
  type EventLead,
  type HandLead,
  type Lead,
  type LeadFilter,
  type OffsetLead,
  type OnceFor,
  type ScheduleLead,
  type ZoneChoice
} from '../lead-model.ts';
import { CLOCK_CHOICES, HAND_PLACE_CHOICES, WIDE_CHOICES, closedDayWords, wideOf } from './choice-words.ts';
import { BARE_NAMES, type Names } from './condition-words.ts';
import { list, quoted } from './list.ts';
import { scheduleWords } from './schedule-words.ts';

/**
 * One ring time with everything that decides when it rings:
 * “2 working days before the due date, 08:00 where the recipient is (on a closed day the working day before)”.
 * @param among the ring times of its rule: a level is numbered among them, and an earlier ring is named
 */
export function leadWords(lead: Lead, names: Names = BARE_NAMES, among: readonly Lead[] = []): string {
  const rest = leadRest(lead, names);
  const words = `${leadStart(lead, names, among)}${leadTime(lead)}`;
  return rest.length === 0 ? words : `${words} (${rest.join('; ')})`;
}

/** The ring times of a rule; those that differ only in how far from the same date they are count as one: “5 working days and 1 working day before …”. */
export function ringWords(leads: readonly Lead[], names: Names, whole: boolean): string[] {
  const groups = new Map<string, Lead[]>();
  for (const lead of leads) {
    const key = JSON.stringify(
      isGrouped(lead) ? [tail(lead, names), leadTime(lead), leadRest(lead, names)] : lead.id
    );
    groups.set(key, [...(groups.get(key) ?? []), lead]);
  }
  return [...groups.values()].map((ones) => {
    const [first] = ones as [Lead, ...Lead[]];
    const repeated = first.kind === 'offset' && first.repeat ? `, then ${everyWords(first.repeat)}` : '';
    if (ones.length === 1 || !isGrouped(first))
      return whole ? leadWords(first, names, leads) : `${leadInShort(first, names, leads)}${repeated}`;
    const starts = ones.filter(isGrouped).map((one) => amountOf(one));
    const words = `${list(starts)} ${tail(first, names)}${leadTime(first)}`;
    const rest = leadRest(first, names);
    if (!whole) return `${words}${repeated}`;
    return rest.length > 0 ? `${words} (${rest.join('; ')})` : words;
  });
}

/** A ring time as it is told apart from the others of its rule: without what it does on a closed day and for which tasks it is. */
export function leadInShort(lead: Lead, names: Names = BARE_NAMES, among: readonly Lead[] = []): string {
  return `${leadStart(lead, names, among)}${leadTime(lead)}`;
}

/** Counted from a date, and neither on it nor a level: what can be said of several at once. */
function isGrouped(lead: Lead): lead is OffsetLead {
  return lead.kind === 'offset' && !isRung(lead) && lead.n !== 0 && lead.after === undefined;
}

function amountOf({ n, unit }: Pick<OffsetLead, 'n' | 'unit'>): string {
  return offsetWords(n, unit).replace(/ (before|after)$/, '');
}

/** “every working day”, “every 3 days” */
function everyWords({ n, unit }: Pick<OffsetLead, 'n' | 'unit'>): string {
  return `every ${amountOf({ n, unit }).replace(/^1 /, '')}`;
}

function tail(lead: OffsetLead, names: Names): string {
  return `${lead.n < 0 ? 'before' : 'after'} the ${anchorWords(lead, names, [])}`;
}

function leadStart(lead: Lead, names: Names, among: readonly Lead[]): string {
  switch (lead.kind) {
    case 'offset':
      return offsetStart(lead, names, among);
    case 'schedule':
      return scheduleWords(lead, clockWords(lead));
    case 'event':
      return `when ${EVENT_WORDS[lead.event]}${changeWords(lead, names)}`;
    case 'by hand':
      return handWords(lead);
  }
}

function offsetStart(lead: OffsetLead, names: Names, among: readonly Lead[]): string {
  if (isRung(lead)) {
    const number = among.filter(isRung).findIndex(({ id }) => id === lead.id) + 1;
    return `${number > 0 ? `level ${number} ` : ''}${overdueBy(lead)}`;
  }
  const anchor = anchorWords(lead, names, among);
  if (lead.n !== 0) return `${offsetWords(lead.n, lead.unit)} the ${anchor}`;
  return isDayLevel(lead.unit) ? `on the ${anchor}` : `at the ${anchor}`;
}

function anchorWords(lead: OffsetLead, names: Names, among: readonly Lead[]): string {
  if (lead.anchor === 'own date' && lead.field)
    return `date “${names.field(lead.field.id)}”${lead.field.end === 'until' ? ' (its end)' : ''}`;
  if (lead.anchor === 'earlier ring') {
    const earlier = among.find(({ id }) => id === lead.after);
    if (earlier && earlier.id !== lead.id) return `ring “${leadInShort(earlier, names)}”`;
  }
  return isDayLevel(lead.unit) ? ANCHORS[lead.anchor].day : ANCHORS[lead.anchor].moment;
}

/** When a level of a ladder rings: “as soon as it is overdue”, “when it is overdue by 8 working hours”. */
function overdueBy({ n, unit }: { n: number; unit: Unit }): string {
  if (n === 0) return 'as soon as it is overdue';
  const amount = amountOf({ n, unit });
  return n < 0 ? `${amount} before it is overdue` : `when it is overdue by ${amount}`;
}

/** “, 09:00 where the recipient is”; nothing where a schedule has said it, or where nothing is read on a clock. */
function leadTime(lead: Lead): string {
  return lead.kind === 'offset' && lead.time !== null ? `, ${lead.time} ${clockWords(lead)}` : '';
}

/** What else decides when and for which tasks it rings. */
function leadRest(lead: Lead, names: Names): string[] {
  return [
    ...(lead.kind === 'offset' ? offsetRest(lead, names) : []),
    ...(lead.kind === 'schedule'
      ? [closedDayWords(lead.closedDay, calendarOfClock(lead.zone)), ...onceWords(lead, names)]
      : []),
    ...(lead.kind === 'event' ? [WIDE_CHOICES[wideOf(lead)]] : []),
    ...onlyWords(lead.only, names)
  ];
}

function offsetRest(lead: OffsetLead, names: Names): string[] {
  const { repeat, instead = [] } = lead;
  return [
    ...(isDayLevel(lead.unit) || lead.closedDay !== 'as-is' ? [closedDayWords(lead.closedDay)] : []),
    // Without a time of its own the clock still decides which day it is, and so what is closed.
    ...(lead.time === null && lead.zone.of !== 'recipient' ? [dayOnClock(lead)] : []),
    ...(repeat ? [`then ${everyWords(repeat)}, ${many(repeat.most, 'notice')} at most`] : []),
    ...instead.map(({ only, n, unit }) => `${overdueBy({ n, unit })} ${onlyWords(only, names).join('')}`)
  ];
}

function onlyWords(only: LeadFilter | null, names: Names): string[] {
  if (!only) return [];
  const parts = [
    only.priorities.length > 0 ? `${list(only.priorities, 'or')} priority` : '',
    only.tags.length > 0 ? `the tag ${list(only.tags.map(quoted), 'or')}` : '',
    only.groups.length > 0 ? `an owner in ${list(only.groups.map(names.group), 'or')}` : ''
  ].filter(Boolean);
  return parts.length === 0 ? [] : [`for tasks with ${parts.join(' and ')}`];
}

/** Of an event that is a change: from what to what, and of which field. */
function changeWords({ from = [], to = [], field }: EventLead, names: Names): string {
  const value = (one: string | number) => (typeof one === 'number' ? names.status(one) : one);
  return [
    field === undefined ? '' : ` (${typeof field === 'number' ? `“${names.field(field)}”` : field})`,
    from.length === 0 ? '' : ` from ${list(from.map(value), 'or')}`,
    to.length === 0 ? '' : ` to ${list(to.map(value), 'or')}`
  ].join('');
}

function handWords({ caption, places = ['task'] }: HandLead): string {
  return `by hand with ${quoted(caption)} ${list(places.map((place) => HAND_PLACE_CHOICES[place]))}`;
}

/** “once per reminder date, once it has come, from 2026-03-02 on”; nothing where it rings each time. */
function onceWords({ oncePerDate, onceFor, since }: ScheduleLead, names: Names): string[] {
  if (!oncePerDate) return [];
  const open = since === undefined ? '' : `, once it has come, from ${since} on`;
  return [`once per ${onceDateWords(onceFor, names)}${open}`];
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

/** Whose date it goes by, where it has no time: “by the date where the owner is”. */
function dayOnClock(lead: OffsetLead): string {
  return lead.zone.of === 'workspace' ? 'by the date in workspace time' : `by the date ${clockWords(lead)}`;
}

/** On whose clock a time is read: “where the owner is”. */
function clockWords({ zone }: Pick<Lead, 'zone'>): string {
  if (zone.of === 'named') return `in ${placeOfZone(zone.zone)}`;
  return CLOCK_CHOICES[zone.of];
}
