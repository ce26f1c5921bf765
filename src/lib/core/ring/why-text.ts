import { agree, many } from '../many.ts';
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
    `That is ${longDate(text(p.date))} in ${place(p.zone)} (in ${place(p.ownZone)} it is ${longDate(text(p.ownDate))}).`,
  'due-moment': (p) => `A due date ends with its day: ${longZoned(text(p.instant))}.`,
  'due-zone': (p) => `The day is that of ${p.of}, in ${place(p.zone)}.`,
  'start-moment': (p) => `A start date begins with its day: ${longZoned(text(p.instant))}.`,
  offset: (p) =>
    `${offsetWords(Number(p.n), text(p.unit))} is ${dateOrMoment(text(p.to))}.${passed(text(p.closed ?? ''))}`,
  'closed-day-moved': (p) => `${closedWords(p)}, so it moves ${direction(p)} to ${longDate(text(p.to))}.`,
  'closed-day-kept': (p) => `${closedWords(p)}. The rule keeps the date.`,
  'closed-day-skipped': (p) => `${closedWords(p)}. The rule does not ring then.`,
  'wall-time': (p) => `The rule rings at ${p.time} in ${place(p.zone)}.`,
  'own-time': (p) => `It keeps its own time, ${p.time} in ${place(p.zone)}.`,
  'notice-time': (p) =>
    `The rule sets no time, so it rings at the notice time, ${p.time} in ${place(p.zone)}.`,
  'clock-gap': (p) =>
    `On ${longDate(text(p.date))} the clocks in ${place(p.zone)} skip ${p.time}, so it is ${text(p.instant).slice(11, 16)}.`,
  'clock-overlap': (p) =>
    `On ${longDate(text(p.date))} the clocks in ${place(p.zone)} go back and ${p.time} occurs twice. The first is used.`,
  repeat: (p) =>
    `Repeat ${p.k}, ${p.n} ${unitWords(text(p.unit), Number(p.n))} later, is ${dateOrMoment(text(p.to))}.`,
  'away-stand-in': (p) => `${away(p)}. The notice goes to ${p.to || 'the stand-in'} in ${place(p.zone)}.`,
  'away-manager': (p) =>
    `${away(p)}${MANAGER_SINCE[text(p.since)] ?? ''}. The notice goes to ${p.to || 'the manager'} in ${place(p.zone)}.`,
  'away-waits': (p) =>
    `${p.who} is on leave on ${longZoned(text(p.at))}. The notice waits until ${longZoned(text(p.to))}.`,
  held: (p) =>
    `${longZoned(text(p.from))} is outside working hours. The notice waits until ${longZoned(text(p.to))}.`,
  'held-quiet': (p) =>
    `${longZoned(text(p.from))} is in quiet hours. The notice waits until ${longZoned(text(p.to))}.`,
  'never-reachable': (p) => `Nobody can be told within ${p.days} days: not sent.`,
  'same-moment': (p) => `Another ring of this rule (${p.kept}) comes at the same time and is sent instead.`,
  'late-bell': (p) => `It would be sent after the date (${longZoned(text(p.useBy))}): a late bell.`,
  'late-not-rung': (p) =>
    `It would be sent after the date (${longZoned(text(p.useBy))}). The rule does not ring then.`,
  'late-rung-anyway': (p) =>
    `If held, it would come too late. The rule rings on time anyway, ${longZoned(text(p.at))}.`,
  'brought-forward': (p) =>
    `It would be sent on ${longZoned(text(p.from))}, after the date. It is sent earlier, on ${longZoned(text(p.to))}.`,
  'no-address': (p) => `${p.name} has no mail address: not sent.`,
  deactivated: (p) => `${p.name} is deactivated: not sent.`,
  capped: (p) =>
    `${p.name} already has ${p.cap} messages on ${longDate(text(p.date))}, the daily limit. This one is sent with others on ${longZoned(text(p.to))}.`,
  'caught-up': (p) =>
    `Its time was past when ${p.cause}. The latest ring is sent ${p.how === 'now' ? 'at once' : 'when they can next be told'}.`,
  'at-once': (p) => `It rings ${p.lead}: ${longZoned(text(p.instant))}.`,
  'once-for': (p) => `Its ${p.name} is ${longDate(text(p.date))}. The rule rings once for that.`,
  'schedule-moved': (p) =>
    `${longDate(text(p.date))} is closed by ${p.calendar}. The rule rings on ${longDate(text(p.to))}.`,
  'schedule-passed': (p) =>
    `${longZoned(text(p.instant))} was already past on that clock. The rule rings once anyway.`,
  hushed: (p) => `${p.what} is hushed until ${longZoned(text(p.until))}: not sent.`,
  'quiet-said': (p) =>
    `${p.name} acknowledged the task and gets no notice until ${longZoned(text(p.until))}.`,
  snoozed: (p) => `${p.name} snoozed it until ${longZoned(text(p.at))}.`,
  'quiet-stuck': (p) => `The task is stuck on others, so ${p.name} gets no notice.`,
  'already-told': (p) =>
    `The rule “${p.rule}” already told ${p.name} on ${longZoned(text(p.at))}: not sent again.`,
  enough: (p) => `The limit of ${many(Number(p.most), 'notice')} was reached.`,
  'after-owner': (p) => `The owner is told first, on ${longZoned(text(p.at))}. This notice waits until then.`,
  folded: (p) => `Kept for ${p.name}’s next digest, ${longZoned(text(p.to))}.`,
  faulty: (p) => `The rule could not be computed for this task: ${p.message}`,
  'own-silence': (p) => `${p.name} turned off reminders for this task: not sent.`,
  'ladder-start': (p) =>
    `The clock of the ladder starts ${LADDER_STARTS[text(p.by)]}: ${longZoned(text(p.at))}.`,
  'ladder-pause': (p) =>
    `The ladder is paused from ${longZoned(text(p.from))}${p.until ? ` until ${longZoned(text(p.until))}` : ''}: ${PAUSE_WORDS[text(p.why)]}.`,
  'ladder-rung': (p) =>
    `Level ${p.rung} rings ${p.n === 0 ? 'at once' : `after ${p.n} ${unitWords(text(p.unit), Number(p.n))}`}${Number(p.k) > 0 ? ` (repeat ${p.k})` : ''}: ${longZoned(text(p.at))}.`,
  'ladder-in-order': (p) =>
    `Level ${p.rung} would ring before level ${p.lower}. It rings right after it: ${longZoned(text(p.at))}.`,
  'ladder-woken': (p) =>
    `The acknowledgement ended on ${longZoned(text(p.until))}. Level ${p.rung} is next and rings when working time starts, ${longZoned(text(p.at))}.`,
  'ladder-caught-up': (p) =>
    `The ladder was paused until ${longZoned(text(p.until))}. This level rings when working time starts, ${longZoned(text(p.at))}.`,
  'ladder-waits': () =>
    'The task is stuck on others, so the notice waits too. It is sent after that, if it is still true.',
  'ladder-still': (p) => `The ladder is paused: ${PAUSE_WORDS[text(p.why)]}.`
};

const LADDER_STARTS: Readonly<Record<string, string>> = {
  due: 'at the due time',
  created: 'when the task was created',
  're-dated': 'when its date changed',
  assigned: 'when the owner got the task'
};

/** Why the manager is asked for somebody on leave. */
const MANAGER_SINCE: Readonly<Record<string, string>> = {
  rule: ', and the rule tells the manager then',
  none: ', without a stand-in',
  away: ', and so is the stand-in'
};

/** Why a ladder is paused. */
const PAUSE_WORDS: Readonly<Record<string, string>> = {
  'waits for others': 'the task is stuck on others',
  finished: 'the task was finished',
  acknowledged: 'it was acknowledged',
  hushed: 'it is hushed',
  away: 'its owner is on leave'
};

/** The sentence of one step. */
export function whyText({ code, params }: WhyStep): string {
  return SENTENCES[code](params);
}

/** An offset in words: “2 working days before”, “On the day”, “1 hour after”. */
export function offsetWords(n: number, unit: string): string {
  if (n === 0) return unit === 'minute' || unit === 'hour' ? 'At that time' : 'On the day';
  const count = Math.abs(n);
  return `${count} ${unitWords(unit, count)} ${n < 0 ? 'before' : 'after'}`;
}

function unitWords(unit: string, count: number): string {
  const word = unit.startsWith('work') ? `working ${unit.slice(4)}` : unit;
  return agree(count, word, `${word}s`);
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
