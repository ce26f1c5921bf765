import { CLOSED_DAY_RULES, type Unit } from '$lib/core/ring/lead.ts';
import type { LeadAnchor } from '$lib/core/rule/lead-model.ts';
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

const CLOSED: Record<(typeof CLOSED_DAY_RULES)[number], string> = {
  earlier: 'ring earlier',
  later: 'ring later',
  onward: 'ring onward',
  nearest: 'ring on the nearest day',
  'later-in-month': 'ring later, within the month',
  'earlier-in-month': 'ring earlier, within the month',
  'as-is': 'ring all the same',
  skip: 'do not ring'
};
/** What a ring time does on a closed day. */
export const CLOSED_OPTIONS = wordOptions(CLOSED);

const ANCHORS: readonly [LeadAnchor, string, string][] = [
  ['due', 'due date', 'due moment'],
  ['start', 'start date', 'start'],
  ['remind on', 'reminder date', 'reminder date'],
  ['finished', 'day it was finished', 'finish'],
  ['created', 'day it was created', 'creation'],
  ['assigned', 'day it was assigned', 'assignment'],
  ['last touched', 'day it was last touched', 'last touch'],
  ['phase entered', 'day it came into its phase', 'coming into its phase'],
  ['closed', 'day it was closed', 'closing'],
  ['review date', 'review date', 'review date'],
  ['acknowledged', 'day it was acknowledged', 'acknowledgement'],
  ['promise date', 'promised date', 'end of the promised date'],
  ['own date', 'date of a field', 'date of a field'],
  ['earlier ring', 'earlier ring', 'earlier ring']
];

/** What a ring time can be counted from, as a day or as a moment; only what is there to be counted from is offered. */
export const anchorOptions = (dayLevel: boolean, has: { fields: boolean; others: boolean }) =>
  ANCHORS.filter(([anchor]) =>
    anchor === 'own date' ? has.fields : anchor === 'earlier ring' ? has.others : true
  ).map(([value, day, moment]): Option<LeadAnchor> => ({ value, label: dayLevel ? day : moment }));
