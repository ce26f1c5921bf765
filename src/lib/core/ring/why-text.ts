import type { Anchor } from '../anchor/descriptor.ts';
import { ANCHORS, type LeadAnchor } from '../anchor/anchors.ts';
import { longDate, longZoned } from '../time/format.ts';
import { placeOfZone } from '../time/zone-names.ts';
import type { WhyCode, WhyStep } from './why.ts';

type Params = WhyStep['params'];

const anchorOf = ({ kind }: Params) => ANCHORS[kind as LeadAnchor] as Anchor | undefined;

/** The one place that turns a step into a sentence, with weekday, date and holiday name. */
const SENTENCES: Record<WhyCode, (p: Params) => string> = {
  'anchor-date': (p) => `The ${anchorOf(p)?.day ?? `${p.kind} date`} is ${longDate(text(p.date))}.`,
  'anchor-date-time': (p) =>
    `${anchorOf(p)?.stands ?? 'The reminder is set for'} ${longZoned(text(p.instant))}.`,
  'anchor-read-elsewhere': (p) =>
    `That moment is ${longDate(text(p.date))} in ${place(p.zone)} (in ${place(p.ownZone)} it is ${longDate(text(p.ownDate))}).`,
  'due-moment': (p) => `A due date ends with its day: ${longZoned(text(p.instant))}.`,
  'due-zone': (p) => `The day is that of ${p.of}, in ${place(p.zone)}.`,
  'start-moment': (p) => `A start date begins with its day: ${longZoned(text(p.instant))}.`,
  offset: (p) =>
    `${offsetWords(Number(p.n), text(p.unit))} is ${dateOrMoment(text(p.to))}.${passed(text(p.closed ?? ''))}`,
  'closed-day-moved': (p) => `${closedWords(p)}, so it moves ${direction(p)} to ${longDate(text(p.to))}.`,
  'closed-day-kept': (p) => `${closedWords(p)}; the rule keeps the date as it is.`,
  'closed-day-skipped': (p) => `${closedWords(p)}; the rule does not ring then.`,
  'wall-time': (p) => `The rule rings at ${p.time} in ${place(p.zone)}.`,
  'own-time': (p) => `It keeps its own time, ${p.time} in ${place(p.zone)}.`,
  'notice-time': (p) =>
    `The rule names no time, so it rings at the notice time, ${p.time} in ${place(p.zone)}.`,
  'clock-gap': (p) =>
    `On ${longDate(text(p.date))} the clocks in ${place(p.zone)} go forward over ${p.time}, so it is ${text(p.instant).slice(11, 16)}.`,
  'clock-overlap': (p) =>
    `On ${longDate(text(p.date))} the clocks in ${place(p.zone)} go back and ${p.time} comes twice; the first is taken.`,
  repeat: (p) =>
    `Repeat ${p.k}, ${p.n} ${unitWords(text(p.unit), Number(p.n))} on, is ${dateOrMoment(text(p.to))}.`,
  'away-stand-in': (p) => `${away(p)}; it goes to ${p.to || 'the stand-in'} in ${place(p.zone)}.`,
  'away-manager': (p) =>
    `${away(p)}${MANAGER_SINCE[text(p.since)] ?? ''}; it goes to ${p.to || 'the manager'} in ${place(p.zone)}.`,
  'away-waits': (p) =>
    `${p.who} is on leave on ${longZoned(text(p.at))}; it waits until ${longZoned(text(p.to))}.`,
  held: (p) =>
    `${longZoned(text(p.from))} is outside working hours; it is held until ${longZoned(text(p.to))}.`,
  'held-quiet': (p) =>
    `${longZoned(text(p.from))} is in quiet hours; it is held until ${longZoned(text(p.to))}.`,
  'never-reachable': (p) => `Nobody can be reached within ${p.days} days, so it is not sent.`,
  'same-moment': (p) => `Another ring of this rule (${p.kept}) comes at the same moment and is sent instead.`,
  'late-bell': (p) => `It would leave when the date is over (${longZoned(text(p.useBy))}): a late bell.`,
  'late-not-rung': (p) =>
    `It would leave when the date is over (${longZoned(text(p.useBy))}); the rule does not ring then.`,
  'late-rung-anyway': (p) =>
    `Held, it would come when the date is over; the rule rings at its own time all the same, ${longZoned(text(p.at))}.`,
  'brought-forward': (p) =>
    `It would leave on ${longZoned(text(p.from))}, when the date is over; it is brought forward to ${longZoned(text(p.to))}.`,
  'no-address': (p) => `${p.name} has no mail address, so it is not sent.`,
  deactivated: (p) => `${p.name} is deactivated, so it is not sent.`,
  capped: (p) =>
    `${longDate(text(p.date))} has the ${p.cap} messages already that are ${p.name}’s most for a day; it is kept for ${longZoned(text(p.to))} and leaves together with the others.`,
  'caught-up': (p) =>
    `The moment had passed when ${p.cause}; the latest ring is made up for ${p.how === 'now' ? 'at once' : 'at the next opening'}.`,
  'at-once': (p) => `It rings ${p.lead}: ${longZoned(text(p.instant))}.`,
  'once-for': (p) => `Its ${p.name} is ${longDate(text(p.date))}; it rings once for that.`,
  'schedule-moved': (p) =>
    `${longDate(text(p.date))} is closed by ${p.calendar}; it rings on ${longDate(text(p.to))}.`,
  'schedule-passed': (p) =>
    `By then ${longZoned(text(p.instant))} had passed on that clock; it rings once all the same.`,
  hushed: (p) => `${p.what} is quiet until ${longZoned(text(p.until))}, so it is not sent.`,
  'quiet-said': (p) =>
    `${p.name} has said that they are on it, and is not asked until ${longZoned(text(p.until))}.`,
  snoozed: (p) => `${p.name} put it off until ${longZoned(text(p.at))}.`,
  'quiet-stuck': (p) => `The task waits for others, so ${p.name} is not asked about it.`,
  'already-told': (p) =>
    `The rule “${p.rule}” had told ${p.name} the same on ${longZoned(text(p.at))}, so it is not said again.`,
  enough: (p) => `${p.most} notices have left, which is the most this rule sends.`,
  'after-owner': (p) => `Whoever owns the task hears first, on ${longZoned(text(p.at))}; this waits for it.`,
  folded: (p) => `The rule keeps it for ${p.name}’s next gathered message, ${longZoned(text(p.to))}.`,
  faulty: (p) => `The rule could not be computed for this task: ${p.message}`,
  'own-silence': (p) => `${p.name} wants no reminder of this task, so it is not sent.`,
  'ladder-start': (p) =>
    `The clock of the ladder starts ${LADDER_STARTS[text(p.by)]}: ${longZoned(text(p.at))}.`,
  'ladder-pause': (p) =>
    `It stands still from ${longZoned(text(p.from))} ${p.until ? `until ${longZoned(text(p.until))}` : 'on'}: ${PAUSE_WORDS[text(p.why)]}.`,
  'ladder-rung': (p) =>
    `Rung ${p.rung} comes ${p.n === 0 ? 'at once' : `after ${p.n} ${unitWords(text(p.unit), Number(p.n))}`}${Number(p.k) > 0 ? `, and is repeated (${p.k})` : ''}: ${longZoned(text(p.at))}.`,
  'ladder-in-order': (p) =>
    `Rung ${p.rung} would come before rung ${p.lower}; it rings right after that: ${longZoned(text(p.at))}.`,
  'ladder-woken': (p) =>
    `What was acknowledged ran out on ${longZoned(text(p.until))}; rung ${p.rung} is the next one and rings at the next opening, ${longZoned(text(p.at))}.`,
  'ladder-caught-up': (p) =>
    `The ladder stood still then, until ${longZoned(text(p.until))}; this rung is caught up at the next opening, ${longZoned(text(p.at))}.`,
  'ladder-waits': () =>
    'The task waits for others, so it waits too; it is sent when that is over, if it is still true.',
  'ladder-still': (p) => `The ladder stands still: ${PAUSE_WORDS[text(p.why)]}.`
};

const LADDER_STARTS: Readonly<Record<string, string>> = {
  due: 'at the due moment',
  created: 'when the task came in',
  're-dated': 'when its date was moved',
  assigned: 'when the task came to its owner'
};

/** Why the manager is asked for somebody on leave. */
const MANAGER_SINCE: Readonly<Record<string, string>> = {
  rule: ', and the rule asks the manager then',
  none: ', and nobody was named to stand in',
  away: ', and so is whoever was named to stand in'
};

/** Why the clock of a ladder stands still. */
const PAUSE_WORDS: Readonly<Record<string, string>> = {
  'waits for others': 'the task waits for others',
  finished: 'the task was finished',
  acknowledged: 'it was acknowledged',
  hushed: 'it is quiet',
  away: 'its owner is on leave'
};

/** The sentence of one step. */
export function whyText({ code, params }: WhyStep): string {
  return SENTENCES[code](params);
}

/** An offset in words: “2 working days before”, “On the day”, “1 hour after”. */
export function offsetWords(n: number, unit: string): string {
  if (n === 0) return unit === 'minute' || unit === 'hour' ? 'At the moment itself' : 'On the day';
  const count = Math.abs(n);
  return `${count} ${unitWords(unit, count)} ${n < 0 ? 'before' : 'after'}`;
}

function unitWords(unit: string, count: number): string {
  const word = unit.startsWith('work') ? `working ${unit.slice(4)}` : unit;
  return count === 1 ? word : `${word}s`;
}

function away(p: Params): string {
  return `${p.who} is on leave on ${longZoned(text(p.at))}, until ${longZoned(text(p.until))}`;
}

function closedWords(p: Params): string {
  return `${longDate(text(p.from))} is closed${p.name ? ` (${p.name})` : ''}`;
}

function direction(p: Params): string {
  return text(p.to) < text(p.from) ? 'earlier' : 'later';
}

function passed(closed: string): string {
  if (!closed) return '';
  const days = closed.split(', ').map((entry) => `${longDate(entry.slice(0, 10))} (${entry.slice(11)})`);
  return ` Not counted: ${days.join(', ')}.`;
}

function dateOrMoment(value: string): string {
  return value.length === 10 ? longDate(value) : longZoned(value);
}

function place(zone: string | number | undefined): string {
  return placeOfZone(text(zone));
}

function text(value: string | number | undefined): string {
  return String(value ?? '');
}
