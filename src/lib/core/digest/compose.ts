import { many } from '../many.ts';
import type { ComposedMessage } from '../message/compose.ts';
import { escapeHtml } from '../message/escape.ts';
import type { GatheredItem } from '../message/gathered.ts';
import type { TableColumn } from '../rule/step-model.ts';
import type { DigestCounts } from './contents.ts';
import { keptHtml, keptText } from './kept-part.ts';
import { isTable } from './model.ts';
import type { RollUp } from './roll-up.ts';
import { rollUpHtml, rollUpText } from './roll-up-part.ts';
import { sectionPart } from './section-part.ts';
import { sectionTitle } from './section-words.ts';
import { INK, QUIET, heading, paragraph, paragraphs, title } from './style.ts';
import { tablePart } from './table-part.ts';
import type { WrittenSection } from './written.ts';

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
  /** Of the tasks in them, each counted once. */
  counts: DigestCounts;
  rollUp: RollUp | null;
  /** Notices that were kept to come with it, or come because they waited. */
  kept: readonly GatheredItem[];
  nextWorkingDays: number;
  /** The last day of “due next”, where it is the same for every row: that of the reader. */
  nextUntil: string | null;
  /** Of the saved list of “all of a list”; null where there is none, or its readers may not know its name. */
  listName: string | null;
  columns: readonly TableColumn[];
  listLink: string;
  /** Why it comes now, and how to change that. */
  reason: string;
  /** Where its reader sets when they get it; null where it comes at no time of theirs. */
  timesLink: string | null;
}

/** A digest as its reader gets it: in text, and in HTML of one column that reads on a phone as on a desk. */
export function composeDigest(words: DigestWords): ComposedMessage {
  const greeting = words.readerName === null ? 'Hello,' : `Hello ${words.readerName.split(' ')[0]},`;
  // Read once for both forms.
  const sections = words.sections
    .filter(({ count }) => count > 0)
    .map((section) => {
      const said = { ...words, title: sectionTitle(section.section, words) };
      return isTable(section.section) ? tablePart(section, said) : sectionPart(section, said);
    });
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
function countsOf({ rollUp, kept, counts }: DigestWords, clear: boolean): string {
  if (clear && !rollUp) return 'all clear';
  const { overdue, dueToday } = rollUp?.total ?? counts;
  const rest = counts.all + kept.length;
  const parts = [overdue > 0 ? `${overdue} overdue` : '', dueToday > 0 ? `${dueToday} due today` : ''].filter(
    Boolean
  );
  if (parts.length === 0 && rest > 0) parts.push(`${many(rest, 'item')} to look at`);
  return parts.length > 0 ? parts.join(', ') : 'all clear';
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
