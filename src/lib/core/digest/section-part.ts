import { actLines, actsInline } from '../message/acts.ts';
import { escapeHtml } from '../message/escape.ts';
import type { TableColumn } from '../rule/step-model.ts';
import { LINK, INK, QUIET, RULED, heading, moreRows, title } from './style.ts';
import { cell, valueOf, type WrittenSection } from './written.ts';

/** What a section is written with besides its rows. */
export interface SectionWords {
  /** What stands above it. */
  title: string;
  columns: readonly TableColumn[];
  listLink: string;
}

/** A section in text and in HTML. Hundreds of thousands of rows are written in a minute: each is looked at once, and nothing is made for it but its words. */
export function sectionPart(
  { rows, count }: WrittenSection,
  words: SectionWords
): { text: string; html: string } {
  let text = heading(words.title, count);
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
  const more = moreRows(count - rows.length, words.listLink);
  return { text: text + more.text, html: `${title(words.title, count)}${rowsHtml(html)}${more.html}` };
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
