import { escapeHtml } from '../message/escape.ts';

/** How a digest looks: what its parts have in common. */
export const INK = '#1b2b33';
export const QUIET = '#53626b';
export const LINK = '#7d530e';
export const RULED = 'border-bottom:1px solid #ebe4d5';

export const paragraph = (words: string) => `<p style="margin:0 0 14px">${escapeHtml(words)}</p>`;
/** Each line of its own words is a paragraph. */
export const paragraphs = (words: string) => words.split('\n').filter(Boolean).map(paragraph).join('');

export function title(words: string, count: number): string {
  return `<h2 style="margin:22px 0 4px;font-size:16px;color:${INK}">${escapeHtml(words)} <span style="color:${QUIET};font-weight:400">${count}</span></h2>`;
}

/** What stands below rows of which not all are shown; nothing where all are. */
export function moreRows(more: number, listLink: string): { text: string; html: string } {
  if (more <= 0) return { text: '', html: '' };
  const list = `<a href="${escapeHtml(listLink)}" style="color:${LINK}">open the list</a>`;
  return {
    text: `\n\nand ${more} more: ${listLink}`,
    html: `<p style="margin:8px 0 0">and ${more} more: ${list}</p>`
  };
}

/** What stands above a part, in text: “OVERDUE (3)”. */
export const heading = (words: string, count: number) => `${words.toUpperCase()} (${count})`;
