import { daysLeft, daysLeftWords } from '../ring/days-left.ts';
import { overdueWords } from '../ring/late-words.ts';
import { pinnedWords } from '../ring/pinned-words.ts';
import { longDay, longMoment } from '../time/format.ts';
import { instantOnWall, type Moment } from '../time/instant.ts';
import { placeOfZone } from '../time/zone-names.ts';
import type { InstantMs, Zone } from '../time/zone.ts';
import type { FieldValues } from './fields.ts';
import { fillTemplate, parseTemplate } from './template.ts';
import { tableOf, withOwner, type TablePart } from './table.ts';
import { partsByWhose, type Whose } from './whose.ts';
import type { TableColumn } from '../rule/step-model.ts';
import { ACT_WORDS, actLines, type ActLink, type LinkAct } from './acts.ts';
import { escapeHtml } from './escape.ts';

/** What a message about one task is made of. All words are computed at the instant it leaves. */
export interface MessageFacts {
  task: {
    id: number;
    name: string;
    due: Moment | null;
    start: Moment | null;
    priority: string;
    status: string;
    description: string;
  };
  projectName: string | null;
  ownerName: string | null;
  /** Whose work it is, as its reader sees it. */
  whose: Whose;
  reader: { name: string; zone: Zone };
  /** The due moment; null without a due date. */
  dueAt: InstantMs | null;
  /** Working days overdue when it leaves; absent where nobody asks. */
  workdaysLate?: number;
  /** The zone that its plain dates are pinned to; null where they are not. */
  pinnedTo: Zone | null;
  startAt: InstantMs | null;
  leavesAt: InstantMs;
  /** Whom the reader stands in for, and until when, in words; null when it was meant for them. */
  inPlaceOf: string | null;
  link: string;
  /** What the reader can do about it by a press in the message; none where they cannot. */
  acts: readonly ActLink[];
  reason: string;
}

export interface ComposedMessage {
  subject: string;
  text: string;
  html: string;
}

/**
 * The message as its reader gets it.
 * @param ruleName stands in the closing line, with the reason
 * @throws CodedError when a template names a field that does not exist
 */
export function composeMessage(
  subject: string,
  body: string,
  ruleName: string,
  facts: MessageFacts
): ComposedMessage {
  const values = fieldValues(facts);
  const instead = facts.inPlaceOf === null ? '' : `You are the stand-in for ${facts.inPlaceOf}.\n\n`;
  const text = instead + fillTemplate(parseTemplate(body), values).replace(/\r\n?/g, '\n').trimEnd();
  const footer = `Sent by the rule “${ruleName}”. ${facts.reason}`;
  const acts = facts.acts.length > 0 ? `\n\n${actLines(facts.acts)}` : '';
  return {
    subject: oneLine(fillTemplate(parseTemplate(subject), values)),
    text: `${text}${acts}\n\n-- \n${footer}\n`,
    html: htmlOf(text, facts.link, footer, actsHtml(facts.acts))
  };
}

/**
 * One message about several tasks of a Tell: the words for several, and a table of the tasks. The reader’s own
 * work stands apart from that of others, which names its owner whatever the columns are.
 * @param words as the Tell says them for several tasks
 * @param tasks in their order
 * @throws CodedError when a template names a field that does not exist
 */
export function composeTable(
  words: { subject: string; body: string },
  columns: readonly TableColumn[],
  ruleName: string,
  tasks: readonly MessageFacts[],
  listLink: string
): ComposedMessage {
  const rows = tasks.map(fieldValues);
  const [first] = tasks;
  const values = { ...inCommon(rows), count: String(rows.length), link: listLink, reason: first!.reason };
  const instead = first!.inPlaceOf === null ? '' : `You are the stand-in for ${first!.inPlaceOf}.\n\n`;
  const intro = instead + fillTemplate(parseTemplate(words.body), values).replace(/\r\n?/g, '\n').trimEnd();
  const parts = partsByWhose(tasks).map(({ whose, heading, items }): TablePart => ({
    heading,
    columns: whose === 'other' ? withOwner(columns) : columns,
    rows: items.map(fieldValues),
    acts: items.map(({ acts }) => acts.filter(({ act }) => IN_ROWS.includes(act)))
  }));
  const table = tableOf(parts, listLink);
  const footer = `Rule “${ruleName}”. ${first!.reason}`;
  return {
    subject: oneLine(fillTemplate(parseTemplate(words.subject), values)),
    text: `${intro}\n\n${table.text}\n\n-- \n${footer}\n`,
    html: htmlOf(intro, listLink, footer, table.html)
  };
}

/** What stands beside a task among others; for the rest one opens it. */
const IN_ROWS: readonly LinkAct[] = ['done', 'promise', 'date', 'yes', 'no', 'change'];

/** What several tasks have in common; what differs has no value, and shows its fallback. */
function inCommon(rows: readonly FieldValues[]): FieldValues {
  const [first = {}] = rows;
  const same = Object.entries(first).filter(([field, value]) =>
    rows.every((row) => row[field as keyof FieldValues] === value)
  );
  return Object.fromEntries(same);
}

/** The values of the merge fields, in the reader's zone. */
export function fieldValues(facts: MessageFacts): FieldValues {
  const { task, reader, leavesAt } = facts;
  const values: FieldValues = {
    task: oneLine(task.name),
    'first name': oneLine(reader.name).split(' ')[0]!,
    'full name': oneLine(reader.name),
    priority: task.priority,
    status: task.status,
    description: task.description,
    link: facts.link,
    reason: facts.reason
  };
  if (facts.projectName !== null) {
    values.project = oneLine(facts.projectName);
    values['in project'] = ` in ${values.project}`;
  }
  if (facts.ownerName !== null) values.owner = oneLine(facts.ownerName);
  if (facts.whose === 'other')
    values['of owner'] = facts.ownerName === null ? ' (no owner)' : ` of ${oneLine(facts.ownerName)}`;
  if (task.due && facts.dueAt !== null) {
    values.due = dueWords(facts);
    values['days left'] = daysLeftWords(daysLeft(task.due, facts.dueAt, leavesAt, reader.zone));
    if (leavesAt >= facts.dueAt)
      values['how late'] = overdueWords(facts.dueAt, facts.workdaysLate ?? 0, leavesAt, reader.zone);
  }
  if (task.start && facts.startAt !== null) {
    values.start = momentWords(task.start, reader.zone);
    values['days to start'] = startWords(task.start, facts.startAt, leavesAt, reader.zone);
  }
  return values;
}

/** The due date in letters; where it is pinned to a place, with the place and the reader’s own deadline. */
export function dueWords({ task: { due }, dueAt, pinnedTo, reader: { zone } }: MessageFacts): string {
  if (!due || dueAt === null) return '';
  const pinned = pinnedWords(due, dueAt, pinnedTo, zone);
  return pinned === null ? momentWords(due, zone) : `${longDay(due.day)} ${pinned}`;
}

/** A date in letters; a date-time as read in the reader's zone, with the other place named where it differs. */
export function momentWords(moment: Moment, zone: Zone): string {
  if (moment.minute === null || moment.zone === null) return longDay(moment.day);
  const instant = instantOnWall(moment.day, moment.minute, moment.zone);
  const own = zone.offsetAt(instant) === moment.zone.offsetAt(instant);
  const there = own
    ? ''
    : ` (${longMoment(instant, moment.zone).split(' at ')[1]!} in ${placeOfZone(moment.zone.nameAt(instant))})`;
  return `${longMoment(instant, zone)}${there}`;
}

function startWords(start: Moment, startAt: InstantMs, at: InstantMs, zone: Zone): string {
  const left = daysLeft(start, startAt, at, zone);
  if (left.overdue) return start.minute === null && start.day === zone.dayOf(at) ? 'starts today' : 'started';
  if (left.days <= 0) return 'starts today';
  return left.days === 1 ? 'starts tomorrow' : `starts in ${left.days} days`;
}

/** A header, or a line of a list, is one line: a line break in a name must not start another. */
export function oneLine(text: string): string {
  return (CONTROL.test(text) ? text.replace(EVERY_CONTROL, ' ') : text).trim();
}
// eslint-disable-next-line no-control-regex -- control characters are what is taken out
const CONTROL = /[\u0000-\u001f\u007f\u0085\u2028\u2029]/;
const EVERY_CONTROL = new RegExp(`${CONTROL.source}+`, 'g');

function htmlOf(text: string, link: string, footer: string, table = ''): string {
  const paragraphs = text
    .split(/\n{2,}/)
    .map(
      (paragraph) => `<p style="margin:0 0 14px">${withLink(paragraph, link).replaceAll('\n', '<br>')}</p>`
    )
    .join('');
  return (
    '<!doctype html><html lang="en"><body style="margin:0;padding:24px;background:#f6f2e9;color:#1b2b33;font:15px/1.5 sans-serif">' +
    `<div style="max-width:560px;margin:0 auto;background:#fffdf8;border:1px solid #ddd4c2;border-radius:9px;padding:22px 24px">${paragraphs}${table}` +
    `<p style="margin:18px 0 0;padding-top:12px;border-top:1px solid #ebe4d5;color:#53626b;font-size:13px">${escapeHtml(footer)}</p></div></body></html>`
  );
}

/** What can be done by a press, as buttons that are wide enough for a thumb. */
function actsHtml(acts: readonly ActLink[]): string {
  const buttons = acts.map(
    ({ act, link }) =>
      `<a href="${escapeHtml(link)}" style="display:inline-block;margin:0 8px 8px 0;padding:9px 16px;border:1px solid #ddd4c2;border-radius:7px;color:#1b2b33;font-weight:600;text-decoration:none">${ACT_WORDS[act]}</a>`
  );
  return buttons.length > 0 ? `<p style="margin:4px 0 6px">${buttons.join('')}</p>` : '';
}

function withLink(paragraph: string, link: string): string {
  const anchor = `<a href="${escapeHtml(link)}" style="color:#7d530e">Open the task</a>`;
  return link === '' ? escapeHtml(paragraph) : paragraph.split(link).map(escapeHtml).join(anchor);
}
