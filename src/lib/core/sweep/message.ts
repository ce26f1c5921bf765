import { escapeHtml } from '../message/escape.ts';

/** A task in a message about a sweep. */
export interface SweepMessageRow {
  name: string;
  /** What is said beside it. */
  note: string;
  link: string;
}

export interface SweepMessage {
  /** Where it leads. */
  link: string;
  subject: string;
  text: string;
  html: string;
}

/** What is more is counted. */
export const MOST_ROWS = 50;

/** The words of a message about a sweep: paragraphs, its tasks as a list, and where to go on. */
export function sweepMessage(
  subject: string,
  paragraphs: readonly string[],
  rows: readonly SweepMessageRow[],
  go: { link: string; words: string }
): SweepMessage {
  const shown = rows.slice(0, MOST_ROWS);
  const more = rows.length > shown.length ? [`and ${rows.length - shown.length} more`] : [];
  const lines = shown.map(({ name, note }) => `- ${name}${note ? `: ${note}` : ''}`);
  const text = [
    ...paragraphs,
    ...(rows.length > 0 ? [[...lines, ...more].join('\n')] : []),
    `${go.words}: ${go.link}`
  ].join('\n\n');
  const items = shown.map(
    ({ name, note, link }) =>
      `<li><a href="${escapeHtml(link)}">${escapeHtml(name)}</a>${note ? `<br>${escapeHtml(note)}` : ''}</li>`
  );
  const html = [
    '<!doctype html><html lang="en"><head><meta name="viewport" content="width=device-width"></head>',
    '<body style="font-family:sans-serif;font-size:16px;line-height:1.45;max-width:600px">',
    ...paragraphs.map((one) => `<p>${escapeHtml(one)}</p>`),
    items.length > 0 ? `<ul style="padding-left:20px">${items.join('')}</ul>` : '',
    ...more.map((one) => `<p>${one}</p>`),
    `<p><a href="${escapeHtml(go.link)}">${escapeHtml(go.words)}</a></p></body></html>`
  ].join('');
  return { link: go.link, subject, text: `${text}\n`, html };
}
