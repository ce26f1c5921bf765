import { many } from '../many.ts';
import { actLines, actsInline } from '../message/acts.ts';
import {
  dueWords,
  momentWords,
  oneLine,
  type ComposedMessage,
  type MessageFacts
} from '../message/compose.ts';
import { escapeHtml } from '../message/escape.ts';
import type { GatheredItem } from '../message/gathered.ts';
import { partsByWhose } from '../message/whose.ts';
import { BANDS } from '../ring/overdue.ts';
import { daysLeft, daysLeftWords } from '../ring/days-left.ts';
import { lateWords } from '../ring/late-words.ts';
import { shortDay } from '../time/format.ts';
import type { InstantMs } from '../time/zone.ts';
import type { TableColumn, TableField } from '../rule/step-model.ts';
import { MOST_MESSAGE_ROWS, MOST_SECTION_ROWS, type DigestSection } from './model.ts';
import type { RollUp, RollUpLine } from './roll-up.ts';
import { sectionTitle } from './section-words.ts';

/** A row with everything that it is written with. */
export interface WrittenRow {
  facts: MessageFacts;
  /** Working days overdue. */
  workdays: number;
  /** When it was finished; null while it is not. */
  finishedAt: InstantMs | null;
}

export interface WrittenSection {
  section: DigestSection;
  /** At most what a section shows. */
  rows: readonly WrittenRow[];
  /** How many there are. */
  count: number;
}

/** What leads to where its reader sets when it comes. */
const TIMES_WORDS = 'Your digest times';

/** What a digest is written with. All words are computed at the instant at which it leaves. */
export interface DigestWords {
  /** Its own name. */
  name: string;
  /** Its own subject, with `‹counts›` for what is overdue and due today; empty: its name and those. */
  subject: string;
  /** Its own first words; empty: none. */
  opening: string;
  /** First names greet; null where it is to all together. */
  readerName: string | null;
  sections: readonly WrittenSection[];
  rollUp: RollUp | null;
  /** Notices that were kept to come with it, or come because they waited. */
  kept: readonly GatheredItem[];
  nextWorkingDays: number;
  /** The last day of “due next”, where it is the same for every row: that of the reader. */
  nextUntil: string | null;
  columns: readonly TableColumn[];
  listLink: string;
  /** Why it comes now, and how to change that. */
  reason: string;
  /** Where its reader sets when they get it; null where it comes at no time of theirs. */
  timesLink: string | null;
}

/**
 * How many rows each section shows: at most 50 each and 200 altogether, those that stand first before the others.
 * @param counts how many each has
 */
export function shownRows(counts: readonly number[]): number[] {
  let left = MOST_MESSAGE_ROWS;
  return counts.map((count) => {
    const shown = Math.min(count, MOST_SECTION_ROWS, left);
    left -= shown;
    return shown;
  });
}

/** A digest as its reader gets it: in text, and in HTML of one column that reads on a phone as on a desk. */
export function composeDigest(words: DigestWords): ComposedMessage {
  const greeting = words.readerName === null ? 'Hello,' : `Hello ${words.readerName.split(' ')[0]},`;
  // Read once for both forms.
  const sections = words.sections
    .filter(({ count }) => count > 0)
    .map((section) => bothForms(section, words));
  const clear = sections.length === 0 && words.kept.length === 0;
  const intro = [words.opening, clear ? 'All clear. Nothing needs you today.' : ''].filter(Boolean);
  const keptTitle = sectionTitle('kept to come together', words);
  const text = [
    greeting,
    ...intro,
    ...(words.rollUp ? [rollUpText(words.rollUp)] : []),
    ...sections.map(({ text }) => text),
    ...(words.kept.length > 0 ? [`${heading(keptTitle, words.kept.length)}\n\n${keptText(words.kept)}`] : []),
    `-- \n${words.reason}${words.timesLink === null ? '' : `\n${TIMES_WORDS}: ${words.timesLink}`}`
  ].join('\n\n');
  const html = [
    paragraph(greeting),
    ...intro.map(paragraphs),
    ...(words.rollUp ? [rollUpHtml(words.rollUp)] : []),
    ...sections.map(({ html }) => html),
    ...(words.kept.length > 0 ? [title(keptTitle, words.kept.length), keptHtml(words.kept)] : [])
  ].join('');
  return { subject: subjectOf(words, clear), text: `${text}\n`, html: pageOf(html, words) };
}

function subjectOf(words: DigestWords, clear: boolean): string {
  const counts = countsOf(words, clear);
  return words.subject === '' ? `${words.name}: ${counts}` : words.subject.replaceAll('‹counts›', counts);
}

/** “2 overdue, 1 due today” */
function countsOf({ sections, rollUp, kept }: DigestWords, clear: boolean): string {
  if (clear && !rollUp) return 'all clear';
  const count = (section: DigestSection) => sections.find((one) => one.section === section)?.count ?? 0;
  const late = rollUp
    ? rollUp.total.overdue
    : count('overdue') + (count('overdue') === 0 ? count('needs acknowledgement') : 0);
  const today = rollUp ? rollUp.total.dueToday : count('due today');
  const rest = sections.reduce((sum, one) => sum + one.count, 0) + kept.length;
  const parts = [late > 0 ? `${late} overdue` : '', today > 0 ? `${today} due today` : ''].filter(Boolean);
  if (parts.length === 0 && rest > 0) parts.push(`${many(rest, 'item')} to look at`);
  return parts.length > 0 ? parts.join(', ') : 'all clear';
}

/** What stands in a column of a row: what is late says since when, or by how many working days; what is finished when it was. */
function valueOf(field: TableField, { facts, workdays, finishedAt }: WrittenRow): string {
  const { task, reader, leavesAt, dueAt } = facts;
  const { zone } = reader;
  switch (field) {
    case 'task':
      return oneLine(task.name);
    case 'project':
      return facts.projectName === null ? '' : oneLine(facts.projectName);
    case 'owner':
      return facts.ownerName === null ? '' : oneLine(facts.ownerName);
    case 'due':
      return dueWords(facts);
    case 'start':
      return task.start ? momentWords(task.start, zone) : '';
    case 'days left':
      if (finishedAt !== null) return `finished ${shortDay(zone.dayOf(finishedAt), zone.dayOf(leavesAt))}`;
      if (!task.due || dueAt === null) return '';
      return leavesAt >= dueAt
        ? lateWords(dueAt, workdays, leavesAt, zone)
        : daysLeftWords(daysLeft(task.due, dueAt, leavesAt, zone));
    case 'status':
      return task.status;
    case 'priority':
      return task.priority;
    case 'link':
      // The name leads there.
      return '';
  }
}

/** What stands in a column, after its own caption where it has one. */
function cell({ field, caption }: TableColumn, row: WrittenRow): string {
  const value = valueOf(field, row);
  const said = caption.trim();
  return said && value ? `${said}: ${value}` : value;
}

const heading = (words: string, count: number) => `${words.toUpperCase()} (${count})`;

/** A section in text and in HTML. Hundreds of thousands of rows are written in a minute: each is looked at once, and nothing is made for it but its words. */
function bothForms(
  { section, rows, count }: WrittenSection,
  words: DigestWords
): { text: string; html: string } {
  const said = sectionTitle(section, words);
  let text = heading(said, count);
  let html = '';
  for (const row of rows) {
    const { link, acts } = row.facts;
    let first = '';
    let rest = '';
    words.columns.forEach((column, i) => {
      const value = cell(column, row);
      if (i === 0) first = value;
      else if (value) rest += rest ? ` · ${value}` : value;
    });
    first ||= valueOf('task', row);
    text += `\n\n• ${first}`;
    if (rest) text += `\n  ${rest}`;
    if (link) text += `\n  ${link}`;
    if (acts.length > 0) text += `\n${actLines(acts, '  ')}`;
    html += rowHtml(first, link, `${rest && `<br>${escapeHtml(rest)}`}${actsInline(acts)}`);
  }
  const more = count - rows.length;
  if (more > 0) text += `\n\nand ${more} more: ${words.listLink}`;
  const list = `<a href="${escapeHtml(words.listLink)}" style="color:${LINK}">open the list</a>`;
  const rest = more > 0 ? `<p style="margin:8px 0 0">and ${more} more: ${list}</p>` : '';
  return { text, html: `${title(said, count)}${rowsHtml(html)}${rest}` };
}

/** One line each: what it is, by which rule, and the one reason that decided that it comes here. */
function keptText(kept: readonly GatheredItem[]): string {
  return partsByWhose(kept)
    .flatMap(({ heading, items }) => [
      ...(heading === null ? [] : [heading]),
      ...items.map(({ subject, link, ruleName, reason, acts }) =>
        [
          `• ${subject}`,
          `  Rule: ${ruleName}. Why: ${lastSentence(reason)}`,
          link && `  ${link}`,
          actLines(acts, '  ')
        ]
          .filter(Boolean)
          .join('\n')
      )
    ])
    .join('\n\n');
}

/** The last sentence of a why is the one that decided; the others say how it came to its time. */
function lastSentence(reason: string): string {
  const sentences = reason.trim().split(/(?<=[.!?]) (?=[^a-z])/);
  return sentences[sentences.length - 1] ?? reason;
}

function rollUpText({ lines, total }: RollUp): string {
  return [...lines, total]
    .map((line) =>
      [`• ${line.name}: ${inNumbers(line)}`, ...bandLine(line).map((words) => `  ${words}`)].join('\n')
    )
    .join('\n');
}

function inNumbers(line: RollUpLine): string {
  const { open, overdue, dueToday } = line;
  return [`${overdue} overdue${changeWords(line)}`, `${dueToday} due today`, `${open} open`].join(', ');
}

/** “ (2 more than last time)”; nothing where there is nothing to compare with. */
export function changeWords({ change }: Pick<RollUpLine, 'change'>): string {
  if (change === null) return '';
  if (change === 0) return ' (same as last time)';
  return ` (${Math.abs(change)} ${change > 0 ? 'more' : 'fewer'} than last time)`;
}

/** Of what is overdue how much in which band: “overdue by under 1 working day: 1, 1–2 working days: 2”. */
function bandLine({ byBand, overdue }: RollUpLine): string[] {
  if (overdue === 0) return [];
  const parts = byBand.flatMap((n, band) =>
    n > 0 ? `${BANDS[band]} working ${band === 0 ? 'day' : 'days'}: ${n}` : []
  );
  return [`overdue by ${parts.join(', ')}`];
}

const INK = '#1b2b33';
const QUIET = '#53626b';
const LINK = '#7d530e';
const RULED = 'border-bottom:1px solid #ebe4d5';

const paragraph = (words: string) => `<p style="margin:0 0 14px">${escapeHtml(words)}</p>`;
/** Each line of its own words is a paragraph. */
const paragraphs = (words: string) => words.split('\n').filter(Boolean).map(paragraph).join('');

function title(words: string, count: number): string {
  return `<h2 style="margin:22px 0 4px;font-size:16px;color:${INK}">${escapeHtml(words)} <span style="color:${QUIET};font-weight:400">${count}</span></h2>`;
}

/** What rows have in common stands once, around them: a digest of two hundred is read on phones. */
function rowsHtml(rows: string): string {
  return `<ul style="margin:0;padding:0;list-style:none;color:${QUIET};font-size:13px">${rows}</ul>`;
}

/** @param below HTML that begins a line of its own */
function rowHtml(name: string, link: string, below: string): string {
  const named = link
    ? `<a href="${escapeHtml(link)}" style="color:${LINK};font:600 15px/1.5 sans-serif;text-decoration:none">${escapeHtml(name)}</a>`
    : `<span style="color:${INK};font-size:15px">${escapeHtml(name)}</span>`;
  return `<li style="padding:9px 0;${RULED}">${named}${below}</li>`;
}

/** A table of what, rule and why; the whole why is folded, where a mail program can fold. */
function keptHtml(kept: readonly GatheredItem[]): string {
  const cell = `padding:7px 8px 7px 0;text-align:left;vertical-align:top;${RULED}`;
  const head = ['Notice', 'Rule', 'Why']
    .map((words) => `<th style="${cell};color:${QUIET};font-weight:600">${words}</th>`)
    .join('');
  const row = ({ subject, link, ruleName, reason, acts }: GatheredItem) => {
    const named = link
      ? `<a href="${escapeHtml(link)}" style="color:${LINK}">${escapeHtml(subject)}</a>`
      : escapeHtml(subject);
    return (
      `<tr><td style="${cell}">${named}${actsInline(acts)}</td><td style="${cell}">${escapeHtml(ruleName)}</td>` +
      `<td style="${cell}"><details><summary>${escapeHtml(lastSentence(reason))}</summary>${escapeHtml(reason)}</details></td></tr>`
    );
  };
  return partsByWhose(kept)
    .map(
      ({ heading, items }) =>
        `${heading === null ? '' : paragraph(heading)}<table style="border-collapse:collapse;width:100%;font-size:13px"><thead><tr>${head}</tr></thead>` +
        `<tbody>${items.map(row).join('')}</tbody></table>`
    )
    .join('');
}

/** Four narrow columns, and the bands in a line of their own: it fits a phone. */
function rollUpHtml({ lines, total }: RollUp): string {
  const cell = 'padding:7px 8px 0 0;text-align:left;vertical-align:top';
  const number = 'padding:7px 0 0 8px;text-align:right;vertical-align:top';
  const row = (line: RollUpLine) => {
    const bands = [
      bandLine(line).join(''),
      changeWords(line)
        .trim()
        .replace(/^\(|\)$/g, '')
    ].filter(Boolean);
    const strong = line === total ? ';font-weight:600' : '';
    return (
      `<tr><td style="${cell}${strong}">${escapeHtml(line.name)}</td><td style="${number}${strong}">${line.overdue}</td>` +
      `<td style="${number}${strong}">${line.dueToday}</td><td style="${number}${strong}">${line.open}</td></tr>` +
      `<tr><td colspan="4" style="padding:0 0 7px;${RULED};color:${QUIET};font-size:13px">${escapeHtml(bands.join(' · '))}</td></tr>`
    );
  };
  const head = ['Overdue', 'Today', 'Open'].map(
    (words) => `<th style="${number};color:${QUIET};font-weight:600">${words}</th>`
  );
  return (
    `<table style="border-collapse:collapse;width:100%;font-size:14px;margin:0 0 14px"><thead><tr><th style="${cell};color:${QUIET};font-weight:600">Who</th>${head.join('')}</tr></thead>` +
    `<tbody>${[...lines, total].map(row).join('')}</tbody></table>`
  );
}

function pageOf(body: string, { reason, timesLink }: DigestWords): string {
  const times =
    timesLink === null ? '' : ` <a href="${escapeHtml(timesLink)}" style="color:#7d530e">${TIMES_WORDS}</a>`;
  return (
    `<!doctype html><html lang="en"><head><meta name="viewport" content="width=device-width"></head><body style="margin:0;padding:16px;background:#f6f2e9;color:${INK};font:15px/1.5 sans-serif">` +
    `<div style="max-width:620px;margin:0 auto;background:#fffdf8;border:1px solid #ddd4c2;border-radius:9px;padding:18px 20px">${body}` +
    `<p style="margin:20px 0 0;padding-top:12px;border-top:1px solid #ebe4d5;color:${QUIET};font-size:13px">${escapeHtml(reason)}${times}</p></div></body></html>`
  );
}
