import type { Unit } from '$lib/core/ring/lead.ts';
import { CLOSED_DAY_CHOICES } from '$lib/core/rule/words/choice-words.ts';
import { ANCHORS, LEAD_ANCHORS, type LeadAnchor } from '$lib/core/anchor/anchors.ts';
import { wordOptions, type Option } from '$lib/ui/pick/option.ts';

const UNITS: readonly [Unit, string, string][] = [
  ['workday', 'working day', 'working days'],
  ['day', 'day', 'days'],
  ['week', 'week', 'weeks'],
  ['month', 'month', 'months'],
  ['hour', 'hour', 'hours'],
  ['minute', 'minute', 'minutes'],
  ['workhour', 'working hour', 'working hours'],
  ['workminute', 'working minute', 'working minutes']
];

/** Units as they are said of one or of several. */
export const unitOptions = (n: number): Option<Unit>[] =>
  UNITS.map(([value, one, many]) => ({ value, label: n === 1 ? one : many }));

/** What a ring time does on a closed day. */
export const CLOSED_OPTIONS = wordOptions(CLOSED_DAY_CHOICES);

/** What a ring time can be counted from, as a day or as a moment; only what is there to be counted from is offered. */
export const anchorOptions = (dayLevel: boolean, has: { fields: boolean; others: boolean }) =>
  LEAD_ANCHORS.filter((anchor) => {
    if (anchor === 'own date') return has.fields;
    return anchor === 'earlier ring' ? has.others : ANCHORS[anchor].offered;
  }).map((value): Option<LeadAnchor> => {
    const { day, moment } = ANCHORS[value];
    return { value, label: dayLevel ? day : moment };
  });
